import { Kind, NONE, State, UNLIMITED, type Network } from '../network/network.ts'
import {
  handBack,
  latestBeginCount,
  latestPoint,
  successorsAllow,
  type Bounds,
  type LateDates,
  type SuccessorLimits,
} from './backwardPass.ts'
import type { EarlyDates } from './forwardPass.ts'

/** Floats in working minutes of each activity's own calendar; NONE where there is none: finished work, hammocks, and work that has no late dates. */
export interface Floats {
  readonly total: Int32Array
  readonly free: Int32Array
  readonly start: Int32Array
}

/** To be filled by {@link computeFloats}. */
export const emptyFloats = (n: number): Floats => ({
  total: new Int32Array(n),
  free: new Int32Array(n),
  start: new Int32Array(n),
})

/** The early dates as limits: what successors ask when nothing but their early dates may move. Finished work, and what is not there, asks nothing. */
export const earlyLimitsOf = (network: Network, early: EarlyDates): SuccessorLimits => {
  if (!network.state.includes(State.Finished) && !early.begin.includes(NONE))
    return { startLimit: early.begin, finishLimit: early.finish }
  const startLimit = early.begin.slice()
  const finishLimit = early.finish.slice()
  for (let i = 0; i < startLimit.length; i++)
    if (network.state[i] === State.Finished || early.begin[i] === NONE)
      startLimit[i] = finishLimit[i] = UNLIMITED
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
const freeUnder = (
  network: Network,
  remaining: number,
  early: EarlyDates,
  i: number,
  bounds: Bounds,
): number => {
  const latest =
    remaining === 0
      ? network.calendar[i]!.countBefore(latestPoint(network, i, bounds))
      : latestBeginCount(network, remaining, i, bounds)
  return latest - early.beginCount[i]!
}

/**
 * All floats: total and start float from early to late dates, free float by one walk over the links.
 * @param networkFinish - the latest early finish
 * @param floats - filled; NONE for finished work and hammocks, start float also for started work
 */
export const computeFloats = (
  network: Network,
  remaining: Int32Array,
  early: EarlyDates,
  late: LateDates,
  networkFinish: number,
  floats: Floats,
): void => {
  const { state, kind } = network
  const { total, free, start } = floats
  const limits = earlyLimitsOf(network, early)
  const startBound = new Int32Array(kind.length).fill(UNLIMITED)
  const finishBound = free.fill(networkFinish)
  handBack(network, limits, 0, network.links.length, startBound, finishBound)
  const bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }
  for (let i = 0; i < kind.length; i++) {
    if (state[i] === State.Finished || kind[i] === Kind.Hammock) {
      total[i] = free[i] = start[i] = NONE
      continue
    }
    bounds.start = startBound[i]!
    bounds.finish = finishBound[i]!
    free[i] = freeUnder(network, remaining[i]!, early, i, bounds)
    // Work has as much float at its start as at its finish, for both are the same count of the same work.
    total[i] = late.beginCount[i] === NONE ? NONE : late.beginCount[i]! - early.beginCount[i]!
    start[i] = state[i] === State.Started ? NONE : total[i]!
  }
}
