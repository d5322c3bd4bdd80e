import type { SpannedCalendar } from '../time/calendar.ts'
import type { Asked } from './uses.ts'
import { AFTER_ALL, inOrder, type Sorted, type Turns, type WorkTimes } from './workTimes.ts'

/** A step function: `load[k]` from `from[k]` until the next step, 0 before and after. */
export interface Steps {
  readonly from: Int32Array
  readonly load: Float64Array
  readonly peak: number
}

/** Sums of fractions: what differs by less is equal. */
export const GRAIN = 1e-6
const rounded = (amount: number): number =>
  amount === Math.trunc(amount) ? amount : Math.round(amount / GRAIN) * GRAIN

/** Steps for which there is room at once: a megabyte and a half, of which only what is written takes memory. */
const AT_ONCE = 2 ** 17
/** Where steps are written: those of many resources one behind the other, as getting memory takes longer than finding them. */
export class StepRoom {
  from = new Int32Array(0)
  load = new Float64Array(0)
  /** Where the next ones begin. */
  begin = 0

  /** Makes sure that so many fit. The first time that is all there is; whoever comes back has many. */
  reserve(most: number): void {
    if (this.begin + most <= this.from.length) return
    const size = this.from.length === 0 ? most : Math.max(most, AT_ONCE)
    this.from = new Int32Array(size)
    this.load = new Float64Array(size)
    this.begin = 0
  }

  /** Those written up to a position. */
  take(end: number): Pick<Steps, 'from' | 'load'> {
    const begin = this.begin
    this.begin = end
    return { from: this.from.subarray(begin, end), load: this.load.subarray(begin, end) }
  }
}

/**
 * What is asked for over time. O(uses · log + turns of their calendars)
 * @param hours - within which it is asked for; null: at any
 * @param room - into which they are written
 */
export const stepsOf = (
  asked: Asked,
  times: WorkTimes,
  hours: SpannedCalendar | null,
  room = new StepRoom(),
  events: Sorted = eventsOf([asked])[0]!,
): Steps => {
  if (asked.from.length === 0) return NOTHING
  const isUsed = new Uint8Array(asked.calendars.length)
  for (let u = 0; u < asked.clock.length; u++) isUsed[asked.clock[u]!] = 1
  const { of, turns } = times.turnsOf(
    asked.calendars.filter((_, c) => isUsed[c] === 1),
    hours,
  )
  const setsOf = asked.calendars.map((calendar, c) =>
    isUsed[c] === 1 ? turns.setsWith[of.indexOf(calendar)]! : NO_SETS,
  )
  return sweep(asked, setsOf, turns, room, events)
}

/**
 * When each use begins (twice its position) and ends (one more), in order, for each of some askers. Sorted together: that takes half as
 * long as one after the other.
 */
export const eventsOf = (askers: readonly Asked[]): Sorted[] => {
  const count = askers.reduce((sum, { from }) => sum + from.length, 0)
  const times = new Int32Array(2 * count)
  const owner = new Int32Array(count)
  /** Where those of each begin, in times; and where the next of them goes, with a place for the end behind each. */
  const begin = new Int32Array(askers.length)
  const next = new Int32Array(askers.length)
  let u = 0
  askers.forEach(({ from, to }, a) => {
    begin[a] = 2 * u
    next[a] = 2 * u + a
    for (let k = 0; k < from.length; k++) {
      owner[u] = a
      times[2 * u] = from[k]!
      times[2 * u++ + 1] = to[k]!
    }
  })
  const sorted = inOrder(times)
  const at = new Int32Array(2 * count + askers.length).fill(AFTER_ALL)
  const which = new Int32Array(2 * count + askers.length)
  for (let e = 0; e < 2 * count; e++) {
    const event = sorted.which[e]!
    const a = owner[event >> 1]!
    const place = next[a]!++
    at[place] = sorted.at[e]!
    which[place] = event - begin[a]!
  }
  return askers.map(({ from }, a) => {
    const first = begin[a]! + a
    return {
      at: at.subarray(first, first + 2 * from.length + 1),
      which: which.subarray(first, first + 2 * from.length),
    }
  })
}

/** @param setsOf - of each calendar the sets of calendars at work in which it is */
const sweep = (
  { clock, amount }: Asked,
  setsOf: readonly Int32Array[],
  { at, set, sets }: Turns,
  room: StepRoom,
  { at: eventAt, which: what }: Sorted,
): Steps => {
  const sums = new Float64Array(sets)
  /** The sums, rounded: they change seldom, and are looked at with each turn. */
  const levels = new Float64Array(sets)
  room.reserve(at.length + eventAt.length)
  const { from: stepFrom, load } = room
  let [count, k, working] = [room.begin, turnAt(at, eventAt[0]!), 0]
  let [last, peak] = [0, 0]
  for (let e = 0; e < what.length;) {
    const t = eventAt[e]!
    for (; at[k]! < t; k++) {
      working = set[k]!
      const level = levels[working]!
      if (level === last) continue
      stepFrom[count] = at[k]!
      load[count++] = last = level
      if (level > peak) peak = level
    }
    if (at[k] === t) working = set[k++]!
    for (; eventAt[e] === t; e++) {
      const u = what[e]! >> 1
      const by = (what[e]! & 1) === 0 ? amount[u]! : -amount[u]!
      const own = setsOf[clock[u]!]!
      for (let s = 0; s < own.length; s++) {
        const one = own[s]!
        levels[one] = rounded((sums[one] = sums[one]! + by))
      }
    }
    const level = levels[working]!
    if (level === last) continue
    stepFrom[count] = t
    load[count++] = last = level
    if (level > peak) peak = level
  }
  return { ...room.take(count), peak }
}

/** Position of the last turn at or before a time, or of the first. */
const turnAt = (at: Int32Array, t: number): number => {
  let [low, high] = [0, at.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (at[middle]! <= t) low = middle
    else high = middle - 1
  }
  return low
}

const NO_SETS = new Int32Array(0)
const NOTHING: Steps = { from: new Int32Array(0), load: new Float64Array(0), peak: 0 }
