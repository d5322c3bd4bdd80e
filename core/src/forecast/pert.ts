import { addWork } from '../time/arithmetic.ts'
import { formatInstant, instantOf, MINUTES_PER_DAY, type Instant } from '../time/instant.ts'
import { compileNetwork } from '../network/compileNetwork.ts'
import { mirrorNetwork } from '../network/mirror.ts'
import { countsFromStart, Kind, limitsFinish, NONE, State, type Network } from '../network/network.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Plan } from '../plan/schema.ts'
import {
  emptyEarlyDates,
  heldByStartLinks,
  isPinned,
  linkLimit,
  standUnder,
  type EarlyDates,
} from '../schedule/forwardPass.ts'
import { scheduleNetwork } from '../schedule/schedule.ts'
import { estimateMoments } from './estimate.ts'
import { isPromised } from './isPromised.ts'
import { normalProbability } from './random/normalProbability.ts'
import { normalQuantile } from './random/normalQuantile.ts'
import { estimatesOf } from './whichEstimate.ts'

export interface PertOptions {
  /** Date whose probability is asked; null: the required finish. */
  readonly by?: string | null
  /** Confidence whose date is asked, between 0 and 1. */
  readonly confidence?: number
  /** Id of the activity whose finish is asked; null: the project's. */
  readonly to?: string | null
  /** Paths listed at most. */
  readonly paths?: number
}

/** A path through the network; lengths in days of the project calendar. */
export interface PertPath {
  /** Ids, first to last. */
  readonly activities: readonly string[]
  readonly mean: number
  readonly sd: number
  /** Of keeping the date asked for, by this path alone; null where none is asked. */
  readonly probability: number | null
}
/** The shape is that of the command line. */
export interface PertReport {
  readonly mean: number
  readonly sd: number
  readonly finish: string
  readonly probability: number | null
  readonly dateAtConfidence: string
  readonly by: string | null
  readonly confidence: number
  readonly paths: readonly PertPath[]
  /** Work on the longest path that, on expected durations, misses the time it has in the plan and waits for a later one of its calendar. */
  readonly missed: { readonly activity: string; readonly planned: string; readonly expected: string } | null
}

/** A path as far as an activity, with the dates that it alone gives it. */
interface Reach {
  readonly at: number
  readonly before: Reach | null
  readonly start: Instant
  readonly finish: Instant
  /** Summed along the path, in square days. */
  readonly variance: number
}

/** What is expected to be left of each activity: working minutes, and the variance in square days of its own calendar. */
export const expectedDurations = (
  plan: Plan,
  network: Network,
): { readonly remaining: Int32Array; readonly variance: Float64Array } => {
  const held = estimatesOf(plan)
  const remaining = network.remaining.slice()
  const variance = new Float64Array(remaining.length)
  plan.activities.forEach((activity, i) => {
    const estimate = held(activity)
    if (estimate.from === 'none' || network.state[i] === State.Finished || isPromised(network, i)) return
    const { mean, variance: minutes } = estimateMoments(estimate.estimate)
    // Estimates are of the whole, what is expected is of what is left.
    const share = activity.duration === 0 ? 1 : network.remaining[i]! / activity.duration
    remaining[i] = Math.max(0, Math.round(mean * share))
    const { dayMinutes } = lengthsOf(plan, calendarOf(plan.project, activity))
    variance[i] = minutes * (share / dayMinutes) ** 2
  })
  return { remaining, variance }
}

/**
 * The longest paths into each activity on expected durations, longest first. A later limit never gives an earlier date, so the
 * longest into an activity go through the longest into those before it. O(paths · m)
 */
const longestReaches = (
  network: Network,
  remaining: Int32Array,
  variance: Float64Array,
  most: number,
): readonly (readonly Reach[])[] => {
  const n = network.order.length
  const reaches = Array.from({ length: n }, (): readonly Reach[] => [])
  /** Holds the dates of one reach at a time. */
  const dates = emptyEarlyDates(n)
  for (const i of network.order) {
    if (network.kind[i] === Kind.Hammock) continue
    const base = Math.max(network.projectStart, network.statusDate ?? NONE)
    const limits = { start: network.startFloor[i]!, finish: network.finishFloor[i]! }
    standUnder(network, remaining[i]!, dates, i, limits)
    const alone: Reach = reachOf(dates, i, null, variance[i]!)
    const through: Reach[] = []
    if (network.state[i] !== State.Finished && !isPinned(network, i)) {
      standUnder(network, remaining[i]!, dates, i, { start: base, finish: NONE })
      const earliest = dates.finish[i]!
      for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
        const onFinish = limitsFinish(network.linkCode[k]!)
        if (!onFinish && !heldByStartLinks(network, i)) continue
        for (const before of reaches[network.linkFrom[k]!]!) {
          dates.start[before.at] = before.start
          dates.finish[before.at] = before.finish
          const limit = linkLimit(network, dates, k)
          // Held by nothing but the beginning of all work: a path does not come through here.
          if (!onFinish && limit < base) continue
          standUnder(network, remaining[i]!, dates, i, {
            start: onFinish ? base : limit,
            finish: onFinish ? limit : NONE,
          })
          if (onFinish && dates.finish[i]! <= earliest && limit < earliest) continue
          through.push(reachOf(dates, i, before, before.variance + variance[i]!))
        }
      }
    }
    const hasOwnDate = limits.start > base || limits.finish !== NONE
    if (through.length === 0 || hasOwnDate) through.push(alone)
    reaches[i] = through.sort((a, b) => compare(network, a, b)).slice(0, most)
  }
  return reaches
}

