<script setup lang="ts">
import { optionsByName, optionsOf, type Choice } from '../../controls/options.ts'
import ChoiceField from '../../controls/ChoiceField.vue'
import RadioChoice from '../../controls/RadioChoice.vue'
import StaysChoice from '../../controls/StaysChoice.vue'
import ActButton from '../../controls/ActButton.vue'
import TextField from '../../controls/TextField.vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import {
  applyChange,
  counted,
  dateWords,
  instantOf,
  instantWords,
  PlanError,
  readDate,
  setProjectCalendar,
  type Change,
  type Item,
  type LoggedChange,
  type Stays,
  lengthsOf,
} from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import { useForesight } from '../../composables/useForesight.ts'
import { useStageStates } from '../../frame/stageStates.ts'
import { STAGES } from '../../frame/stages.ts'
import { account } from '../../stores/account.ts'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { Comparison } from '../../workers/scheduleProtocol.ts'
import EndsPicker from './EndsPicker.vue'
import NamingRule from './NamingRule.vue'
import OutsideDates from './OutsideDates.vue'
import ProjectFigures from './ProjectFigures.vue'

const plans = usePlanStore()
const route = useRoute()
const states = useStageStates()
const project = computed(() => plans.plan!.project)
const { problem, attempt } = useAttempt()
const typed = ref<Record<string, string>>({})

const set = (fields: Item): boolean => attempt(() => plans.edit({ kind: 'project', set: fields }))
type DateField = 'start' | 'finish' | 'requiredFinish' | 'statusDate'
const edgeOf = (field: DateField): 'start' | 'finish' =>
  field === 'requiredFinish' || field === 'finish' ? 'finish' : 'start'
const shown = (field: DateField): string => {
  const date = project.value[field]
  return date === null ? '' : dateWords(date, edgeOf(field), { year: true })
}
const understood = (field: DateField) => {
  const text = typed.value[field]
  if (text === undefined || text.trim() === '') return null
  return readDate(text, instantOf(project.value[field] ?? project.value.start, 'start'))
}
const keepDate = (field: DateField): void => {
  const text = typed.value[field]
  if (text === undefined) return
  const read = understood(field)
  let taken = true
  if (read === null && field !== 'start' && project.value[field] !== null) taken = set({ [field]: null })
  if (read?.ok && read.date !== project.value[field]) taken = set({ [field]: read.date })
  if (taken && (read === null || read.ok)) delete typed.value[field]
}
const says = (field: DateField, why: string): string => {
  const read = understood(field)
  if (read === null) return why
  return read.ok
    ? dateWords(read.date, edgeOf(field), { year: true }) +
        (edgeOf(field) === 'finish' && !read.date.includes('T') ? ', its end' : '')
    : read.why
}
const keepText = (field: string, text: string): void => {
  const value = text.trim()
  if (value !== (project.value[field] ?? '')) set({ [field]: value })
}
/** Midnight at the start of the required day silently costs that day. */
const midnight = computed(() => project.value.requiredFinish?.endsWith('T00:00') === true)
const dateOnly = (date: string): string => date.slice(0, 10)

const DATES = computed((): readonly (readonly [DateField, string, string])[] => [
  [
    'start',
    project.value.direction === 'forward' ? 'Start' : 'Cannot begin before',
    'Nothing begins before this instant.',
  ],
  [
    'requiredFinish',
    'Required finish',
    'What float is measured against. A date without a time means the end of that day.',
  ],
  ...(isUnderWay.value ? ([['statusDate', 'Status date', 'Unfinished work lies after it.']] as const) : []),
])
/** A status date means something once work has begun; the first update sets it. */
const isUnderWay = computed(
  () =>
    project.value.statusDate !== null ||
    plans.plan!.activities.some(({ progress }) => progress.actualStart !== null),
)
/** The date that was typed in last, and what keeping it would do. */
const typing = ref<DateField | null>(null)
const meant = computed((): Change | null => {
  const field = typing.value
  if (field === null || typed.value[field] === undefined) return null
  const read = understood(field)
  const date = read === null ? (field === 'start' ? undefined : null) : read.ok ? read.date : undefined
  return date === undefined || date === project.value[field]
    ? null
    : { kind: 'project', set: { [field]: date } }
})
const foreseen = useForesight(() => meant.value)
const type = (field: DateField, text: string): void => {
  typed.value[field] = text
  typing.value = field
}

