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

const MS_PER_DAY = 86_400_000
const EPOCH_MS = Date.UTC(FIRST_YEAR, 0, 1)

/** Day number (0 = 1950-01-01) of a civil date. */
export const dayNumber = (year: number, month: number, day: number): number =>
  Math.round((Date.UTC(year, month - 1, day) - EPOCH_MS) / MS_PER_DAY)

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

/** Civil date of a day number. */
export const civilDate = (day: number): CivilDate => {
  const date = new Date(EPOCH_MS + day * MS_PER_DAY)
  return {
    year: date.getUTCFullYear(),
    month: date.getUTCMonth() + 1,
    day: date.getUTCDate(),
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

const DATE = /^(\d{4})-(\d{2})-(\d{2})(?:T(\d{2}):(\d{2}))?$/

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
  const match = DATE.exec(text)
  if (!match) return null
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])]
  if (year < FIRST_YEAR || year > LAST_YEAR || month < 1 || month > 12 || day < 1) return null
  const number = dayNumber(year, month, day)
  const civil = civilDate(number)
  if (civil.month !== month || civil.day !== day) return null
  if (match[4] === undefined) return { at: number * MINUTES_PER_DAY, hasTime: false }
  const [hour, minute] = [Number(match[4]), Number(match[5])]
  if (minute > 59 || hour > 24 || (hour === 24 && minute > 0)) return null
  return { at: number * MINUTES_PER_DAY + hour * 60 + minute, hasTime: true }
}

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
