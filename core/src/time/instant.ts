/**
 * Wall-clock instants: whole minutes since 1950-01-01T00:00, no time zone, no daylight saving.
 * 1950 … 2150 fits comfortably in a signed 32-bit integer.
 */
declare const unit: unique symbol
type Quantity<U extends string> = number & { readonly [unit]?: U }

/** Minutes since 1950-01-01T00:00. */
export type Instant = Quantity<'instant'>
/** Minutes in which a stated calendar works. */
export type WorkMinutes = Quantity<'work-minutes'>

export const MINUTES_PER_DAY = 1440
export const FIRST_YEAR = 1950
export const LAST_YEAR = 2150

const EPOCH_MS = Date.UTC(FIRST_YEAR, 0, 1)

/** Days before 1950-01-01 from the first of March in the year 0, from which years are counted so that leap days come last. */
const DAYS_BEFORE_EPOCH = 712_163
const DAYS_IN_400_YEARS = 146_097

/**
 * Day number (0 = 1950-01-01) of a civil date; a day beyond the end of its month goes on into the next.
 * @see Hinnant 2013, "chrono-Compatible Low-Level Date Algorithms", `days_from_civil`
 */
export const dayNumber = (year: number, month: number, day: number): number => {
  const since = month > 2 ? year : year - 1
  const era = Math.floor(since / 400)
  const yearOfEra = since - era * 400
  const dayOfYear = Math.floor((153 * (month > 2 ? month - 3 : month + 9) + 2) / 5) + day - 1
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear
  return era * DAYS_IN_400_YEARS + dayOfEra - DAYS_BEFORE_EPOCH
}

/** The minute of a clock that counts milliseconds since 1970, read without a zone. */
export const fromUnixTime = (ms: number): Instant => Math.floor((ms - EPOCH_MS) / 60_000)

/** First and first-after-last day number that dates may have. */
export const FIRST_DAY = 0
export const END_DAY = dayNumber(LAST_YEAR + 1, 1, 1)

export interface CivilDate {
  readonly year: number
  readonly month: number
  readonly day: number
  /** 0 = Monday … 6 = Sunday. */
  readonly weekday: number
}

/** Civil date of a day number. @see dayNumber: `civil_from_days` */
export const civilDate = (day: number): CivilDate => {
  const since = day + DAYS_BEFORE_EPOCH
  const era = Math.floor(since / DAYS_IN_400_YEARS)
  const dayOfEra = since - era * DAYS_IN_400_YEARS
  const yearOfEra = Math.floor(
    (dayOfEra -
      Math.floor(dayOfEra / 1460) +
      Math.floor(dayOfEra / 36_524) -
      Math.floor(dayOfEra / 146_096)) /
      365,
  )
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const fromMarch = Math.floor((5 * dayOfYear + 2) / 153)
  const month = fromMarch < 10 ? fromMarch + 3 : fromMarch - 9
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * fromMarch + 2) / 5) + 1,
    weekday: weekdayOf(day),
  }
}

/** Weekday of a day number, 0 = Monday. 1950-01-01 was a Sunday. */
export const weekdayOf = (day: number): number => (((day + 6) % 7) + 7) % 7

const two = (n: number): string => (n < 10 ? '0' : '') + n

/** `YYYY-MM-DDTHH:MM`. */
export const formatInstant = (t: Instant): string => {
  const day = Math.floor(t / MINUTES_PER_DAY)
  const minute = t - day * MINUTES_PER_DAY
  const { year, month, day: d } = civilDate(day)
  return `${year}-${two(month)}-${two(d)}T${two(Math.floor(minute / 60))}:${two(minute % 60)}`
}

/** What a date text says: its instant at the beginning of the minute or day, and whether a time was given. */
export interface ParsedDate {
  readonly at: Instant
  readonly hasTime: boolean
}

/**
 * Reads `YYYY-MM-DD` or `YYYY-MM-DDTHH:MM` (`24:00` is the end of that day).
 * @returns null if the text is no such date or lies outside 1950–2150
 */
export const parseDate = (text: string): ParsedDate | null => {
  const hasTime = text.length === 16
  if (!hasTime && text.length !== 10) return null
  if (text.charCodeAt(4) !== HYPHEN || text.charCodeAt(7) !== HYPHEN) return null
  const [year, month, day] = [digits(text, 0, 4), digits(text, 5, 7), digits(text, 8, 10)]
  if (!(year >= FIRST_YEAR && year <= LAST_YEAR && month >= 1 && month <= 12 && day >= 1)) return null
  if (!(day <= lastOfMonth(year, month))) return null
  const at = dayNumber(year, month, day) * MINUTES_PER_DAY
  if (!hasTime) return { at, hasTime }
  if (text[10] !== 'T' || text[13] !== ':') return null
  const [hour, minute] = [digits(text, 11, 13), digits(text, 14, 16)]
  if (!(minute <= 59 && hour <= 24 && (hour < 24 || minute === 0))) return null
  return { at: at + hour * 60 + minute, hasTime }
}

const HYPHEN = 45
const ZERO = 48
/** The number that digits of a text say; NaN where one is none. Plans have tens of thousands of dates. */
const digits = (text: string, from: number, to: number): number => {
  let number = 0
  for (let at = from; at < to; at++) {
    const digit = text.charCodeAt(at) - ZERO
    if (!(digit >= 0 && digit <= 9)) return NaN
    number = number * 10 + digit
  }
  return number
}

const lastOfMonth = (year: number, month: number): number =>
  month === 2
    ? year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0)
      ? 29
      : 28
    : month === 4 || month === 6 || month === 9 || month === 11
      ? 30
      : 31

/** Which end of a day a date without a time stands for: the beginning for a start, 24:00 for a finish. */
export type Edge = 'start' | 'finish'

/**
 * Instant that a date of the plan file means on an edge.
 * @throws RangeError for a text that {@link parseDate} refuses: a caller's bug, since plans are validated on the way in
 */
export const instantOf = (text: string, edge: Edge): Instant => {
  const parsed = parseDate(text)
  if (!parsed) throw new RangeError(`instantOf: "${text}" is not a date`)
  return parsed.hasTime || edge === 'start' ? parsed.at : parsed.at + MINUTES_PER_DAY
}
