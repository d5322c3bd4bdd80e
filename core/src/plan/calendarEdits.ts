import { applyUnchecked } from './applyChange.ts'
import type { Change, Item } from './change.ts'
import { CLOCK_LENGTHS, lengthsOf, DEFAULT_LENGTHS } from './durations.ts'
import { calendarOf, lagCalendarOf } from './lagCalendar.ts'
import type { Activity, Plan, PlanCalendar } from './schema.ts'
import { validateChange } from './validateChange.ts'

/** What keeps its value when the length of a day changes: the work in minutes, or the number of days that it is said in. */
export type Stays = 'minutes' | 'days'

/**
 * Gives a calendar other hours. Where days stay, every duration, estimate, remainder and lag that counts on it is scaled by the
 * new length of a day, so that "5 d" is still "5 d"; where minutes stay, only the words for them change.
 */
export const setCalendar = (plan: Plan, id: string, fields: Item, stays: Stays): Change => {
  const before = plan.calendars.find((c) => c.id === id)!
  const set: Change = { kind: 'set', list: 'calendars', key: id, set: fields }
  const length = (fields.dayMinutes as number | undefined) ?? before.dayMinutes
  if (stays === 'minutes' || length === before.dayMinutes) return set
  const scale = (minutes: number): number => Math.round((minutes * length) / before.dayMinutes)
  const changes: Change[] = [set]
  for (const activity of plan.activities)
    if (calendarOf(plan.project, activity) === id) {
      const scaled = scaledActivity(activity, scale)
      if (Object.keys(scaled).length > 0)
        changes.push({ kind: 'set', list: 'activities', key: activity.id, set: scaled })
    }
  const byId = new Map(plan.activities.map((a) => [a.id, a]))
  for (const link of plan.links)
    if (link.lag !== 0 && lagCalendarOf(plan.project, link, byId.get(link.from), byId.get(link.to)) === id)
      changes.push({ kind: 'set', list: 'links', key: link.id, set: { lag: scale(link.lag) } })
  return { kind: 'all', changes }
}

/**
 * Gives the project another calendar. Where days stay, all that counts on the project's calendar is scaled from the day of the old one
 * to that of the new, so that "5 d" is still "5 d"; where minutes stay, only the words change.
 */
export const setProjectCalendar = (plan: Plan, id: string, stays: Stays): Change => {
  const set: Change = { kind: 'project', set: { calendar: id } }
  const dayOf = (calendar: string): number => lengthsOf(plan, calendar).dayMinutes
  const [was, is] = [dayOf(plan.project.calendar), dayOf(id)]
  if (stays === 'minutes' || was === is) return set
  const scale = (minutes: number): number => Math.round((minutes * is) / was)
  const changes: Change[] = [set]
  for (const activity of plan.activities)
    if (activity.calendar === null) {
      const scaled = scaledActivity(activity, scale)
      if (Object.keys(scaled).length > 0)
        changes.push({ kind: 'set', list: 'activities', key: activity.id, set: scaled })
    }
  const byId = new Map(plan.activities.map((a) => [a.id, a]))
  const after = { ...plan.project, calendar: id }
  for (const link of plan.links) {
    const ends = [byId.get(link.from), byId.get(link.to)] as const
    if (link.lag !== 0 && lagCalendarOf(plan.project, link, ...ends) !== lagCalendarOf(after, link, ...ends))
      changes.push({ kind: 'set', list: 'links', key: link.id, set: { lag: scale(link.lag) } })
  }
  return { kind: 'all', changes }
}

const scaledActivity = (activity: Activity, scale: (minutes: number) => number): Item => {
  const set: Item = {}
  if (activity.duration > 0) set.duration = scale(activity.duration)
  const { estimate, progress, crash, focused } = activity
  if (estimate)
    set.estimate = {
      ...estimate,
      low: scale(estimate.low),
      likely: scale(estimate.likely),
      high: scale(estimate.high),
    }
  if (progress.remaining !== null && progress.remaining > 0)
    set.progress = { ...progress, remaining: scale(progress.remaining) }
  if (crash)
    set.crash = {
      ...crash,
      duration: scale(crash.duration),
      ...(crash.options && { options: crash.options.map((o) => ({ ...o, duration: scale(o.duration) })) }),
      ...(typeof crash.limit === 'number' && { limit: scale(crash.limit) }),
    }
  if (focused !== null) set.focused = scale(focused)
  return set
}

