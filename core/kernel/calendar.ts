import { NONE, rowOf } from './layout'

/** The two primitives of a calendar, over its tables (src/time/calendar.ts says what they hold). */

/** Table of a calendar: in words, so laid out by the owner. */
@unmanaged export class Table {
  /** 1 for the calendar in which every minute works: it has no segments. */
  isClock: i32
  /** Instants from … to − 1 that the table knows. */
  lowMinute: i32
  highMinute: i32
  /** Working counts that it knows. */
  lowCount: i32
  highCount: i32
  lowBucket: i32
  /** Of each segment its start, its end, the working minutes before it, and nothing. */
  segments: usize
  firstOfSpan: usize
  firstOfBucket: usize
  /** Days that it can lose, others in each column; −1: none ever. Counts below `knownTo` have no further days before them. */
  days: i32
  knownTo: i32
  /** Count at which the first of them begins; counts at which each begins and ends. */
  dayLow: i32
  dayBegin: usize
  dayEnd: usize
  /** The first day to look at, by steps of the count. */
  dayGuide: usize
  /** Lost minutes before each day, and before the next: rows by column. */
  lostRows: usize
}
const TABLE_BYTES: usize = 64
const BUCKET_SHIFT: i32 = 6
const SPAN_SHIFT: i32 = 8
const DAY_SHIFT: i32 = 9

/** Where the tables begin. */
export let tables: usize = 0
/** Whether something was asked that a table does not reach: what was computed is then of no use. */
export let beyondTable: bool = false

export function clearBeyond(): void {
  beyondTable = false
}
export function goneBeyond(): void {
  beyondTable = true
}

@inline export function tableAt(which: i32): Table {
  return changetype<Table>(tables + <usize>which * TABLE_BYTES)
}

/** Working minutes before an instant that a table knows. @param first - of its spans; its first step is rarely too short, and not guessed */
@inline function countIn(segments: usize, first: usize, low: i32, t: i32): i32 {
  const k = load<i32>(first + ((<usize>((t - low) >> SPAN_SHIFT)) << 2))
  let at = segments + ((<usize>k) << 4)
  at += (<usize>(load<i32>(at, 4) <= t)) << 4
  while (load<i32>(at, 4) <= t) at += 16
  const into = t - load<i32>(at)
  return load<i32>(at, 8) + (into & ~(into >> 31))
}

/** Beginning of the working minute with a count that a table knows. @param first - of its buckets, from the count `low` on */
@inline function minuteIn(segments: usize, first: usize, low: i32, count: i32): i32 {
  const k = load<i32>(first + ((<usize>((count - low) >> BUCKET_SHIFT)) << 2))
  let at = segments + ((<usize>k) << 4)
  at += (<usize>(load<i32>(at, 24) <= count)) << 4
  while (load<i32>(at, 24) <= count) at += 16
  return load<i32>(at) + count - load<i32>(at, 8)
}

@inline function plainCount(table: Table, t: i32): i32 {
  if (table.isClock) return t
  if (t < table.lowMinute || t >= table.highMinute) {
    beyondTable = true
    return 0
  }
  return countIn(table.segments, table.firstOfSpan, table.lowMinute, t)
}

@inline function plainMinute(table: Table, count: i32): i32 {
  if (table.isClock) return count
  if (count < table.lowCount || count >= table.highCount) {
    beyondTable = true
    return 0
  }
  return minuteIn(table.segments, table.firstOfBucket, table.lowBucket, count)
}

/** Number of days that can be lost and begin before a count. */
function daysBefore(table: Table, count: i32): i32 {
  const days = table.days
  if (days == 0 || count <= table.dayLow) return 0
  if (count > load<i32>(table.dayBegin + ((<usize>(days - 1)) << 2))) return days
  let day = load<i32>(table.dayGuide + ((<usize>((count - table.dayLow) >> DAY_SHIFT)) << 2))
  while (day < days && load<i32>(table.dayBegin + ((<usize>day) << 2)) < count) day++
  return day
}

/** Minutes lost before a day in a column. @param at - the column, in bytes of a row */
@inline function lostBefore(table: Table, day: i32, at: usize): i32 {
  return load<i32>(rowOf(table.lostRows, day) + at)
}

function lessLost(table: Table, count: i32, at: usize): i32 {
  if (count >= table.knownTo) {
    beyondTable = true
    return 0
  }
  const day = daysBefore(table, count)
  if (day == 0) return count
  const lost = lostBefore(table, day - 1, at)
  if (lostBefore(table, day, at) == lost) return count - lost
  const last = (<usize>(day - 1)) << 2
  return count - lost - (min(count, load<i32>(table.dayEnd + last)) - load<i32>(table.dayBegin + last))
}

function beyondLost(table: Table, count: i32, at: usize): i32 {
  // Each day lost moves what comes after it, until none of them begins before the minute found.
  let own = count
  while (own < table.knownTo) {
    const moved = count + lostBefore(table, daysBefore(table, own + 1), at)
    if (moved == own) return plainMinute(table, own)
    own = moved
  }
  beyondTable = true
  return 0
}

/** Whether the counts of a calendar differ from column to column. */
@inline export function losesDays(table: Table): bool {
  return table.days >= 0
}

/** Working minutes before an instant. @param at - the column, in bytes of a row */
@inline export function countBefore(table: Table, t: i32, at: usize): i32 {
  const count = plainCount(table, t)
  return table.days < 0 ? count : lessLost(table, count, at)
}

/** Beginning of the working minute with that count before it. @param at - the column, in bytes of a row */
@inline export function minuteAt(table: Table, count: i32, at: usize): i32 {
  return table.days < 0 ? plainMinute(table, count) : beyondLost(table, count, at)
}

