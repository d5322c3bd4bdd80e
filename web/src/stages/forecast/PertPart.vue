<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { useElementSize } from '@vueuse/core'
import { frequencyWords, counted, formatInstant, instantOf, instantWords, readDate } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import NumberField from '../../controls/NumberField.vue'
import TextField from '../../controls/TextField.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { finishOptions, WHOLE_PLAN } from '../../controls/options.ts'
import { useQuestion } from '../../composables/useQuestion.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import FootLine from '../../frame/FootLine.vue'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import MergeList from './MergeList.vue'

/** The expected length, its spread along the longest path, and every path within reach of it. */
const props = defineProps<{ calendars: CalendarLookup }>()
const emit = defineEmits<{ show: [activity: string] }>()
const plans = usePlanStore()
const forecast = useForecastStore()
const plan = computed(() => plans.viewPlan!)

const to = ref(WHOLE_PLAN)
const targets = computed(() => finishOptions('the whole plan', plan.value.activities))
const confidence = ref(80)
/** Typed; null: the required finish. */
const by = ref<string | null>(null)
const byProblem = ref('')
const required = computed(() => plan.value.project.requiredFinish)
const asked = computed(() => by.value ?? required.value)
const byShown = computed(() =>
  asked.value === null ? '' : instantWords(instantOf(asked.value, 'finish'), 'finish', { time: false }),
)
const keepBy = (text: string): void => {
  if (text.trim() === '') {
    by.value = null
    byProblem.value = ''
    return
  }
  const read = readDate(text, plans.view!.projectFinish)
  byProblem.value = read.ok ? '' : read.why
  if (read.ok) by.value = read.date
}
const { answer: report, problem } = useQuestion('expected', () => ({
  by: asked.value,
  confidence: confidence.value / 100,
  to: to.value === WHOLE_PLAN ? null : to.value,
}))

const date = (at: string): string => instantWords(instantOf(at, 'finish'), 'finish', { time: false })
const days = (value: number): string => `${(Math.round(value * 10) / 10).toLocaleString('en')} d`
const short = (share: number): string =>
  share < 0.005 ? '< 1 of 100' : share > 0.995 ? '> 99 of 100' : frequencyWords(share)
const title = computed(() => {
  const r = report.value
  if (!r) return ''
  const planned = formatInstant(
    to.value === WHOLE_PLAN ? plans.view!.projectFinish : plans.view!.finish[plans.byId.get(to.value)!]!,
  )
  return r.finish === planned
    ? `Expected on ${date(r.finish)}, as planned.`
    : `Expected on ${date(r.finish)}, planned ${date(planned)}.`
})
const answer = computed(() => {
  const r = report.value
  if (!r) return ''
  const sure = `${confidence.value} in 100 by ${date(r.dateAtConfidence)}.`
  return r.probability === null || r.by === null
    ? sure
    : `${date(r.by)} is kept in ${frequencyWords(r.probability)}, if only this path mattered. ${sure}`
})
/** Why it is so much later: a turn of a calendar that is missed. */
const missed = computed(() => {
  const found = report.value?.missed
  if (!found) return null
  const at = (text: string): string => instantWords(instantOf(text, 'start'), 'start', { time: false })
  const days = Math.round((instantOf(found.expected, 'start') - instantOf(found.planned, 'start')) / 1440)
  return { id: found.activity, planned: at(found.planned), expected: at(found.expected), days }
})
const estimated = computed(() => plan.value.activities.filter(({ estimate }) => estimate !== null).length)

/** What the simulation says of the same date: it lets all paths count. */
const beside = computed(() => {
  const run = forecast.latestResult
  if (!run || to.value !== WHOLE_PLAN || !report.value) return null
  const minutes = instantOf(run.mean, 'finish') - instantOf(report.value.finish, 'finish')
  return { mean: run.mean, days: Math.round(minutes / 1440), isStale: forecast.isStale(forecast.latest!) }
})

/** Paths as they lie beside each other: mean, one and two deviations, over days of the project calendar. */
const ROW = 26
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const available = computed(() => {
  const r = report.value
  if (!r || r.by === null) return null
  const start = instantOf(plan.value.project.start, 'start')
  return (
    (props.calendars.project.countBefore(instantOf(r.by, 'finish')) -
      props.calendars.project.countBefore(start)) /
    props.calendars.projectLengths.dayMinutes
  )
})
const range = computed(() => {
  const paths = report.value?.paths ?? []
  const low = Math.min(...paths.map(({ mean, sd }) => mean - 2 * sd), available.value ?? Infinity)
  const high = Math.max(...paths.map(({ mean, sd }) => mean + 2 * sd), available.value ?? -Infinity)
  const pad = Math.max(1, (high - low) * 0.05)
  return { low: low - pad, high: high + pad }
})
const x = (value: number): number =>
  ((value - range.value.low) / Math.max(1e-9, range.value.high - range.value.low)) * Math.max(1, width.value)