/** Choices that move everything: what they would do is shown before they are kept. */
const wanted = ref<Item>(typeof route.query.calendar === 'string' ? { calendar: route.query.calendar } : {})
const effect = shallowRef<Comparison | null>(null)
const refusal = ref('')
const change = computed((): Change | null => {
  const { calendar, ...fields } = Object.fromEntries(
    Object.entries(wanted.value).filter(([field, value]) => project.value[field] !== value),
  )
  const changes: Change[] = []
  if (calendar !== undefined) changes.push(setProjectCalendar(plans.plan!, String(calendar), stays.value))
  if (Object.keys(fields).length > 0) changes.push({ kind: 'project', set: fields })
  return changes.length === 0 ? null : changes.length === 1 ? changes[0]! : { kind: 'all', changes }
})
/** What stays where the new calendar's day has another length: the days, or the work. */
const stays = ref<Stays>('days')
const dayOf = (id: string): number => lengthsOf(plans.plan!, id).dayMinutes
const changesLength = computed(
  () =>
    wanted.value.calendar !== undefined &&
    dayOf(String(wanted.value.calendar)) !== dayOf(project.value.calendar),
)
watch(
  [change, () => plans.viewPlan],
  async () => {
    const asked = change.value
    effect.value = null
    refusal.value = ''
    if (!asked) return
    try {
      const found = await plans.compare(applyChange(plans.plan!, asked).plan)
      if (change.value === asked) effect.value = found
    } catch (error) {
      refusal.value = error instanceof PlanError ? error.issues[0]!.message : (error as Error).message
    }
  },
  { immediate: true },
)
const choice = <T,>(field: string): T => (wanted.value[field] ?? project.value[field]) as T
const want = (fields: Item): void => void (wanted.value = { ...wanted.value, ...fields })
const wantDirection = (direction: 'forward' | 'backward'): void =>
  want({
    direction,
    ...(direction === 'backward' && project.value.finish === null
      ? { finish: project.value.requiredFinish ?? instantIso(plans.view!.projectFinish) }
      : {}),
  })
const instantIso = (at: number): string =>
  new Date(Date.UTC(1950, 0, 1) + at * 60_000).toISOString().slice(0, 16)
const keep = (): void => {
  if (change.value && attempt(() => plans.edit(change.value!))) wanted.value = {}
}
const direction = computed(() => choice<'forward' | 'backward'>('direction'))
const outOfSequence = computed(() => choice<'hold' | 'follow'>('outOfSequence'))
const calendarOptions = computed((): Choice[] => [
  ...optionsByName(plans.plan!.calendars),
  { value: 'clock', label: 'Round the clock' },
])
const lagOptions = computed((): Choice[] => [
  { value: 'from', label: 'the calendar of the activity before' },
  { value: 'to', label: 'the calendar of the activity after' },
  { value: 'project', label: 'the project’s calendar' },
  { value: 'clock', label: 'round the clock' },
  ...plans.plan!.calendars.map((c) => ({ value: `calendar:${c.id}`, label: c.name || c.id })),
])
const SEQUENCES = optionsOf<'hold' | 'follow'>([
  ['hold', 'holds to its links: what is left waits for them'],
  ['follow', 'follows the work: started work goes on'],
])
const DIRECTIONS = optionsOf<'forward' | 'backward'>([
  ['forward', 'Forward from the start: everything as early as its logic allows.'],
  ['backward', 'Backward from a finish: everything as late as that finish allows.'],
])
const latest = computed((): LoggedChange | undefined => plans.log.at(-1))
</script>

