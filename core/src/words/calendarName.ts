import { CLOCK_ID } from '../time/calendar.ts'
import type { PlanCalendar } from '../plan/schema.ts'

/** A calendar of the plan by its name. */
export const calendarName = (id: string, calendars: Iterable<Pick<PlanCalendar, 'id' | 'name'>>): string =>
  id === CLOCK_ID ? 'round the clock' : [...calendars].find((c) => c.id === id)?.name || id
