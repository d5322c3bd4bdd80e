<script setup lang="ts">
import ActButton from '../../controls/ActButton.vue'
import FactTable from '../../controls/FactTable.vue'
import { NButton, NInputNumber, NProgress, NSwitch } from 'naive-ui'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { formatInstant, instantOf, instantWords, roundMoneyWords, type Distortion } from '@geodrome/core'
import FootLine from '../../frame/FootLine.vue'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import DotsOverLadder from './DotsOverLadder.vue'
import type { FigureInput } from './figure.ts'

const plans = usePlanStore()
const forecast = useForecastStore()
const review = useReviewStore()
const ui = useUiStore()
const router = useRouter()
const route = useRoute()

const iterations = ref(5000)
const seed = ref(2027)
const risks = ref(true)
const pinned = ref<readonly number[]>([50, 80])

const result = computed(() => forecast.latestResult)
const stale = computed(() => forecast.latest !== null && forecast.isStale(forecast.latest))
const growing = computed(() =>
  forecast.running?.input.scenario === plans.scenarioId ? forecast.running : null,
)
const planned = computed(() => formatInstant(plans.view!.projectFinish))
const required = computed(() => {
  const date = plans.plan!.project.requiredFinish
  return date === null ? null : formatInstant(instantOf(date, 'finish'))
})
const input = computed((): FigureInput | null => {
  const source = growing.value?.partial ?? (growing.value ? null : result.value)
  if (!source) return null
  return {
    main: { name: 'this run', dots: source.dots, percentiles: source.percentiles },
    beside: null,
    planned: growing.value || !result.value ? planned.value : result.value.planned,
    required: required.value,
    pinned: pinned.value,
  }
})
const day = (date: string): string => instantWords(instantOf(date, 'start'), 'finish', { time: false })
const perHundred = (share: number): string => `${Math.round(share * 100)} of 100`
const title = computed(() => {
  if (growing.value)
    return `${growing.value.done.toLocaleString('en')} of ${growing.value.total.toLocaleString('en')} iterations`
  if (!result.value && forecast.latest) return 'Reading the latest run …'
  if (!result.value) return 'How sure is the planned finish?'
  return `4 in 5 iterations finish by ${day(result.value.percentiles['80']!)}.`
})
const subtitle = computed(() => {
  if (growing.value) return 'The picture grows as the iterations come in.'
  if (!result.value && forecast.latest) return ''
  if (!result.value)
    return 'Run the simulation: every iteration schedules the whole network with drawn durations, on its calendars, with its limits and progress.'
  const { plannedProbability, requiredProbability, required: due } = result.value
  const kept = `The planned ${day(result.value.planned)} is kept in ${perHundred(plannedProbability)}.`
  return due === null || requiredProbability === null
    ? kept
    : `${kept} The required ${day(due)} is kept in ${perHundred(requiredProbability)}.`
})
const run = (): void =>
  void forecast.start({
    iterations: iterations.value,
    seed: seed.value,
    risks: risks.value,
    scenario: plans.scenarioId,
  })
const pin = (percent: number): void => {
  pinned.value = pinned.value.includes(percent)
    ? pinned.value.filter((p) => p !== percent)
    : [...pinned.value, percent]
}
const drivers = computed(() =>
  Object.entries(result.value?.activities ?? {})
    .map(([id, f]) => ({ id, ...f, activity: plans.activity(id) }))
    .filter((d) => d.activity && d.activity.kind === 'work' && d.sensitivity > 0.02)
    .sort((a, b) => b.sensitivity - a.sensitivity)
    .slice(0, 8),
)
const fit = computed(() => review.view?.fitness ?? null)
/** What distorts the result, by the way in which it does. */
const bends = computed(() => {
  const by = new Map<string, Distortion[]>()
  for (const d of fit.value?.distortions ?? [])
    by.set(d.bias.direction, [...(by.get(d.bias.direction) ?? []), d])
  return [...by]
})
const VERDICT = {
  fit: 'Nothing found in Review would distort it.',
  'with care': 'With care: some of what Review found bends the result.',
  'not fit': 'Not yet: what Review found moves the answer.',
} as const
const uncertain = computed(() => plans.plan!.activities.filter((a) => a.estimate !== null).length)
const span = computed(() => {
  const r = result.value
  if (!r) return ''
  const days = Math.round((instantOf(r.worst, 'start') - instantOf(r.best, 'start')) / 1440)
  return `Earliest ${day(r.best)}, latest ${day(r.worst)}, a span of ${days} d. The mean is ${day(r.mean)}, the deviation ${r.sd.toFixed(1)} calendar days.`
})
const setAside = computed(() => {
  const r = result.value
  if (!r) return null
  return Math.round((instantOf(r.percentiles['80']!, 'start') - instantOf(r.planned, 'start')) / 1440)
})
const moneyOf = (amount: number): string => roundMoneyWords(amount, plans.plan!.project.currency)
/** Money to set aside so that 80 in 100 stay within it; null where nothing costs anything. */
const money = computed(() => {
  const cost = result.value?.cost
  if (!cost) return null
  const p80 = cost.percentiles['80']!
  return { planned: moneyOf(cost.planned), p80: moneyOf(p80), more: moneyOf(p80 - cost.planned) }
})
const show = async (id: string): Promise<void> => {
  await router.push({ name: 'network', params: route.params })
  ui.select(id, { show: true })
}
const canRun = computed(() => plans.pending.length === 0 && plans.connection === 'online')
</script>

