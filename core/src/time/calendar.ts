import {
  END_DAY,
  FIRST_DAY,
  FIRST_YEAR,
  formatInstant,
  instantOf,
  LAST_YEAR,
  MINUTES_PER_DAY,
  type Instant,
  type WorkMinutes,
} from './instant.ts'
import { dayRules, type CalendarRule, type DayRule } from './workingDays.ts'
import type { Shift } from './shifts.ts'

/** A calendar has no working time within 50 years of the instant asked for, or the count leads outside 1950–2150. */
export class CalendarError extends Error {
  override name = 'CalendarError'
  readonly calendar: string
  /** Id of the activity that asked, where it is known. */
  readonly activity: string | null
  constructor(calendar: string, message: string, activity: string | null = null) {
    super(message)
    this.calendar = calendar
    this.activity = activity
  }
}

const SEARCH_YEARS = 50
const SEARCH_DAYS = SEARCH_YEARS * 366
/** Days compiled at a time when a table grows. */
const GROWTH_DAYS = 3 * 366
/** Working counts are bucketed by 2^6 minutes: shifts are rarely shorter, so one step past the bucket is usual. */
const BUCKET_SHIFT = 6
/** Instants are bucketed by 2^8 minutes: in so short a span one segment ends at most, unless shifts are very short. */
const SPAN_SHIFT = 8

/**
 * A calendar: a set of working minutes, with exact arithmetic in constant time.
 *
 * Two primitives carry everything else: {@link countBefore} (how many working minutes precede an instant) and
 * {@link minuteAt} (where a working minute begins). Counts are relative to an anchor of the calendar's own, so only
 * differences of counts mean something.
 */
export interface Calendar {
  readonly id: string
  /** Working minutes before `t`, counted from the anchor (negative before it). */
  countBefore(t: Instant): WorkMinutes
  /** Beginning of the working minute with that count before it. @throws CalendarError */
  minuteAt(count: WorkMinutes): Instant
  /** The first working minute that begins at or after `t`, with the count before it: both primitives for one look-up. */
  firstStart(t: Instant, spot: Spot): void
  /** The latest end of work at or before `t`, with the count before it. @throws CalendarError */
  lastEnd(t: Instant, spot: Spot): void
}

/** A calendar of a plan, whose working time can also be walked span by span. */
export interface SpannedCalendar extends Calendar {
  /**
   * The first span of working time that ends after `t`, as far as the table of the calendar goes: the next may follow without a break.
   * @throws CalendarError
   */
  nextSpan(t: Instant, span: Span): void
}

/** Working time without a break, filled by {@link SpannedCalendar.nextSpan}. */
export interface Span {
  start: Instant
  end: Instant
}

/** Filled by {@link Calendar.firstStart} and {@link Calendar.lastEnd}, so that the passes allocate nothing. */
export interface Spot {
  count: WorkMinutes
  at: Instant
  /** Whether the minute that begins at the instant asked for works. */
  isWorking: boolean
}

/**
 * The working segments of a calendar as far as they are compiled, for who reads them without asking: segment k works start[k] … end[k] − 1
 * with before[k] minutes before it, a sentinel comes last. See {@link compileCalendar} for what the rest indexes.
 */
export interface CalendarTable {
  readonly start: Int32Array
  readonly end: Int32Array
  readonly before: Int32Array
  readonly firstOfSpan: Int32Array
  readonly firstOfBucket: Int32Array
  /** Instants and counts that it knows: low … high − 1. */
  readonly lowMinute: Instant
  readonly highMinute: Instant
  readonly lowCount: WorkMinutes
  readonly highCount: WorkMinutes
  readonly lowBucket: WorkMinutes
}

/** Start and end of the sentinel: after every instant, and far enough from the edge of 32 bits to be subtracted. */
const BEYOND = 1 << 30

/** The built-in calendar in which every minute works. */
export const CLOCK_ID = 'clock'
const clockSpot = (t: Instant, spot: Spot): void => {
  spot.count = t as number
  spot.at = t
  spot.isWorking = true
}
export const clockCalendar: SpannedCalendar = {
  id: CLOCK_ID,
  countBefore: (t) => t as number,
  minuteAt: (count) => count as number,
  firstStart: clockSpot,
  lastEnd: clockSpot,
  nextSpan: (t, span) => {
    span.start = t
    span.end = BEYOND
  },
}
/** 1 if a ≤ b, else 0, without a branch; for numbers whose difference fits in 32 bits. */
const isAtMost = (a: number, b: number): number => (a - b - 1) >>> 31
/** x where it is positive, else 0, without a branch. */
const positive = (x: number): number => x & ~(x >> 31)

