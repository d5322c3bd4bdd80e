<script setup lang="ts">
import { NProgress } from 'naive-ui'
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import {
  counted,
  durationWords,
  NONE,
  readDuration,
  State,
  stopWords,
  type DayLengths,
  type Experiment,
} from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import TextField from '../../controls/TextField.vue'
import SentenceText from '../../panes/lens/SentenceText.vue'
import { figureOf } from '../../saving/shownTable.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/** What becomes of the finish when each activity takes a step longer, and when it takes no time: criticality by experiment, not by float. */
const { calendars } = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const forecast = useForecastStore()

/** So many are tried at once: edits come in between. */
const SLICE = 150
const SHOWN = 100
const found = shallowRef<readonly Experiment[]>([])
const done = ref(0)
const total = ref(0)
const problem = ref('')
/** The step as it was typed; null: a day of each activity's own calendar. */
const typed = ref('')
const stepProblem = ref('')
const step = ref<number | undefined>()
const more = ref(false)
const isBackward = computed(() => plans.viewPlan!.project.direction === 'backward')

let turn = 0
const test = async (): Promise<void> => {
  const mine = ++turn
  const { viewPlan: plan, view } = plans
  found.value = []
  problem.value = ''
  if (!plan || !view || isBackward.value) return
  const ids = plan.activities.flatMap(({ id, kind }, i) =>
    kind === 'work' && view.state[i] !== State.Finished ? [id] : [],
  )
  done.value = 0
  total.value = ids.length
  const all: Experiment[] = []
  for (let at = 0; at < ids.length; at += SLICE) {
    try {
      const activities = ids.slice(at, at + SLICE)
      const part = await plans.question(
        'nudges',
        step.value === undefined ? { activities } : { activities, step: step.value },
      )
      if (mine !== turn) return
      all.push(...part)
      done.value = Math.min(ids.length, at + SLICE)
    } catch (error) {
      if (mine === turn) problem.value = (error as Error).message
      return
    }
  }
  found.value = all
}
const stop = (): void => {
  turn++
  total.value = done.value = 0
}
watch([() => plans.view, step], test, { immediate: true })
onUnmounted(stop)
const isTesting = computed(() => done.value < total.value && problem.value === '')

/** A step is meant in days of each activity's own calendar; typed in hours it is the same for all. */
const keepStep = (text: string): void => {
  typed.value = text.trim()
  stepProblem.value = ''
  if (typed.value === '') return void (step.value = undefined)
  const read = readDuration(typed.value, calendars.projectLengths)
  if (!read.ok) stepProblem.value = read.why
  else if (read.minutes <= 0) stepProblem.value = 'a step is longer than nothing'
  else step.value = read.minutes
}

const rows = computed(() =>
  [...found.value]
    .map((one) => ({ ...one, i: plans.byId.get(one.activity) ?? -1 }))
    .filter(({ i }) => i >= 0)
    .sort((a, b) => b.nudge - a.nudge || b.drag - a.drag || floatOf(a.i) - floatOf(b.i)),
)
const floatOf = (i: number): number => plans.view!.totalFloat[i]!
const movers = computed(() => rows.value.filter(({ nudge }) => nudge > 0).length)
const criticalOnes = computed(() => rows.value.filter(({ i }) => plans.view!.critical[i] === 1))
const still = computed(() => criticalOnes.value.filter(({ nudge }) => nudge === 0).length)
const stepWords = computed(() =>
  step.value === undefined
    ? movers.value === 1
      ? 'a day of its own'
      : 'a day of their own'
    : durationWords(step.value, calendars.projectLengths),
)
const title = computed(() => {
  if (isBackward.value) return 'Not tested: the plan is scheduled backward.'
  if (isTesting.value) return 'Making one activity longer after the other …'
  if (rows.value.length === 0) return 'There is no work to make longer.'
  return `${counted(movers.value, 'activity')} of ${rows.value.length.toLocaleString('en')} ${movers.value === 1 ? 'moves' : 'move'} the finish when ${movers.value === 1 ? 'it takes' : 'they take'} ${stepWords.value} longer.`
})
const days = (minutes: number, lengths: DayLengths = calendars.projectLengths): string =>
  durationWords(minutes, lengths)
