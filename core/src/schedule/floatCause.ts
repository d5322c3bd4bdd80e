import type { Constraint } from '../plan/schema.ts'
import { exactInstant, limitInstant } from '../network/compileLimits.ts'
import { countsFromStart, Kind, NONE, State, UNLIMITED, type Network } from '../network/network.ts'
import { linkAllows } from './backwardPass.ts'
import type { Schedule } from './schedule.ts'

/** The date that an activity's float is measured against in the end, and the activity that carries it. */
export type FloatCause =
  | { readonly kind: 'required-finish'; readonly activity: string }
  | { readonly kind: 'constraint'; readonly activity: string; readonly constraint: Constraint }

/**
 * For every activity with float, the date behind its late finish: its own constraint or the required finish where one decides,
 * else that of the successor that binds it, and so on. One pass from the end of the network, O(n + m).
 * @returns by position in the plan; null where there is no float
 */
export const floatCauses = (schedule: Schedule): (FloatCause | null)[] => {
  const { network } = schedule
  const causes = new Array<FloatCause | null>(network.order.length).fill(null)
  for (let at = network.order.length - 1; at >= 0; at--) {
    const i = network.order[at]!
    if (network.kind[i] === Kind.Hammock || network.state[i] === State.Finished) continue
    if (schedule.late.beginCount[i] === NONE) continue
    const own = decidingConstraint(schedule, i)
    if (own) {
      causes[i] = { kind: 'constraint', activity: network.activities[i]!.id, constraint: own }
      continue
    }
    const successor = bindingSuccessor(schedule, i)
    causes[i] = (successor === null ? null : causes[successor]) ?? {
      kind: 'required-finish',
      activity: network.activities[i]!.id,
    }
  }
  return causes
}

/** Working count of the latest begin under a limit on an edge. */
const countUnder = (network: Network, i: number, limit: number, onStart: boolean): number => {
  const calendar = network.calendar[i]!
  const remaining = network.remaining[i]!
  if (onStart || (remaining === 0 && network.kind[i] !== Kind.AtFinish))
    return calendar.countBefore(limit + 1) - 1
  return calendar.countBefore(limit) - remaining
}

const decidingConstraint = ({ network, late }: Schedule, i: number): Constraint | null => {
  const calendar = network.calendar[i]!
  for (const constraint of network.activities[i]!.constraints) {
    if (
      constraint.rule === 'not-before' ||
      (constraint.edge === 'start' && network.state[i] === State.Started)
    )
      continue
    if (constraint.rule === 'exactly' && constraint.overrides) return constraint
    const at =
      constraint.rule === 'exactly' ? exactInstant(constraint, calendar) : limitInstant(constraint, calendar)
    if (countUnder(network, i, at, constraint.edge === 'start') <= late.beginCount[i]!) return constraint
  }
  return null
}

/** The successor that decides how late activity i may be; null where the target does. */
export const bindingSuccessor = ({ network, late, target }: Schedule, i: number): number | null => {
  if (late.beginCount[i] === NONE) return null
  if (countUnder(network, i, target, false) <= late.beginCount[i]!) return null
  for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) {
    const k = network.outLink[o]!
    const ofStart = countsFromStart(network.linkCode[k]!)
    if (ofStart && network.state[i] === State.Started) continue
    const allowed = linkAllows(network, late, k)
    if (allowed !== UNLIMITED && countUnder(network, i, allowed, ofStart) <= late.beginCount[i]!)
      return network.linkTo[k]!
  }
  return null
}
