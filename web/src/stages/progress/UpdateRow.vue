<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  contradictionIn,
  durationWords,
  formatInstant,
  instantOf,
  instantWords,
  percentBySteps,
  stepsOf,
  type Answer,
  type Change,
  type Finding,
  type OddAnswer,
  type UpdatePreview,
} from '@geodrome/core'
import { ListChecks, Pause, Undo2 } from '@lucide/vue'
import ActButton from '../../controls/ActButton.vue'
import IconButton from '../../controls/IconButton.vue'
import TickBox from '../../controls/TickBox.vue'
import TextField from '../../controls/TextField.vue'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import {
  cellWords,
  readFinished,
  readLeft,
  readPromise,
  readStarted,
  readStretch,
  tickedSteps,
  type CellGround,
  type TypedAnswer,
} from './updateCells.ts'

/** One activity of an update: what was planned, and what is said of it. What is odd about that is asked under it. */
const props = defineProps<{
  index: number
  answer: Answer | undefined
  odd: readonly OddAnswer[]
  otherReading: UpdatePreview['otherReading']
  status: number
  calendars: CalendarLookup
  x: (at: number) => number
  width: number
}>()
const emit = defineEmits<{
  say: [answer: Answer]
  unsay: []
  mend: [change: Change]
  accept: [finding: Finding, reason: string]
  show: [activity: string]
}>()
const plans = usePlanStore()
const activity = computed(() => plans.viewPlan!.activities[props.index]!)
const lengths = computed(() => props.calendars.lengthsOf(activity.value))
const ground = computed((): CellGround => ({
  activity: activity.value,
  lengths: lengths.value,
  calendar: props.calendars.of(activity.value),
  answer: props.answer,
  start: plans.view!.start[props.index]!,
  finish: plans.view!.finish[props.index]!,
  status: props.status,
}))
const isStarted = computed(() => activity.value.progress.actualStart !== null)
const planned = computed(() => {
  const { start, finish } = ground.value
  const day = (at: number, edge: 'start' | 'finish'): string => instantWords(at, edge, { time: false })
  return isStarted.value || finish <= props.status
    ? `to ${day(finish, 'finish')}`
    : `from ${day(start, 'start')}`
})
const ink = computed(() => {
  const float = plans.view!.totalFloat[props.index]!
  return props.answer ? 'stone' : float <= 0 ? 'solid' : 'outline'
})

const COLUMNS = [
  ['started', readStarted],
  ['finished', readFinished],
  ['left', readLeft],
  ['promised', readPromise],
] as const
type Column = (typeof COLUMNS)[number][0]
const LABELS: Readonly<Record<Column, string>> = {
  started: 'started',
  finished: 'finished',
  left: 'left or percent',
  promised: 'promised',
}
const problems = ref<Partial<Record<Column, string>>>({})
const shown = (column: Column): string => cellWords(column, activity.value, props.answer, lengths.value)
const keep = (
  column: Column,
  read: (text: string, ground: CellGround) => TypedAnswer,
  text: string,
): void => {
  if (text.trim() === shown(column)) return
  const found = read(text, ground.value)
  const answer = found.ok ? (found.answer ?? { unchanged: true as const }) : null
  const why = found.ok ? contradictionIn(activity.value, { ...props.answer, ...answer }) : found.why
  problems.value = { ...problems.value, [column]: why ?? '' }
  if (answer && why === null) emit('say', answer)
}
const firstProblem = computed(() => Object.values(problems.value).find((why) => why !== '') ?? '')
const isPoint = computed(() => activity.value.kind === 'milestone')
/** A cell that makes no sense for it stays empty. */
const isAsked = (column: Column): boolean =>
  isPoint.value
    ? column === 'finished'
    : column !== 'promised' || isStarted.value || !!props.answer?.start || activity.value.promise !== null

/** Its checklist: ticked here, the steps say how much is done. */
const steps = computed(() => stepsOf(activity.value))
const ticks = computed(() => props.answer?.steps ?? steps.value.map(({ done }) => done))
const areStepsOpen = ref(props.answer?.steps !== undefined)
const bySteps = computed(() =>
  percentBySteps(steps.value.map((step, k) => ({ ...step, done: ticks.value[k]! }))),
)
const tick = (k: number, isDone: boolean): void =>
  emit('say', tickedSteps(activity.value, ticks.value.with(k, isDone)))

