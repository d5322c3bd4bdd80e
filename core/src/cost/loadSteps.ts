import { jointSpans } from '../time/jointSpans.ts'
import type { SpannedCalendar } from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'

/** A step function: `load[k]` from `from[k]` until the next step, 0 before and after. */
export interface Steps {
  readonly from: Int32Array
  readonly load: Float64Array
  readonly peak: number
}
/** Something that is asked for from one instant to another, while a calendar works. */
export interface Asked {
  readonly amount: number
  readonly calendar: SpannedCalendar
  readonly from: Instant
  readonly to: Instant
}

/** Sums of fractions: what differs by less is equal. */
export const GRAIN = 1e-6
const rounded = (amount: number): number => Math.round(amount / GRAIN) * GRAIN

/** Times and positions in one number, so that they are sorted as numbers: 2^32 minutes and 2^21 positions are exact. */
const POSITIONS = 2 ** 21
/** After every instant. */
const AFTER_ALL = 2 ** 31 - 1

/** Which of some calendars work from an instant on, in order of time, with one entry after all. */
interface Turns {
  readonly at: Int32Array
  /** The set of those that work. */
  readonly set: Int32Array
  readonly sets: number
  /** The sets in which a calendar is. */
  readonly setsWith: readonly (readonly number[])[]
}

/** When calendars work in a stretch of time, within the hours of others; kept, as resources share them. */
export class WorkTimes {
  private readonly first: Instant
  private readonly last: Instant
  private readonly spans = new Map<SpannedCalendar, Map<SpannedCalendar | null, Int32Array>>()
  private readonly order = new Map<SpannedCalendar, number>()
  private readonly turns = new Map<
    SpannedCalendar | null,
    { of: readonly SpannedCalendar[]; turns: Turns }[]
  >()

  /** Steps while they are found. */
  private from = new Int32Array(0)
  private load = new Float64Array(0)

  constructor(first: Instant, last: Instant) {
    this.first = first
    this.last = last
  }

  spansOf(calendar: SpannedCalendar, hours: SpannedCalendar | null): Int32Array {
    let own = this.spans.get(calendar)
    if (!own) this.spans.set(calendar, (own = new Map()))
    let spans = own.get(hours)
    if (!spans)
      own.set(hours, (spans = jointSpans(hours ? [calendar, hours] : [calendar], this.first, this.last)))
    return spans
  }

  /** What is asked for over time. O(uses · log + turns of their calendars) */
  steps(asked: readonly Asked[], hours: SpannedCalendar | null): Steps {
    if (asked.length === 0) return NOTHING
    const used: SpannedCalendar[] = []
    const clock = new Uint16Array(asked.length)
    for (let u = 0; u < asked.length; u++) {
      const { calendar } = asked[u]!
      const known = used.indexOf(calendar)
      clock[u] = known >= 0 ? known : used.push(calendar) - 1
    }
    // In one order for all, so that who uses the same calendars shares their turns.
    for (const calendar of used) if (!this.order.has(calendar)) this.order.set(calendar, this.order.size)
    const calendars = [...used].sort((a, b) => this.order.get(a)! - this.order.get(b)!)
    const position = used.map((calendar) => calendars.indexOf(calendar))
    for (let u = 0; u < clock.length; u++) clock[u] = position[clock[u]!]!
    return this.sweep(asked, clock, this.turnsOf(calendars, hours))
  }

  private turnsOf(calendars: readonly SpannedCalendar[], hours: SpannedCalendar | null): Turns {
    let known = this.turns.get(hours)
    if (!known) this.turns.set(hours, (known = []))
    const same = known.find(
      ({ of }) => of.length === calendars.length && of.every((calendar, c) => calendar === calendars[c]),
    )
    if (same) return same.turns
    const spans = calendars.map((calendar) => this.spansOf(calendar, hours))
    const keys = new Float64Array(spans.reduce((sum, own) => sum + own.length, 0))
    let count = 0
    spans.forEach((own, c) => {
      for (let s = 0; s < own.length; s++)
        keys[count++] = (own[s]! - this.first) * POSITIONS + 2 * c + (s & 1)
    })
    const turns = setsOver(this.inOrder(keys), calendars.length)
    known.push({ of: calendars, turns })
    return turns
  }