const reachOf = (dates: EarlyDates, i: number, before: Reach | null, variance: number): Reach => ({
  at: i,
  before,
  start: dates.start[i]!,
  finish: dates.finish[i]!,
  variance,
})

/** Longest first; of equal ones the greater variance, then ids, so that nothing depends on the order of rows. */
const compare = (network: Network, a: Reach, b: Reach): number =>
  b.finish - a.finish ||
  b.start - a.start ||
  b.variance - a.variance ||
  (pathKey(network, a) < pathKey(network, b) ? -1 : 1)

const pathOf = (network: Network, reach: Reach): string[] => {
  const ids: string[] = []
  for (let at: Reach | null = reach; at; at = at.before) ids.push(network.activities[at.at]!.id)
  return ids.reverse()
}
const rootOf = (reach: Reach): Reach => (reach.before ? rootOf(reach.before) : reach)
const pathKey = (network: Network, reach: Reach): string => pathOf(network, reach).join('\n')

/** Activities whose finish nothing waits for: where paths end. */
const endsOf = (network: Network): number[] => {
  const ends: number[] = []
  for (let i = 0; i < network.order.length; i++) {
    if (network.kind[i] === Kind.Hammock) continue
    let isAwaited = false
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]! && !isAwaited; o++)
      isAwaited = !countsFromStart(network.linkCode[network.outLink[o]!]!)
    if (!isAwaited) ends.push(i)
  }
  return ends
}

/**
 * PERT (semantics.md section 7): the network on expected durations, the variance summed along its longest path, probabilities by the
 * normal distribution. Lengths count working time of the project calendar from the project's start; a plan scheduled backward has them
 * from the start that its paths come to.
 * @throws RangeError for a confidence not between 0 and 1, or an activity that the plan does not have
 */
export const pert = (plan: Plan, options: PertOptions = {}): PertReport => {
  const confidence = options.confidence ?? 0.8
  if (!(confidence > 0 && confidence < 1)) throw new RangeError(`pert: a confidence of ${confidence}`)
  const network = compileNetwork(plan)
  const { remaining, variance } = expectedDurations(plan, network)
  const isBackward = plan.project.direction === 'backward'
  const placing = isBackward ? mirrorNetwork(network) : network
  const reaches = longestReaches(placing, remaining, variance, options.paths ?? 20)

  const to = options.to ?? null
  const target = to === null ? null : network.indexOf.get(to)
  if (target === undefined) throw new RangeError(`pert: no activity "${to}"`)
  const all = (target === null ? endsOf(placing) : [target])
    .flatMap((i) => reaches[i]!)
    .sort((a, b) => compare(placing, a, b))
    .slice(0, options.paths ?? 20)

  const calendar = network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const start = network.projectStart
  const end = isBackward ? instantOf(plan.project.finish!, 'finish') : start
  const minutesOf = (reach: Reach): number =>
    isBackward
      ? calendar.countBefore(end) - calendar.countBefore(-reach.finish)
      : calendar.countBefore(reach.finish) - calendar.countBefore(start)

  const by = options.by ?? plan.project.requiredFinish
  const available =
    by === null ? null : calendar.countBefore(instantOf(by, 'finish')) - calendar.countBefore(start)
  const chanceOf = (mean: number, sd: number): number | null => {
    if (available === null) return null
    if (sd === 0) return mean <= available ? 1 : 0
    return normalProbability((available - mean) / sd)
  }
  const paths = all.map((reach): PertPath => {
    const [mean, sd] = [minutesOf(reach), Math.sqrt(reach.variance)]
    const activities = pathOf(placing, reach)
    return {
      activities: isBackward ? activities.reverse() : activities,
      mean: mean / dayMinutes,
      sd,
      probability: chanceOf(mean, sd * dayMinutes),
    }
  })
  const longest = paths[0] ?? { mean: 0, sd: 0, probability: chanceOf(0, 0) }
  const minutes = Math.round((longest.mean + normalQuantile(confidence) * longest.sd) * dayMinutes)
  const finish = all[0] === undefined ? start : isBackward ? -rootOf(all[0]).start : all[0].finish
  return {
    mean: longest.mean,
    sd: longest.sd,
    finish: formatInstant(finish),
    probability: longest.probability,
    dateAtConfidence: formatInstant(minutes > 0 ? addWork(calendar, start, minutes) : start),
    by,
    confidence,
    paths,
    missed: isBackward || all[0] === undefined ? null : missedOn(network, all[0]),
  }
}

/** More than this of waiting is a turn of a calendar that was missed, not a night. */
const MISSED = 2 * MINUTES_PER_DAY

/** The greatest wait along a path that the plan does not have. */
const missedOn = (network: Network, path: Reach): PertReport['missed'] => {
  const { start, finish } = scheduleNetwork(network)
  let [longest, found]: [number, PertReport['missed']] = [MISSED, null]
  for (let at: Reach = path; at.before; at = at.before) {
    const waits = at.start - at.before.finish - (start[at.at]! - finish[at.before.at]!)
    if (waits <= longest) continue
    longest = waits
    found = {
      activity: network.activities[at.at]!.id,
      planned: formatInstant(start[at.at]!),
      expected: formatInstant(at.start),
    }
  }
  return found
}
