import type { Change } from './change.ts'
import type { Activity, Constraint, Plan } from './schema.ts'

/** A limit whose date was taken from another plan. */
export interface OutsideDate {
  readonly activity: Activity
  /** Which of the activity's limits it is. */
  readonly at: number
  readonly constraint: Constraint
  readonly source: NonNullable<Constraint['source']>
}

/** All of them, in the order of the list. */
export const outsideDates = (plan: Plan): OutsideDate[] =>
  plan.activities.flatMap((activity) =>
    activity.constraints.flatMap((constraint, at) => {
      const { source } = constraint
      return source === undefined ? [] : [{ activity, at, constraint, source }]
    }),
  )

/**
 * The change that takes dates anew: each limit says what was found for it, and when that was looked at. What was not found stays as it is.
 * @param found - the date that its source has now; null where it has none
 * @param taken - when that was looked at
 */
export const outsideTaken = (
  plan: Plan,
  found: (date: OutsideDate) => string | null,
  taken: string,
): Change => {
  const by = new Map<string, Constraint[]>()
  for (const one of outsideDates(plan)) {
    const date = found(one)
    if (date === null) continue
    const { activity, at, source } = one
    const constraints = by.get(activity.id) ?? [...activity.constraints]
    constraints[at] = { ...one.constraint, date, source: { ...source, taken } }
    by.set(activity.id, constraints)
  }
  return {
    kind: 'all',
    changes: [...by].map(([key, constraints]) => ({
      kind: 'set',
      list: 'activities',
      key,
      set: { constraints },
    })),
  }
}
