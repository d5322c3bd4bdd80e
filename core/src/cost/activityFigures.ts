import type { Activity } from '../plan/schema.ts'
import { ACCRUALS } from './accruals.ts'

/** What activities cost by themselves and how long they are planned, as numbers, by position. */
export interface ActivityFigures {
  readonly duration: Int32Array
  readonly fixed: Float64Array
  readonly perDay: Float64Array
  /** Position among the accruals. */
  readonly accrual: Uint8Array
  /** NaN where none is given. */
  readonly actualCost: Float64Array
  /** Another object as soon as what an activity costs by itself, or its calendar, is not what it was. */
  readonly priced: object
}

/** The one that was asked about last. */
let known: { of: readonly Activity[]; readonly figures: Mutable<ActivityFigures> } | null = null
type Mutable<T> = { -readonly [K in keyof T]: T[K] }

/**
 * Of the plan that was asked about last they are kept: an edit leaves all activities but one the same objects, and only what is another
 * object is read anew. O(n)
 * @returns arrays that the next call for another plan writes over
 */
export const activityFigures = (activities: readonly Activity[]): ActivityFigures => {
  const n = activities.length
  if (known?.of.length !== n)
    known = {
      of: [],
      figures: {
        duration: new Int32Array(n),
        fixed: new Float64Array(n),
        perDay: new Float64Array(n),
        accrual: new Uint8Array(n),
        actualCost: new Float64Array(n),
        priced: {},
      },
    }
  const { of, figures } = known
  for (let i = 0; i < n; i++) {
    const activity = activities[i]!
    if (activity === of[i]) continue
    const { cost, progress } = activity
    const accrual = ACCRUALS.indexOf(cost.accrue ?? 'even')
    if (
      figures.fixed[i] !== cost.fixed ||
      figures.perDay[i] !== cost.perDay ||
      figures.accrual[i] !== accrual ||
      of[i]?.calendar !== activity.calendar
    )
      figures.priced = {}
    figures.duration[i] = activity.duration
    figures.fixed[i] = cost.fixed
    figures.perDay[i] = cost.perDay
    figures.accrual[i] = accrual
    figures.actualCost[i] = progress.actualCost ?? NaN
  }
  known.of = activities
  return figures
}
