import { nextWork, settle } from '../time/arithmetic.ts'
import { countsFromStart, Kind, limitsFinish, State, type Network } from '../network/network.ts'
import {
  ABSENT,
  heldByStartLinks,
  isPinned,
  linkLimit,
  type DrivingDates,
  type EarlyDates,
} from './forwardPass.ts'

/** Whether link k drives: its limit, brought to its successor's start or finish, equals the early date there. */
export const linkDrives = (
  network: Network,
  remaining: Int32Array,
  early: DrivingDates,
  k: number,
): boolean => {
  const i = network.linkTo[k]!
  if (isPinned(network, i) && network.state[i] !== State.Finished) return false
  const calendar = network.calendar[i]!
  const onFinish = limitsFinish(network.linkCode[k]!)
  if (remaining[network.linkFrom[k]!] === ABSENT) return false
  if (network.state[i] === State.Finished) {
    const limit = linkLimit(network, early, k)
    return onFinish
      ? settle(calendar, limit) === early.finish[i]
      : nextWork(calendar, limit) === early.start[i]
  }
  if (network.kind[i] === Kind.AtFinish)
    return settle(calendar, linkLimit(network, early, k)) === early.finish[i]
  if (!onFinish && !heldByStartLinks(network, i)) return false
  const needed = early.beginCount[i]! + (onFinish ? remaining[i]! : 0)
  const from = network.linkFrom[k]!
  // On one calendar without a lag the predecessor's count is known.
  if (
    network.linkLag[k] === 0 &&
    network.calendar[from] === calendar &&
    network.state[from] === State.NotStarted
  )
    return early.beginCount[from]! + (countsFromStart(network.linkCode[k]!) ? 0 : remaining[from]!) === needed
  // A limit reaches the start, or the finish, exactly when it has the same working count.
  return calendar.countBefore(linkLimit(network, early, k)) === needed
}

/**
 * The longest path: activities reached by walking back over driving links from those with the latest finish, ties included,
 * until constraints, project start or status date decide.
 * @returns 1 for each activity on it, by activity
 */
export const longestPath = (
  network: Network,
  drives: (k: number) => boolean,
  early: EarlyDates,
  networkFinish: number,
): Uint8Array => {
  const on = new Uint8Array(network.order.length)
  const stack: number[] = []
  for (let i = 0; i < on.length; i++)
    if (early.finish[i] === networkFinish) {
      on[i] = 1
      stack.push(i)
    }
  while (stack.length > 0) {
    const i = stack.pop()!
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
      const from = network.linkFrom[k]!
      if (on[from] === 1 || !drives(k)) continue
      on[from] = 1
      stack.push(from)
    }
  }
  return on
}
