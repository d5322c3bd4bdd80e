<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import {
  instantOf,
  instantWords,
  roundMoneyWords,
  scenarioPlan,
  type Plan,
  type RunDifference,
} from '@geodrome/core'
import { api } from '../../api/client.ts'
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { pairFinishes } from '../../composables/pairing.ts'
import { useLongWork } from '../../composables/useLongWork.ts'
import { useForecastStore, type SimulationRun } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import type { RunsQuestion } from '../../workers/runs.worker.ts'
import RunsWorker from '../../workers/runs.worker.ts?worker'
import { runWords } from './runWords.ts'

/** The run that is looked at beside another: how much later, how often, and which inputs differ with what each of them did. */
const props = defineProps<{
  main: SimulationRun
  other: SimulationRun
  mark: string
  colour: string
  percent: number
}>()
const plans = usePlanStore()
const forecast = useForecastStore()
const mainResult = computed(() => forecast.resultOf(props.main))
const otherResult = computed(() => forecast.resultOf(props.other))
const day = (date: string): string => instantWords(instantOf(date, 'start'), 'finish', { time: false })
const money = (amount: number): string => roundMoneyWords(amount, plans.plan!.project.currency)
const signed = (days: number): string =>
  `${days > 0 ? '+' : days < 0 ? '−' : ''}${(Math.round(Math.abs(days) * 10) / 10).toLocaleString('en')} d`
const sentence = computed(() => {
  if (!mainResult.value || !otherResult.value) return ''
  const [was, is] = [mainResult.value.percentiles['80']!, otherResult.value.percentiles['80']!]
  const days = Math.round((instantOf(is, 'start') - instantOf(was, 'start')) / 1440)
  const apart =
    days === 0 ? 'the same day' : `${Math.abs(days)} calendar days ${days < 0 ? 'earlier' : 'later'}`
  const costs =
    mainResult.value.cost && otherResult.value.cost
      ? otherResult.value.cost.percentiles['80']! - mainResult.value.cost.percentiles['80']!
      : 0
  const dearer =
    Math.round(costs) === 0 ? '' : `, for ${money(Math.abs(costs))} ${costs < 0 ? 'less' : 'more'}`
  return `4 in 5 by ${day(is)}: ${apart}${dearer}.`
})
const paired = computed(() => {
  if (!mainResult.value || !otherResult.value) return ''
  const [a, b] = [props.main.input, props.other.input]
  if (a.seed !== b.seed || a.sampling !== b.sampling || a.iterations !== b.iterations || a.batch !== b.batch)
    return 'Their draws are not the same: a difference of a day may be chance.'
  const { earlier, pairs } = pairFinishes(mainResult.value.finishes, otherResult.value.finishes)
  return `Earlier in ${Math.round((100 * earlier) / pairs)} of 100 paired iterations.`
})

const found = shallowRef<readonly RunDifference[] | null>(null)
const problem = shallowRef('')
const { isRunning, failure, begin, end } = useLongWork<RunsQuestion, RunDifference>(() => new RunsWorker())
const planOf = async ({ planId, revision, input }: SimulationRun): Promise<Plan> => {
  const plan = await api.planAt(planId, revision)
  return input.scenario === null ? plan : scenarioPlan(plan, input.scenario).plan
}
/** The earlier of the two first: what was done since is what is asked. */
const ordered = computed((): readonly [SimulationRun, SimulationRun] =>
  props.main.createdAt <= props.other.createdAt ? [props.main, props.other] : [props.other, props.main],
)
const compare = async (): Promise<void> => {
  problem.value = ''
  found.value = []
  const [before, after] = ordered.value
  try {
    const of = await Promise.all([planOf(before), planOf(after)])
    if (before !== ordered.value[0] || after !== ordered.value[1]) return
    const optionsOf = ({ input: { iterations, batch, seed, sampling, risks } }: SimulationRun) => ({
      iterations,
      seed,
      sampling,
      batch,
      risks,
    })
    begin(
      {
        before: { plan: of[0], options: optionsOf(before) },
        after: { plan: of[1], options: optionsOf(after) },
        percent: props.percent,
      },
      (one) => (found.value = [...(found.value ?? []), one]),
    )
  } catch (error) {
    found.value = null
    problem.value = (error as Error).message
  }
}
watch(
  () => [props.main.id, props.other.id, props.percent],
  () => {
    end()
    found.value = null
  },
)
const rows = computed(() =>
  [...(found.value ?? [])].sort((a, b) => Math.abs(b.days ?? 0) - Math.abs(a.days ?? 0)),
)
</script>

<template>
  <section class="beside" data-test="beside-run">
    <h3>
      <span :style="{ color: colour }" aria-hidden="true">{{ mark }}</span> Beside it:
      {{ runWords(other, plans.plan!) }}
    </h3>
    <p v-if="sentence">{{ sentence }} {{ paired }}</p>
    <p v-else class="soft">Reading it …</p>
    <p v-if="problem || failure" class="brick" role="alert">{{ problem || failure }}</p>
    <p v-if="found === null">
      <ActButton kind="noun" data-test="what-differs" @click="compare">What differs in the inputs</ActButton>
    </p>
    <template v-else>
      <p class="soft" role="status">
        <template v-if="isRunning">Looking at each difference alone … </template>
        <template v-else-if="rows.length === 0">No input differs.</template>
        <template v-else
          >{{ rows.length }} in the later of the two; what each alone does to the {{ percent }} % date of the
          earlier.</template
        >
        <ActButton v-if="isRunning" kind="noun" @click="end">Stop</ActButton>
      </p>
      <FactTable v-if="rows.length > 0" name="What differs between two runs">
        <thead class="sr">
          <tr>
            <th>Input</th>
            <th class="right">Days on the {{ percent }} % date</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.what">
            <td>
              {{ row.what }}
              <div class="soft">{{ row.before }} → {{ row.after }}</div>
            </td>
            <td class="right">{{ row.days === null ? 'not alone' : signed(row.days) }}</td>
          </tr>
        </tbody>
      </FactTable>
    </template>
  </section>
</template>

<style scoped>
.beside {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.beside td {
  padding: 4px 4px;
  font-size: 12.5px;
}
</style>
