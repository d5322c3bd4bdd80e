import { useElementSize } from '@vueuse/core'
import { computed, watch, type Ref } from 'vue'
import { instantOf, nonWorkingBands, pinsOf } from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import { useTimeScale } from '../../composables/useTimeScale.ts'
import { cellContext } from '../rows/columns.ts'
import { useForecastStore } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'

/**
 * What a drawing over time has: a scale that is fitted once it is known how wide it is, the ruler's context and pins, the days without
 * work, the status date.
 * @param box - what it is drawn in @param beside - pixels left of it @param range - first and last instant
 */
export const useTimeDrawing = (
  box: Readonly<Ref<HTMLElement | null>>,
  beside: number,
  range: () => readonly [number, number],
  calendars: () => CalendarLookup,
) => {
  const plans = usePlanStore()
  const forecast = useForecastStore()
  const { width } = useElementSize(box)
  const scale = useTimeScale(range)
  watch(width, (now) => (scale.width.value = Math.max(100, now - beside)))
  const context = computed(() => cellContext(plans.viewPlan!, plans.view!, calendars(), false))
  const pins = computed(() =>
    pinsOf(plans.viewPlan!, plans.view!.projectFinish, forecast.latestResult?.percentiles['80'] ?? null),
  )
  const bands = computed(() =>
    nonWorkingBands(
      calendars().project,
      scale.at(0),
      scale.at(scale.width.value),
      scale.x,
      scale.perDay.value,
    ),
  )
  const statusAt = computed(() => {
    const { statusDate } = plans.viewPlan!.project
    return statusDate === null ? null : instantOf(statusDate, 'start')
  })
  return { scale, fit: scale.fitAll, context, pins, bands, statusAt }
}
