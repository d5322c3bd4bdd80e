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
 * @param others - other plans with their calendars @param own - the calendars of this plan
 */
export const calendarLibrary = (
  others: readonly CalendarsOfPlan[],
  own: CalendarsOfPlan['calendars'],
): LibraryCalendar[] => {
  const keyOf = (name: string, hours: CalendarHours): string => JSON.stringify([name, hours])
  const known = new Set(own.map(({ id, name }) => keyOf(name, hoursAlone(own, id))))
  const found = new Map<
    string,
    { name: string; hours: CalendarHours; from: { in: CalendarsOfPlan; calendarId: string }[] }
  >()
  for (const plan of others)
    for (const { id, name } of plan.calendars) {
      const hours = hoursAlone(plan.calendars, id)
      const key = keyOf(name, hours)
      if (known.has(key)) continue
      const same = found.get(key)
      if (same) same.from.push({ in: plan, calendarId: id })
      else found.set(key, { name, hours, from: [{ in: plan, calendarId: id }] })
    }
  return [...found.values()].sort((a, b) => a.name.localeCompare(b.name))
}
