import { computed, ref, type ComputedRef } from 'vue'
import { markColour, markOf, type LookTarget, type LookCondition, type ScaleValue } from '@geodrome/core'
import { useLook } from '../../composables/useLook.ts'
import { useForecastStore, type SimulationRun } from '../../stores/forecastStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { runWords } from './runWords.ts'

/** Runs that are laid over another at once: a place each, so that a colour stays while others come and go. */
export const PLACES = 3
/** The run that is looked at has the second mark's colour. */
export const markAt = (place: number): number => place + 2

export interface Overlaid {
  readonly run: SimulationRun
  readonly place: number
  readonly mark: string
  readonly colour: string
}

/**
 * Runs laid over the one that is looked at, and what they say of the same question.
 * @param run - the one that is looked at
 */
export const useOverlaidRuns = (
  run: ComputedRef<SimulationRun | null>,
  question: ComputedRef<{ readonly target: LookTarget; readonly given: LookCondition | null }>,
) => {
  const plans = usePlanStore()
  const forecast = useForecastStore()
  const ui = useUiStore()
  const laid = ref<(string | null)[]>(Array.from({ length: PLACES }, () => null))
  const lay = (id: string, isOver: boolean): void => {
    const at = laid.value.indexOf(isOver ? null : id)
    if (at >= 0) laid.value = laid.value.map((one, k) => (k === at ? (isOver ? id : null) : one))
  }
  const overlaid = computed(() =>
    laid.value.flatMap((id, place): Overlaid[] => {
      const over = forecast.finished.find((one) => one.id === id)
      return over && over.id !== run.value?.id
        ? [{ run: over, place, mark: markOf(markAt(place)), colour: markColour(ui.tokens, markAt(place)) }]
        : []
    }),
  )
  const looks = Array.from({ length: PLACES }, (_, place) =>
    useLook('target', () => {
      const one = overlaid.value.find((other) => other.place === place)
      return one
        ? {
            run: one.run,
            question: { ...question.value, asked: null },
            about: JSON.stringify(question.value),
          }
        : null
    }),
  )
  /** Those whose answer is there. */
  const besides = computed(() =>
    overlaid.value.flatMap(({ run: of, mark, place }) => {
      const found = looks[place]!.answer.value?.distribution
      return found
        ? [
            {
              name: runWords(of, plans.plan!),
              mark,
              place,
              percentiles: found.percentiles as Readonly<Record<string, ScaleValue>>,
            },
          ]
        : []
    }),
  )
  return { lay, overlaid, besides }
}
