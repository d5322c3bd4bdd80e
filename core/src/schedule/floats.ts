import { Kind, NONE, State, UNLIMITED, type Network } from '../network/network.ts'
import { latestBeginCount, latestPoint, successorsAllow, type Bounds, type LateDates, type SuccessorLimits } from './backwardPass.ts'
import type { EarlyDates } from './forwardPass.ts'

/** Floats in working minutes of each activity's own calendar; NONE where there is none (finished work, hammocks). */
export interface Floats {
  readonly total: Int32Array
  readonly free: Int32Array
  readonly start: Int32Array
}

export const emptyFloats = (n: number): Floats => ({
  total: new Int32Array(n).fill(NONE),
  free: new Int32Array(n).fill(NONE),
  start: new Int32Array(n).fill(NONE),
})

const hasFloat = (network: Network, i: number): boolean =>
  network.state[i] !== State.Finished && network.kind[i] !== Kind.Hammock

/** Total and start float: working time from early to late, on finish and on start. Started work has no start float. */
export const totalFloats = (network: Network, early: EarlyDates, late: LateDates, floats: Floats): void => {
  for (let i = 0; i < network.order.length; i++) {
    if (!hasFloat(network, i)) continue
    // Work has as much float at its start as at its finish, for both are the same count of the same work.
    const float = late.beginCount[i]! - early.beginCount[i]!
    floats.total[i] = float
    floats.start[i] = network.state[i] === State.Started ? NONE : float
  }
}

/** The early dates as limits: what successors ask when nothing but their early dates may move. */
export const earlyLimits = (network: Network, early: EarlyDates, limits: SuccessorLimits): void => {
  for (let i = 0; i < network.order.length; i++) {
    const isFixed = network.state[i] === State.Finished
    limits.startLimit[i] = isFixed ? UNLIMITED : early.begin[i]!
    limits.finishLimit[i] = isFixed ? UNLIMITED : early.finish[i]!
  }
}

/**
 * Free float: how much later an activity can be with every successor on its early dates and the network's finish kept.
 * Its own constraints are left out; it is not capped by total float.
 * @param limits - from {@link earlyLimits}
 */
export const freeFloats = (
  network: Network,
  remaining: Int32Array,
  early: EarlyDates,
  limits: SuccessorLimits,
  networkFinish: number,
  floats: Floats,
): void => {
  const bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }
  for (let i = 0; i < network.order.length; i++) {
    if (!hasFloat(network, i)) continue
    bounds.start = UNLIMITED
    bounds.finish = networkFinish
    successorsAllow(network, limits, i, bounds)
    const latest =
      remaining[i] === 0
        ? network.calendar[i]!.countBefore(latestPoint(network, i, bounds))
        : latestBeginCount(network, remaining[i]!, i, bounds)
    floats.free[i] = latest - early.beginCount[i]!
  }
}
