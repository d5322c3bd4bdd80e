import { hoursAlone, type CalendarHours, type CalendarsOfPlan } from './calendarCopies.ts'

/** A calendar that other plans have, once for all that say the same under the same name. */
export interface LibraryCalendar {
  readonly name: string
  readonly hours: CalendarHours
  /** Where it stands; a copy is taken from the first. */
  readonly from: readonly { readonly in: CalendarsOfPlan; readonly calendarId: string }[]
}

/**
 * The calendars of other plans that this one does not have yet, by name.
 * @param plans - all plans with their calendars, this one too
 * @param planId - this plan
 */
export const calendarLibrary = (plans: readonly CalendarsOfPlan[], planId: string): LibraryCalendar[] => {
  const own = new Set<string>()
  const found = new Map<string, { name: string; hours: CalendarHours; from: { in: CalendarsOfPlan; calendarId: string }[] }>()
  for (const each of [...plans].sort((a, b) => Number(b.planId === planId) - Number(a.planId === planId)))
    for (const { id, name } of each.calendars) {
      const hours = hoursAlone(each.calendars, id)
      const key = JSON.stringify([name, hours])
      if (each.planId === planId) own.add(key)
      if (own.has(key)) continue
      const known = found.get(key)
      if (known) known.from.push({ in: each, calendarId: id })
      else found.set(key, { name, hours, from: [{ in: each, calendarId: id }] })
    }
  return [...found.values()].sort((a, b) => a.name.localeCompare(b.name))
}
