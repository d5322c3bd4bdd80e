<script setup lang="ts">
import { NProgress, NSwitch } from 'naive-ui'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { counted, mayDo, estimatesOf, fitnessOfSimulation, type Distortion } from '@geodrome/core'
import ActButton from '../../controls/ActButton.vue'
import ChoiceField from '../../controls/ChoiceField.vue'
import NumberField from '../../controls/NumberField.vue'
import { optionsOf } from '../../controls/options.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useReviewStore } from '../../stores/reviewStore.ts'

/** How a run is made, what it draws from, and whether Review thinks that it will tell the truth. */
const plans = usePlanStore()
const forecast = useForecastStore()
const review = useReviewStore()
const route = useRoute()

const HOW_MANY = optionsOf<'so many' | 'until settled'>([
  ['so many', 'so many'],
  ['until settled', 'until the 80 % date is sure'],
])
const howMany = ref<'so many' | 'until settled'>('so many')
const iterations = ref(5000)
/** Days of the project calendar, each way. */
const within = ref(0.2)
const seed = ref(2027)
const risks = ref(true)
const result = computed(() => forecast.latestResult)
const stale = computed(() => forecast.latest !== null && forecast.isStale(forecast.latest))
const growing = computed(() =>
  forecast.running?.input.scenario === plans.scenarioId ? forecast.running : null,
)
const mayRun = computed(() => mayDo(plans.role, 'plan'))
const canRun = computed(() => mayRun.value && plans.pending.length === 0 && plans.connection === 'online')
const run = (): void =>
  void forecast.start({
    ...(howMany.value === 'so many'
      ? { iterations: iterations.value }
      : { until: { days: within.value, percent: 80 } }),
    seed: seed.value,
    risks: risks.value,
    scenario: plans.scenarioId,
  })
defineExpose({ run })

const fit = computed(() => review.view && fitnessOfSimulation(review.view.fitness))
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
/** Work to be done, by where its estimate comes from. */
const estimated = computed(() => {
  const held = estimatesOf(plans.viewPlan!)
  const count = { own: 0, spread: 0, none: 0 }
  for (const activity of plans.viewPlan!.activities)
    if (activity.kind === 'work' && activity.progress.actualFinish === null) count[held(activity).from]++
  return count
})
const register = computed(() => {
  const threats = plans.viewPlan!.risks.filter(({ sign }) => sign === 'threat').length
  const chances = plans.viewPlan!.risks.length - threats
  return [
    counted(threats, 'threat'),
    ...(chances > 0 ? [chances === 1 ? '1 opportunity' : `${chances} opportunities`] : []),
  ].join(', ')
})
const more = computed(() =>
  [
    ...(plans.viewPlan!.factors.length > 0 ? [counted(plans.viewPlan!.factors.length, 'factor')] : []),
    ...(plans.viewPlan!.weather.length > 0
      ? [`weather on ${counted(plans.viewPlan!.weather.length, 'calendar')}`]
      : []),
  ].join(', '),
)
</script>

<template>
  <div class="buttons">
    <ActButton kind="primary" :disabled="growing !== null || !canRun" data-test="run" @click="run">{{
      result ? 'Run again' : 'Run'
    }}</ActButton>
    <ActButton :disabled="growing === null" data-test="stop" @click="forecast.cancel()">Stop</ActButton>
  </div>
  <template v-if="growing">
    <NProgress
      v-if="!growing.input.until"
      type="line"
      :percentage="Math.round((growing.done / growing.total) * 100)"
      :show-indicator="false"
      :height="5"
      aria-label="Progress of the run"
    />
    <p class="soft" role="status">
      <template v-if="growing.input.until"
        >{{ growing.done.toLocaleString('en') }} so far, until the {{ growing.input.until.percent }} % date is
        sure to ± {{ growing.input.until.days }} d</template
      ><template v-else
        >{{ growing.done.toLocaleString('en') }} of {{ growing.total.toLocaleString('en') }}</template
      >
    </p>
  </template>
  <p v-else-if="forecast.lastMs !== null" class="soft">
    {{ result?.iterations.toLocaleString('en') }} iterations in {{ (forecast.lastMs / 1000).toFixed(1) }} s
  </p>
  <p v-if="!mayRun" class="soft">Runs are asked for by the analysts of a plan.</p>
  <p v-else-if="!canRun" class="signal">
    Runs start from what is stored; some changes are still on their way.
  </p>
  <p v-if="forecast.failure" class="brick" role="alert">{{ forecast.failure }}</p>
  <p v-if="stale" class="signal">The plan has changed since its latest run.</p>
  <div class="field">
    <span>How many iterations</span
    ><ChoiceField v-model="howMany" label="How many iterations" :options="HOW_MANY" />
  </div>
  <div v-if="howMany === 'until settled'" class="field">
    <span aria-hidden="true">Sure to within, days each way</span>
    <NumberField v-model="within" label="Sure to within, days each way" :min="0.05" :max="100" :step="0.1" />
    <small class="soft">Batches of 1,000, at least five, at most a hundred.</small>
  </div>
  <div v-else class="field">
    <span aria-hidden="true">Iterations</span>
    <NumberField v-model="iterations" label="Iterations" :min="100" :max="100000" :step="1000" />
  </div>
  <div class="field">
    <span aria-hidden="true">Seed of the random numbers</span>
    <NumberField v-model="seed" label="Seed of the random numbers" :min="0" :max="4294967295" />
  </div>
  <div class="field row">
    <span id="f-risks">Include risks</span><NSwitch v-model:value="risks" aria-labelledby="f-risks" />
  </div>
  <section>
    <h3>What may vary</h3>
    <p>
      <strong>{{ estimated.own }}</strong> with three points, <strong>{{ estimated.spread }}</strong> by a
      spread<template v-if="more">; {{ more }}</template
      >.
      <span class="soft">{{ estimated.none }} fixed.</span>
    </p>
    <h3>What may happen</h3>
    <p>{{ register }}</p>
  </section>
  <section>
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
</template>

<style scoped>
.buttons {
  display: flex;
  gap: 8px;
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
}
section {
  display: flex;
  flex-direction: column;
  gap: 3px;
}
ul {
  margin: 0;
  padding-left: 16px;
}
</style>
