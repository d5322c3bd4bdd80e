import type { Constraint } from '../plan/schema.ts'
import { explain } from './explain.ts'
import type { Schedule } from './schedule.ts'

/** The date that an activity's float is measured against in the end. */
export type FloatCause =
  | { readonly kind: 'required-finish'; readonly activity: string; readonly through: readonly string[] }
  | { readonly kind: 'constraint'; readonly activity: string; readonly constraint: Constraint; readonly through: readonly string[] }

/**
 * Follows the deciding limit of the late finish from activity to activity until a date decides: a constraint or the required
 * finish. `through` are the activities passed, first the one asked about, last the one that carries the date.
 */
export const floatCause = (schedule: Schedule, i: number): FloatCause => {
  const { network } = schedule
  const through: string[] = []
  let at = network.activities[i]!.id
  for (;;) {
    through.push(at)
    const winner = explain(schedule, at, { withSharers: false }).float.candidates[0]
    if (winner?.kind === 'constraint') return { kind: 'constraint', activity: at, constraint: winner.constraint!, through }
    if (winner?.kind !== 'link') return { kind: 'required-finish', activity: at, through }
    at = winner.from!
  }
}
