import type { Item } from './change.ts'
import type { Plan, PlanCalendar } from './schema.ts'

/** Everything that says when a calendar works, with what it inherits taken in. */
export type CalendarHours = Pick<
  PlanCalendar,
  'week' | 'seasons' | 'rota' | 'windows' | 'exceptions' | 'dayMinutes' | 'weekMinutes'
>
const FIELDS = ['week', 'seasons', 'rota', 'windows', 'exceptions', 'dayMinutes', 'weekMinutes'] as const

/** Where a copied calendar came from, and what it said then. */
export interface CalendarOrigin {
  readonly planId: string
  readonly plan: string
  readonly calendarId: string
  readonly calendar: string
  /** Copied with what it inherits taken in; else beside its parents, and only what it says itself. */
  readonly alone: boolean
  readonly taken: CalendarHours
}

/** A calendar's hours on its own, as if it had no parent: on every day those that it has with its parents. */
export const hoursAlone = (calendars: readonly PlanCalendar[], id: string): CalendarHours => {
  const byId = new Map(calendars.map((c) => [c.id, c]))
  const chain: PlanCalendar[] = []
  for (let at = byId.get(id); at; at = at.parent === null ? undefined : byId.get(at.parent)) chain.push(at)
  const own = chain[0]!
  const owner = chain.findIndex((c) => c.week)
  const upToWeek = chain.slice(0, owner < 0 ? chain.length : owner + 1)
  return {
    dayMinutes: own.dayMinutes,
    weekMinutes: own.weekMinutes,
    week: owner < 0 ? null : chain[owner]!.week,
    seasons: upToWeek.flatMap((c) => c.seasons),
    rota: upToWeek.find((c) => c.rota)?.rota ?? null,
    windows: chain.find((c) => c.windows.length > 0)?.windows ?? [],
    // Later ones come first, and a calendar's own before those of its parents.
    exceptions: chain.flatMap((c) => [...c.exceptions].reverse()).reverse(),
  }
}

const ownHours = ({
  week,
  seasons,
  rota,
  windows,
  exceptions,
  dayMinutes,
  weekMinutes,
}: PlanCalendar): CalendarHours => ({ dayMinutes, weekMinutes, week, seasons, rota, windows, exceptions })

/** A copy of another plan's calendar, on its own and without an id. */
export const copyOfCalendar = ({ planId, plan, calendars }: CalendarsOfPlan, id: string): Item => {
  const taken = hoursAlone(calendars, id)
  const { name } = calendars.find((c) => c.id === id)!
  return {
    name,
    parent: null,
    ...taken,
    origin: { planId, plan, calendarId: id, calendar: name, alone: true, taken } satisfies CalendarOrigin,
  }
}
/** All calendars of a plan for a new one, each with its parents beside it. */
export const copiesOfCalendars = ({ planId, plan, calendars }: CalendarsOfPlan): Item[] =>
  calendars.map((c) => ({
    ...c,
    origin: {
      planId,
      plan,
      calendarId: c.id,
      calendar: c.name,
      alone: false,
      taken: ownHours(c),
    } satisfies CalendarOrigin,
  }))

/** What a copy's origin says now. @returns null where it is not there any more */
export const originNow = (
  { planId, calendarId, alone }: CalendarOrigin,
  plans: readonly CalendarsOfPlan[],
): CalendarHours | null => {
  const calendars = plans.find((p) => p.planId === planId)?.calendars ?? []
  const calendar = calendars.find((c) => c.id === calendarId)
  return !calendar ? null : alone ? hoursAlone(calendars, calendarId) : ownHours(calendar)
}

/** Where a calendar was copied from. @returns null for one that is no copy, or does not say what it was a copy of */
export const originOf = (calendar: PlanCalendar): CalendarOrigin | null => {
  const { origin } = calendar
  return origin?.planId && origin.calendarId && origin.taken ? (origin as unknown as CalendarOrigin) : null
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

/**
 * Brings what changed in a copy's origin into the copy. What was changed in the copy itself stays: its own days off beside the new
 * ones, and its own hours where both changed them.
 * @param now - the origin's hours as they are
 * @returns the fields to set, and those in which the copy keeps its own
 */
export const takeOrigin = (
  copy: PlanCalendar,
  origin: CalendarOrigin,
  now: CalendarHours,
): { readonly set: Item; readonly kept: readonly string[] } => {
  const set: Item = { origin: { ...origin, taken: now } }
  const kept: string[] = []
  for (const field of FIELDS) {
    if (same(origin.taken[field], now[field]) || same(copy[field], now[field])) continue
    if (same(copy[field], origin.taken[field])) set[field] = now[field]
    else if (field === 'exceptions') {
      const [old, own] = [
        new Set(origin.taken.exceptions.map((e) => JSON.stringify(e))),
        new Set(copy.exceptions.map((e) => JSON.stringify(e))),
      ]
      const gone = new Set(
        [...old].filter((e) => !now.exceptions.some((other) => JSON.stringify(other) === e)),
      )
      const fresh = now.exceptions.filter((e) => !old.has(JSON.stringify(e)) && !own.has(JSON.stringify(e)))
      set.exceptions = [...copy.exceptions.filter((e) => !gone.has(JSON.stringify(e))), ...fresh]
    } else
      kept.push(
        field === 'dayMinutes' || field === 'weekMinutes'
          ? 'its lengths of a day and a week'
          : `its own ${field === 'week' ? 'hours' : field}`,
      )
  }
  return { set, kept: [...new Set(kept)] }
}

/** Plans' calendars for copying: of each calendar, its plan. */
export interface CalendarsOfPlan {
  readonly planId: string
  readonly plan: string
  readonly calendars: Plan['calendars']
}