const ticks = computed(() => {
  const { low, high } = range.value
  if (!Number.isFinite(low)) return []
  const step = [1, 2, 5, 10, 20, 50, 100, 200, 500].find((size) => (high - low) / size <= 8) ?? 1000
  return Array.from(
    { length: Math.floor(high / step) - Math.ceil(low / step) + 1 },
    (_, k) => (Math.ceil(low / step) + k) * step,
  )
})
const codes = computed(() => new Map(plan.value.activities.map(({ id, code }) => [id, code])))
/** Of each path what it has that the longest does not: the rest they share. */
const rows = computed(() => {
  const paths = report.value?.paths ?? []
  const first = new Set(paths[0]?.activities)
  return paths.map((path, k) => ({
    ...path,
    own: k === 0 ? path.activities : path.activities.filter((id) => !first.has(id)),
    without: k === 0 ? 0 : paths[0]!.activities.filter((id) => !path.activities.includes(id)).length,
  }))
})
/** For a file: lengths in days of working time. */
const allRows = () => ({
  head: ['expected length', 'deviation', 'probability', 'activities'],
  rows: (report.value?.paths ?? []).map(({ mean, sd, probability, activities }) => [
    mean,
    sd,
    probability ?? '',
    activities.map((id) => codes.value.get(id) ?? '').join(' → '),
  ]),
})
const drawn = useTemplateRef<HTMLElement>('drawn')
</script>

