import { addWork, nextWork } from '../time/arithmetic.ts'
import { END_DAY, MINUTES_PER_DAY } from '../time/instant.ts'
import { Kind, networkOf, NONE, State, UNLIMITED, type Network } from '../network/network.ts'
import { backwardStep, emptyLateDates, linkAllows, type Bounds, type LateDates } from './backwardPass.ts'
import { isPinned } from './forwardPass.ts'
import type { Schedule } from './schedule.ts'

/** A chain of activities that lead to the chosen one with the same slack, in the order in which they follow each other. */
export interface FloatPath {
  /** The largest delay, in working minutes of each activity's own calendar, that leaves the start of the chosen activity unmoved. */
  readonly slack: number
  readonly activities: readonly string[]
}

/** No activity upstream works for longer than this after its start has been limited. */
const BEYOND_DAYS = 5 * 366

/**
 * Ranked float paths to an activity T. Every activity upstream has a slack to T; chains of equal slack, followed from each
 * activity to the successor that binds it, are listed by rising slack: the first drives T. Work that stands where an overriding date
 * puts it hands no delay on: what leads to T through it alone is not listed.
 * @param id - the chosen activity
 * @throws RangeError if the plan has no such activity
 */
export const rankedPaths = (schedule: Schedule, id: string): FloatPath[] => {
  const { network } = schedule
  const target = network.indexOf.get(id)
  if (target === undefined) throw new RangeError(`rankedPaths: no activity "${id}"`)
  const upstream = upstreamOf(network, target)
  const late = slackPass(schedule, target, upstream)
  const slack = new Int32Array(network.order.length).fill(NONE)
  for (const i of upstream) slack[i] = late.beginCount[i]! - schedule.early.beginCount[i]!

  // Each activity is followed to the upstream successor that binds it; chains break where the slack changes.
  const next = new Map<number, number>()
  for (const i of upstream) {
    const binding = bindingSuccessor(network, late, i, target, upstream)
    if (binding !== null && (binding === target || slack[binding] === slack[i])) next.set(i, binding)
  }
  const hasBefore = new Set([...next.values()].filter((i) => i !== target))
  const paths: FloatPath[] = []
  for (const i of upstream) {
    if (hasBefore.has(i)) continue
    const chain: number[] = []
    for (let at: number | undefined = i; at !== undefined && at !== target; at = next.get(at)) chain.push(at)
    paths.push({ slack: slack[i]!, activities: chain.map((j) => network.activities[j]!.id) })
  }
  return paths.sort((a, b) => a.slack - b.slack || b.activities.length - a.activities.length)
}

/** Unfinished activities from which T can be reached, in the order of the network. */
const upstreamOf = (network: Network, target: number): Set<number> => {
  const reached = new Set([target])
  for (let at = network.order.length - 1; at >= 0; at--) {
    const i = network.order[at]!
    if (!reached.has(i)) continue
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) reached.add(network.linkFrom[k]!)
  }
  reached.delete(target)
  return new Set(
    [...network.order].filter(
      (i) => reached.has(i) && network.state[i] !== State.Finished && network.kind[i] !== Kind.Hammock,
    ),
  )
}

/**
 * The backward pass from T alone: T keeps its early dates, nothing else limits.
 * @param upstream - what cannot delay T, because an overriding date stands between, is taken out
 */
const slackPass = (schedule: Schedule, target: number, upstream: Set<number>): LateDates => {
  const { network, early } = schedule
  const late = emptyLateDates(network.order.length)
  late.startLimit[target] = early.begin[target]!
  // A finish limit moves the start only once it needs more than the work that follows the start.
  const remaining = network.remaining[target]!
  late.finishLimit[target] =
    remaining === 0
      ? early.finish[target]!
      : nextWork(
          network.calendar[target]!,
          addWork(network.calendar[target]!, early.begin[target]!, remaining),
        )
  late.start[target] = early.begin[target]!
  late.finish[target] = early.finish[target]!
  if (standsAnyhow(network, late, target)) late.startLimit[target] = late.finishLimit[target] = UNLIMITED
  const of = (value: number): Int32Array => new Int32Array(network.order.length).fill(value)
  const free = networkOf({
    ...network,
    startCeiling: of(UNLIMITED),
    finishCeiling: of(UNLIMITED),
    startPin: of(NONE),
    finishPin: of(NONE),
    startCut: of(NONE),
    finishCut: of(NONE),
  })
  const bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }
  // Far enough to limit nothing: every upstream activity has a chain to T that does, on its start or on its finish.
  const horizon = Math.min(
    (END_DAY - 1) * MINUTES_PER_DAY,
    schedule.projectFinish + BEYOND_DAYS * MINUTES_PER_DAY,
  )
  for (let at = network.order.length - 1; at >= 0; at--) {
    const i = network.order[at]!
    if (!upstream.has(i)) continue
    if (!isBound(free, late, i)) {
      upstream.delete(i)
      continue
    }
    backwardStep(free, network.remaining[i]!, horizon, late, i, bounds)
    if (standsAnyhow(network, late, i)) late.startLimit[i] = late.finishLimit[i] = UNLIMITED
  }
  return late
}

/** Whether anything that follows limits the activity on its way to T. */
const isBound = (network: Network, late: LateDates, i: number): boolean => {
  for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++)
    if (linkAllows(network, late, network.outLink[o]!) !== UNLIMITED) return true
  return false
}

/** Whether an overriding date holds the activity no later than T needs it, whatever its links say: then nothing before it delays T. */
const standsAnyhow = (network: Network, late: LateDates, i: number): boolean => {
  const { startCut, finishCut } = network
  return (
    isPinned(network, i) ||
    (startCut[i] !== NONE && startCut[i]! <= late.start[i]!) ||
    (finishCut[i] !== NONE && finishCut[i]! <= late.finish[i]!)
  )
}

const bindingSuccessor = (
  network: Network,
  late: LateDates,
  i: number,
  target: number,
  upstream: ReadonlySet<number>,
): number | null => {
  let best: number | null = null
  let tightest = UNLIMITED
  const calendar = network.calendar[i]!
  for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) {
    const k = network.outLink[o]!
    const to = network.linkTo[k]!
    if (to !== target && !upstream.has(to)) continue
    const allowed = linkAllows(network, late, k)
    if (allowed === UNLIMITED) continue
    const ofStart = (network.linkCode[k]! & 2) === 2
    const count = ofStart
      ? calendar.countBefore(allowed + 1) - 1 + network.remaining[i]!
      : calendar.countBefore(allowed)
    if (count < tightest) {
      tightest = count
      best = to
    }
  }
  return best
}