/**
 * Table of the working segments of a calendar, compiled for the days around an anchor and grown when asked beyond.
 * Layout: segment k works [start[k], end[k]) with before[k] minutes before it, and a sentinel comes last; `firstOfSpan[s]`
 * is the first segment that ends after span s of 256 minutes began; `firstOfBucket[b]` the segment that holds count b·64.
 * The step past the bucket is an addition, not a branch: which way it goes is a coin that no processor guesses, and the
 * passes toss it some million times: 14 ns a look-up over 100,000 activities where branches cost 29.
 */
class CompiledCalendar implements SpannedCalendar {
  readonly id: string
  private readonly ruleOfDay: (day: number) => DayRule
  private readonly called: string
  private readonly windows: readonly (readonly [Instant, Instant])[]
  private readonly anchorDay: number
  private lowDay: number
  private highDay: number
  private lowMinute = 0
  private highMinute = 0
  private start: Int32Array = new Int32Array(1)
  private end: Int32Array = new Int32Array(1)
  private before: Int32Array = new Int32Array(1)
  private firstOfSpan: Int32Array = new Int32Array(0)
  private firstOfBucket: Int32Array = new Int32Array(0)
  private lowBucket = 0
  private lowCount = 0
  private highCount = 0

  constructor(id: string, chain: readonly CalendarRule[], anchorDay: number) {
    this.id = id
    this.called = chain[0]?.name || id
    this.ruleOfDay = dayRules(chain)
    this.windows = chain
      .slice(0, chain.findIndex((c) => c.windows?.length) + 1)
      .flatMap((c) => c.windows ?? [])
      .map(([from, to]) => [instantOf(from, 'start'), instantOf(to, 'finish')] as const)
      .sort((a, b) => a[0] - b[0])
    this.anchorDay = anchorDay
    this.lowDay = Math.max(FIRST_DAY, anchorDay - 366)
    this.highDay = Math.min(END_DAY, anchorDay + GROWTH_DAYS)
    this.compile()
  }

  /** As it is now: it may grow when more is asked. */
  table(): CalendarTable {
    const { start, end, before, firstOfSpan, firstOfBucket } = this
    const { lowMinute, highMinute, lowCount, highCount, lowBucket } = this
    return {
      start,
      end,
      before,
      firstOfSpan,
      firstOfBucket,
      lowMinute,
      highMinute,
      lowCount,
      highCount,
      lowBucket,
    }
  }

  /** The first segment that ends after `t`; the number of segments where there is none in the table. */
  private segmentAfter(t: Instant): number {
    if (t < this.lowMinute || t >= this.highMinute) this.growTo(Math.floor(t / MINUTES_PER_DAY))
    let k = this.firstOfSpan[(t - this.lowMinute) >> SPAN_SHIFT]!
    const end = this.end
    k += isAtMost(end[k]!, t)
    while (end[k]! <= t) k++
    return k
  }

  countBefore(t: Instant): WorkMinutes {
    const k = this.segmentAfter(t)
    return this.before[k]! + positive(t - this.start[k]!)
  }

  firstStart(t: Instant, spot: Spot): void {
    const k = this.segmentAfter(t)
    const start = this.start[k]!
    if (start === BEYOND) {
      spot.count = this.highCount
      spot.at = this.minuteAt(spot.count)
      spot.isWorking = false
      return
    }
    const into = t - start
    spot.isWorking = into >= 0
    spot.at = start + positive(into)
    spot.count = this.before[k]! + positive(into)
  }

  lastEnd(t: Instant, spot: Spot): void {
    const k = this.segmentAfter(t)
    const into = t - this.start[k]!
    spot.isWorking = into >= 0
    if (into > 0) {
      spot.count = this.before[k]! + into
      spot.at = t
      return
    }
    const count = this.before[k]!
    spot.at = k > 0 ? this.end[k - 1]! : this.minuteAt(count - 1) + 1
    spot.count = count
  }

