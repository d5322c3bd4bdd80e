<script setup lang="ts">
import { NProgress } from 'naive-ui'
import { computed, onBeforeUnmount, ref, shallowRef, toRaw } from 'vue'
import {
  counted,
  durationWords,
  instantWords,
  LEVEL_RULES,
  newScenario,
  type LevelOptions,
  type Plan,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import FactTable from '../../controls/FactTable.vue'
import NumberField from '../../controls/NumberField.vue'
import TickBox from '../../controls/TickBox.vue'
import { useAttempt } from '../../composables/useAttempt.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { finishWords } from '../../composables/finishWords.ts'
import { authorName } from '../../stores/identity.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { LevellingReply, LevellingResult } from '../../workers/levellingProtocol.ts'
import LevellingWorker from '../../workers/levelling.worker.ts?worker'

/** Dates on which no more is asked for than there is: found, explained, and made a scenario. */
const props = defineProps<{ calendars: CalendarLookup; shortDays: number }>()
const emit = defineEmits<{ show: [activity: string]; scenario: [id: string] }>()
const plans = usePlanStore()
const { problem, attempt } = useAttempt()

const RULE_WORDS: Readonly<Record<LevelOptions['rule'], string>> = {
  best: 'the best of all that is found',
  'least-float': 'least float first',
  'earliest-late-finish': 'earliest late finish first',
  'most-successors': 'most successors first',
  longest: 'longest first',
  'own-order': 'in the order of the list',
}
const FOUND_WORDS: Readonly<Record<LevellingResult['foundBy'], string>> = {
  ...RULE_WORDS,
  improvement: 'improving the best of the rules',
  search: 'a search through the orders of the work',
}
const rules = (['best', ...LEVEL_RULES] as const).map((value) => ({ value, label: RULE_WORDS[value] }))
const rule = ref<LevelOptions['rule']>('best')
const insideFloat = ref(false)
const seed = ref(1)

const progress = shallowRef<{ done: number; total: number; finish: number } | null>(null)
const failure = ref('')
/** A result belongs to the plan that it was found for. */
const found = shallowRef<{ readonly plan: Plan; readonly result: LevellingResult } | null>(null)
const result = computed(() => (found.value?.plan === plans.viewPlan ? found.value.result : null))
const isPast = computed(() => found.value !== null && result.value === null)

let worker: Worker | null = null
const end = (): void => {
  worker?.terminate()
  worker = null
  progress.value = null
}
onBeforeUnmount(end)
const start = (): void => {
  end()
  failure.value = ''
  found.value = null
  const plan = plans.viewPlan!
  progress.value = { done: 0, total: 1, finish: plans.view!.projectFinish }
  worker = new LevellingWorker()
  worker.onmessage = ({ data }: MessageEvent<LevellingReply>) => {
    if (data.kind === 'progress') {
      progress.value = data
      return
    }
    if (data.kind === 'failed') failure.value = data.message
    else found.value = { plan, result: data.result }
    end()
  }
  worker.onerror = (event) => {
    failure.value = event.message || 'levelling failed'
    end()
  }
  const options: LevelOptions = { rule: rule.value, seed: seed.value, insideFloat: insideFloat.value }
  worker.postMessage({ kind: 'start', plan: toRaw(plan), options })
}
const stop = (): void => worker?.postMessage({ kind: 'stop' })

const codeOf = (id: string): string => plans.viewPlan!.activities.find((a) => a.id === id)?.code ?? ''
const nameOf = (id: string): string => {
  const resource = plans.viewPlan!.resources.find((r) => r.id === id)
  return resource ? resource.name || resource.code : ''
}
const date = (at: number, edge: 'start' | 'finish'): string => instantWords(at, edge)
const title = computed(() => {
  const r = result.value
  if (progress.value) return `Best so far finishes ${date(progress.value.finish, 'finish')}.`
  if (!r)
    return props.shortDays === 0
      ? 'There is enough of everything: nothing has to wait.'
      : 'Who waits for whom?'
  if (!r.hasOverload && r.moved.length === 0) return 'There is enough of everything: nothing has to wait.'
  return `With ${counted(r.moved.length, 'activity')} on other dates ${r.unresolved.length > 0 ? 'most of it fits' : 'everything fits'}: ${finishWords(r.finishBefore, r.finish, props.calendars)}.`
})
const proof = computed(() => {
  const r = result.value
  if (!r) return ''
  if (r.finish <= r.proven) return `No levelled plan can finish earlier: ${whyNotEarlier(r)}.`
  const minutes =
    props.calendars.project.countBefore(r.finish) - props.calendars.project.countBefore(r.proven)
  return `Not proven the earliest, but none can be more than ${lengthWords(minutes)} earlier: before ${date(r.proven, 'finish')} ${whyNotEarlier(r)}.`
})
const lengthWords = (minutes: number): string => durationWords(minutes, props.calendars.projectLengths)
const MOST_NAMED = 4
const whyNotEarlier = ({ because, proven, provenBy, isSearched }: LevellingResult): string => {
  if (isSearched) return 'every other order of the work was tried or ruled out'
  const resource = provenBy === null ? null : nameOf(provenBy)
  if (because === null)
    return resource === null
      ? 'the longest path takes until then'
      : `the work that needs ${resource} takes until then`
  const { activities, from, to, needed } = because
  const named = activities.slice(0, MOST_NAMED).map(codeOf).join(', ')
  const more = activities.length - MOST_NAMED
  const who = more > 0 ? `${named} and ${more} more` : named
  const need = `need ${lengthWords(needed)} from ${date(from, 'start')} on`
  const what =
    resource === null
      ? `no two of ${who} can be done at once, and they ${need}`
      : `${who} ${need} with all of ${resource}`
  // The contradiction is that of a finish a minute earlier.
  return to < proven - 1 ? `${what}, and others wait for them` : what
}
const WHY = {
  'never-enough': 'needs more than is ever there again; it stands by its links and constraints',
  stands: 'is under way, or its date overrides; it stands, and more is asked for than there is',
  'float-used': 'would have to wait beyond its float; it stands by its links and constraints',
} as const
/** Why it is on other dates though it waits for no resource itself. */
const because = ({ hasJointHours, behind }: LevellingResult['moved'][number]): string => {
  const hours = 'it works in the hours of all that it needs'
  const later = `it follows ${behind.map(codeOf).join(', ')}`
  return behind.length === 0 ? hours : hasJointHours ? `${hours}, and ${later}` : later
}
const asScenario = (): void => {
  const r = result.value
  if (!r) return
  const { change, id } = newScenario(
    plans.base!,
    {
      name: insideFloat.value ? 'Levelled inside float' : 'Levelled',
      by: authorName.value,
      why: title.value,
      holdsIf: '',
    },
    r.changes,
    Math.random,
  )
  if (attempt(() => plans.editPlan(change))) emit('scenario', id)
}
</script>

<template>
  <div class="levelling">
    <section class="inputs scroll">
      <div class="actions">
        <ActButton kind="primary" :disabled="progress !== null" data-test="level" @click="start">{{
          result ? 'Level again' : 'Level'
        }}</ActButton>
        <ActButton v-if="progress" data-test="level-stop" @click="stop">Stop with the best so far</ActButton>
      </div>
      <template v-if="progress">
        <NProgress
          type="line"
          :percentage="Math.round((progress.done / progress.total) * 100)"
          :show-indicator="false"
          :height="5"
          aria-label="Progress of levelling"
        />
        <p class="soft" role="status">
          {{ progress.done.toLocaleString('en') }} of {{ progress.total.toLocaleString('en') }} orders tried
        </p>
      </template>
      <div class="field">
        <span>Who gets it first</span>
        <ChoiceField v-model="rule" label="Priority" :options="rules" />
      </div>
      <TickBox v-model="insideFloat">only inside float: the finish and all constraints stay</TickBox>
      <div v-if="rule === 'best'" class="field">
        <span>Seed of the random numbers</span>
        <NumberField v-model="seed" label="Seed" :min="0" :max="4294967295" />
      </div>
      <h3>What counts</h3>
      <p class="soft">
        Work happens in hours that are its own and those of all people and plant that drive it. What it has it
        holds from its start to its finish, nights included; work that may pause holds nothing in between.
        Links, limits and the status date stand; so do actual dates.
      </p>
    </section>
    <section class="sheet scroll">
      <h1 data-test="level-title">{{ title }}</h1>
      <p v-if="failure" class="brick" role="alert">{{ failure }}</p>
      <p v-if="isPast" class="signal">The plan has changed since it was levelled; level it again.</p>
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <template v-if="result">
        <p class="soft" data-test="level-proof">{{ proof }} Found by {{ FOUND_WORDS[result.foundBy] }}.</p>
        <div v-if="result.exceeded.length > 0">
          <h3>Constraints that are not kept</h3>
          <ul>
            <li v-for="one in result.exceeded" :key="`${one.activity}${one.limit}`">
              <strong>{{ one.activity === null ? 'The required finish' : codeOf(one.activity) }}</strong>,
              {{ date(one.limit, 'finish') }}: now {{ date(one.finish, 'finish') }}
            </li>
          </ul>
        </div>
        <div v-if="result.unresolved.length + result.without.length > 0" data-test="unresolved">
          <h3>What it cannot solve</h3>
          <ul>
            <li v-for="one in result.unresolved" :key="one.activity">
              <ActButton kind="noun" @click="emit('show', one.activity)">{{
                codeOf(one.activity)
              }}</ActButton>
              and {{ nameOf(one.resource) }}: it {{ WHY[one.why] }}.
            </li>
            <li v-for="one in result.without" :key="`w${one.activity}`">
              <ActButton kind="noun" @click="emit('show', one.activity)">{{
                codeOf(one.activity)
              }}</ActButton>
              has no hour in common with {{ nameOf(one.resource) }}: it keeps its own calendar.
            </li>
          </ul>
        </div>
        <p v-if="result.changes.length > 0" class="actions">
          <ActButton
            v-if="plans.whyNotPlan === ''"
            kind="primary"
            data-test="level-scenario"
            @click="asScenario"
            >Make it a scenario</ActButton
          >
        </p>
        <FactTable v-if="result.moved.length > 0" class="table" name="Levelling" data-test="level-table">
          <thead>
            <tr>
              <th>Activity</th>
              <th>Starts</th>
              <th class="right">Later by</th>
              <th>Because</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in result.moved" :key="row.activity">
              <td>
                <ActButton kind="noun" @click="emit('show', row.activity)"
                  ><span class="code">{{ codeOf(row.activity) }}</span></ActButton
                >
                {{ plans.viewPlan!.activities.find((a) => a.id === row.activity)!.name
                }}<span v-if="row.pieces > 1" class="soft"> · in {{ row.pieces }} pieces</span>
              </td>
              <td>{{ date(row.start, 'start') }}</td>
              <td class="right">
                {{ row.days === 0 ? 'same start' : `${Math.round(row.days * 100) / 100} d` }}
              </td>
              <td>
                <template v-if="row.waits.length > 0">
                  <span v-for="(wait, k) in row.waits" :key="k" class="wait"
                    >{{ nameOf(wait.resource) }} until {{ date(wait.to, 'start')
                    }}{{
                      wait.heldBy.length > 0
                        ? `: ${wait.heldBy.map(codeOf).join(', ')}`
                        : ': there is not enough before'
                    }}</span
                  >
                </template>
                <span v-else class="soft">{{ because(row) }}</span>
              </td>
            </tr>
          </tbody>
        </FactTable>
      </template>
      <p v-else-if="!progress && shortDays > 0" class="soft">
        On {{ counted(shortDays, 'day') }} more is asked for than there is. Levelling lets work wait until
        what it needs is free, says for each why, and says how far the finish is from the earliest that is
        possible. The plan itself stays as it is: the result is a scenario.
      </p>
    </section>
  </div>
</template>

<style scoped>
.levelling {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr);
}
.inputs {
  background: var(--raised);
  border-right: 1px solid var(--hairline);
  padding: 14px;
  display: flex;
  flex-direction: column;
  gap: 12px;
}
.field {
  display: flex;
  flex-direction: column;
  gap: 3px;
}
.actions {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.sheet {
  padding: 12px 18px 30px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.table :is(th, td) {
  padding: 4px 12px 4px 0;
  vertical-align: top;
}
.wait {
  display: block;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
</style>
