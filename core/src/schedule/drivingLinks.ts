import { nextWork, settle } from '../time/arithmetic.ts'
import { limitsFinish, State, type Network } from '../network/network.ts'
import { heldByStartLinks, isPinned, linkLimit, type EarlyDates } from './forwardPass.ts'

/** Whether link k drives: its limit, brought to its successor's start or finish, equals the early date there. */
export const linkDrives = (network: Network, remaining: Int32Array, early: EarlyDates, k: number): boolean => {
  const i = network.linkTo[k]!
  if (isPinned(network, i) && network.state[i] !== State.Finished) return false
  const calendar = network.calendar[i]!
  const limit = linkLimit(network, early, k)
  const isFinished = network.state[i] === State.Finished
  const begin = isFinished ? early.start[i]! : early.begin[i]!
  if (!limitsFinish(network.linkCode[k]!)) return heldByStartLinks(network, i) && nextWork(calendar, limit) === begin
  if (settle(calendar, limit) === early.finish[i]) return true
  if (remaining[i] === 0) return nextWork(calendar, limit) === early.finish[i]
  return !isFinished && calendar.minuteAt(calendar.countBefore(limit) - remaining[i]!) === begin
}

/**
 * The longest path: activities reached by walking back over driving links from those with the latest finish, ties included,
 * until constraints, project start or status date decide.
 * @returns 1 for each activity on it, by activity
 */
export const longestPath = (
  network: Network,
  drives: Uint8Array,
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
      if (drives[k] === 0 || on[from] === 1) continue
      on[from] = 1
      stack.push(from)
    }
  }
  return on
}
