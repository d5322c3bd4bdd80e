import { instantOf } from '../time/instant.ts'
import { instantWords } from '../words/dates.ts'

/** A date as text, days, or money. */
export type ScaleValue = string | number

/** How values of one unit lie on an axis. */
export interface ValueScale {
  readonly isDate: boolean
  /** Milliseconds of a date, an amount as it is. */
  at(value: ScaleValue): number
  /** The value again. */
  place(at: number): ScaleValue
  words(value: ScaleValue): string
  /** Where the bin begins that holds a value: whole days for dates, of finishes the day that they end. */
  binAt(value: ScaleValue, width: number): number
  /** Widths of bins to choose from; the first that makes few enough. */
  binWidth(span: number, most: number): number
}

export const DAY_MS = 86_400_000
const iso = (ms: number): string => new Date(ms).toISOString().slice(0, 16)
const dateAt = (value: ScaleValue): number => Date.parse(`${value}:00Z`)

export const DATE_SCALE: ValueScale = {
  isDate: true,
  at: dateAt,
  place: iso,
  words: (value) => instantWords(instantOf(String(value), 'start'), 'finish', { time: false }),
  // A finish at 24:00 belongs to the day that it ends.
  binAt: (value) => Math.floor((dateAt(value) - 60_000) / DAY_MS) * DAY_MS,
  binWidth: (span, most) =>
    DAY_MS * ([1, 2, 3, 7, 14, 28, 56].find((days) => span / (days * DAY_MS) <= most) ?? 112),
}

/** @param words - of an amount */
export const amountScale = (words: (amount: number) => string): ValueScale => ({
  isDate: false,
  at: Number,
  place: (at) => at,
  words: (value) => words(Number(value)),
  binAt: (value, width) => Math.floor(Number(value) / width) * width,
  binWidth: (span, most) => {
    const power = 10 ** Math.floor(Math.log10(Math.max(1e-9, span / most)))
    return [1, 2, 5, 10].map((k) => k * power).find((width) => span / width <= most) ?? 10 * power
  },
})
