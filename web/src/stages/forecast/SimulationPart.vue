<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  formatInstant,
  instantOf,
  roundMoneyWords,
  type LookCondition,
  type TargetLook,
  type Tokens,
  amountScale,
  DATE_SCALE,
  type ScaleValue,
  markColour,
} from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import SaveAs from '../../controls/SaveAs.vue'
import { useLook } from '../../composables/useLook.ts'
import FootLine from '../../frame/FootLine.vue'
import { useForecastStore, type SimulationRun } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import AnswerFor from './AnswerFor.vue'
import BesideRun from './BesideRun.vue'
import KeptRuns from './KeptRuns.vue'
import OwedList from './OwedList.vue'
import PlotFigure from './PlotFigure.vue'
import ReplaySteps from './ReplaySteps.vue'
import RunPanel from './RunPanel.vue'
import SetAside from './SetAside.vue'
import ThreePanes from './ThreePanes.vue'
import { barsBy, barsFigure, type BarsBy } from './barsFigure.ts'
import { dotsFigure } from './dotsFigure.ts'
import { type Figure } from './figureParts.ts'
import { jointFigure } from './jointFigure.ts'
import { seenIn } from './seen.ts'
import { barsTable, jointTable, ladderTable, type DrawnTable } from './simulationTable.ts'
import { howItWasMade, simulationSubtitle, simulationTitle, type SimulationShown } from './simulationWords.ts'
import { targetChoices } from './targets.ts'
import { markAt, PLACES, useOverlaidRuns } from './useOverlaidRuns.ts'

/** The distribution of any date, length or amount of a run, drawn, asked, compared with other runs, and what it is owed to. */
const plans = usePlanStore()
const forecast = useForecastStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()
const panel = useTemplateRef<{ run(): void }>('panel')
const figure = useTemplateRef<{ svg(): Promise<string> }>('figure')

const plan = computed(() => plans.viewPlan!)
const chosen = ref<string | null>(null)
/** Where none is chosen, the latest of what is in view. */
const run = computed(() => forecast.finished.find(({ id }) => id === chosen.value) ?? forecast.latest)
const result = computed(() => forecast.resultOf(run.value))
watch([() => plans.scenarioId, () => forecast.latest?.id], () => (chosen.value = null))
const growing = computed(() =>
  forecast.running?.input.scenario === plans.scenarioId ? forecast.running : null,
)
const canRun = computed(() => plans.pending.length === 0 && plans.connection === 'online')

const choices = computed(() => targetChoices(plan.value))
const targetValue = ref('')
const target = computed(
  () => choices.value.find(({ value }) => value === targetValue.value) ?? choices.value[0]!,
)
const isFinish = computed(() => target.value === choices.value[0])
const given = ref<LookCondition | null>(null)
/** Another run may not have what is asked for. */
const holds = computed(() =>
  given.value?.by === 'risk' && run.value?.input.risks === false ? null : given.value,
)
const asked = ref<ScaleValue | null>(null)
const percent = ref(80)
const chooseTarget = (value: string): void => {
  const was = target.value.target.what
  targetValue.value = value
  if (target.value.target.what !== was) asked.value = null
}

const currency = computed(() => plan.value.project.currency)
const scale = computed(() => {
  switch (target.value.target.what) {
    case 'finish':
      return DATE_SCALE
    case 'length':
      return amountScale((days) => `${(Math.round(days * 10) / 10).toLocaleString('en')} d`)
    default:
      return amountScale((amount) => roundMoneyWords(amount, currency.value))
  }
})
const question = computed(() => ({ target: target.value.target, given: holds.value }))
const about = computed(() => JSON.stringify(question.value))
const { answer, problem: lookProblem } = useLook('target', () =>
  run.value && !growing.value
    ? { run: run.value, question: { ...question.value, asked: asked.value }, about: about.value }
    : null,
)
const { answer: contingency, problem: contingencyProblem } = useLook('contingency', () =>
  run.value && !growing.value ? { run: run.value, question: { percent: percent.value } } : null,
)
type View = 'dots' | 'bars' | 'joint'
const view = ref<View>('dots')
const { answer: joint, problem: jointProblem } = useLook('joint', () =>
  view.value === 'joint' && run.value && !growing.value
    ? { run: run.value, question: { percent: percent.value } }
    : null,
)
const { lay, overlaid, besides } = useOverlaidRuns(run, question)
/** What is known before the answer is there: of the plan's finish, what the run told. */
const look = computed((): TargetLook | null => answer.value)
const told = computed(() => {
  if (growing.value)
    return (
      growing.value.partial && { planned: formatInstant(plans.view!.projectFinish), ...growing.value.partial }
    )
  const found = look.value?.distribution
  if (found) return { planned: look.value.planned, dots: found.dots, percentiles: found.percentiles }
  if (look.value || !isFinish.value || holds.value || lookProblem.value || !result.value) return null
  return result.value
})
const required = computed(() => {
  const date = plan.value.project.requiredFinish
  return isFinish.value && date !== null ? formatInstant(instantOf(date, 'finish')) : null
})
/** What the three tones of the dots mean. */
const dotsLegend = computed(() => {
  const dark = askedLine.value === null ? '' : `ink: within what is ${askedLine.value.name}, `
  return `${dark}filled: within 80 in 100, hollow: beyond`
})
const askedLine = computed(() => {
  if (asked.value !== null)
    return { value: typeof asked.value === 'string' ? endOf(asked.value) : asked.value, name: 'asked' }
  return required.value === null ? null : { value: required.value, name: 'required' }
})
const endOf = (date: string): string => formatInstant(instantOf(date, 'finish'))

