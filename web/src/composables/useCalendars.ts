import { computed, type ComputedRef } from 'vue'
import {
  calendarOf,
  instantOf,
  nextWork,
  PlanCalendars,
  type Activity,
  type Calendar,
  type DayLengths,
  type Plan,
  lengthsOf,
} from '@geodrome/core'

export interface CalendarLookup {
  of(activity: Pick<Activity, 'calendar'>): Calendar
  lengthsOf(activity: Pick<Activity, 'calendar'>): DayLengths
  lengths(calendarId: string): DayLengths
  name(calendarId: string): string
  idOf(activity: Pick<Activity, 'calendar'>): string
  readonly project: Calendar
  readonly projectLengths: DayLengths
  /** Whether an instant is the edge of a working day, so that its time need not be shown. */
  isDayEdge(calendar: Calendar, at: number, edge: 'start' | 'finish'): boolean
}

/** The calendars of a plan, for shading, for wording durations, for deciding whether a time needs to be shown. */
export const useCalendars = (plan: () => Plan | null): ComputedRef<CalendarLookup | null> =>
  computed(() => {
    const current = plan()
    return current && calendarLookup(current)
  })

/** Made once for the calendars and facts of a plan: edits of activities and links keep both. */
const known = new WeakMap<Plan['calendars'], { project: Plan['project']; lookup: CalendarLookup }>()

const calendarLookup = ({ calendars, project }: Plan): CalendarLookup => {
  const made = known.get(calendars)
  if (made?.project === project) return made.lookup
  const lookup = makeLookup(calendars, project)
  known.set(calendars, { project, lookup })
  return lookup
}

const makeLookup = (rules: Plan['calendars'], project: Plan['project']): CalendarLookup => {
  const calendars = new PlanCalendars(rules, instantOf(project.start, 'start'))
  const byId = new Map(rules.map((c) => [c.id, c]))
  const lengths = (id: string): DayLengths => lengthsOf({ calendars: rules }, id)
  return {
    of: (activity) => calendars.get(calendarOf(project, activity)),
    idOf: (activity) => calendarOf(project, activity),
    lengthsOf: (activity) => lengths(calendarOf(project, activity)),
    lengths,
    name: (id) => byId.get(id)?.name || (id === 'clock' ? 'Round the clock' : id),
    project: calendars.get(project.calendar),
    projectLengths: lengths(project.calendar),
    isDayEdge(calendar, at, edge) {
      try {
        if (edge === 'start') return nextWork(calendar, Math.floor(at / 1440) * 1440) === at
        const midnight = Math.ceil(at / 1440) * 1440
        return calendar.countBefore(midnight) === calendar.countBefore(at)
      } catch {
        return false
      }
    },
  }
}
