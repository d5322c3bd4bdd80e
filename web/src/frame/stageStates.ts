import { createSharedComposable } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import { linkIndex } from '../composables/linkIndex.ts'
import type { StageName } from './stages.ts'
import { useForecastStore } from '../stores/forecastStore.ts'
import { later } from '../stores/painted.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useReviewStore } from '../stores/reviewStore.ts'

const NONE: readonly never[] = []

export interface StageState {
  readonly done: boolean
  /** Number of open questions. */
  readonly open: number
  /** When the stage counts as done, and what skipping it costs. */
  readonly rule: string
}

/** The state of every stage, computed from the plan, a frame after it is in view: no stage is ticked off by hand. */
export const useStageStates = createSharedComposable(
  (): ComputedRef<Readonly<Record<StageName, StageState>>> => {
    const plans = usePlanStore()
    const review = useReviewStore()
    const forecast = useForecastStore()
    const shown = later(() => plans.plan)
    const isUnscheduled = computed(() => plans.view === null)
    return computed(() => {
      const plan = shown.value
      const activities = plan?.activities ?? []
      const { into, out } = linkIndex(plan?.links ?? NONE)
      let unconfirmed = 0
      let unlinked = 0
      for (const { id, kind, confirmed } of activities) {
        if (kind === 'work' && !confirmed) unconfirmed++
        if (kind !== 'hammock' && !into.has(id) && !out.has(id)) unlinked++
      }
      const hasEnds = (plan?.project.opens.length ?? 0) > 0 && (plan?.project.closes.length ?? 0) > 0
      const findings = review.open
      return {
        setup: {
          done: plan?.project.requiredFinish != null && hasEnds,
          open: 0,
          rule: 'Done when there is a required finish and the starts and finishes of the network are declared. Without them float is measured against the plan itself.',
        },
        calendars: {
          done: !isUnscheduled.value && (plan?.calendars.length ?? 0) > 0,
          open: 0,
          rule: 'Done when every calendar in use has working time. A calendar chosen after the durations changes what they mean.',
        },
        network: {
          done: activities.length > 0 && unconfirmed + unlinked === 0,
          open: unconfirmed + unlinked,
          rule: 'Done when every activity is confirmed and linked. Unlinked work moves nothing, and nothing moves it.',
        },
        review: {
          done: review.view !== null && activities.length > 0 && findings === 0,
          open: findings,
          rule: 'Done when every finding is repaired or accepted with a reason. A forecast on a network with open ends is too good.',
        },
        forecast: {
          done: forecast.latest !== null && !forecast.isStale(forecast.latest),
          open: 0,
          rule: 'Done when the plan as it stands has been simulated. Without it there is a date, and no confidence.',
        },
        scenarios: {
          done: (plan?.scenarios.length ?? 0) > 0,
          open: 0,
          rule: 'Done when an alternative has been compared.',
        },
        handover: { done: false, open: 0, rule: 'Export the plan when the answer stands.' },
      }
    })
  },
)
