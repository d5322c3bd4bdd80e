import { civilDate, instantOf, MINUTES_PER_DAY, parseDate, weekdayOf } from './instant.ts'
import { firstCovering } from './firstCovering.ts'
import { parseShift, type Shift } from './shifts.ts'

export const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const
export type Weekday = (typeof WEEKDAYS)[number]
export type Week = Partial<Record<Weekday, readonly string[]>>

export interface CalendarException {
  readonly name?: string
  readonly from: string
  readonly to: string
  readonly yearly?: boolean
  readonly shifts: readonly string[]
}
export interface Season {
  readonly name?: string
  readonly from: string
  readonly to: string
  readonly yearly?: boolean
  readonly week: Week
}
export interface Rota {
  readonly from: string
  readonly on: number
  readonly off: number
}
/** The parts of a plan file's calendar that say when it works. */
export interface CalendarRule {
  readonly id: string
  /** What people call it, in what is said of it. */
  readonly name?: string
  readonly parent?: string | null
  readonly week?: Week | null
  readonly seasons?: readonly Season[]
  readonly rota?: Rota | null
  readonly windows?: readonly (readonly [string, string])[]
  readonly exceptions?: readonly CalendarException[]
}

/** Shifts of a day by its number, and why they hold (for the year planner and for explanations). */
export interface DayRule {
  readonly shifts: readonly Shift[]
  readonly source: 'exception' | 'season' | 'week' | 'rota'
  readonly name?: string
  readonly calendar: string
}

interface NamedRange {
  readonly from: string
  readonly to: string
  readonly yearly?: boolean
}
/**
 * The first of ranges of dates, or of days of the year (`05-01` … `09-30`; one that wraps covers the turn of the year), that holds a
 * day; -1 where none does.
 */
const firstHolding = (ranges: readonly NamedRange[]): ((day: number) => number) => {
  if (ranges.length === 0) return () => -1
  const dates = firstCovering(
    ranges.flatMap(({ from, to, yearly }, of) =>
      yearly ? [] : [{ first: dayOf(from), last: dayOf(to), of }],
    ),
  )
  const daysOfYear = firstCovering(
    ranges.flatMap(({ from, to, yearly }, of) => {
      if (!yearly) return []
      const [first, last] = [monthDayOf(from), monthDayOf(to)]
      return first <= last
        ? [{ first, last, of }]
        : [
            { first, last: LAST_MONTH_DAY, of },
            { first: 0, last, of },
          ]
    }),
  )
  if (!ranges.some(({ yearly }) => yearly)) return dates
  return (day) => {
    const civil = civilDate(day)
    const [a, b] = [dates(day), daysOfYear(civil.month * 100 + civil.day)]
    return a < 0 || (b >= 0 && b < a) ? b : a
  }
}
const LAST_MONTH_DAY = 1231
const dayOf = (date: string): number => Math.floor(instantOf(date, 'start') / MINUTES_PER_DAY)

/** 100 × month + day of `MM-DD` or `YYYY-MM-DD`. */
const monthDayOf = (text: string): number => {
  const parts = text.slice(0, 10).split('-')
  return Number(parts.at(-2)) * 100 + Number(parts.at(-1))
}

const parseShifts = (texts: readonly string[] | undefined): readonly Shift[] =>
  (texts ?? []).map((text) => {
    const shift = parseShift(text)
    if (!shift) throw new RangeError(`workingDays: "${text}" is not a shift`)
    return shift
  })

const parseWeek = (week: Week): readonly (readonly Shift[])[] => WEEKDAYS.map((day) => parseShifts(week[day]))

/**
 * The function from a day to its hours, for a calendar with its ancestors.
 * First that applies: own exceptions (later ones in the list first), the parents' exceptions (nearest first), own season,
 * own week; without an own week the parent's season and week. A rota then blanks its "off" days unless an exception set them.
 * Windows are not days and are left to {@link compileSegments}.
 * @param chain - the calendar, its parent, its parent's parent …; without loops
 */
export const dayRules = (chain: readonly CalendarRule[]): ((day: number) => DayRule) => {
  const exceptions = chain.flatMap(({ id, exceptions: own }) =>
    [...(own ?? [])].reverse().map((exception) => ({ ...exception, calendar: id })),
  )
  const exceptionOf = firstHolding(exceptions)
  const rules = exceptions.map(({ shifts, name, calendar }): DayRule => ({
    shifts: parseShifts(shifts),
    source: 'exception',
    name,
    calendar,
  }))
  const weekOwner = chain.findIndex((calendar) => calendar.week)
  // Seasons count from the calendar itself up to the first with a week of its own.
  const seasons = chain
    .slice(0, weekOwner < 0 ? chain.length : weekOwner + 1)
    .flatMap(({ id, seasons: own }) => (own ?? []).map((season) => ({ ...season, calendar: id })))
  const seasonOf = firstHolding(seasons)
  const weekCalendar = chain[Math.max(0, weekOwner)]!.id
  // Days of a kind share what they say: there are thousands of them.
  const inSeason = seasons.map(({ name, week, calendar }) =>
    parseWeek(week).map((shifts): DayRule => ({ shifts, source: 'season', name, calendar })),
  )
  const inWeek = parseWeek(chain[weekOwner]?.week ?? {}).map((shifts): DayRule => ({
    shifts,
    source: 'week',
    calendar: weekCalendar,
  }))
  const off: DayRule = { shifts: [], source: 'rota', calendar: weekCalendar }
  const isOff = rotaOff(
    chain.slice(0, weekOwner < 0 ? chain.length : weekOwner + 1).find((c) => c.rota)?.rota ?? null,
  )

  return (day) => {
    const exception = rules[exceptionOf(day)]
    if (exception) return exception
    if (isOff(day)) return off
    return (inSeason[seasonOf(day)] ?? inWeek)[weekdayOf(day)]!
  }
}

const rotaOff = (rota: Rota | null): ((day: number) => boolean) => {
  if (!rota) return () => false
  const start = Math.floor(instantOf(rota.from, 'start') / MINUTES_PER_DAY)
  const cycle = rota.on + rota.off
  return (day) => (((day - start) % cycle) + cycle) % cycle >= rota.on
}

/** True where the text can stand as `from` or `to` of a yearly range: `MM-DD`, or a whole date whose year is not read. */
export const isMonthDay = (text: string): boolean => {
  const short = /^\d{2}-\d{2}$/.test(text) ? `2000-${text}` : text
  return parseDate(short) !== null
}