const RULE = { hold: 'the links hold: it waits', follow: 'the work is followed: it goes on' } as const
/** The last stretch in which it stood still, as it will be. */
const stretches = computed(() => props.answer?.suspended ?? activity.value.progress.suspended ?? [])
const stretch = computed(() => stretches.value.at(-1) ?? null)
const isPausing = ref(stretches.value.length > 0)
const stretchProblem = ref('')
const stretchWords = (edge: 'from' | 'to'): string => {
  const date = stretch.value?.[edge] ?? null
  return date === null ? '' : instantWords(instantOf(date, 'start'), 'start')
}
const keepStretch = (edge: 'from' | 'to', text: string): void => {
  if (text.trim() === stretchWords(edge)) return
  const found = readStretch(edge, text, stretches.value, ground.value)
  stretchProblem.value = found.ok ? '' : found.why
  if (found.ok) emit('say', { suspended: found.stretches })
}

/** The promise in force: a new one, else the one that stands. */
const promise = computed(() =>
  props.answer?.promise === undefined ? activity.value.promise : props.answer.promise,
)
/** What a promise means, where that is not what it says: at a time when nobody works, or beside something else that was said. */
const promiseMeans = computed((): string[] => {
  if (!props.answer || !promise.value || props.answer.finish) return []
  const calendar = props.calendars.of(activity.value)
  const at = instantOf(promise.value.finish, 'finish')
  const end = calendar.minuteAt(calendar.countBefore(at) - 1) + 1
  const left = calendar.countBefore(at) - calendar.countBefore(props.status)
  // Review asks about a time of day when nobody works; a whole day off means the same, and is said here.
  const isAsked = props.odd.some(({ finding }) => finding.check === 'promise-trap')
  const means =
    end === at || isAsked
      ? []
      : [`${instantWords(at, 'finish')} is no working time: it means ${instantWords(end, 'finish')}.`]
  if (left <= 0) return means
  const isSaid = props.answer.remaining != null || props.answer.percent !== undefined
  const words = durationWords(left, lengths.value)
  if (isSaid)
    return [...means, `The promise counts: it leaves ${words} of work, whatever is said to be left.`]
  return props.answer.promise ? [...means, `The promise leaves ${words} of work.`] : means
})
/** A promise for a time when nobody works can be meant in two ways; both are dates that say what they mean. */
const readings = computed(() => {
  const said = promise.value
  const isAsked = props.odd.some(({ finding }) => finding.check === 'promise-trap')
  if (!said || !isAsked || !isStarted.value) return []
  const calendar = props.calendars.of(activity.value)
  const at = instantOf(said.finish, 'finish')
  const before = calendar.minuteAt(calendar.countBefore(at) - 1) + 1
  if (before === at || before <= props.status) return []
  const nextStart = calendar.minuteAt(calendar.countBefore(at))
  const midnight = (Math.floor(nextStart / 1440) + 1) * 1440
  const next = calendar.minuteAt(calendar.countBefore(midnight) - 1) + 1
  return [
    { label: 'the working time before', at: before },
    { label: 'the next working day', at: next },
  ].map(({ label, at: t }) => ({
    label: `It means ${label}, ${instantWords(t, 'finish')}`,
    answer: { promise: { finish: formatInstant(t), by: said.by } } satisfies Answer,
  }))
})
</script>

