import { addWork, settle, shiftWork, subWork } from '../time/arithmetic.ts'
import { CalendarError, type Spot } from '../time/calendar.ts'
import { countsFromStart, Kind, limitsFinish, NONE, State, type Network } from '../network/network.ts'

/** Earliest dates, one entry an activity; NONE for hammocks. */
export interface EarlyDates {
  readonly start: Int32Array
  readonly finish: Int32Array
  /** Where the remaining work begins: the start, but for work that has actually started. */
  readonly begin: Int32Array
  /** Working count, on the activity's calendar, at which the remaining work begins; of a point, the count of its instant. */
  readonly beginCount: Int32Array
}

/** Dates that links count from. */
export type LinkedDates = Pick<EarlyDates, 'start' | 'finish'>
/** What tells which links drive. */
export type DrivingDates = Pick<EarlyDates, 'start' | 'finish' | 'beginCount'>

/**
 * In place of remaining minutes: the activity is not there in this run. Only for those that an engine is told may be absent, which have
 * plain FS links without lag.
 */
export const ABSENT = -1

export const emptyEarlyDates = (n: number): EarlyDates => ({
  start: new Int32Array(n).fill(NONE),
  finish: new Int32Array(n).fill(NONE),
  begin: new Int32Array(n).fill(NONE),
  beginCount: new Int32Array(n).fill(NONE),
})

export const copyEarlyDates = (dates: EarlyDates): EarlyDates => ({
  start: dates.start.slice(),
  finish: dates.finish.slice(),
  begin: dates.begin.slice(),
  beginCount: dates.beginCount.slice(),
})

/** The limit that link k puts on its successor: the predecessor's date with the lag counted on the lag's calendar. */
export const linkLimit = (network: Network, dates: LinkedDates, k: number): number => {
  const from = network.linkFrom[k]!
  const base = countsFromStart(network.linkCode[k]!) ? dates.start[from]! : dates.finish[from]!
  const lag = network.linkLag[k]!
  return lag === 0 ? base : shiftWork(network.linkCalendar[k]!, base, lag)
}

/** Whether the links into an activity that limit its start count: with "follow", not those of started work. */
export const heldByStartLinks = (network: Network, i: number): boolean =>
  !(network.follows && network.state[i] === State.Started)

/**
 * Early start and finish of every activity (CPM forward pass over calendars, links of four types with lags and leads).
 * @param remaining - working minutes on each activity's own calendar, length n, each ≥ 0
 * @param dates - filled; allocates nothing. O(n + m)
 * @see Kelley 1961, "Critical-Path Planning and Scheduling: Mathematical Basis", Oper. Res. 9(3)
 */
export const forwardPass = (network: Network, remaining: Int32Array, dates: EarlyDates): void => {
  const { order, kind } = network
  let at = 0
  try {
    for (; at < order.length; at++) {
      const i = order[at]!
      if (kind[i] === Kind.Hammock) return // hammocks are last
      forwardStep(network, remaining[i]!, dates, i)
    }
  } catch (error) {
    throw namingActivity(error, network, order[at]!)
  }
}

/** A calendar that runs out of work, with the activity named that needed it. */
export const namingActivity = (error: unknown, network: Network, i: number): unknown => {
  if (!(error instanceof CalendarError) || error.activity !== null) return error
  const { code, id } = network.activities[i]!
  return new CalendarError(error.calendar, `${code}: ${error.message}`, id)
}

/** The forward pass for one activity whose predecessors are done. */
export const forwardStep = (network: Network, remaining: number, dates: EarlyDates, i: number): void => {
  const isPlain = network.isPlain[i] === 1
  if (!isPlain && standsAlone(network, remaining, dates, i)) return
  const { linkFrom, linkCode, linkLag } = network
  let start = network.startFloor[i]!
  let finish = network.finishFloor[i]!
  const startLinksHold = isPlain || heldByStartLinks(network, i)
  const end = network.inStart[i + 1]!
  for (let k = network.inStart[i]!; k < end; k++) {
    const code = linkCode[k]!
    if (!startLinksHold && !limitsFinish(code)) continue
    // linkLimit written out: its call costs as much as what it does.
    const from = linkFrom[k]!
    const lag = linkLag[k]!
    let limit = countsFromStart(code) ? dates.start[from]! : dates.finish[from]!
    if (lag !== 0) limit = shiftWork(network.linkCalendar[k]!, limit, lag)
    if (limitsFinish(code)) {
      if (limit > finish) finish = limit
    } else if (limit > start) start = limit
  }
  place(network, remaining, dates, i, start, finish)
  if (!isPlain) afterPlacing(network, remaining, dates, i)
}

const afterPlacing = (network: Network, remaining: number, dates: EarlyDates, i: number): void => {
  if (network.startCut[i] !== NONE || network.finishCut[i] !== NONE) cut(network, remaining, dates, i)
  if (network.state[i] === State.Started) dates.start[i] = network.actualStart[i]!
}

