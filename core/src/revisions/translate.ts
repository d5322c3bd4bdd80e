import type { Activity, Link, Plan, PlanCalendar } from '../plan/schema.ts'
import type { Matching } from './matchRevisions.ts'

/** The later revision in the ids of the earlier, so that one can be compared with the other and its parts put into it. */
export interface Translated {
  /** Activities by id in the earlier revision; added ones under an id that is free there. */
  readonly activities: ReadonlyMap<string, Activity>
  readonly links: readonly Link[]
  readonly calendars: ReadonlyMap<string, PlanCalendar>
  readonly calendarId: (after: string) => string
  readonly lagOn: (rule: string) => string
}

export const translate = (before: Plan, after: Plan, matching: Matching): Translated => {
  const calendarIds = calendarMap(before, after)
  const calendarId = (id: string): string => calendarIds.get(id) ?? id
  const lagOn = (rule: string): string =>
    rule.startsWith('calendar:') ? `calendar:${calendarId(rule.slice('calendar:'.length))}` : rule
  const taken = new Set(before.activities.map((a) => a.id))
  const ids = new Map(matching.matched.map((m) => [m.after.id, m.before.id]))
  for (const { id } of matching.added) {
    let free = id
    while (taken.has(free)) free += '+'
    taken.add(free)
    ids.set(id, free)
  }
  const groups = new Set(before.groups.map((g) => g.id))
  const activities = new Map(
    after.activities.map((a): [string, Activity] => {
      const id = ids.get(a.id)!
      return [
        id,
        {
          ...a,
          id,
          calendar: a.calendar === null ? null : calendarId(a.calendar),
          group: a.group !== null && groups.has(a.group) ? a.group : null,
        },
      ]
    }),
  )
  const links = after.links.map((l): Link => ({
    ...l,
    from: ids.get(l.from)!,
    to: ids.get(l.to)!,
    lagOn: l.lagOn === null ? null : lagOn(l.lagOn),
  }))
  const calendars = new Map(
    after.calendars.map((c): [string, PlanCalendar] => [
      calendarId(c.id),
      { ...c, id: calendarId(c.id), parent: c.parent === null ? null : calendarId(c.parent) },
    ]),
  )
  return { activities, links, calendars, calendarId, lagOn }
}

/** Calendars pair by id, then by name. */
const calendarMap = (before: Plan, after: Plan): Map<string, string> => {
  const ids = new Set(before.calendars.map((c) => c.id))
  const byName = new Map(before.calendars.filter((c) => c.name !== '').map((c) => [c.name, c.id]))
  const used = new Set(after.calendars.map((c) => c.id).filter((id) => ids.has(id)))
  const map = new Map<string, string>()
  for (const { id, name } of after.calendars) {
    const other = byName.get(name)
    if (!ids.has(id) && other !== undefined && !used.has(other)) {
      map.set(id, other)
      used.add(other)
    } else map.set(id, id)
  }
  return map
}