<template>
  <div class="setup scroll">
    <div class="column">
      <h1>What must be finished, and by when?</h1>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <div class="pair">
        <label>Name<TextField :kept="project.name" maxlength="300" @keep="keepText('name', $event)" /></label>
        <label>Code<TextField :kept="project.code" maxlength="60" @keep="keepText('code', $event)" /></label>
      </div>
      <label v-for="[field, title, why] in DATES" :key="field">
        {{ title }}
        <TextField
          :model-value="typed[field] ?? shown(field)"
          :invalid="understood(field)?.ok === false"
          placeholder="none; write for example 18 jun 2027, or 18 jun 15:00"
          @update:model-value="type(field, $event)"
          @keydown.enter="keepDate(field)"
          @blur="keepDate(field)"
        />
        <small :class="{ brick: understood(field)?.ok === false }" :data-test="`says-${field}`"
          >{{ says(field, why)
          }}<template v-if="meant && typing === field">: {{ foreseen || 'no date moves' }}</template></small
        >
        <small v-if="field === 'requiredFinish' && midnight" class="signal" data-test="midnight">
          Midnight is the beginning of {{ dateWords(dateOnly(project.requiredFinish!)) }}: that day itself
          does not count, which costs a day of float.
          <ActButton kind="noun" @click="set({ requiredFinish: dateOnly(project.requiredFinish!) })">
            Mean its end
          </ActButton>
        </small>
      </label>

      <p v-if="!isUnderWay" class="soft no-status">
        No status date: it says up to when is known what was done. The first update in
        <RouterLink class="noun" :to="{ name: 'progress', params: route.params }">Progress</RouterLink> sets
        it.
      </p>

      <fieldset>
        <legend>Direction</legend>
        <RadioChoice
          label="Direction"
          :model-value="direction"
          :options="DIRECTIONS"
          @update:model-value="wantDirection"
        />
        <p v-if="direction === 'backward'" class="warning">
          Backward places every activity as late as possible: nothing is left between the work and the finish,
          so the first delay of a critical activity is a delay of the whole. It answers “when must we begin at
          the latest?”. To be held to a date, stay forward and set the required finish.
          <label
            >Finish to work back from<TextField
              :model-value="typed.finish ?? shown('finish')"
              placeholder="18 jun 2027"
              @update:model-value="typed.finish = $event"
              @keydown.enter="keepDate('finish')"
              @blur="keepDate('finish')"
            /><small>{{
              says(
                'finish',
                wanted.finish
                  ? `${dateWords(String(wanted.finish), 'finish', { year: true })} unless another is written`
                  : '',
              )
            }}</small></label
          >
        </p>
      </fieldset>
      <div class="pair">
        <div class="field">
          Project’s calendar
          <ChoiceField
            label="Project’s calendar"
            :model-value="choice<string>('calendar')"
            :options="calendarOptions"
            @update:model-value="want({ calendar: $event })"
          />
        </div>
        <div class="field">
          Lags count on
          <ChoiceField
            label="Lags count on"
            :model-value="choice<string>('lagOn')"
            :options="lagOptions"
            @update:model-value="want({ lagOn: $event })"
          />
        </div>
      </div>
      <div class="field">
        Work done out of sequence
        <ChoiceField
          label="Work done out of sequence"
          :model-value="outOfSequence"
          :options="SEQUENCES"
          @update:model-value="want({ outOfSequence: $event })"
        />
      </div>
      <section v-if="change" class="effect" role="status" data-test="project-effect">
        <template v-if="effect">
          <p>
            If you keep this, it finishes
            <strong>{{ instantWords(effect.view.projectFinish, 'finish') }}</strong><template
              v-if="effect.view.projectFinish !== plans.view!.projectFinish"
              >, now {{ instantWords(plans.view!.projectFinish, 'finish') }}</template
            >; {{ counted(effect.difference.moved.length, 'activity') }}
            {{ effect.difference.moved.length === 1 ? 'moves' : 'move' }}.
          </p>
        </template>
        <div v-if="changesLength" class="stays">
          A day has another length there. What stays? <StaysChoice v-model="stays" />
        </div>
        <p v-if="refusal" class="brick" role="alert">{{ refusal }}</p>
        <p class="act">
          <ActButton kind="primary" :disabled="!effect" data-test="keep-project" @click="keep"
            >Apply it</ActButton
          ><ActButton @click="wanted = {}">Leave it as it was</ActButton>
        </p>
      </section>

      <EndsPicker list="opens" />
      <EndsPicker list="closes" />
      <NamingRule />
      <div class="pair">
        <label
          >Responsible<TextField
            :kept="String(project.responsible ?? '')"
            maxlength="200"
            @keep="keepText('responsible', $event)"
        /></label>
        <label
          >Currency<TextField :kept="project.currency" maxlength="10" @keep="keepText('currency', $event)"
        /></label>
      </div>
      <label
        >Notes<TextField :rows="3" :kept="String(project.notes ?? '')" @keep="keepText('notes', $event)" />
      </label>
      <OutsideDates />
      <label v-if="account === null" class="short"
        >Your name, signed under your changes<TextField v-model="authorName" maxlength="100"
      /></label>
    </div>
    <aside class="stages" aria-label="The plan in figures, and the stages">
      <ProjectFigures />
      <h2>Stages</h2>
      <ol>
        <li v-for="stage in STAGES" :key="stage.name">
          <RouterLink class="noun" :to="{ name: stage.name, params: route.params }">{{
            stage.label
          }}</RouterLink>
          <strong>{{
            states[stage.name].open > 0
              ? `${states[stage.name].open} open`
              : states[stage.name].done
                ? 'done'
                : 'not begun'
          }}</strong>
          <p class="soft">{{ stage.rule }}</p>
        </li>
      </ol>
      <p v-if="latest" class="soft">
        Last change by {{ latest.author }},
        {{
          new Date(latest.at).toLocaleString('en-GB', {
            day: 'numeric',
            month: 'short',
            hour: '2-digit',
            minute: '2-digit',
          })
        }}.
      </p>
    </aside>
  </div>
