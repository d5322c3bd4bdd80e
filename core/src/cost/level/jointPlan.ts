import {
  formatInstant,
  FIRST_DAY,
  END_DAY,
  MINUTES_PER_DAY,
  weekdayOf,
  type Instant,
} from '../../time/instant.ts'
import { jointSpans } from '../../time/jointSpans.ts'
import { WEEKDAYS } from '../../time/workingDays.ts'
import { formatClock } from '../../time/shifts.ts'
import { CLOCK_ID, type SpannedCalendar } from '../../time/calendar.ts'
import { PlanCalendars } from '../../time/planCalendars.ts'
import { calendarOf, lagCalendarOf } from '../../plan/lagCalendar.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { applyUnchecked } from '../../plan/applyChange.ts'
import type { Change } from '../../plan/change.ts'
import type { Activity, Plan, PlanCalendar } from '../../plan/schema.ts'
import { isWorker } from '../availability.ts'

/** A plan whose work has the joint calendars of semantics2.md section 11, and the changes that make it. */
export interface JointPlan {
  readonly plan: Plan
  readonly changes: readonly Change[]
  /** Work that has no hour in common with a resource, which keeps its own calendar. */
  readonly without: readonly { readonly activity: string; readonly resource: string }[]
}

/** Days over which working hours are compared and named days written. */
export interface Horizon {
  readonly firstDay: number
  readonly endDay: number
}
/** A year before the start, so that late dates have room; twice as long as the work and five years more behind it. */
export const horizonAround = (start: Instant, finish: Instant): Horizon => {
  const [first, last] = [Math.floor(start / MINUTES_PER_DAY), Math.ceil(finish / MINUTES_PER_DAY)]
  return {
    firstDay: Math.max(FIRST_DAY + 1, first - 366),
    endDay: Math.min(END_DAY - 1, last + 2 * (last - first) + 5 * 366),
  }
}

/** Whether its joint calendar can move it: finished work stands, and so does what takes no time. */
const isWorkToDo = ({ kind, progress }: Activity): boolean =>
  kind === 'work' && progress.actualFinish === null

/**
 * Gives every unfinished activity its joint calendar: its own working minutes that are also those of each people or plant resource whose
 * hours drive it. Lags keep the calendar that they counted on.
 */
export const jointPlan = (plan: Plan, horizon: Horizon): JointPlan => {
  const { project } = plan
  const resources = new Map(plan.resources.map((resource) => [resource.id, resource]))
  const driving = new Map<string, string[]>()
  for (const { activity, resource, amount, drives } of plan.assignments) {
    const of = resources.get(resource)!
    if (amount === 0 || drives === false || of.calendar === null || !isWorker(of)) continue
    const own = driving.get(activity)
    if (own) own.push(resource)
    else driving.set(activity, [resource])
  }
  if (driving.size === 0) return { plan, changes: [], without: [] }

  const calendars = new PlanCalendars(plan.calendars, horizon.firstDay * MINUTES_PER_DAY)
  const from = horizon.firstDay * MINUTES_PER_DAY
  const to = horizon.endDay * MINUTES_PER_DAY
  const spansOf = new Map<string, Int32Array>()
  const spans = (ids: readonly string[]): Int32Array => {
    const key = ids.join('\n')
    let known = spansOf.get(key)
    if (!known) {
      const chosen: SpannedCalendar[] = ids.map((id) => calendars.get(id))
      spansOf.set(key, (known = jointSpans(chosen, from, to)))
    }
    return known
  }
  const taken = new Set(plan.calendars.map(({ id }) => id))
  const made = new Map<string, PlanCalendar | null>()
  const without: { activity: string; resource: string }[] = []
  const changes: Change[] = []
  const changed = new Set<string>()
  for (const activity of plan.activities) {
    const of = driving.get(activity.id)
    if (of === undefined || !isWorkToDo(activity)) continue
    const own = calendarOf(project, activity)
    const ids = [...new Set(of.map((id) => resources.get(id)!.calendar!))].filter((id) => id !== own).sort()
    if (ids.length === 0) continue
    const together = [own, ...ids]
    const key = together.join('\n')
    if (!made.has(key)) {
      const joint = spans(together)
      const isSame = sameSpans(joint, spans([own]))
      if (isSame || joint.length === 0) made.set(key, null)
      else made.set(key, calendarItem(plan, together, joint, horizon, taken))
    }
    const calendar = made.get(key)!
    if (calendar === null) {
      if (spans(together).length > 0) continue
      // The one that alone has none of its hours, or the last of those that have none together.
      const alone = of.find((id) => spans([own, resources.get(id)!.calendar!]).length === 0)
      without.push({ activity: activity.id, resource: alone ?? of.at(-1)! })
      continue
    }
    changes.push({ kind: 'set', list: 'activities', key: activity.id, set: { calendar: calendar.id } })
    changed.add(activity.id)
  }
  const byId = new Map(plan.activities.map((activity) => [activity.id, activity]))
  for (const link of plan.links) {
    if (link.lag === 0 || !(changed.has(link.from) || changed.has(link.to))) continue
    const counted = lagCalendarOf(project, link, byId.get(link.from), byId.get(link.to))
    const lagOn = counted === CLOCK_ID ? 'clock' : `calendar:${counted}`
    if (link.lagOn !== lagOn) changes.push({ kind: 'set', list: 'links', key: link.id, set: { lagOn } })
  }
  const calendarChanges = [...made.values()].flatMap((item): Change[] =>
    item === null ? [] : [{ kind: 'add', list: 'calendars', item, before: null }],
  )
  const all = [...calendarChanges, ...changes]
  return {
    plan: all.length === 0 ? plan : applyUnchecked(plan, { kind: 'all', changes: all }).plan,
    changes: all,
    without,
  }
}