<template>
  <div class="pert">
    <section class="inputs scroll">
      <div class="field">
        <span>Finish of</span>
        <ChoiceField v-model="to" label="Finish of" :options="targets" />
      </div>
      <div class="field">
        <span>How sure of</span>
        <TextField
          :kept="byShown"
          label="How sure of"
          :invalid="byProblem !== ''"
          placeholder="thu 1 jul"
          @keep="keepBy"
        />
        <span v-if="byProblem" class="brick" role="alert">{{ byProblem }}</span>
        <span v-if="by === null && required !== null && !byProblem" class="soft"
          >the required finish; type another date</span
        >
        <ActButton v-if="by !== null" kind="noun" @click="keepBy('')">back to the required finish</ActButton>
      </div>
      <div class="field">
        <span>Which date is so sure, in 100</span>
        <NumberField v-model="confidence" label="Confidence in 100" :min="1" :max="99" />
      </div>
      <h3>What it counts</h3>
      <p>
        <strong>{{ estimated }}</strong> {{ estimated === 1 ? 'activity has' : 'activities have' }} three
        points of their own; <strong>{{ counted(plan.spreads.length, 'spread') }}</strong> for others. What
        has none is fixed.
      </p>
      <p class="soft">
        Expected: (low + 4 likely + high) / 6, deviation a sixth of the span; of other shapes their own. The
        network is scheduled with them, on its calendars. Risks, factors and weather are for the simulation.
      </p>
    </section>
    <section class="answer scroll">
      <p v-if="problem" class="brick" role="alert">{{ problem }}</p>
      <template v-else-if="report">
        <h1 data-test="pert-title">{{ title }}</h1>
        <p class="soft" data-test="pert-answer">{{ answer }}</p>
        <p v-if="missed" data-test="pert-missed">
          <ActButton kind="noun" class="code" @click="emit('show', missed.id)">{{
            codes.get(missed.id)
          }}</ActButton>
          misses {{ missed.planned }} and waits for its calendar until {{ missed.expected }}: that alone is
          {{ counted(missed.days, 'calendar day') }}.
        </p>
        <h3>Paths within reach, the longest first: expected length in days, with one and two deviations</h3>
        <div ref="drawn" class="paths" data-test="pert-paths">
          <div class="head soft" aria-hidden="true">
            <span /><span />
            <div ref="box" class="axis">
              <span v-for="tick in ticks" :key="tick" :style="{ left: `${x(tick)}px` }">{{ tick }}</span>
            </div>
          </div>
          <div v-for="(row, k) in rows" :key="row.activities.join()" class="row">
            <span class="length"
              >{{ days(row.mean) }} <span class="soft">± {{ days(row.sd) }}</span></span
            >
            <span class="soft chance">{{ row.probability === null ? '' : short(row.probability) }}</span>
            <svg :width="width" :height="ROW" aria-hidden="true">
              <line
                v-for="tick in ticks"
                :key="tick"
                class="grid"
                :x1="x(tick)"
                :x2="x(tick)"
                y1="0"
                :y2="ROW"
              />
              <line
                v-if="available !== null"
                class="due"
                :x1="x(available)"
                :x2="x(available)"
                y1="0"
                :y2="ROW"
              />
              <line
                class="two"
                :x1="x(row.mean - 2 * row.sd)"
                :x2="x(row.mean + 2 * row.sd)"
                :y1="ROW / 2"
                :y2="ROW / 2"
              />
              <rect
                :class="['one', { first: k === 0 }]"
                :x="x(row.mean - row.sd)"
                :y="ROW / 2 - 4"
                :width="Math.max(2, x(row.mean + row.sd) - x(row.mean - row.sd))"
                height="8"
                rx="4"
              />
              <circle class="mean" :cx="x(row.mean)" :cy="ROW / 2" r="4" />
            </svg>
            <p class="way">
              <span v-if="k > 0" class="soft">{{
                row.own.length === 0
                  ? `without ${counted(row.without, 'activity')} of the longest`
                  : 'by way of '
              }}</span>
              <template v-for="(id, a) in row.own" :key="id"
                ><span v-if="a > 0" class="soft"> → </span
                ><ActButton kind="noun" class="code" @click="emit('show', id)">{{
                  codes.get(id)
                }}</ActButton></template
              >
            </p>
          </div>
        </div>
        <SaveAs name="Paths by PERT" :drawing="() => drawn" :table="allRows" />
      </template>
    </section>
    <aside class="side scroll">
      <template v-if="report">
        <h2>What PERT leaves out</h2>
        <p>
          It lets one path decide. Where several meet, the latest of them does, and that is later than each:
          what it expects is too early by what they bring together.
        </p>
        <p v-if="beside" data-test="merge-bias">
          The simulation’s mean is <strong>{{ date(beside.mean) }}</strong>{{
            beside.days === 0
              ? ', the same day.'
              : `, ${counted(Math.abs(beside.days), 'calendar day')} ${beside.days > 0 ? 'later' : 'earlier'}: all paths, the risks and the calendars count in it.`
          }}
          <span v-if="beside.isStale" class="signal">The plan has changed since that run.</span>
        </p>
        <p v-else class="soft">Run the simulation to see by how much.</p>
        <MergeList v-if="forecast.latest" :run="forecast.latest" :plan="plan" @show="emit('show', $event)" />
      </template>
    </aside>
  </div>
  <FootLine>
    <span
      >{{ counted(report?.paths.length ?? 0, 'path') }} listed, {{ days(report?.mean ?? 0) }} of working time
      on the longest</span
    >
  </FootLine>
</template>

<style scoped>
.pert {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 216px minmax(0, 1fr) 250px;
}
.inputs,
.side {
  background: var(--raised);
  padding: 14px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.inputs {
  border-right: 1px solid var(--hairline);
}
.side {
  border-left: 1px solid var(--hairline);
}
.field {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 3px;
  font-size: 12.5px;
}
.field > * {
  max-width: 100%;
}
.answer {
  padding: 16px 18px 24px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.paths {
  display: flex;
  flex-direction: column;
}
.head,
.row {
  display: grid;
  grid-template-columns: 124px 92px minmax(0, 1fr);
  align-items: center;
  gap: 0 10px;
}
.row {
  border-bottom: 1px solid var(--hairline);
  padding: 3px 0;
}
.length {
  font-weight: 600;
  white-space: nowrap;
}
.length .soft {
  font-weight: 400;
}
.axis {
  position: relative;
  height: 18px;
}
.axis span {
  position: absolute;
  transform: translateX(-50%);
}
.way {
  grid-column: 1 / -1;
  margin: 0;
  font-size: 12.5px;
}
svg {
  display: block;
  overflow: visible;
}
.grid {
  stroke: var(--hairline);
}
.due {
  stroke: var(--brick);
  stroke-dasharray: 2 3;
  stroke-width: 1.5;
}
.two {
  stroke: var(--ink);
}
.one {
  fill: var(--paper);
  stroke: var(--ink);
}
.one.first {
  fill: var(--fjord);
}
.mean {
  fill: var(--ink);
}
</style>