<template>
  <div class="forecast">
    <section class="inputs scroll">
      <div class="buttons">
        <NButton type="primary" :disabled="growing !== null || !canRun" data-test="run" @click="run">{{
          result ? 'Run again' : 'Run'
        }}</NButton>
        <NButton :disabled="growing === null" data-test="stop" @click="forecast.cancel()">Stop</NButton>
      </div>
      <template v-if="growing">
        <NProgress
          type="line"
          :percentage="Math.round((growing.done / growing.total) * 100)"
          :show-indicator="false"
          :height="5"
          aria-label="Progress of the run"
        />
        <p class="soft" role="status">
          {{ growing.done.toLocaleString('en') }} of {{ growing.total.toLocaleString('en') }}
        </p>
      </template>
      <p v-else-if="forecast.lastMs !== null" class="soft">
        {{ result?.iterations.toLocaleString('en') }} iterations in
        {{ (forecast.lastMs / 1000).toFixed(1) }} s
      </p>
      <p v-if="!canRun" class="signal">
        Runs start from what is stored; some changes are still on their way.
      </p>
      <p v-if="forecast.failure" class="brick" role="alert">{{ forecast.failure }}</p>
      <p v-if="stale" class="signal">The plan has changed since this run.</p>
      <div class="field">
        <span id="f-iterations">Iterations</span
        ><NInputNumber
          v-model:value="iterations"
          :min="100"
          :max="100000"
          :step="1000"
          size="small"
          :show-button="false"
          :input-props="{ 'aria-labelledby': 'f-iterations' }"
        />
      </div>
      <div class="field">
        <span id="f-seed">Seed, same seed same answer</span
        ><NInputNumber
          v-model:value="seed"
          :min="0"
          :max="4294967295"
          size="small"
          :show-button="false"
          :input-props="{ 'aria-labelledby': 'f-seed' }"
        />
      </div>
      <div class="field row">
        <span id="f-risks">Draw the risk register</span
        ><NSwitch v-model:value="risks" aria-labelledby="f-risks" />
      </div>
      <h3>What may vary</h3>
      <p>
        <strong>{{ uncertain }}</strong> activities with three points
      </p>
      <h3>What may happen</h3>
      <p>
        <strong>{{ plans.plan!.risks.filter((r) => r.sign === 'threat').length }}</strong> risks,
        <strong>{{ plans.plan!.risks.filter((r) => r.sign === 'opportunity').length }}</strong> opportunities
      </p>
      <h3>Fit to forecast?</h3>
      <p v-if="!fit" class="soft">Reviewing the network …</p>
      <template v-else>
        <p data-test="fit">{{ VERDICT[fit.verdict] }}</p>
        <ul v-if="fit.distortions.length > 0">
          <li v-for="[direction, kinds] in bends" :key="direction">
            {{ direction === 'either way' ? 'It may err' : 'It comes out' }}
            <strong>{{ direction }}</strong> for
            {{
              kinds
                .slice(0, 3)
                .map((d) => `${d.title.toLowerCase()} (${d.count.toLocaleString('en')})`)
                .join(', ')
            }}{{ kinds.length > 3 ? ` and ${kinds.length - 3} more` : '' }}.
          </li>
        </ul>
        <p v-if="fit.accepted.length > 0" class="soft">
          Accepted, and still there:
          {{ fit.accepted.map((d) => `${d.title.toLowerCase()} (${d.bias.direction})`).join('; ') }}.
        </p>
        <p v-if="fit.distortions.length > 0">
          <RouterLink class="noun" :to="{ name: 'review', params: { id: route.params.id, part: 'record' } }"
            >Why, and what to do about it</RouterLink
          >
        </p>
      </template>
    </section>
    <section class="answer scroll">
      <h1 data-test="forecast-title">{{ title }}</h1>
      <p class="soft">{{ subtitle }}</p>
      <div class="figure-box">
        <DotsOverLadder
          v-if="input"
          :input="input"
          :label="`${title} ${subtitle} Fifty dots, each two in a hundred iterations, over the ladder of confidence.`"
          @pin="pin"
        />
        <p v-else-if="!growing" class="soft invite">
          Fifty dots will stand here, each for two in a hundred iterations, over the dates on which they
          finish.
          <ActButton kind="noun" :disabled="!canRun" @click="run">
            Run {{ iterations.toLocaleString('en') }} iterations
          </ActButton>
        </p>
      </div>
      <template v-if="drivers.length > 0 && !growing">
        <h3 class="follow">What the finish follows most: rank correlation of the duration with it</h3>
        <FactTable class="drivers">
          <tbody>
            <tr v-for="d in drivers" :key="d.id">
              <td class="code soft">{{ d.activity!.code }}</td>
              <td>
                <ActButton kind="noun" @click="show(d.id)">{{ d.activity!.name }}</ActButton>
              </td>
              <td class="bar">
                <span :style="{ width: `${d.sensitivity * 100}%` }" />{{ d.sensitivity.toFixed(2) }}
              </td>
              <td class="soft right">on the longest path in {{ Math.round(d.criticality * 100) }} of 100</td>
            </tr>
          </tbody>
        </FactTable>
      </template>
    </section>
    <aside class="side scroll">
      <template v-if="result">
        <h2>The finish</h2>
        <p>{{ span }}</p>
        <section>
          <h3>Confidence</h3>
          <p v-for="p in [50, 80, 90]" :key="p" class="fact" :data-test="`p${p}`">
            <span>{{ p }} in 100 by</span><strong>{{ day(result.percentiles[String(p)]!) }}</strong>
          </p>
          <p class="soft">Click a rung of the ladder to pin it.</p>
        </section>
        <section v-if="setAside !== null">
          <h3>Set aside for 80 %</h3>
          <p class="fact">
            <span>Time</span><strong>{{ setAside }} calendar days</strong>
          </p>
          <p v-if="money" class="fact" data-test="set-aside-money">
            <span>Money</span><strong>{{ money.more }}</strong>
          </p>
          <p v-if="money" class="soft">
            The plan as it is costs {{ money.planned }}, damages and mitigation included; 80 in 100 stay
            within {{ money.p80 }}.
          </p>
          <p v-if="result.joint[0]" class="soft" data-test="joint">
            Both kept in 80 of 100: {{ day(result.joint.at(-1)!.finish) }} with
            {{ moneyOf(result.joint.at(-1)!.cost) }}.
          </p>
        </section>
        <section>
          <h3>How it was made</h3>
          <p class="soft">
            {{ result.iterations.toLocaleString('en') }} iterations, seed {{ result.seed }},
            {{ result.risks ? 'spread and risks' : 'spread only' }}, Latin hypercube, on revision
            {{ forecast.latest!.revision }}.
          </p>
        </section>
      </template>
      <p v-else class="soft">The percentiles will stand here.</p>
    </aside>
  </div>
  <FootLine
    ><span>Dots: 50, each stands for 2 in 100 iterations</span
    ><span
      >{{ forecast.finished.length }} kept run{{ forecast.finished.length === 1 ? '' : 's' }}</span
    ></FootLine
  >
