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

/** Times and positions in one number, so that they are sorted as numbers: 2^32 minutes and 2^21 positions are exact. */
const POSITIONS = 2 ** 21
/** After every instant. */
const AFTER_ALL = 2 ** 31 - 1

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
    const keys = new Float64Array(spans.reduce((sum, own) => sum + own.length, 0))
    let count = 0
    spans.forEach((own, c) => {
      for (let s = 0; s < own.length; s++)
        keys[count++] = (own[s]! - this.first) * POSITIONS + 2 * c + (s & 1)
    })
    return setsOver(inOrder(keys, this.first), spans.length)
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

export interface Sorted {
  /** With one time after all. */
  readonly at: Int32Array
  /** `2 × position` of what begins, and 1 more where it ends. */
  readonly what: Int32Array
}
/** Where something begins or ends, as a key that {@link inOrder} sorts. @param what - as in {@link Sorted} */
export const keyOf = (t: Instant, what: number, first: Instant): number => (t - first) * POSITIONS + what

/** @param keys - sorted in place */
export const inOrder = (keys: Float64Array, first: Instant): Sorted => {
  keys.sort()
  const sorted = { at: new Int32Array(keys.length + 1), what: new Int32Array(keys.length) }
  for (let k = 0; k < keys.length; k++) {
    const minutes = Math.floor(keys[k]! / POSITIONS)
    sorted.at[k] = minutes + first
    sorted.what[k] = keys[k]! - minutes * POSITIONS
  }
  sorted.at[keys.length] = AFTER_ALL
  return sorted
}

const setsOver = ({ at, what }: Sorted, calendars: number): Turns => {
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