  nextSpan(t: Instant, span: Span): void {
    let k = this.segmentAfter(t)
    if (this.start[k]! === BEYOND) k = this.segmentAfter(this.minuteAt(this.highCount))
    span.start = this.start[k]!
    span.end = this.end[k]!
  }

  minuteAt(count: WorkMinutes): Instant {
    if (count >= this.highCount || count < this.lowCount) this.growToCount(count)
    let k = this.firstOfBucket[(count - this.lowBucket) >> BUCKET_SHIFT]!
    const before = this.before
    k += isAtMost(before[k + 1]!, count)
    while (before[k + 1]! <= count) k++
    return this.start[k]! + count - before[k]!
  }

  private growTo(day: number): void {
    if (day < FIRST_DAY || day >= END_DAY)
      throw new CalendarError(
        this.id,
        `a date on calendar "${this.called}" leads outside ${FIRST_YEAR}–${LAST_YEAR}; shorten a duration or lag, or move a date`,
      )
    this.lowDay = Math.max(FIRST_DAY, Math.min(this.lowDay, day - 366))
    this.highDay = Math.min(END_DAY, Math.max(this.highDay, day + GROWTH_DAYS))
    this.compile()
  }

  /** Grows until the count is inside; gives up after 50 years without a working minute, or at the end of time. */
  private growToCount(count: WorkMinutes): void {
    let idleDays = 0
    while (count >= this.highCount || count < this.lowCount) {
      const forward = count >= this.highCount
      const isAtEnd = forward ? this.highDay >= END_DAY : this.lowDay <= FIRST_DAY
      if (isAtEnd || idleDays > SEARCH_DAYS) throw this.outOfWork(forward, idleDays)
      const countAtEdge = forward ? this.highCount : this.lowCount
      // Grow by the span compiled so far, so that huge durations need few rounds.
      const step = Math.max(GROWTH_DAYS, Math.min(SEARCH_DAYS, this.highDay - this.lowDay))
      if (forward) this.highDay = Math.min(END_DAY, this.highDay + step)
      else this.lowDay = Math.max(FIRST_DAY, this.lowDay - step)
      this.compile()
      idleDays = countAtEdge === (forward ? this.highCount : this.lowCount) ? idleDays + step : 0
    }
  }

  private outOfWork(forward: boolean, idleDays: number): CalendarError {
    const n = this.end.length - 1
    const edge = n === 0 ? this.anchorDay * MINUTES_PER_DAY : forward ? this.end[n - 1]! : this.start[0]!
    return new CalendarError(
      this.id,
      idleDays > 0 || n === 0
        ? `calendar "${this.called}" has no working time within ${SEARCH_YEARS} years ${forward ? 'after' : 'before'} ${formatInstant(edge)}; give it hours there`
        : `counting on calendar "${this.called}" leads outside ${FIRST_YEAR}–${LAST_YEAR}; shorten the duration or lag, or move the date`,
    )
  }

  private compile(): void {
    const segments = compileSegments(this.ruleOfDay, this.windows, this.lowDay, this.highDay)
    const n = segments.length / 2
    const start = new Int32Array(n + 1).fill(BEYOND)
    const end = new Int32Array(n + 1).fill(BEYOND)
    const before = new Int32Array(n + 1)
    const anchor = this.anchorDay * MINUTES_PER_DAY
    let beforeAnchor = 0
    for (let k = 0; k < n; k++) {
      start[k] = segments[2 * k]!
      end[k] = segments[2 * k + 1]!
      before[k + 1] = before[k]! + end[k]! - start[k]!
      beforeAnchor += Math.max(0, Math.min(end[k]!, anchor) - start[k]!)
    }
    for (let k = 0; k <= n; k++) before[k]! -= beforeAnchor
    this.start = start
    this.end = end
    this.before = before
    this.lowMinute = this.lowDay * MINUTES_PER_DAY
    this.highMinute = this.highDay * MINUTES_PER_DAY
    this.lowCount = before[0]!
    this.highCount = before[n]!
    this.firstOfSpan = indexSpans(end, this.lowMinute, this.highMinute)
    this.lowBucket = this.lowCount
    this.firstOfBucket = indexBuckets(before, this.lowBucket)
  }
}

