import type { Instant } from '../time/instant.ts'
import { Kind, NONE, type Network } from '../network/network.ts'
import { mirrorNetwork } from '../network/mirror.ts'
import { backwardPass, emptyLateDates } from './backwardPass.ts'
import { linkDrives } from './drivingLinks.ts'
import { computeFloats, emptyFloats } from './floats.ts'
import { emptyEarlyDates, forwardPass, latestFinish, type DrivingDates } from './forwardPass.ts'
import { compileHammocks, hangHammock } from './hammocks.ts'
import { placeBackward, placeLate } from './placement.ts'
import { Propagation } from './propagation.ts'
import { targetOf } from './target.ts'

/** Dates of the last run of an engine, by activity; the next run overwrites them. */
export interface PlacedDates {
  readonly start: Int32Array
  readonly finish: Int32Array
  readonly projectFinish: Instant
  /** The early dates behind them; of a plan scheduled backward those of its mirror. */
  readonly early: DrivingDates
}

/**
 * A network that is scheduled many times with other durations: forward and backward plans, work placed late, hammocks, constraints
 * and progress stand where {@link schedule} would put them (a property test holds it to that).
 */
export interface Engine {
  readonly network: Network
  /** @param remaining - working minutes left of each activity on its own calendar, length n, each ≥ 0; kept until the next run */
  run(remaining: Int32Array): PlacedDates
  /**
   * Where the project would finish, were some durations of the last run others: only what follows from them is scheduled again. What the
   * last run placed stays.
   * @param remaining - those of the last run, but for the seeds
   * @param seeds - activities, by position
   */
  finishWith(remaining: Int32Array, seeds: Iterable<number>): Instant
  /** Counts each activity on the longest path of the last run. @param counts - length n, counted up by one */
  countLongestPath(counts: Int32Array): void
}

/**
 * Lays out all scratch once; a run allocates nothing where no activity is placed late. O(n + m)
 * @param mayBeAbsent - activities, by position, that runs may leave out ({@link ABSENT})
 */
export const createEngine = (network: Network, mayBeAbsent: readonly number[] = []): Engine => {
  const isBackward = network.plan.project.direction === 'backward'
  /** The network whose forward pass places the activities. */
  const placing = isBackward ? mirrorNetwork(network) : network
  for (const i of mayBeAbsent) placing.isPlain[i] = 0
  const n = network.order.length
  const dates = emptyEarlyDates(n)
  const hammocks = compileHammocks(network)
  const place = isBackward
    ? backwardPlacing(network)
    : network.placedLate.includes(1)
      ? latePlacing(network)
      : null
  // Without anything that moves them, activities stand at their early dates.
  const start = place || hammocks.length > 0 ? new Int32Array(n) : dates.start
  const finish = place || hammocks.length > 0 ? new Int32Array(n) : dates.finish
  const placed = { start, finish, projectFinish: network.projectStart, early: dates }
  const seen = new Uint8Array(n)
  const stack = new Int32Array(n)
  let latest: Int32Array = new Int32Array(0)
  const propagation = new Propagation(placing)
  const otherwise = emptyEarlyDates(n)
  const otherPlaces = isBackward ? { start: new Int32Array(n), finish: new Int32Array(n) } : null

  return {
    network,
    run: (remaining) => {
      latest = remaining
      forwardPass(placing, remaining, dates)
      if (start !== dates.start) {
        start.set(dates.start)
        finish.set(dates.finish)
      }
      place?.(remaining, dates, start, finish)
      placed.projectFinish = isBackward ? latestOf(finish, network) : latestFinish(network, dates)
      for (const hammock of hammocks)
        hangHammock(hammock, start, finish, network.projectStart, placed.projectFinish)
      return placed
    },
    finishWith: (remaining, seeds) => {
      otherwise.start.set(dates.start)
      otherwise.finish.set(dates.finish)
      otherwise.begin.set(dates.begin)
      otherwise.beginCount.set(dates.beginCount)
      propagation.early(otherwise, remaining, seeds)
      if (!otherPlaces) return latestFinish(network, otherwise)
      placeBackward(network, otherwise, otherPlaces.start, otherPlaces.finish)
      return latestOf(otherPlaces.finish, network)
    },
    countLongestPath: (counts) => {
      let depth = 0
      const end = latestFinish(placing, dates)
      seen.fill(0)
      const reach = (i: number): void => {
        seen[i] = 1
        counts[i]!++
        stack[depth++] = i
      }
      for (let i = 0; i < n; i++) if (dates.finish[i] === end && placing.kind[i] !== Kind.Hammock) reach(i)
      // Only links into the path are looked at.
      while (depth > 0) {
        const i = stack[--depth]!
        for (let k = placing.inStart[i]!; k < placing.inStart[i + 1]!; k++) {
          const before = placing.linkFrom[k]!
          if (seen[before] === 0 && linkDrives(placing, latest, dates, k)) reach(before)
        }
      }
    },
  }
}

type Placing = (
  remaining: Int32Array,
  dates: ReturnType<typeof emptyEarlyDates>,
  start: Int32Array,
  finish: Int32Array,
) => void

const backwardPlacing =
  (network: Network): Placing =>
  (_, mirrored, start, finish) =>
    placeBackward(network, mirrored, start, finish)

/** Work placed late needs the floats of each run. */
const latePlacing = (network: Network): Placing => {
  const n = network.order.length
  const late = emptyLateDates(n)
  const float = emptyFloats(n)
  return (remaining, early, start, finish) => {
    const networkFinish = latestFinish(network, early)
    backwardPass(network, remaining, targetOf(network, networkFinish), late)
    computeFloats(network, remaining, early, late, networkFinish, float)
    placeLate(network, remaining, early, float, start, finish)
  }
}

/** The latest finish of a plan scheduled backward; hammocks hang later. */
const latestOf = (finish: Int32Array, network: Network): Instant => {
  let latest = NONE
  for (let i = 0; i < finish.length; i++)
    if (network.kind[i] !== Kind.Hammock && finish[i]! > latest) latest = finish[i]!
  return latest === NONE ? network.projectStart : latest
}
