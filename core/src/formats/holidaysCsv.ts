import type { PlanCalendar } from '../plan/schema.ts'
import { writeCsv } from './writeCsv.ts'

/**
 * Named days of a calendar as CSV (RFC 4180): first and last day, name, "every year" where they recur, hours where work is done.
 * Days that recur carry a year all the same, since spreadsheets know no others. Cells that would begin a formula are written as text.
 */
export const holidaysCsv = (exceptions: PlanCalendar['exceptions']): string => {
  const day = (text: string): string => (text.length === 5 ? `2000-${text}` : text.slice(0, 10))
  const rows = exceptions.map((e) => [
    day(e.from),
    day(e.to),
    e.name ?? '',
    e.yearly ? 'every year' : '',
    e.shifts.join(' '),
  ])
  return writeCsv([['first day', 'last day', 'name', 'recurs', 'hours'], ...rows])
}