const sameSpans = (a: Int32Array, b: Int32Array): boolean =>
  a.length === b.length && a.every((at, k) => at === b[k])

const calendarItem = (
  plan: Plan,
  ids: readonly string[],
  spans: Int32Array,
  horizon: Horizon,
  taken: Set<string>,
): PlanCalendar => {
  let id = ids.join('+').slice(0, 150)
  for (let k = 2; taken.has(id); k++) id = `${ids.join('+').slice(0, 150)} ${k}`
  taken.add(id)
  const nameOf = (one: string): string =>
    one === CLOCK_ID ? 'round the clock' : plan.calendars.find((c) => c.id === one)?.name || one
  return writtenCalendar(
    { ...lengthsOf(plan, ids[0]!), id, name: ids.map(nameOf).join(' and ') },
    spans,
    horizon,
  )
}

/**
 * A calendar that works exactly in given spans over a horizon: the hours that each weekday has most often as its week, the days that
 * differ as named days. Behind the horizon its week goes on.
 */
export const writtenCalendar = (
  { id, name, dayMinutes, weekMinutes }: Pick<PlanCalendar, 'id' | 'name' | 'dayMinutes' | 'weekMinutes'>,
  spans: Int32Array,
  { firstDay, endDay }: Horizon,
): PlanCalendar => {
  const days = Array.from({ length: endDay - firstDay }, (): string[] => [])
  for (let s = 0; s < spans.length; s += 2)
    for (let t = spans[s]!; t < spans[s + 1]!;) {
      const day = Math.floor(t / MINUTES_PER_DAY)
      const midnight = day * MINUTES_PER_DAY
      const end = Math.min(spans[s + 1]!, midnight + MINUTES_PER_DAY)
      days[day - firstDay]!.push(`${formatClock(t - midnight)}-${formatClock(end - midnight)}`)
      t = end
    }
  const hours = days.map((shifts) => shifts.join(' '))
  const usual = WEEKDAYS.map((_, weekday) => {
    const counts = new Map<string, number>()
    hours.forEach((text, k) => {
      if (weekdayOf(firstDay + k) === weekday) counts.set(text, (counts.get(text) ?? 0) + 1)
    })
    return [...counts].reduce((most, one) => (one[1] > most[1] ? one : most), ['', 0] as [string, number])[0]
  })
  const shiftsOf = (text: string): string[] => (text === '' ? [] : text.split(' '))
  const exceptions: PlanCalendar['exceptions'] = []
  hours.forEach((text, k) => {
    const day = firstDay + k
    if (text === usual[weekdayOf(day)]) return
    const date = formatInstant(day * MINUTES_PER_DAY).slice(0, 10)
    const last = exceptions.at(-1)
    const isNext = k > 0 && last !== undefined && last.to === dateOf(day - 1)
    if (isNext && last.shifts.join(' ') === text) last.to = date
    else exceptions.push({ from: date, to: date, yearly: false, shifts: shiftsOf(text) })
  })
  return {
    id,
    name,
    parent: null,
    dayMinutes,
    weekMinutes,
    week: Object.fromEntries(WEEKDAYS.map((day, k) => [day, shiftsOf(usual[k]!)])),
    seasons: [],
    rota: null,
    windows: [],
    exceptions,
  }
}
const dateOf = (day: number): string => formatInstant(day * MINUTES_PER_DAY).slice(0, 10)
