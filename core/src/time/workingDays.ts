import { civilDate, instantOf, MINUTES_PER_DAY, parseDate, weekdayOf } from './instant.ts'
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

type DateRange = (day: number, monthDay: number) => boolean

/** A range of dates, or of days of the year (`05-01` … `09-30`; one that wraps covers the turn of the year). */
const dateRange = (from: string, to: string, yearly: boolean): DateRange => {
  if (yearly) {
    const first = monthDayOf(from)
    const last = monthDayOf(to)
    return first <= last
      ? (_day, monthDay) => monthDay >= first && monthDay <= last
      : (_day, monthDay) => monthDay >= first || monthDay <= last
  }
  const first = instantOf(from, 'start') / MINUTES_PER_DAY
  const last = instantOf(to, 'start') / MINUTES_PER_DAY
  return (day) => day >= Math.floor(first) && day <= Math.floor(last)
}

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
  const exceptions = chain.flatMap((calendar) =>
    [...(calendar.exceptions ?? [])].reverse().map((exception) => ({
      covers: dateRange(exception.from, exception.to, exception.yearly ?? false),
      rule: {
        shifts: parseShifts(exception.shifts),
        source: 'exception',
        name: exception.name,
        calendar: calendar.id,
      } satisfies DayRule,
    })),
  )
  const weekOwner = chain.findIndex((calendar) => calendar.week)
  // Seasons count from the calendar itself up to the first with a week of its own.
  const seasonal = chain.slice(0, weekOwner < 0 ? chain.length : weekOwner + 1).flatMap((calendar) =>
    (calendar.seasons ?? []).map((season) => ({
      covers: dateRange(season.from, season.to, season.yearly ?? false),
      week: parseWeek(season.week),
      name: season.name,
      calendar: calendar.id,
    })),
  )
  const ownWeek = weekOwner < 0 ? [] : parseWeek(chain[weekOwner]!.week!)
  const weekCalendar = chain[Math.max(0, weekOwner)]!.id
  const isOff = rotaOff(
    chain.slice(0, weekOwner < 0 ? chain.length : weekOwner + 1).find((c) => c.rota)?.rota ?? null,
  )

  return (day) => {
    const civil = civilDate(day)
    const monthDay = civil.month * 100 + civil.day
    for (const { covers, rule } of exceptions) if (covers(day, monthDay)) return rule
    if (isOff(day)) return { shifts: [], source: 'rota', calendar: weekCalendar }
    for (const season of seasonal)
      if (season.covers(day, monthDay))
        return {
          shifts: season.week[civil.weekday]!,
          source: 'season',
          name: season.name,
          calendar: season.calendar,
        }
    return { shifts: ownWeek[weekdayOf(day)] ?? [], source: 'week', calendar: weekCalendar }
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
