import { plainFigures } from './amounts.ts'
import { MAX_MINUTES } from '../plan/schema.ts'
import type { DayLengths } from '../plan/durations.ts'

const MINUS = '−'

/** "6 h", "1 h 15", "45 min". */
const hourWords = (minutes: number): string => {
  if (minutes < 60) return `${minutes} min`
  const rest = minutes % 60
  return `${Math.floor(minutes / 60)} h${rest === 0 ? '' : ` ${String(rest).padStart(2, '0')}`}`
}

/**
 * A number of working minutes in days and hours of its calendar, exactly: "11 d", "2.5 d", "2 d 1 h 15", "6 h", "−2.5 d".
 * Decimals appear only where two of them are exact, so nothing is rounded.
 */
export const durationWords = (minutes: number, lengths: Pick<DayLengths, 'dayMinutes'>): string => {
  if (minutes < 0) return MINUS + durationWords(-minutes, lengths)
  const { dayMinutes } = lengths
  if (minutes === 0) return '0 d'
  if (minutes % dayMinutes === 0) return `${minutes / dayMinutes} d`
  if (minutes < dayMinutes && minutes % 60 === 0) return hourWords(minutes)
  if ((minutes * 100) % dayMinutes === 0) return `${minutes / dayMinutes} d`
  if (minutes < dayMinutes) return hourWords(minutes)
  return `${Math.floor(minutes / dayMinutes)} d ${hourWords(minutes % dayMinutes)}`
}

/** Characters that a narrow column can show. */
const NARROW = 9

/** {@link durationWords} for a narrow column: what would not fit is rounded to a tenth of a day, from a hundred days on to a day, and says so with ≈. @param room - in characters */
export const shortDurationWords = (
  minutes: number,
  lengths: Pick<DayLengths, 'dayMinutes'>,
  room = NARROW,
): string => {
  const exact = durationWords(minutes, lengths)
  if (exact.length <= room) return exact
  const length = Math.abs(minutes) / lengths.dayMinutes
  const days = length.toFixed(length < 100 ? 1 : 0)
  return `≈${minutes < 0 ? MINUS : ''}${days} d`
}

/** What was understood of a typed duration, or why not. */
export type TypedDuration =
  { readonly ok: true; readonly minutes: number } | { readonly ok: false; readonly why: string }

const UNITS: Readonly<Record<string, 'minute' | 'hour' | 'day' | 'week'>> = {
  m: 'minute',
  min: 'minute',
  minute: 'minute',
  minutes: 'minute',
  h: 'hour',
  hour: 'hour',
  hours: 'hour',
  hrs: 'hour',
  d: 'day',
  day: 'day',
  days: 'day',
  w: 'week',
  wk: 'week',
  week: 'week',
  weeks: 'week',
}

/** Reads "10d", "6h", "2 d 4 h", "1.5 w", "3" (days), in working time of a calendar; "-" in front where leads are allowed. */
export const readDuration = (text: string, lengths: DayLengths): TypedDuration => {
  const trimmed = plainFigures(text.trim().toLowerCase().replaceAll('−', '-'))
  const sign = trimmed.startsWith('-') ? -1 : 1
  const body = trimmed.replace(/^[+-]\s*/, '')
  if (/^\d+(\.\d+)?$/.test(body)) return within(sign * Math.round(Number(body) * lengths.dayMinutes), text)
  const perUnit = { minute: 1, hour: 60, day: lengths.dayMinutes, week: lengths.weekMinutes }
  let minutes = 0
  let rest = body
  while (rest !== '') {
    const match = /^(\d+(?:\.\d+)?)\s*([a-z]+)?\s*/.exec(rest)
    const unit = match && (match[2] === undefined ? 'minute' : UNITS[match[2]])
    if (!match || !unit)
      return { ok: false, why: `“${text.trim()}” is not a duration; write for example 10d, 6h or 2d 4h` }
    minutes += Number(match[1]) * perUnit[unit]
    rest = rest.slice(match[0].length)
  }
  if (body === '') return { ok: false, why: 'write a duration, for example 10d or 6h' }
  return within(sign * Math.round(minutes), text)
}
const within = (minutes: number, text: string): TypedDuration =>
  Math.abs(minutes) > MAX_MINUTES
    ? { ok: false, why: `“${text.trim()}” is longer than 200 years; write a shorter one` }
    : { ok: true, minutes }

/** "7 h", "2 h 30", "45 min": a length on the clock, whatever a day is. */
export const hoursWords = (minutes: number): string => {
  const [hours, rest] = [Math.floor(minutes / 60), Math.round(minutes % 60)]
  if (rest === 0) return `${hours} h`
  return hours === 0 ? `${rest} min` : `${hours} h ${String(rest).padStart(2, '0')}`
}
