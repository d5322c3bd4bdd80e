import { calendarOf } from '../plan/lagCalendar.ts'
import type { Activity, Link, Plan } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Calendar } from '../time/calendar.ts'

/** The dates that are drawn; arrays by the activity's position in the plan, NONE where there is no such value. */
export interface DrawnDates {
  readonly start: Int32Array
  readonly finish: Int32Array
  /** In a plan scheduled backward, where work stands late, its float lies before it. */
  readonly earlyStart: Int32Array
  readonly lateFinish: Int32Array
  readonly totalFloat: Int32Array
  readonly freeFloat: Int32Array
  /** 1 on the longest path. */
  readonly onLongestPath: Uint8Array
  /** 0 not started, 1 started, 2 finished. */
  readonly state: Uint8Array
  readonly projectStart: number
  readonly projectFinish: number
}

/** A plan with its dates, as drawings over time take it. */
export interface DrawnPlan {
  readonly plan: Plan
  readonly view: DrawnDates
  readonly calendars: { readonly project: Calendar; of(activity: Pick<Activity, 'calendar'>): Calendar }
  /** Whether a link drives its successor. */
  drives(link: Pick<Link, 'id'>): boolean
}

export const drawnPlan = (made: Schedule): DrawnPlan => {
  const { network } = made
  const { plan } = network
  const at = new Map(network.links.map(({ id }, k) => [id, k]))
  return {
    plan,
    view: {
      start: made.start,
      finish: made.finish,
      earlyStart: made.early.start,
      lateFinish: made.lateFinishShown,
      totalFloat: made.float.total,
      freeFloat: made.float.free,
      onLongestPath: made.onLongestPath,
      state: network.state,
      projectStart: made.projectStart,
      projectFinish: made.projectFinish,
    },
    calendars: {
      project: network.calendars.get(plan.project.calendar),
      of: (activity) => network.calendars.get(calendarOf(plan.project, activity)),
    },
    drives: ({ id }) => made.drives[at.get(id) ?? -1] === 1,
  }
}
