import { settleBack, unshiftWork } from '../time/arithmetic.ts'
import { CalendarError, type Spot } from '../time/calendar.ts'
import {
  countsFromStart,
  Kind,
  limitsFinish,
  NONE,
  State,
  UNLIMITED,
  type Network,
} from '../network/network.ts'
import { ABSENT, heldByStartLinks, isPinned, namingActivity, pinnedDates } from './forwardPass.ts'

/**
 * Latest dates, one entry an activity; NONE for hammocks, and where a calendar has no work so early: then there is no date that would
 * do, neither for the activity nor for what comes before it. NONE is before every instant, so it is handed on as a limit.
 */
export interface LateDates {
  /** Latest beginning of the remaining work, and latest finish. */
  readonly start: Int32Array
  readonly finish: Int32Array
  /** Working count at which the remaining work begins latest; of a point, the count of its instant. */
  readonly beginCount: Int32Array
  /** The limit that the activity hands to links into its start, and to links into its finish; UNLIMITED for finished work. */
  readonly startLimit: Int32Array
  readonly finishLimit: Int32Array
}

export const emptyLateDates = (n: number): LateDates => ({
  start: new Int32Array(n).fill(NONE),
  finish: new Int32Array(n).fill(NONE),
  beginCount: new Int32Array(n).fill(NONE),
  startLimit: new Int32Array(n).fill(UNLIMITED),
  finishLimit: new Int32Array(n).fill(UNLIMITED),
})

export const copyLateDates = (dates: LateDates): LateDates => ({
  start: dates.start.slice(),
  finish: dates.finish.slice(),
  beginCount: dates.beginCount.slice(),
  startLimit: dates.startLimit.slice(),
  finishLimit: dates.finishLimit.slice(),
})

/** Limits handed to predecessors, by activity: late dates in the backward pass, early dates for free float. */
export interface SuccessorLimits {
  readonly startLimit: Int32Array
  readonly finishLimit: Int32Array
}

/** What link k asks of its predecessor's edge so that the successor keeps its limit; UNLIMITED if nothing. */
export const linkAllows = (network: Network, limits: SuccessorLimits, k: number): number => {
  const to = network.linkTo[k]!
  const onFinish = limitsFinish(network.linkCode[k]!)
  if (!onFinish && !heldByStartLinks(network, to)) return UNLIMITED
  const limit = onFinish ? limits.finishLimit[to]! : limits.startLimit[to]!
  if (limit === UNLIMITED || limit === NONE) return limit
  const lag = network.linkLag[k]!
  return lag === 0 ? limit : unshiftWork(network.linkCalendar[k]!, limit, lag)
}

/** The earliest of what the links out of activity i allow its start (a) and its finish (b). Started work has no start left. */
export const successorsAllow = (
  network: Network,
  limits: SuccessorLimits,
  i: number,
  bounds: Bounds,
): void => {
  const isStarted = network.state[i] === State.Started
  const end = network.outStart[i + 1]!
  let { start, finish } = bounds
  for (let o = network.outStart[i]!; o < end; o++) {
    const k = network.outLink[o]!
    const allowed = linkAllows(network, limits, k)
    if (countsFromStart(network.linkCode[k]!)) {
      if (allowed < start && !isStarted) start = allowed
    } else if (allowed < finish) finish = allowed
  }
  bounds.start = start
  bounds.finish = finish
}

/** {@link successorsAllow} from the other end: links first … end − 1 take what they allow off their predecessors' bounds. */
export const handBack = (
  network: Network,
  limits: SuccessorLimits,
  first: number,
  end: number,
  startBound: Int32Array,
  finishBound: Int32Array,
): void => {
  const { linkFrom, linkTo, linkCode, linkLag, state, follows } = network
  const { startLimit, finishLimit } = limits
  // linkAllows written out: over the whole network its call costs as much as all the rest. One property test holds them equal.
  for (let k = first; k < end; k++) {
    const from = linkFrom[k]!
    const to = linkTo[k]!
    const code = linkCode[k]!
    const lag = linkLag[k]!
    let limit = limitsFinish(code) ? finishLimit[to]! : startLimit[to]!
    if (lag !== 0 && limit !== UNLIMITED && limit !== NONE)
      limit = unshiftWork(network.linkCalendar[k]!, limit, lag)
    if (follows && !limitsFinish(code) && state[to] === State.Started) continue
    if (countsFromStart(code)) {
      if (limit < startBound[from]! && state[from] !== State.Started) startBound[from] = limit
    } else if (limit < finishBound[from]!) finishBound[from] = limit
  }
}

/** Latest instants that an activity's start and finish may have. */
export interface Bounds {
  start: number
  finish: number
}

/** The working count at which work of `remaining` minutes begins latest under bounds. */
export const latestBeginCount = (network: Network, remaining: number, i: number, bounds: Bounds): number => {
  const calendar = network.calendar[i]!
  const byFinish = calendar.countBefore(bounds.finish) - remaining
  if (bounds.start === UNLIMITED) return byFinish
  const byStart = calendar.countBefore(bounds.start + 1) - 1
  return byStart < byFinish ? byStart : byFinish
}

/** The latest instant of a milestone, or of work without duration, under bounds. */
export const latestPoint = (network: Network, i: number, bounds: Bounds): number => {
  const calendar = network.calendar[i]!
  const limit = bounds.start < bounds.finish ? bounds.start : bounds.finish
  return network.kind[i] === Kind.AtFinish
    ? settleBack(calendar, limit)
    : calendar.minuteAt(calendar.countBefore(limit + 1) - 1)
}

