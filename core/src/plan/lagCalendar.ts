import { CLOCK_ID } from '../time/calendar.ts'
import type { Project } from './schema.ts'

/** Calendar of an activity: its own, else the project's. */
export const calendarOf = (
  project: Pick<Project, 'calendar'>,
  activity: { calendar: string | null },
): string => activity.calendar ?? project.calendar

/** Calendar on which a link's lag counts: its own rule, else the project's. */
export const lagCalendarOf = (
  project: Pick<Project, 'calendar' | 'lagOn'>,
  link: { lagOn: string | null },
  from: { calendar: string | null } | undefined,
  to: { calendar: string | null } | undefined,
): string => {
  const rule = link.lagOn ?? project.lagOn
  switch (rule) {
    case 'from':
      return from ? calendarOf(project, from) : project.calendar
    case 'to':
      return to ? calendarOf(project, to) : project.calendar
    case 'project':
      return project.calendar
    case 'clock':
      return CLOCK_ID
    default:
      return rule.slice('calendar:'.length)
  }
}