/** The end of the n-th working minute at or after `t`; `t` for n = 0. */
@inline export function addWork(table: Table, t: i32, n: i32, at: usize): i32 {
  return n == 0 ? t : minuteAt(table, countBefore(table, t, at) + n - 1, at) + 1
}

/** The beginning of the n-th working minute before `t`; `t` for n = 0. */
@inline export function subWork(table: Table, t: i32, n: i32, at: usize): i32 {
  return n == 0 ? t : minuteAt(table, countBefore(table, t, at) - n, at)
}

/** Adds a lag, or takes off a lead (negative). */
@inline export function shiftWork(table: Table, t: i32, lag: i32, at: usize): i32 {
  return lag >= 0 ? addWork(table, t, lag, at) : subWork(table, t, -lag, at)
}

@inline export function nextWork(table: Table, t: i32, at: usize): i32 {
  return minuteAt(table, countBefore(table, t, at), at)
}

/** `t` if the minute before it works, else the next working minute. */
export function settle(table: Table, t: i32, at: usize): i32 {
  const count = countBefore(table, t, at)
  return count != countBefore(table, t - 1, at) ? t : minuteAt(table, count, at)
}

/** Whether it is but a table: no clock, and the same in all columns. Then a row can be looked up with what it says at hand. */
@inline function isPlain(table: Table): bool {
  return !table.isClock && table.days < 0
}

/** into = max(into, working minutes before the instants + by), over the row; what is not there limits nothing. */
export function raiseCounts(table: Table, instants: usize, by: i32, into: usize, width: i32): void {
  const end = (<usize>width) << 2
  if (isPlain(table)) {
    const segments = table.segments
    const first = table.firstOfSpan
    const low = table.lowMinute
    const reach = <u32>(table.highMinute - low)
    for (let at: usize = 0; at < end; at += 4) {
      const t = load<i32>(instants + at)
      if (<u32>(t - low) >= reach) {
        if (t != NONE) beyondTable = true
        continue
      }
      store<i32>(into + at, max(load<i32>(into + at), countIn(segments, first, low, t) + by))
    }
    return
  }
  for (let at: usize = 0; at < end; at += 4) {
    const t = load<i32>(instants + at)
    if (t != NONE) store<i32>(into + at, max(load<i32>(into + at), countBefore(table, t, at) + by))
  }
}

/** into = max(into, dates with a lag other than 0 counted on its calendar), over the row; what is not there limits nothing. */
export function raiseShifted(table: Table, dates: usize, lag: i32, into: usize, width: i32): void {
  const end = (<usize>width) << 2
  if (isPlain(table)) {
    const segments = table.segments
    const firstOfSpan = table.firstOfSpan
    const firstOfBucket = table.firstOfBucket
    const lowMinute = table.lowMinute
    const lowBucket = table.lowBucket
    const lowCount = table.lowCount
    const minutes = <u32>(table.highMinute - lowMinute)
    const counts = <u32>(table.highCount - lowCount)
    // A lag ends behind its last minute, a lead before its first.
    const behind = <i32>(lag > 0)
    for (let at: usize = 0; at < end; at += 4) {
      const t = load<i32>(dates + at)
      if (<u32>(t - lowMinute) >= minutes) {
        if (t != NONE) beyondTable = true
        continue
      }
      const count = countIn(segments, firstOfSpan, lowMinute, t) + lag - behind
      if (<u32>(count - lowCount) >= counts) beyondTable = true
      else store<i32>(into + at, max(load<i32>(into + at), minuteIn(segments, firstOfBucket, lowBucket, count) + behind))
    }
    return
  }
  for (let at: usize = 0; at < end; at += 4) {
    const date = load<i32>(dates + at)
    if (date != NONE) store<i32>(into + at, max(load<i32>(into + at), shiftWork(table, date, lag, at)))
  }
}

/** Beginnings of the working minutes with the counts of a row. */
export function minutesAt(table: Table, counts: usize, into: usize, width: i32): void {
  const end = (<usize>width) << 2
  if (isPlain(table)) {
    const segments = table.segments
    const first = table.firstOfBucket
    const lowBucket = table.lowBucket
    const low = table.lowCount
    const reach = <u32>(table.highCount - low)
    for (let at: usize = 0; at < end; at += 4) {
      const count = load<i32>(counts + at)
      if (<u32>(count - low) >= reach) beyondTable = true
      else store<i32>(into + at, minuteIn(segments, first, lowBucket, count))
    }
    return
  }
  for (let at: usize = 0; at < end; at += 4) store<i32>(into + at, minuteAt(table, load<i32>(counts + at), at))
}

/** Ends of the work that is left from the counts of a row on; where none is, the beginning of the minute with that count. */
export function endsAt(table: Table, counts: usize, left: usize, into: usize, width: i32): void {
  const end = (<usize>width) << 2
  if (isPlain(table)) {
    const segments = table.segments
    const first = table.firstOfBucket
    const lowBucket = table.lowBucket
    const low = table.lowCount
    const reach = <u32>(table.highCount - low)
    for (let at: usize = 0; at < end; at += 4) {
      const minutes = load<i32>(left + at)
      const worked = <i32>(minutes > 0)
      const count = load<i32>(counts + at) + max(minutes, 0) - worked
      if (<u32>(count - low) >= reach) beyondTable = true
      else store<i32>(into + at, minuteIn(segments, first, lowBucket, count) + worked)
    }
    return
  }
  for (let at: usize = 0; at < end; at += 4) {
    const minutes = load<i32>(left + at)
    const worked = <i32>(minutes > 0)
    store<i32>(into + at, minuteAt(table, load<i32>(counts + at) + max(minutes, 0) - worked, at) + worked)
  }
}
