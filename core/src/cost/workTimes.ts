import { jointSpans } from '../time/jointSpans.ts'
import type { SpannedCalendar } from '../time/calendar.ts'
import type { Instant, WorkMinutes } from '../time/instant.ts'

/** Which of some calendars work from an instant on, in order of time, with one entry after all. */
export interface Turns {
  readonly at: Int32Array
  /** The set of those that work. */
  readonly set: Int32Array
  readonly sets: number
  /** The sets in which a calendar is. */
  readonly setsWith: readonly Int32Array[]
}

/** After every instant. */
export const AFTER_ALL = 2 ** 31 - 1

/** Stretches are kept in whole ones of so many minutes, some year: an edit that moves the finish rarely asks for others. */
const STRETCH = 2 ** 19
/** Sets of calendars that are kept. */
const MOST_TURNS = 64

/** When calendars work in a stretch of time, within the hours of others; kept, as resources share them. */
export class WorkTimes {
  readonly first: Instant
  private readonly last: Instant
  private readonly works = new WeakMap<SpannedCalendar, Map<SpannedCalendar | null, JointWork>>()
  private readonly places = new WeakMap<SpannedCalendar, number>()
  private placed = 0
  private readonly turns = new Map<string, Turns>()

  private constructor(first: Instant, last: Instant) {
    this.first = first
    this.last = last
  }

  private static kept: WorkTimes | null = null
  /** Those of a stretch of time, or of a longer one: the last are kept, as calendars outlive an edit. */
  static over(first: Instant, last: Instant): WorkTimes {
    const { kept } = WorkTimes
    if (
      kept &&
      kept.first <= first &&
      last <= kept.last &&
      kept.last - kept.first <= last - first + 4 * STRETCH
    )
      return kept
    return (WorkTimes.kept = new WorkTimes(
      Math.floor(first / STRETCH) * STRETCH,
      Math.ceil(last / STRETCH) * STRETCH,
    ))
  }

  /** @param hours - null: at any hour */
  workOf(calendar: SpannedCalendar, hours: SpannedCalendar | null): JointWork {
    let own = this.works.get(calendar)
    if (!own) this.works.set(calendar, (own = new Map()))
    let work = own.get(hours)
    if (!work) {
      const spans = jointSpans(hours ? [calendar, hours] : [calendar], this.first, this.last)
      own.set(hours, (work = new JointWork(spans)))
    }
    return work
  }

  /** When which of some calendars work. In one order for all, so that who uses the same calendars shares their turns. */
  turnsOf(
    calendars: readonly SpannedCalendar[],
    hours: SpannedCalendar | null,
  ): { readonly of: readonly SpannedCalendar[]; readonly turns: Turns } {
    const of = [...calendars].sort((a, b) => this.placeOf(a) - this.placeOf(b))
    const key = [
      hours === null ? -1 : this.placeOf(hours),
      ...of.map((calendar) => this.placeOf(calendar)),
    ].join()
    let turns = this.turns.get(key)
    if (!turns) {
      if (this.turns.size >= MOST_TURNS) this.turns.clear()
      this.turns.set(key, (turns = this.findTurns(of.map((one) => this.workOf(one, hours).spans))))
    }
    return { of, turns }
  }

  private placeOf(calendar: SpannedCalendar): number {
    let place = this.places.get(calendar)
    if (place === undefined) this.places.set(calendar, (place = this.placed++))
    return place
  }

  private findTurns(spans: readonly Int32Array[]): Turns {
    const count = spans.reduce((sum, own) => sum + own.length, 0)
    const [times, whats] = [new Int32Array(count), new Int32Array(count)]
    let begin = 0
    spans.forEach((own, c) => {
      times.set(own, begin)
      for (let s = 0; s < own.length; s++) whats[begin++] = 2 * c + (s & 1)
    })
    const { at, which } = inOrder(times)
    return setsOver(
      at,
      which.map((k) => whats[k]!),
      spans.length,
    )
  }
}

