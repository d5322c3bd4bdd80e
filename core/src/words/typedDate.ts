import { civilDate, dayNumber, MINUTES_PER_DAY, parseDate, type Instant } from '../time/instant.ts'

/** What was understood of a typed date: as the plan file writes it, or why not. */
export type TypedDate =
  { readonly ok: true; readonly date: string } | { readonly ok: false; readonly why: string }

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
const DAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun']
const two = (n: number): string => String(n).padStart(2, '0')

/** Days that are said from the one on which they are typed. */
const FROM_TODAY: Readonly<Record<string, number>> = { yesterday: -1, today: 0, tomorrow: 1 }

/**
 * Reads "12 apr", "12 apr 2027 14:00", "tue 14:00", "next mon", "+3d", "tomorrow", "2027-04-12", "2027-04-12 14:00".
 * @param around - the date that is being changed, or the project's start: years left out and weekdays are looked for from here on
 * @param now - when it is typed, where it is typed
 */
export const readDate = (text: string, around: Instant, now: Date = new Date()): TypedDate => {
  const typed = text.trim().toLowerCase()
  const iso = typed.toUpperCase().replace(' ', 'T')
  if (parseDate(iso)) return { ok: true, date: iso }
  const match = /^(.*?)(?:[\s,]+(?:at\s+)?(\d{1,2})[:.](\d{2}))?$/.exec(typed)!
  const time = match[2] === undefined ? '' : `T${two(Number(match[2]))}:${match[3]}`
  const day = readDay(match[1]!.trim(), Math.floor(around / MINUTES_PER_DAY), now)
  const refused: TypedDate = {
    ok: false,
    why: `“${text.trim()}” is not a date; write for example 12 apr, tue 14:00, +3d or 2027-04-12`,
  }
  if (day === null) return refused
  const civil = civilDate(day)
  const date = `${civil.year}-${two(civil.month)}-${two(civil.day)}${time}`
  return parseDate(date) ? { ok: true, date } : refused
}

const readDay = (text: string, around: number, now: Date): number | null => {
  if (Object.hasOwn(FROM_TODAY, text))
    return dayNumber(now.getFullYear(), now.getMonth() + 1, now.getDate()) + FROM_TODAY[text]!
  const relative = /^([+-])\s*(\d{1,4})\s*(d|days?|w|weeks?)$/.exec(text)
  if (relative) {
    const days = Number(relative[2]) * (relative[3]!.startsWith('w') ? 7 : 1)
    return around + (relative[1] === '-' ? -days : days)
  }
  // "next mon" is after the date at hand; "mon" may be that date.
  const named = /^(next\s+)?([a-z]+)$/.exec(text)
  const weekday = named ? DAYS.indexOf(named[2]!.slice(0, 3)) : -1
  if (weekday >= 0) {
    const ahead = (weekday - civilDate(around).weekday + 7) % 7
    return around + (ahead === 0 && named![1] ? 7 : ahead)
  }
  const match = /^(?:[a-z]{2,9}\s+)?(\d{1,2})\.?\s*([a-z]{3,9})\.?(?:\s+(\d{4}|['’]\d{2}))?$/.exec(text)
  if (!match) return null
  const month = MONTHS.indexOf(match[2]!.slice(0, 3)) + 1
  if (month === 0) return null
  const date = Number(match[1])
  const near = civilDate(around)
  const inYear = (year: number): number => dayNumber(year, month, date)
  if (match[3]?.length === 4) return validDay(inYear(Number(match[3])), month, date)
  if (match[3] !== undefined) {
    // Of a year in two digits, the one nearest to the date at hand.
    const century = Math.round((near.year - Number(match[3].slice(1))) / 100) * 100
    return validDay(inYear(century + Number(match[3].slice(1))), month, date)
  }
  // Without a year: the one that brings it nearest to the date at hand.
  const options = [near.year - 1, near.year, near.year + 1].map(inYear)
  options.sort((a, b) => Math.abs(a - around) - Math.abs(b - around))
  return validDay(options[0]!, month, date)
}

const validDay = (day: number, month: number, date: number): number | null => {
  const civil = civilDate(day)
  return civil.month === month && civil.day === date ? day : null
}