/** Working segments of the days [lowDay, highDay) as a flat list of starts and ends, sorted, merged and clipped. */
const compileSegments = (
  ruleOfDay: (day: number) => DayRule,
  windows: readonly (readonly [Instant, Instant])[],
  lowDay: number,
  highDay: number,
): number[] => {
  const low = lowDay * MINUTES_PER_DAY
  const high = highDay * MINUTES_PER_DAY
  const out: number[] = []
  const push = (from: number, to: number): void => {
    const start = Math.max(from, low)
    const end = Math.min(to, high)
    if (end <= start) return
    const last = out.length - 1
    if (last > 0 && start <= out[last]!) {
      if (end > out[last]!) out[last] = end
    } else out.push(start, end)
  }
  // Windows and night shifts are merged in order of their start: a day's shifts are sorted, windows are sorted.
  let w = 0
  const first = Math.max(FIRST_DAY, lowDay - 1)
  for (let day = first; day < highDay; day++) {
    const midnight = day * MINUTES_PER_DAY
    for (const [from, to] of inOrder(ruleOfDay(day).shifts)) {
      while (w < windows.length && windows[w]![0] <= midnight + from) push(...windows[w++]!)
      push(midnight + from, midnight + to)
    }
    while (w < windows.length && windows[w]![0] < midnight + MINUTES_PER_DAY) push(...windows[w++]!)
  }
  return out
}

/** Most are written in order. */
const inOrder = (shifts: readonly Shift[]): readonly Shift[] =>
  shifts.every(([from], k) => k === 0 || shifts[k - 1]![0] <= from)
    ? shifts
    : [...shifts].sort((a, b) => a[0] - b[0])

const indexSpans = (end: Int32Array, low: number, high: number): Int32Array => {
  const index = new Int32Array(((high - low) >> SPAN_SHIFT) + 1)
  let k = 0
  for (let s = 0; s < index.length; s++) {
    const from = low + (s << SPAN_SHIFT)
    while (end[k]! <= from) k++
    index[s] = k
  }
  return index
}

const indexBuckets = (before: Int32Array, lowCount: number): Int32Array => {
  const n = before.length - 1
  const index = new Int32Array(((before[n]! - lowCount) >> BUCKET_SHIFT) + 1)
  let k = 0
  for (let b = 0; b < index.length; b++) {
    const count = lowCount + (b << BUCKET_SHIFT)
    while (k < n && before[k + 1]! <= count) k++
    index[b] = k
  }
  return index
}

/**
 * Compiles a calendar with its ancestors.
 * @param chain - the calendar, its parent, the parent's parent …, without loops
 * @param around - the instant near which most questions will be asked (the project's start)
 */
export const compileCalendar = (chain: readonly CalendarRule[], around: Instant): SpannedCalendar =>
  new CompiledCalendar(chain[0]!.id, chain, Math.floor(around / MINUTES_PER_DAY))

/** Iterations whose lost days stand beside each other. */
export const COLUMNS = 128

/** Days of a calendar that it can lose whole, others in each of several iterations; in order. */
export interface LostDays {
  /** Working counts, of the calendar as it is without them, at which the work of each day begins and ends. */
  readonly begin: readonly WorkMinutes[]
  readonly end: readonly WorkMinutes[]
  /** Counts below this have no further days before them than are known. */
  readonly knownTo: WorkMinutes
  /** Looks at further days until one begins at or after an instant. */
  reachUntil(t: Instant): void
  /** Lost minutes before each day, and before the next: by day × {@link COLUMNS} + column of the iterations drawn. */
  lostBefore(): Int32Array
}

/** A calendar that loses days. */
export interface LosingCalendar extends SpannedCalendar {
  readonly lostDays: LostDays
  /** Table of what it is without them. */
  table(): CalendarTable | typeof CLOCK_ID | null
}
const isLosing = (calendar: Calendar): calendar is LosingCalendar => 'lostDays' in calendar

/** The days that a calendar can lose; null for the most. */
export const lostDaysOf = (calendar: Calendar): LostDays | null =>
  isLosing(calendar) ? calendar.lostDays : null

/** The table of a calendar as it is now, without days lost; `clock` where every minute works; null where a calendar has none. */
export const tableOf = (calendar: Calendar): CalendarTable | typeof CLOCK_ID | null => {
  if (calendar === clockCalendar) return CLOCK_ID
  return calendar instanceof CompiledCalendar || isLosing(calendar) ? calendar.table() : null
}
