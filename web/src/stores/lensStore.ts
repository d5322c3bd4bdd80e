import { defineStore } from 'pinia'
import { computed } from 'vue'
import { positionsOf, type Activity, type Plan } from '@geodrome/core'
import type { ScheduleView } from '../workers/scheduleProtocol.ts'
import { later } from './painted.ts'
import { usePlanStore } from './planStore.ts'
import { useUiStore } from './uiStore.ts'

interface Shown {
  readonly focus: string | null
  readonly plan: Plan | null
  readonly view: ScheduleView | null
}
const NO_ACTIVITIES: readonly Activity[] = []

/**
 * What the Lens is about: the selected activity with the plan and schedule in view, a frame after the list and the Ground show them.
 * The Lens is as much to draw as both together; what an edit did is seen before it is explained. The three belong to each other.
 */
export const useLensStore = defineStore('lens', () => {
  const plans = usePlanStore()
  const ui = useUiStore()
  const shown = later((): Shown => ({ focus: ui.focus, plan: plans.viewPlan, view: plans.view }))
  const focus = computed(() => shown.value.focus)
  const plan = computed(() => shown.value.plan)
  const view = computed(() => shown.value.view)
  /** Positions of activities by id. */
  const byId = computed(() => positionsOf(plan.value?.activities ?? NO_ACTIVITIES))
  const activity = (id: string): Activity | undefined => plan.value?.activities[byId.value.get(id) ?? -1]
  return { focus, plan, view, byId, activity }
})
