import { civilDate, instantOf, MINUTES_PER_DAY, parseDate, type Instant } from '../time/instant.ts'
import { formatClock } from '../time/shifts.ts'

const WEEKDAY = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const
export const MONTH = [
  'Jan',
  'Feb',
  'Mar',
  'Apr',
  'May',
  'Jun',
  'Jul',
  'Aug',
  'Sep',
  'Oct',
  'Nov',
  'Dec',
] as const

/** Beyond this a day and a month alone may mean two dates. */
const UNCLEAR_FROM = 330 * MINUTES_PER_DAY
let saysYears = false

/**
 * Dates are said without their year as long as a plan lies within one; of a longer one all dates say it, as "17 May ’28". Set where a
 * plan is shown, for all words that are made there from then on: one format for the whole of a plan.
 * @returns whether years are said
 */
export const sayYearsOf = (start: Instant, finish: Instant): boolean =>
  (saysYears = finish - start > UNCLEAR_FROM)

/** The latest date of a plan that is shown: of its finish and the one that is required. */
export const spanEnd = (projectFinish: Instant, requiredFinish: string | null): Instant =>
  requiredFinish === null ? projectFinish : Math.max(projectFinish, instantOf(requiredFinish, 'finish'))

/** Makes words with the years said that a plan needs, whatever others are made with. */
export const withYearsOf = <T>(start: Instant, finish: Instant, make: () => T): T => {
  const before = saysYears
  sayYearsOf(start, finish)
  try {
    return make()
  } finally {
    saysYears = before
  }
}

/** What {@link sayYearsOf} adds to a date. */
export const SHORT_YEAR = / ’\d{2}(?!\d)/g
const shortYear = (year: number): string => ` ’${String(year % 100).padStart(2, '0')}`

/** "Mon 17 May 06:30"; a finish at midnight is "24:00" of the day that it ends. */
export const instantWords = (
  at: Instant,
  edge: 'start' | 'finish' = 'start',
  { year = false, time = true } = {},
): string => {
  let day = Math.floor(at / MINUTES_PER_DAY)
  let minute = at - day * MINUTES_PER_DAY
  if (edge === 'finish' && minute === 0) {
    day -= 1
    minute = MINUTES_PER_DAY
  }
  const civil = civilDate(day)
  const date = `${WEEKDAY[civil.weekday]} ${civil.day} ${MONTH[civil.month - 1]}${year ? ` ${civil.year}` : saysYears ? shortYear(civil.year) : ''}`
  return time ? `${date} ${formatClock(minute)}` : date
}

/** Words for a date as the file writes it: without a time it stays without one. */
export const dateWords = (
  text: string,
  edge: 'start' | 'finish' = 'start',
  options: { year?: boolean } = {},
): string => {
  const parsed = parseDate(text)
  if (!parsed) return text
  return parsed.hasTime
    ? instantWords(parsed.at, edge, options)
    : instantWords(parsed.at, 'start', { ...options, time: false })
}

/** "17 May", or "17 May ’28". */
export const shortDay = (at: Instant, edge: 'start' | 'finish' = 'start'): string => {
  const day = Math.floor((edge === 'finish' ? at - 1 : at) / MINUTES_PER_DAY)
  const civil = civilDate(day)
  return `${civil.day} ${MONTH[civil.month - 1]}${saysYears ? shortYear(civil.year) : ''}`
}

/** "6 May", "6 May 2027", "26 Jul to 8 Aug 2027"; days that recur every year are written without one ("05-06"). */
export const daysWords = (from: string, to: string): string => {
  const words = (text: string, withYear: boolean): string => {
    const [, year, month, day] = /^(?:(\d{4})-)?(\d{2})-(\d{2})/.exec(text) ?? []
    if (month === undefined) return text
    return `${Number(day)} ${MONTH[Number(month) - 1]}${withYear && year !== undefined ? ` ${year}` : ''}`
  }
  if (from === to) return words(from, true)
  return `${words(from, from.slice(0, 4) !== to.slice(0, 4))} to ${words(to, true)}`
}
