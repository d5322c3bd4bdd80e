import { createSharedComposable } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import { useCalendarDraft } from '../stores/calendarDraft.ts'
import { useForecastStore } from '../stores/forecastStore.ts'
import { later } from '../stores/painted.ts'
import { usePlanStore } from '../stores/planStore.ts'
import { useReviewStore } from '../stores/reviewStore.ts'
import { STAGES, type StageFacts, type StageName, type StageState } from './stages.ts'

/** The state of every stage, computed from the plan, a frame after it is in view: no stage is ticked off by hand. */
export const useStageStates = createSharedComposable(
  (): ComputedRef<Readonly<Record<StageName, StageState>>> => {
    const plans = usePlanStore()
    const review = useReviewStore()
    const forecast = useForecastStore()
    const drafts = useCalendarDraft()
    const shown = later(() => plans.plan)
    const isScheduled = computed(() => plans.view !== null)
    const facts = computed((): StageFacts => {
      const plan = shown.value
      const activities = plan?.activities ?? []
      const changed = new Set(plan?.scenarioChanges.map(({ scenario }) => scenario))
      return {
        activities: activities.length,
        calendars: plan?.calendars.length ?? 0,
        draftedCalendars: drafts.drafted.length,
        resources: plan?.resources.length ?? 0,
        assignments: plan?.assignments.length ?? 0,
        baselines: plan?.baselines.length ?? 0,
        isUpdated:
          plan?.project.statusDate == null ||
          plan.periods.some(({ statusDate }) => statusDate === plan.project.statusDate),
        compared: [...changed].filter((id) => forecast.latestOf(id) !== null).length,
        unconfirmed: activities.filter(({ kind, confirmed }) => kind === 'work' && !confirmed).length,
        openEnds: review.view?.counts['open-end'] ?? null,
        findings: review.view === null ? null : review.open,
        hasRequiredFinish: plan?.project.requiredFinish != null,
        hasEnds: (plan?.project.opens.length ?? 0) > 0 && (plan?.project.closes.length ?? 0) > 0,
        isScheduled: isScheduled.value,
        isForecast: forecast.latest !== null && !forecast.isStale(forecast.latest),
      }
    })
    return computed(
      () =>
        Object.fromEntries(STAGES.map(({ name, state }) => [name, state(facts.value)])) as Record<
          StageName,
          StageState
        >,
    )
  },
)