const shown = computed((): SimulationShown => ({
  growing: growing.value,
  hasRun: run.value !== null,
  result: result.value,
  look: look.value,
  p80: told.value?.percentiles['80'] ?? null,
  isRefused: lookProblem.value !== null,
  target: target.value,
  isPart: holds.value !== null,
  scale: scale.value,
}))
const title = computed(() => simulationTitle(shown.value))
const subtitle = computed(() => simulationSubtitle(shown.value, isFinish.value))
const seen = computed(() => {
  const found = look.value?.distribution
  return found && !growing.value ? seenIn(found, scale.value, plan.value) : []
})

const pinned = ref<readonly number[]>([50, 80])
const pin = (rung: number): void => {
  pinned.value = pinned.value.includes(rung)
    ? pinned.value.filter((p) => p !== rung)
    : [...pinned.value, rung]
}
const barsSize = ref<BarsBy>('week')
const bars = computed(() => {
  const found = look.value?.distribution
  return found ? barsBy(scale.value, found.bars, found.barWidth, barsSize.value) : []
})
type Draw = (t: Tokens, width: number, height: number) => Figure
const draw = computed((): Draw | null => {
  if (view.value === 'joint' && !growing.value) {
    const found = joint.value
    if (!found) return null
    const money = amountScale((amount) => roundMoneyWords(amount, currency.value))
    const meant = {
      look: found,
      money,
      required: plan.value.project.requiredFinish === null ? null : endOf(plan.value.project.requiredFinish),
      percent: percent.value,
    }
    return (t, width, height) => jointFigure(meant, t, width, height)
  }
  const known = told.value
  if (!known) return null
  if (view.value === 'bars' && !growing.value) {
    const drawn = bars.value
    if (drawn.length === 0) return null
    const meant = {
      scale: scale.value,
      bars: drawn,
      planned: known.planned,
      asked: askedLine.value,
      p80: known.percentiles['80']!,
    }
    return (t, width, height) => barsFigure(meant, t, width, height)
  }
  const meant = {
    scale: scale.value,
    dots: known.dots,
    percentiles: known.percentiles,
    planned: known.planned,
    asked: askedLine.value,
    pinned: pinned.value,
  }
  const others = besides.value
  return (t, width, height) =>
    dotsFigure(
      { ...meant, besides: others.map((one) => ({ ...one, colour: markColour(t, markAt(one.place)) })) },
      t,
      width,
      height,
    )
})
const VIEWS = [
  ['dots', 'Dots and ladder'],
  ['bars', 'Bars'],
  ['joint', 'Date and money'],
] as const
const views = computed(() => VIEWS.filter(([id]) => id !== 'joint' || result.value?.cost != null))
const viewName = computed(() => VIEWS.find(([id]) => id === view.value)![1].toLowerCase())
const isTable = ref(false)
const label = computed(() =>
  view.value === 'joint'
    ? 'Date and money of iterations together; the table says the same.'
    : `${title.value} ${subtitle.value} ${view.value === 'dots' ? 'Fifty dots, each two in a hundred iterations, over the ladder of confidence.' : 'Iterations in a hundred by their dates or amounts.'}`,
)
const table = computed((): DrawnTable => {
  if (view.value === 'joint') return jointTable(joint.value, percent.value, currency.value)
  if (view.value === 'bars') return barsTable(bars.value, scale.value)
  return ladderTable(told.value?.percentiles ?? {}, scale.value, besides.value)
})
const show = async (id: string): Promise<void> => {
  await router.push({ name: 'network', params: { id: route.params.id as string } })
  ui.select(id, { show: true })
}
const toRisks = (): void =>
  void router.push({ name: 'forecast', params: { id: route.params.id as string, part: 'risks' } })
const toGround = (): void => {
  ui.pane = 'ground'
  void router.push({ name: 'network', params: { id: route.params.id as string } })
}
const made = computed(() => (run.value && result.value ? howItWasMade(result.value, run.value.revision) : ''))
const staleRun = (of: SimulationRun): boolean => forecast.isStale(of)
</script>