</template>

<style scoped>
.forecast {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 216px minmax(0, 1fr) 290px;
}
.inputs {
  background: var(--raised);
  border-right: 1px solid var(--hairline);
  padding: 14px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.inputs h3 {
  margin-top: 10px;
}
.inputs ul {
  margin: 0;
  padding-left: 16px;
}
.buttons {
  display: flex;
  gap: 8px;
  margin-bottom: 6px;
}
.field {
  display: flex;
  flex-direction: column;
  gap: 2px;
  font-size: 12.5px;
}
.field.row {
  flex-direction: row;
  justify-content: space-between;
  align-items: center;
  margin-top: 4px;
}
.answer {
  padding: 16px 18px 24px;
  display: flex;
  flex-direction: column;
}
.figure-box {
  flex: 1 0 360px;
  min-height: 360px;
  margin-top: 8px;
  position: relative;
}
.follow {
  margin-top: 14px;
}
.invite {
  padding: 60px 20px;
  max-width: 420px;
}
.side {
  background: var(--raised);
  border-left: 1px solid var(--hairline);
  padding: 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.side section {
  border-top: 1px solid var(--hairline);
  padding-top: 10px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.fact {
  display: flex;
  justify-content: space-between;
}
.drivers {
  width: 100%;
  border-collapse: collapse;
  margin-top: 6px;
}
.drivers td {
  padding: 4px 8px;
  border-bottom: 1px solid var(--hairline);
  white-space: nowrap;
}
.bar {
  width: 34%;
}
.bar span {
  display: inline-block;
  height: 10px;
  background: var(--fjord);
  border-radius: 2px;
  margin-right: 8px;
  max-width: 70%;
}
@media (max-width: 1150px) {
  .drivers td:last-child {
    white-space: normal;
    min-width: 116px;
    font-size: 12px;
  }
  .drivers td {
    padding-inline: 4px;
  }
  .bar {
    width: 20%;
  }
}
</style>