/**
 * Late start and finish of every activity: the exact adjoint of {@link forwardPass} on the minute grid, so that float on the
 * path that sets the finish comes out as 0 over any mix of calendars.
 * @param remaining - working minutes, length n
 * @param target - the instant that no finish may pass: required finish, else the latest early finish
 * @param late - filled; allocates nothing an activity. O(n + m)
 */
export const backwardPass = (
  network: Network,
  remaining: Int32Array,
  target: number,
  late: LateDates,
): void => {
  const { order, kind, inStart } = network
  const { startLimit, finishLimit } = late
  // Until an activity's turn comes, its limits hold what its successors have allowed so far: links are read in their order.
  startLimit.set(network.startCeiling)
  for (let i = 0; i < order.length; i++) finishLimit[i] = Math.min(network.finishCeiling[i]!, target)
  const bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }
  for (let at = order.length - 1; at >= 0; at--) {
    const i = order[at]!
    if (kind[i] === Kind.Hammock || remaining[i] === ABSENT) {
      startLimit[i] = finishLimit[i] = UNLIMITED
      continue
    }
    bounds.start = startLimit[i]!
    bounds.finish = finishLimit[i]!
    try {
      if ((bounds.start === NONE || bounds.finish === NONE) && !standsAnyhow(network, i))
        withoutDates(late, i)
      else standUnder(network, remaining[i]!, late, i, bounds)
    } catch (error) {
      // In the mirror of time these are the early dates, and without those there is no schedule.
      if (network.isMirror || !(error instanceof CalendarError)) throw namingActivity(error, network, i)
      withoutDates(late, i)
    }
    try {
      handBack(network, late, inStart[i]!, inStart[i + 1]!, startLimit, finishLimit)
    } catch (error) {
      if (network.isMirror || !(error instanceof CalendarError)) throw namingActivity(error, network, i)
      handBackWhatIs(network, late, i)
    }
  }
}

/** Dates that no limit moves. */
const standsAnyhow = (network: Network, i: number): boolean =>
  network.isPlain[i] === 0 && (network.state[i] === State.Finished || isPinned(network, i))

const withoutDates = (late: LateDates, i: number): void => {
  late.start[i] = late.finish[i] = late.beginCount[i] = late.startLimit[i] = late.finishLimit[i] = NONE
}

/** {@link handBack} of the links into activity i, where the calendar of some lag has no work so early: they allow no date. */
const handBackWhatIs = (network: Network, late: LateDates, i: number): void => {
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
    const from = network.linkFrom[k]!
    let allowed = NONE
    try {
      allowed = linkAllows(network, late, k)
    } catch (error) {
      if (!(error instanceof CalendarError)) throw error
    }
    const isOfStart = countsFromStart(network.linkCode[k]!)
    if (isOfStart && network.state[from] === State.Started) continue
    const limits = isOfStart ? late.startLimit : late.finishLimit
    limits[from] = Math.min(limits[from]!, allowed)
  }
}

/** The backward pass for one activity whose successors are done. `bounds` is scratch and holds a and b afterwards. */
export const backwardStep = (
  network: Network,
  remaining: number,
  target: number,
  late: LateDates,
  i: number,
  bounds: Bounds,
): void => {
  bounds.start = network.startCeiling[i]!
  bounds.finish = Math.min(network.finishCeiling[i]!, target)
  successorsAllow(network, late, i, bounds)
  standUnder(network, remaining, late, i, bounds)
}

/** Scratch of {@link standUnder}. */
const spot: Spot = { count: 0, at: 0, isWorking: false }

/** Puts the work as late as its bounds allow; finished work and overriding dates stand whatever they are. */
const standUnder = (
  network: Network,
  remaining: number,
  late: LateDates,
  i: number,
  bounds: Bounds,
): void => {
  if (network.isPlain[i] === 0) {
    if (network.state[i] === State.Finished) {
      late.start[i] = network.actualStart[i]!
      late.finish[i] = network.actualFinish[i]!
      late.startLimit[i] = late.finishLimit[i] = UNLIMITED
      return
    }
    if (isPinned(network, i)) return standPinned(network, remaining, late, i)
  }
  const calendar = network.calendar[i]!
  if (remaining === 0) {
    const at = latestPoint(network, i, bounds)
    late.start[i] = late.finish[i] = late.startLimit[i] = late.finishLimit[i] = at
    late.beginCount[i] = calendar.countBefore(at)
    return
  }
  // The count by the finish limit, and the end of the last work by then; then what a limit on the start takes off.
  calendar.lastEnd(bounds.finish, spot)
  const { count: limitCount, at: lastEnd } = spot
  const byStart = bounds.start === UNLIMITED ? UNLIMITED : calendar.countBefore(bounds.start + 1) - 1
  const isByFinish = byStart >= limitCount - remaining
  const count = isByFinish ? limitCount - remaining : byStart
  late.beginCount[i] = count
  late.start[i] = late.startLimit[i] = calendar.minuteAt(count)
  late.finish[i] = isByFinish ? lastEnd : calendar.minuteAt(count + remaining - 1) + 1
  // Monday 07:00 rather than Friday 15:45 where nothing forbids it: predecessors on other calendars need it.
  if (!isByFinish) late.finishLimit[i] = calendar.minuteAt(count + remaining)
  else late.finishLimit[i] = lastEnd < bounds.finish && spot.isWorking ? bounds.finish : lastEnd
}

const standPinned = (network: Network, remaining: number, late: LateDates, i: number): void => {
  const { start, finish } = pinnedDates(network, remaining, i)
  late.start[i] = late.startLimit[i] = start
  late.finish[i] = late.finishLimit[i] = finish
  late.beginCount[i] = network.calendar[i]!.countBefore(finish) - remaining
}
