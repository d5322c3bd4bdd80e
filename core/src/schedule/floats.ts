import { Kind, NONE, State, UNLIMITED, type Network } from '../network/network.ts'
import { handBack, latestBeginCount, latestPoint, successorsAllow, type Bounds, type LateDates, type SuccessorLimits } from './backwardPass.ts'
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

/** The early dates as limits: what successors ask when nothing but their early dates may move. Finished work asks nothing. */
export const earlyLimitsOf = (network: Network, early: EarlyDates): SuccessorLimits => {
  if (!network.state.includes(State.Finished)) return { startLimit: early.begin, finishLimit: early.finish }
  const startLimit = early.begin.slice()
  const finishLimit = early.finish.slice()
  for (let i = 0; i < startLimit.length; i++)
    if (network.state[i] === State.Finished) startLimit[i] = finishLimit[i] = UNLIMITED
  return { startLimit, finishLimit }
}

/**
 * Free float of one activity: how much later it can be with every successor on its early dates and the network's finish kept.
 * Its own constraints are left out; it is not capped by total float.
 * @param limits - from {@link earlyLimitsOf}
 * @param bounds - scratch
 */
export const freeFloatOf = (
  network: Network,
  remaining: number,
  early: EarlyDates,
  limits: SuccessorLimits,
  networkFinish: number,
  i: number,
  bounds: Bounds,
): number => {
  bounds.start = UNLIMITED
  bounds.finish = networkFinish
  successorsAllow(network, limits, i, bounds)
  return freeUnder(network, remaining, early, i, bounds)
}

/** From the early dates to the latest that bounds allow. */
const freeUnder = (network: Network, remaining: number, early: EarlyDates, i: number, bounds: Bounds): number => {
  const latest =
    remaining === 0
      ? network.calendar[i]!.countBefore(latestPoint(network, i, bounds))
      : latestBeginCount(network, remaining, i, bounds)
  return latest - early.beginCount[i]!
}

/** {@link freeFloatOf} for every activity that has float, by one walk over the links. */
export const freeFloats = (network: Network, remaining: Int32Array, early: EarlyDates, networkFinish: number, floats: Floats): void => {
  const limits = earlyLimitsOf(network, early)
  const startBound = new Int32Array(network.order.length).fill(UNLIMITED)
  const finishBound = floats.free.fill(networkFinish)
  handBack(network, limits, 0, network.links.length, startBound, finishBound)
  const bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }
  for (let i = 0; i < network.order.length; i++) {
    bounds.start = startBound[i]!
    bounds.finish = finishBound[i]!
    floats.free[i] = hasFloat(network, i) ? freeUnder(network, remaining[i]!, early, i, bounds) : NONE
  }
}