/**
 * Where an activity stands under given limits of its start and finish instead of those of its links and dates; finished work and
 * overriding dates stand anyhow. NONE: no limit.
 */
export const standUnder = (
  network: Network,
  remaining: number,
  dates: EarlyDates,
  i: number,
  limits: { readonly start: number; readonly finish: number },
): void => {
  const isPlain = network.isPlain[i] === 1
  if (!isPlain && standsAlone(network, remaining, dates, i)) return
  place(network, remaining, dates, i, limits.start, limits.finish)
  if (!isPlain) afterPlacing(network, remaining, dates, i)
}

/**
 * Finished work and overriding dates stand whatever their links say; what is not there ({@link ABSENT}) stands nowhere and limits nothing.
 * @returns whether the activity is such a one
 */
const standsAlone = (network: Network, remaining: number, dates: EarlyDates, i: number): boolean => {
  if (remaining === ABSENT) {
    dates.start[i] = dates.finish[i] = dates.begin[i] = dates.beginCount[i] = NONE
    return true
  }
  if (network.state[i] === State.Finished) {
    dates.start[i] = network.actualStart[i]!
    dates.finish[i] = network.actualFinish[i]!
    dates.begin[i] = network.actualFinish[i]!
    dates.beginCount[i] = network.calendar[i]!.countBefore(network.actualFinish[i]!)
    return true
  }
  if (!isPinned(network, i)) return false
  standPinned(network, remaining, dates, i)
  return true
}

/** Scratch of {@link place}. */
const spot: Spot = { count: 0, at: 0, isWorking: false }

/** Puts the work at the latest of its limits, held open where a finish limit lies beyond the end of the work. */
const place = (
  network: Network,
  remaining: number,
  dates: EarlyDates,
  i: number,
  start: number,
  finish: number,
): void => {
  const calendar = network.calendar[i]!
  if (remaining === 0) {
    const limit = start > finish ? start : finish
    calendar.firstStart(limit, spot)
    const at = network.kind[i] === Kind.AtFinish ? settle(calendar, limit) : spot.at
    dates.start[i] = dates.begin[i] = dates.finish[i] = at
    dates.beginCount[i] = spot.count
    return
  }
  calendar.firstStart(start, spot)
  let { count, at: begin } = spot
  if (finish !== NONE) {
    const needed = calendar.countBefore(finish) - remaining
    if (needed > count) {
      count = needed
      begin = calendar.minuteAt(count)
    }
  }
  let end = calendar.minuteAt(count + remaining - 1) + 1
  if (finish > end) {
    const held = settle(calendar, finish)
    if (held > end) end = held
  }
  dates.start[i] = dates.begin[i] = begin
  dates.beginCount[i] = count
  dates.finish[i] = end
}

/** An overriding `exactly`: the edge stands there, links and project start ignored. */
export const pinnedDates = (
  network: Network,
  remaining: number,
  i: number,
): { start: number; finish: number } => {
  const calendar = network.calendar[i]!
  const startPin = network.startPin[i]!
  const finishPin = network.finishPin[i]!
  if (startPin !== NONE && finishPin !== NONE) return { start: startPin, finish: finishPin }
  if (startPin !== NONE) return { start: startPin, finish: addWork(calendar, startPin, remaining) }
  return { start: subWork(calendar, finishPin, remaining), finish: finishPin }
}

const standPinned = (network: Network, remaining: number, dates: EarlyDates, i: number): void => {
  const { start, finish } = pinnedDates(network, remaining, i)
  dates.begin[i] = start
  dates.start[i] = network.state[i] === State.Started ? network.actualStart[i]! : start
  dates.finish[i] = finish
  dates.beginCount[i] = network.calendar[i]!.countBefore(finish) - remaining
}

/** Whether an overriding `exactly` decides where the activity stands. */
export const isPinned = (network: Network, i: number): boolean =>
  network.startPin[i] !== NONE || network.finishPin[i] !== NONE

/** An overriding `not-after`: the earlier of logic and date. */
const cut = (network: Network, remaining: number, dates: EarlyDates, i: number): void => {
  const calendar = network.calendar[i]!
  const startCut = network.startCut[i]!
  const finishCut = network.finishCut[i]!
  if (startCut !== NONE && dates.begin[i]! > startCut) {
    dates.start[i] = dates.begin[i] = startCut
    dates.finish[i] = addWork(calendar, startCut, remaining)
  }
  if (finishCut !== NONE && dates.finish[i]! > finishCut) {
    dates.finish[i] = finishCut
    dates.start[i] = dates.begin[i] = subWork(calendar, finishCut, remaining)
  }
  dates.beginCount[i] = calendar.countBefore(dates.finish[i]!) - remaining
}

/** The latest early finish of the network, hammocks aside; the project's start for an empty one. */
export const latestFinish = (network: Network, dates: EarlyDates): number => {
  const { finish } = dates
  let latest = NONE
  for (let i = 0; i < finish.length; i++) if (finish[i]! > latest) latest = finish[i]!
  return latest === NONE ? network.projectStart : latest
}