<template>
  <ThreePanes :left="222">
    <template #left>
      <RunPanel ref="panel" />
      <KeptRuns :chosen="run" :overlaid="overlaid" :most="PLACES" @choose="chosen = $event" @lay="lay" />
    </template>
    <h1 data-test="forecast-title">{{ title }}</h1>
    <p class="soft" data-test="forecast-kept">{{ subtitle }}</p>
    <p v-for="sentence in seen" :key="sentence" data-test="seen">{{ sentence }}</p>
    <div v-if="run && !growing" class="views" role="group" aria-label="Drawing">
      <ActButton
        v-for="[id, name] in views"
        :key="id"
        kind="bare"
        :aria-pressed="view === id"
        :data-test="`view-${id}`"
        @click="view = id"
        >{{ name }}</ActButton
      >
      <span v-if="view === 'bars' && scale.isDate" class="by" role="group" aria-label="Bars by">
        <ActButton
          v-for="by in ['day', 'week', 'month'] as const"
          :key="by"
          kind="bare"
          :aria-pressed="barsSize === by"
          @click="barsSize = by"
          >{{ by }}</ActButton
        >
      </span>
      <span class="files">
        <ActButton kind="bare" :aria-pressed="isTable" data-test="as-table" @click="isTable = !isTable"
          >Table</ActButton
        >
        <SaveAs v-if="!isTable && draw" :name="`Forecast, ${viewName}`" :drawing="() => figure!.svg()" />
      </span>
    </div>
    <p v-if="jointProblem && view === 'joint'" class="brick" role="alert">{{ jointProblem }}</p>
    <FactTable
      v-if="isTable && run && !growing"
      class="as-table"
      :name="`Forecast, ${viewName}`"
      data-test="table"
    >
      <thead>
        <tr>
          <th v-for="head in table.heads" :key="head">{{ head }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in table.rows" :key="row[0]">
          <td v-for="(cell, k) in row" :key="k">{{ cell }}</td>
        </tr>
      </tbody>
    </FactTable>
    <div v-else class="figure-box">
      <PlotFigure v-if="draw" ref="figure" :draw="draw" :label="label" @pin="pin" />
      <p v-else-if="!run && !growing" class="soft invite">
        Fifty dots will stand here, each for two in a hundred iterations, over the dates on which they finish.
        <ActButton kind="noun" :disabled="!canRun" @click="panel?.run()">Run it</ActButton>
      </p>
    </div>
    <OwedList
      v-if="run && result && !growing && isFinish && holds === null"
      :plan="plan"
      :run="run"
      :result="result"
      :percent="percent"
      @show="show"
      @risk="toRisks"
    />
    <template #right>
      <template v-if="run && !growing">
        <AnswerFor
          :plan="plan"
          :choices="choices"
          :target="target"
          :given="given"
          :look="look"
          :with-risks="run.input.risks"
          :scale="scale"
          :problem="lookProblem"
          :around="plans.view!.projectFinish"
          @target="chooseTarget"
          @given="given = $event"
          @asked="asked = $event"
        />
        <SetAside
          :found="contingency"
          :percent="percent"
          :currency="currency"
          :problem="contingencyProblem"
          @percent="percent = $event"
        />
        <ReplaySteps :run="run" :percent="percent" @ground="toGround" />
        <BesideRun
          v-for="one in overlaid"
          :key="one.run.id"
          :main="run"
          :other="one.run"
          :mark="one.mark"
          :colour="one.colour"
          :percent="percent"
        />
        <section>
          <h3>How it was made</h3>
          <p class="soft">{{ made }}</p>
          <p v-if="staleRun(run)" class="signal">The plan has changed since this run.</p>
        </section>
      </template>
      <p v-else class="soft">The percentiles will stand here.</p>
    </template>
  </ThreePanes>
  <FootLine
    ><span v-if="view === 'dots'" data-test="dots-legend"
      >50 dots, each 2 in 100 iterations; {{ dotsLegend }}</span
    ><span>{{ forecast.finished.length }} run{{ forecast.finished.length === 1 ? '' : 's' }}</span></FootLine
  >
</template>

<style scoped>
.figure-box {
  flex: 1 0 340px;
  min-height: 340px;
  position: relative;
}
.views {
  display: flex;
  gap: 14px;
  align-items: center;
}
.views :deep([aria-pressed]) {
  border-bottom: 1.5px dotted var(--line);
  min-height: 24px;
}
.views :deep([aria-pressed='true']) {
  border-bottom: 2px solid var(--ink);
  font-weight: 650;
}
.by,
.files {
  display: flex;
  gap: 10px;
}
.files {
  margin-left: auto;
}
.invite {
  padding: 60px 20px;
  max-width: 420px;
}
.as-table {
  max-width: 620px;
}
:deep(.beside) > section + section,
:deep(.asked) > section {
  border-top: 1px solid var(--hairline);
  padding-top: 10px;
}
</style>