const ownFloat = (i: number): string =>
  floatOf(i) === NONE ? '' : days(floatOf(i), calendars.lengthsOf(plans.viewPlan!.activities[i]!))
const onPath = (id: string): string => {
  const share = forecast.latestResult?.activities[id]?.criticality
  return share === undefined ? '' : `${Math.round(share * 100)}`
}
/** All that were tried, for a file. */
const allRows = () => ({
  head: [
    'code',
    'activity',
    'total float',
    'longer, the finish moves',
    'without it, earlier',
    'longest path in 100',
  ],
  rows: rows.value.map(({ activity, i, nudge, drag }) => [
    plans.viewPlan!.activities[i]!.code,
    plans.viewPlan!.activities[i]!.name,
    ownFloat(i),
    days(nudge),
    days(drag),
    figureOf(onPath(activity)),
  ]),
})
const shown = computed(() => (more.value ? rows.value : rows.value.slice(0, SHOWN)))
</script>

<template>
  <h1 data-test="nudge-title">{{ title }}</h1>
  <p v-if="!isBackward" class="soft">
    <template v-if="still > 0 && !isTesting"
      >{{ still }} of {{ criticalOnes.length }} critical by their float do not: something takes the delay up.
    </template>
    Float is measured against dates that are asked for; this is what the network does.
  </p>
  <p v-if="!isBackward" class="step">
    <span>Longer by</span>
    <TextField
      class="typed"
      :kept="typed"
      label="Longer by"
      placeholder="a day of its own"
      :invalid="stepProblem !== ''"
      data-test="nudge-step"
      @keep="keepStep"
    />
    <template v-if="isTesting">
      <NProgress
        class="bar"
        type="line"
        :percentage="Math.round((100 * done) / total)"
        :show-indicator="false"
        aria-label="Activities tried"
      />
      <span class="soft" role="status">{{ done }} of {{ total }}</span>
      <ActButton kind="noun" @click="stop">Stop</ActButton>
    </template>
  </p>
  <p v-if="stepProblem || problem" class="brick" role="alert">{{ stepProblem || problem }}</p>
  <FactTable v-if="rows.length > 0" name="What each activity moves" :whole="allRows" data-test="nudges">
    <thead>
      <tr>
        <th>Code</th>
        <th class="wide">Activity</th>
        <th class="right">Total float</th>
        <th class="right">Longer, the finish moves</th>
        <th class="right">Without it, earlier</th>
        <th v-if="forecast.latestResult" class="right">Longest path in 100</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in shown" :key="one.activity">
        <td class="code">{{ plans.viewPlan!.activities[one.i]!.code }}</td>
        <td>
          <ActButton kind="noun" @click="emit('show', one.activity)">{{
            plans.viewPlan!.activities[one.i]!.name
          }}</ActButton>
          <p v-if="plans.view!.critical[one.i] === 1 && one.stops.length > 0" class="soft why">
            <SentenceText :sentence="stopWords(plans.viewPlan!, one.stops.slice(0, 1))" />
          </p>
        </td>
        <td class="right" :class="{ signal: floatOf(one.i) < 0 && floatOf(one.i) !== NONE }">
          {{ ownFloat(one.i) }}
        </td>
        <td class="right">
          <strong v-if="one.nudge !== 0">{{ days(one.nudge) }}</strong><span v-else class="soft"
            >not at all</span
          >
        </td>
        <td class="right">
          {{ one.drag === 0 ? '' : days(one.drag) }}<span v-if="one.drag === 0" class="soft">not at all</span>
        </td>
        <td v-if="forecast.latestResult" class="right">{{ onPath(one.activity) }}</td>
      </tr>
    </tbody>
  </FactTable>
  <p v-if="rows.length > shown.length">
    <ActButton kind="noun" @click="more = true"
      >{{ (rows.length - shown.length).toLocaleString('en') }} more</ActButton
    >
  </p>
</template>

<style scoped>
.step {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 10px 0;
}
.typed {
  width: 160px;
}
.bar {
  width: 160px;
}
.why {
  font-size: 12.5px;
}
.wide {
  width: 40%;
}
.right {
  text-align: right;
}
</style>