<template>
  <div
    class="row"
    :class="{ answered: answer && odd.length === 0, odd: odd.length > 0 || firstProblem !== '' }"
    role="group"
    :aria-label="`${activity.code} ${activity.name}, ${planned}`"
    :data-test="`asked-${activity.code}`"
  >
    <div class="cells">
      <span class="name">
        <ActButton kind="noun" @click="emit('show', activity.id)"
          ><span class="code">{{ activity.code }}</span></ActButton
        >
        <span class="title" :title="activity.name">{{ activity.name }}</span>
      </span>
      <span
        class="soft"
        :title="`${instantWords(ground.start, 'start')} to ${instantWords(ground.finish, 'finish')}`"
        >{{ planned }}</span
      >
      <svg :width="width" height="24" aria-hidden="true">
        <rect
          v-if="x(ground.finish) > 0 && x(ground.start) < width"
          :class="['bar', ink]"
          :x="x(ground.start)"
          y="5"
          :width="Math.max(4, x(ground.finish) - x(ground.start))"
          height="14"
          rx="7"
        />
      </svg>
      <span v-for="[column, read] in COLUMNS" :key="column">
        <TextField
          v-if="isAsked(column)"
          :label="`${activity.code}, ${LABELS[column]}`"
          :kept="shown(column)"
          :invalid="!!problems[column]"
          @keep="keep(column, read, $event)"
        />
      </span>
      <IconButton
        v-if="isStarted && !isPausing"
        :icon="Pause"
        :label="`${activity.code} stood still`"
        @click="isPausing = true"
      />
      <span v-else />
      <IconButton
        v-if="steps.length > 0 && !answer?.finish"
        :icon="ListChecks"
        :aria-expanded="areStepsOpen"
        :label="`${activity.code}, its steps`"
        @click="areStepsOpen = !areStepsOpen"
      />
      <span v-else />
      <IconButton
        v-if="answer"
        :icon="Undo2"
        :label="`Take back what was said of ${activity.code}`"
        @click="emit('unsay')"
      />
    </div>
    <div v-if="isPausing" class="ask still">
      <span>stood still from</span>
      <TextField
        :label="`${activity.code}, stood still from`"
        :kept="stretchWords('from')"
        @keep="keepStretch('from', $event)"
      />
      <span>to</span>
      <TextField
        :label="`${activity.code}, stood still to`"
        :kept="stretchWords('to')"
        placeholder="still"
        @keep="keepStretch('to', $event)"
      />
      <span v-if="stretchProblem" class="brick" role="alert">{{ stretchProblem }}</span>
      <span v-else-if="stretch" class="soft">{{
        stretch.to === null ? 'it can be taken up at the status date' : 'no work of it in between'
      }}</span>
    </div>
    <fieldset v-if="areStepsOpen && steps.length > 0" class="ask steps" data-test="steps">
      <legend>
        Steps: {{ ticks.filter(Boolean).length }} of {{ steps.length
        }}{{ bySteps === null ? '; none counts' : `, ${bySteps} % by their weights` }}
      </legend>
      <TickBox
        v-for="(step, k) in steps"
        :key="k"
        :model-value="ticks[k]!"
        @update:model-value="tick(k, $event)"
        >{{ step.text || 'without a name' }}{{ step.weight === 1 ? '' : `, counts ${step.weight}` }}</TickBox
      >
    </fieldset>
    <p v-if="firstProblem" class="brick ask" role="alert">{{ firstProblem }}</p>
    <p v-for="words in promiseMeans" :key="words" class="ask">
      <span aria-hidden="true">△</span> {{ words }}
    </p>
    <div v-for="{ finding, ways } in odd" :key="finding.fingerprint" class="ask" data-test="odd">
      <p>
        <span aria-hidden="true">▲</span> <strong>{{ finding.message }}.</strong>
      </p>
      <p v-if="finding.check === 'out-of-sequence' && otherReading" class="reading">
        <ActButton
          data-test="other-reading"
          @click="emit('mend', { kind: 'project', set: { outOfSequence: otherReading.rule } })"
          >{{ RULE[otherReading.rule] }}, here and wherever work is out of sequence</ActButton
        >
        <span class="soft">finish then {{ instantWords(otherReading.finish, 'finish') }}</span>
      </p>
      <p v-for="one in finding.check === 'promise-trap' ? readings : []" :key="one.label" class="reading">
        <ActButton @click="emit('say', one.answer)">{{ one.label }}</ActButton>
      </p>
      <p v-for="{ repair, finish } in ways" :key="repair.label" class="reading">
        <ActButton :disabled="finish === null" @click="emit('mend', repair.change)">{{
          repair.label
        }}</ActButton>
        <span class="soft">{{
          finish === null ? 'that cannot be' : `finish then ${instantWords(finish, 'finish')}`
        }}</span>
      </p>
      <p class="reading accepting">
        <TextField
          :label="`Why ${finding.message} may stay`"
          placeholder="it may stay as it is, because …"
          :kept="''"
          data-test="accept-odd"
          @keep="$event.trim() && emit('accept', finding, $event.trim())"
        />
      </p>
    </div>
  </div>
</template>

<style scoped>
.row {
  border-bottom: 1px solid var(--hairline);
  padding: 2px 0;
}
.row.odd {
  background: var(--wash);
}
.row.answered .cells > span:not(:nth-last-child(-n + 5)) {
  color: var(--soft-ink);
}
.name {
  display: flex;
  gap: 8px;
  min-width: 0;
  align-items: baseline;
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-weight: 600;
}
.answered .title {
  font-weight: 400;
}
.bar {
  stroke: var(--ink);
  stroke-width: 1.5;
  fill: var(--paper);
}
.bar.solid {
  fill: var(--ink);
}
.bar.stone {
  fill: var(--stone);
  stroke: var(--stone);
}
.ask {
  padding: 1px 0 3px 22px;
}
.still {
  display: flex;
  align-items: center;
  gap: 8px;
}
.still > .text-field {
  width: 150px;
}
.steps {
  border: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
.accepting > .text-field {
  flex: 1;
}
.reading {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: baseline;
  padding: 3px 0 0 18px;
}
</style>