  private sweep(asked: readonly Asked[], clock: Uint16Array, { at, set, sets, setsWith }: Turns): Steps {
    const events = new Float64Array(2 * asked.length)
    for (let u = 0; u < asked.length; u++) {
      events[2 * u] = (asked[u]!.from - this.first) * POSITIONS + 2 * u
      events[2 * u + 1] = (asked[u]!.to - this.first) * POSITIONS + 2 * u + 1
    }
    const { at: eventAt, what: event } = this.inOrder(events)
    const sums = new Float64Array(sets)
    this.makeRoom(at.length + eventAt.length)
    const { from, load } = this
    let [count, k, e, working] = [0, 0, 0, 0]
    let [last, peak] = [0, 0]
    while (e < event.length) {
      const t = at[k]! < eventAt[e]! ? at[k]! : eventAt[e]!
      for (; eventAt[e] === t && e < event.length; e++) {
        const u = event[e]! >> 1
        const by = (event[e]! & 1) === 0 ? asked[u]!.amount : -asked[u]!.amount
        const own = setsWith[clock[u]!]!
        for (let s = 0; s < own.length; s++) sums[own[s]!]! += by
      }
      if (at[k] === t) working = set[k++]!
      const sum = sums[working]!
      const change = sum - last
      if (change < GRAIN / 2 && change > -GRAIN / 2) continue
      last = rounded(sum)
      from[count] = t
      load[count++] = last
      if (last > peak) peak = last
    }
    return { from: from.slice(0, count), load: load.slice(0, count), peak }
  }

  /** Times and positions in order, with one time after all. */
  private inOrder(keys: Float64Array): Sorted {
    keys.sort()
    const sorted = { at: new Int32Array(keys.length + 1), what: new Int32Array(keys.length) }
    for (let k = 0; k < keys.length; k++) {
      const minutes = Math.floor(keys[k]! / POSITIONS)
      sorted.at[k] = minutes + this.first
      sorted.what[k] = keys[k]! - minutes * POSITIONS
    }
    sorted.at[keys.length] = AFTER_ALL
    return sorted
  }

  private makeRoom(steps: number): void {
    if (this.from.length >= steps) return
    this.from = new Int32Array(2 * steps)
    this.load = new Float64Array(2 * steps)
  }
}

interface Sorted {
  readonly at: Int32Array
  /** `2 × position` of what begins, and 1 more where it ends. */
  readonly what: Int32Array
}

const setsOver = ({ at, what }: Sorted, calendars: number): Turns => {
  const works = new Uint8Array(calendars)
  const known = new Map<string | number, number>()
  // As the bits of a number, where there are few: as text it takes ten times as long.
  let bits = 0
  const keyOf = (): string | number => (calendars <= 30 ? bits : String(works))
  known.set(keyOf(), 0)
  const setsWith = Array.from({ length: calendars }, (): number[] => [])
  const turns = { at: new Int32Array(at.length), set: new Int32Array(what.length) }
  let count = 0
  for (let k = 0; k < what.length;) {
    const t = at[k]!
    for (; k < what.length && at[k] === t; k++) {
      works[what[k]! >> 1] = 1 - (what[k]! & 1)
      bits ^= 1 << (what[k]! >> 1)
    }
    const key = keyOf()
    let set = known.get(key)
    if (set === undefined) {
      known.set(key, (set = known.size))
      for (let c = 0; c < calendars; c++) if (works[c] === 1) setsWith[c]!.push(set)
    }
    turns.at[count] = t
    turns.set[count++] = set
  }
  turns.at[count] = AFTER_ALL
  return { at: turns.at.slice(0, count + 1), set: turns.set.slice(0, count), sets: known.size, setsWith }
}

const NOTHING: Steps = { from: new Int32Array(0), load: new Float64Array(0), peak: 0 }
