<script setup lang="ts">
import { computed, shallowRef, toRaw, watch } from 'vue'
import { durationWords, frequencyWords, instantWords, type MoreOverload, type Plan } from '@geodrome/core'
import { useLongWork } from '../../composables/useLongWork.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import type { CrashStepView } from '../../workers/crashProtocol.ts'
import type { CrashSureAnswer, CrashSureQuestion } from '../../workers/crashSure.worker.ts'
import CrashSureWorker from '../../workers/crashSure.worker.ts?worker'

/** How sure an earlier finish is that is bought: its 80 % date beside the planned one, on the draws of the newest run. */
const props = defineProps<{
  plan: Plan
  normal: CrashStepView
  step: CrashStepView
  to: string | null
  due: number | null
  calendars: CalendarLookup
}>()
const forecast = useForecastStore()
/** Iterations by the size of the plan: enough for a date within a day, soon. */
const MOST_PLACED = 400_000
const iterations = computed(() =>
  Math.max(200, Math.min(2000, Math.floor(MOST_PLACED / Math.max(1, props.plan.activities.length)))),
)
const draws = computed(() => ({
  seed: forecast.latest?.input.seed ?? 2027,
  risks: forecast.latest?.input.risks ?? true,
}))
const found = shallowRef<{ readonly step: CrashStepView; readonly sure: CrashSureAnswer } | null>(null)
const { isRunning, failure, begin } = useLongWork<CrashSureQuestion, CrashSureAnswer>(
  () => new CrashSureWorker(),
)
watch(
  [() => props.step, () => props.plan, () => props.to, () => props.due, draws],
  () => {
    const { plan, step, to, due } = props
    begin(
      { plan: toRaw(plan), crashing: step.change, to, due, iterations: iterations.value, ...draws.value },
      (sure) => (found.value = { step, sure }),
    )
  },
  { immediate: true },
)
const sure = computed(() => (found.value?.step === props.step ? found.value.sure : null))
const date = (at: number): string => instantWords(at, 'finish', { time: false })
const earlier = (from: number, to: number): number =>
  props.calendars.project.countBefore(from) - props.calendars.project.countBefore(to)
const days = (minutes: number): string => durationWords(minutes, props.calendars.projectLengths)
const MOST_SHORT = 3
const hours = (minutes: number): string => `${Math.round(minutes / 6) / 10} h`
const shortWords = ({ resource, before, after }: MoreOverload): string =>
  `${resource.name || resource.code} for ${hours(after)}${before > 0 ? `, ${hours(before)} as planned` : ''}`
/** What the crashed days are worth once it is not certain how long work takes. */
const gain = computed(() => {
  if (!sure.value) return ''
  const planned = earlier(props.normal.finish, props.step.finish)
  const really = earlier(sure.value.normal.p80, sure.value.crashed.p80)
  if (planned <= 0) return ''
  if (really <= 0)
    return `The plan finishes ${days(planned)} earlier, and is no surer to: by then other work decides.`
  return really < planned
    ? `Of the ${days(planned)} that the plan gains, the 80 % date gains ${days(really)}: crashed, more paths decide the finish.`
    : `The 80 % date gains ${days(really)}, the plan ${days(planned)}.`
})
</script>

<template>
  <h3>How sure, by simulation</h3>
  <p v-if="failure" class="brick" role="alert">{{ failure }}</p>
  <p v-else-if="!sure" class="soft" role="status">
    {{ isRunning ? 'Simulating both …' : 'Not simulated.' }}
  </p>
  <template v-else>
    <p data-test="crash-simulated">
      80 of 100 iterations finish by <strong>{{ date(sure.crashed.p80) }}</strong>, planned is
      {{ date(step.finish) }}; not crashed by {{ date(sure.normal.p80) }}.
      <template v-if="sure.crashed.kept !== null && sure.normal.kept !== null"
        >{{ date(due!) }} is kept in {{ frequencyWords(sure.crashed.kept) }}, not crashed in
        {{ frequencyWords(sure.normal.kept) }}.</template
      >
    </p>
    <p v-if="gain" class="soft">{{ gain }}</p>
    <p v-if="sure.short.length > 0" class="signal" data-test="crash-short">
      Work that comes closer together asks for more than there is:
      {{ sure.short.slice(0, MOST_SHORT).map(shortWords).join('; ')
      }}{{ sure.short.length > MOST_SHORT ? `; and ${sure.short.length - MOST_SHORT} more` : '' }}. As a
      scenario, Resources has ways out.
    </p>
    <p v-else class="soft">Nobody is asked for more than there is who was not before.</p>
    <p class="soft">
      {{ iterations.toLocaleString('en') }} iterations each on the same draws, seed {{ draws.seed
      }}{{ draws.risks ? '' : ', without the risks' }}.
    </p>
  </template>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
