import { removeCalendar } from '../../plan/calendarEdits.ts'
import type { Plan } from '../../plan/schema.ts'
import { NOTHING, type Check, type Found } from '../check.ts'

/** Calendars that the project, an activity, a lag, a resource or another calendar counts on. */
const usedCalendars = ({ project, activities, links, calendars, resources }: Plan): ReadonlySet<string> => {
  const used = new Set([project.calendar])
  const addRule = (rule: string | null): void => {
    if (rule?.startsWith('calendar:')) used.add(rule.slice('calendar:'.length))
  }
  addRule(project.lagOn)
  for (const { calendar } of activities) if (calendar !== null) used.add(calendar)
  for (const { lagOn } of links) addRule(lagOn)
  for (const { calendar } of resources) if (calendar !== null) used.add(calendar)
  for (const { parent } of calendars) if (parent !== null) used.add(parent)
  return used
}

/** Calendars that nothing uses. */
export const unusedCalendar: Check = {
  id: 'unused-calendar',
  topic: 'Calendars',
  title: 'Calendars that nothing uses',
  clean: 'every calendar is used',
  why: 'A calendar without a user is a trap: someone will change it and wonder why nothing moves.',
  of: 'calendars',
  bias: null,
  limit: null,
  find({ plan }) {
    const used = usedCalendars(plan)
    return plan.calendars.flatMap((calendar): Found[] => {
      const removal = used.has(calendar.id) ? '' : removeCalendar(plan, calendar.id)
      if (typeof removal === 'string') return NOTHING
      return [
        {
          place: calendar.id,
          facts: { calendar: calendar.name },
          severity: 'caution',
          activities: [],
          links: [],
          calendars: [calendar.id],
          message: `${calendar.name || calendar.id} is used by nothing`,
          value: 1,
          threshold: 0,
          effect: { kind: 'none' },
          repairs: [{ kind: 'remove', label: 'Remove the calendar', change: removal }],
        },
      ]
    })
  },
}
