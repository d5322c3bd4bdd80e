import { DEFAULT_LENGTHS } from './durations.ts'
import { parseShift } from '../time/shifts.ts'
import { WEEKDAYS, type Week } from '../time/workingDays.ts'
import type { PlanCalendar } from './schema.ts'

/** Working minutes of a day's shifts. */
export const shiftMinutes = (shifts: readonly string[]): number =>
  shifts.reduce((sum, text) => {
    const shift = parseShift(text)
    return sum + (shift ? shift[1] - shift[0] : 0)
  }, 0)

/** What a day and a week of these hours count as: the length that most working days have, and all of them. */
export const weekLengths = (week: Week): { dayMinutes: number; weekMinutes: number } => {
  const days = WEEKDAYS.map((day) => shiftMinutes(week[day] ?? [])).filter((minutes) => minutes > 0)
  const often = new Map<number, number>()
  for (const minutes of days) often.set(minutes, (often.get(minutes) ?? 0) + 1)
  const [usual] = [...often].sort((a, b) => b[1] - a[1] || b[0] - a[0])
  return {
    dayMinutes: usual?.[0] ?? DEFAULT_LENGTHS.dayMinutes,
    weekMinutes: Math.max(
      1,
      days.reduce((sum, minutes) => sum + minutes, 0),
    ),
  }
}

/** What the hours of a calendar count as: those of its ordinary week, else of its first season that has any; null where it has none of its own. */
export const paintedLengths = ({
  week,
  seasons,
}: Pick<PlanCalendar, 'week' | 'seasons'>): { dayMinutes: number; weekMinutes: number } | null => {
  const painted = [week ?? {}, ...seasons.map((season) => season.week)].find((hours) =>
    WEEKDAYS.some((day) => shiftMinutes(hours[day] ?? []) > 0),
  )
  return painted ? weekLengths(painted) : null
}