/** Who uses a calendar: activities, resources, lags, calendars that inherit from it, the project. */
export interface CalendarUse {
  readonly activities: readonly string[]
  readonly resources: readonly string[]
  readonly lags: number
  readonly heirs: readonly string[]
  readonly isProject: boolean
}

export const usesOfCalendar = (plan: Plan, id: string): CalendarUse => {
  const byId = new Map(plan.activities.map((a) => [a.id, a]))
  return {
    activities: plan.activities.filter((a) => calendarOf(plan.project, a) === id).map((a) => a.id),
    resources: plan.resources.filter((r) => r.calendar === id).map((r) => r.id),
    lags: plan.links.filter(
      (l) => l.lag !== 0 && lagCalendarOf(plan.project, l, byId.get(l.from), byId.get(l.to)) === id,
    ).length,
    heirs: plan.calendars.filter((c) => c.parent === id).map((c) => c.id),
    isProject: plan.project.calendar === id,
  }
}

/** Removes a calendar that nothing counts on. @returns why not, where something does */
export const removeCalendar = (plan: Plan, id: string): Change | string => {
  const use = usesOfCalendar(plan, id)
  if (plan.weather.some(({ calendar }) => calendar === id))
    return 'weather is drawn for it; remove that weather first'
  if (use.isProject) return 'the project counts on it; give the project another calendar first'
  const users: readonly (readonly [n: number, one: string, many: string])[] = [
    [use.activities.length, 'activity', 'activities'],
    [use.resources.length, 'resource', 'resources'],
    [use.heirs.length, 'calendar that inherits from it', 'calendars that inherit from it'],
    [use.lags, 'lag', 'lags'],
  ]
  const used = users.filter(([n]) => n > 0).map(([n, one, many]) => `${n} ${n === 1 ? one : many}`)
  if (used.length > 0) return `it is used by ${used.join(', ')}; give them another calendar first`
  const change: Change = { kind: 'remove', list: 'calendars', key: id }
  const [issue] = validateChange(applyUnchecked(plan, change).plan, change)
  return issue ? issue.message : change
}

const days = (hours: readonly string[], names: readonly string[]): NonNullable<PlanCalendar['week']> =>
  Object.fromEntries(
    ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((day) => [
      day,
      names.includes(day) ? [...hours] : [],
    ]),
  )
const FIVE = ['mon', 'tue', 'wed', 'thu', 'fri']

/** Calendars to begin with; each is then the plan's own. */
export const CALENDAR_TEMPLATES: readonly (Pick<PlanCalendar, 'name' | 'dayMinutes' | 'weekMinutes'> & {
  week: NonNullable<PlanCalendar['week']>
})[] = [
  { name: 'Five days', ...DEFAULT_LENGTHS, week: days(['07:00-12:00', '13:00-16:00'], FIVE) },
  {
    name: 'Six days',
    dayMinutes: 480,
    weekMinutes: 2880,
    week: days(['07:00-12:00', '13:00-16:00'], [...FIVE, 'sat']),
  },
  {
    name: 'Seven days',
    dayMinutes: 480,
    weekMinutes: 3360,
    week: days(['07:00-12:00', '13:00-16:00'], [...FIVE, 'sat', 'sun']),
  },
  {
    name: 'Two shifts',
    dayMinutes: 960,
    weekMinutes: 4800,
    week: days(['06:00-14:00', '14:00-22:00'], FIVE),
  },
  {
    name: 'Three shifts',
    ...CLOCK_LENGTHS,
    week: days(['00:00-24:00'], [...FIVE, 'sat', 'sun']),
  },
]