</template>

<style scoped>
.setup {
  flex: 1;
  padding: 28px 32px;
  display: grid;
  grid-template-columns: minmax(0, 620px) minmax(240px, 340px);
  gap: 48px;
  align-content: start;
}
.column {
  display: flex;
  flex-direction: column;
  gap: 16px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
label,
.field {
  display: flex;
  flex-direction: column;
  gap: 3px;
  font-weight: 600;
  min-width: 0;
}
label small {
  font-weight: 400;
  color: var(--soft-ink);
}
label small.brick {
  color: var(--brick);
}
label small.signal {
  color: var(--signal-text);
}
.short {
  max-width: 260px;
}
fieldset {
  border: 1.5px solid var(--hairline);
  border-radius: 8px;
  padding: 8px 14px 12px;
  margin: 0;
}
legend {
  font-weight: 600;
  padding: 0 4px;
}
.choice {
  flex-direction: row;
  gap: 8px;
  font-weight: 400;
  padding: 3px 0;
}
.warning {
  background: var(--wash);
  border-left: 4px solid var(--signal);
  border-radius: 4px;
  padding: 10px 12px;
  margin-top: 6px;
}
.warning label {
  margin-top: 8px;
}
.effect {
  position: sticky;
  bottom: -28px;
  z-index: 2;
  background: var(--wash);
  border-left: 4px solid var(--signal);
  border-radius: 4px;
  padding: 10px 14px;
  box-shadow: 0 0 0 1px var(--hairline);
}
.act {
  display: flex;
  gap: 8px;
  margin-top: 8px;
}
.stages ol {
  list-style: none;
  padding: 0;
  margin: 10px 0;
  border-top: 1.5px solid var(--ink);
}
.stages li {
  display: grid;
  grid-template-columns: 1fr auto;
  padding: 8px 0;
  border-bottom: 1px solid var(--hairline);
  align-items: baseline;
}
.stages li p {
  grid-column: 1 / -1;
  font-size: 12.5px;
}
.stages .noun {
  width: fit-content;
}
@media (max-width: 1150px) {
  .setup {
    grid-template-columns: minmax(0, 620px);
  }
}
</style>