/** Working time of calendars together: starts and ends in turns. */
export class JointWork {
  readonly spans: Int32Array
  /** Minutes before each span. */
  private readonly before: Float64Array

  constructor(spans: Int32Array) {
    this.spans = spans
    this.before = new Float64Array(spans.length / 2 + 1)
    for (let s = 0; s < spans.length; s += 2)
      this.before[s / 2 + 1] = this.before[s / 2]! + spans[s + 1]! - spans[s]!
  }

  /** All of it. */
  get minutes(): WorkMinutes {
    return this.before.at(-1)!
  }

  /** Minutes of work before an instant. O(log spans) */
  minutesBefore(t: Instant): WorkMinutes {
    const { spans, before } = this
    let [low, high] = [0, spans.length >> 1]
    while (low < high) {
      const middle = (low + high) >> 1
      if (spans[2 * middle + 1]! <= t) low = middle + 1
      else high = middle
    }
    return before[low]! + (2 * low < spans.length ? Math.max(0, t - spans[2 * low]!) : 0)
  }
}

/** Instants in order, with one after all; equal ones in the order in which they stood. */
export interface Sorted {
  readonly at: Int32Array
  /** Where each stood. */
  readonly which: Int32Array
}
const DIGIT = 12
/**
 * Sorts by digits, the last first: some hundred instants a resource, of which a sort by comparing takes longer. O(instants)
 * @see Knuth 1998, "The Art of Computer Programming", vol. 3, section 5.2.5
 */
export const inOrder = (times: Int32Array): Sorted => {
  const n = times.length
  let [first, last] = [AFTER_ALL, -AFTER_ALL]
  for (let k = 0; k < n; k++) {
    const t = times[k]!
    if (t < first) first = t
    if (t > last) last = t
  }
  let which = new Int32Array(n)
  let other = new Int32Array(n)
  for (let k = 0; k < n; k++) which[k] = k
  for (let shift = 0; n > 1 && (last - first) >>> shift > 0; shift += DIGIT) {
    const begin = new Int32Array((1 << DIGIT) + 1)
    for (let k = 0; k < n; k++) begin[(((times[k]! - first) >>> shift) & MASK) + 1]!++
    for (let digit = 0; digit < MASK; digit++) begin[digit + 1]! += begin[digit]!
    for (let k = 0; k < n; k++) {
      const one = which[k]!
      other[begin[((times[one]! - first) >>> shift) & MASK]!++] = one
    }
    ;[which, other] = [other, which]
  }
  const at = new Int32Array(n + 1)
  for (let k = 0; k < n; k++) at[k] = times[which[k]!]!
  at[n] = AFTER_ALL
  return { at, which }
}
const MASK = (1 << DIGIT) - 1

const setsOver = (at: Int32Array, what: Int32Array, calendars: number): Turns => {
  const works = new Uint8Array(calendars)
  const known = new Map<string | number, number>()
  // As the bits of a number, where there are few: as text it takes ten times as long.
  let bits = 0
  const key = (): string | number => (calendars <= 30 ? bits : String(works))
  known.set(key(), 0)
  const setsWith = Array.from({ length: calendars }, (): number[] => [])
  const turns = { at: new Int32Array(at.length), set: new Int32Array(what.length) }
  let count = 0
  for (let k = 0; k < what.length;) {
    const t = at[k]!
    for (; k < what.length && at[k] === t; k++) {
      works[what[k]! >> 1] = 1 - (what[k]! & 1)
      bits ^= 1 << (what[k]! >> 1)
    }
    let set = known.get(key())
    if (set === undefined) {
      known.set(key(), (set = known.size))
      for (let c = 0; c < calendars; c++) if (works[c] === 1) setsWith[c]!.push(set)
    }
    turns.at[count] = t
    turns.set[count++] = set
  }
  turns.at[count] = AFTER_ALL
  return {
    at: turns.at.slice(0, count + 1),
    set: turns.set.slice(0, count),
    sets: known.size,
    setsWith: setsWith.map((sets) => Int32Array.from(sets)),
  }
}
