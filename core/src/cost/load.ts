import { jointSpans } from '../time/jointSpans.ts'
import type { SpannedCalendar } from '../time/calendar.ts'
import { MINUTES_PER_DAY, type Instant, type WorkMinutes } from '../time/instant.ts'
import type { Resource } from '../plan/schema.ts'
import { activityCalendar } from '../network/activityCalendar.ts'
import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { assignmentTable } from './assignmentTable.ts'
import { availabilityOf, isWorker, type Availability } from './availability.ts'
import { GRAIN, WorkTimes, type Steps } from './loadSteps.ts'
import { emptyPeriods, workPeriods, type Dates } from './workPeriods.ts'

/** A longest time in which more is asked for than there is, joined over the breaks in which none of the activities works. */
export interface Overload {
  readonly from: Instant
  readonly to: Instant
  /** Where the excess is largest. */
  readonly load: number
  readonly available: number
  /** Minutes in which too much is asked for, and the excess in them: units × minutes. */
  readonly minutes: number
  readonly excess: number
}
/** Work that a resource is to do outside the hours of its own calendar: neither load nor overload. */
export interface OutsideHours {
  readonly activity: number
  readonly from: Instant
  readonly to: Instant
  readonly minutes: WorkMinutes
}
/** What is asked of people or plant: a step function, `load[k]` from `from[k]` until the next step, 0 before and after. */
export interface ResourceLoad {
  readonly resource: Resource
  readonly availability: Availability
  /** Its own calendar; null if it is there at any hour. */
  readonly hours: SpannedCalendar | null
  readonly from: Int32Array
  readonly load: Float64Array
  readonly peak: number
  readonly overloads: readonly Overload[]
  readonly outside: readonly OutsideHours[]
  /** Everything that asks for it. */
  readonly uses: readonly Use[]
}

/** An assignment of a worker, with the times at which its activity works. */
interface Use {
  readonly activity: number
  /** Position of the assignment: what is done of it and what remains are two uses. */
  readonly assignment: number
  readonly amount: number
  readonly calendar: SpannedCalendar
  readonly from: Instant
  readonly to: Instant
}
/**
 * Loads of all people and plant of a plan on its dates (semantics2.md section 11), in the order of the plan.
 * O(assignments · log + spans of working time of each resource's calendars)
 * @param isCounted - whether an activity counts, by its position: the part of the load that some ask for
 */
export const loadsOf = (
  schedule: Schedule,
  dates: Dates = 'placed',
  isCounted: (activity: number) => boolean = () => true,
): ResourceLoad[] => {
  const { plan, indexOf, calendars } = schedule.network
  const uses = plan.resources.map((resource): Use[] | null => (isWorker(resource) ? [] : null))
  const periods = emptyPeriods()
  let calendar: SpannedCalendar | null = null
  let last = -1
  const table = assignmentTable(plan, indexOf)
  for (let assignment = 0; assignment < table.activity.length; assignment++) {
    const of = uses[table.resource[assignment]!]!
    const amount = table.amount[assignment]!
    const i = table.activity[assignment]!
    if (of === null || amount === 0 || !isCounted(i)) continue
    if (i !== last) {
      // Mostly the assignments of an activity stand together.
      workPeriods(schedule, i, dates, periods)
      calendar = activityCalendar(calendars, plan.project, plan.activities[i]!, schedule.network.statusDate)
      last = i
    }
    const { doneFrom, doneTo, from, to } = periods
    if (doneFrom !== NONE && doneTo > doneFrom)
      of.push({ activity: i, assignment, amount, calendar: calendar!, from: doneFrom, to: doneTo })
    if (from !== NONE && to > from)
      of.push({ activity: i, assignment, amount, calendar: calendar!, from, to })
  }
  const times = new WorkTimes(...reachOf(uses))
  return plan.resources.flatMap((resource, r) => {
    const own = uses[r]
    if (!own) return []
    return [
      loadOf(resource, own, resource.calendar === null ? null : calendars.get(resource.calendar), times),
    ]
  })
}

const reachOf = (uses: Iterable<readonly Use[] | null>): [Instant, Instant] => {
  let [first, last] = [Infinity, -Infinity]
  for (const own of uses)
    for (const { from, to } of own ?? []) {
      if (from < first) first = from
      if (to > last) last = to
    }
  return [first, last]
}

const loadOf = (
  resource: Resource,
  uses: readonly Use[],
  hours: SpannedCalendar | null,
  times: WorkTimes,
): ResourceLoad => {
  const availability = availabilityOf(resource)
  const steps = times.steps(uses, hours)
  return {
    resource,
    availability,
    hours,
    ...steps,
    overloads: overloadsOf(steps, availability, hours === null ? null : times.steps(uses, null)),
    outside: hours === null ? [] : outsideOf(uses, hours, times),
    uses,
  }
}

/** Times of activities outside the hours of what they need, in the order of the plan. */
const outsideOf = (uses: readonly Use[], hours: SpannedCalendar, times: WorkTimes): OutsideHours[] => {
  const byCalendar = new Map<SpannedCalendar, Use[]>()
  for (const use of uses) {
    const same = byCalendar.get(use.calendar)
    if (same) same.push(use)
    else byCalendar.set(use.calendar, [use])
  }
  const outside: OutsideHours[] = []
  for (const [calendar, own] of byCalendar) addOutside(calendar, times.spansOf(calendar, hours), own, outside)
  return joinedByActivity(outside)
}

/** Position of the first span that ends after an instant. */
const firstSpanAfter = (spans: Int32Array, t: Instant): number => {
  let [low, high] = [0, spans.length / 2]
  while (low < high) {
    const middle = (low + high) >> 1
    if (spans[2 * middle + 1]! <= t) low = middle + 1
    else high = middle
  }
  return 2 * low
}

/** Times of the activities outside the hours of the resource. */
const addOutside = (
  calendar: SpannedCalendar,
  spans: Int32Array,
  uses: readonly Use[],
  outside: OutsideHours[],
): void => {
  const inside = new Float64Array(spans.length / 2 + 1)
  for (let s = 0; s < spans.length; s += 2) inside[s / 2 + 1] = inside[s / 2]! + spans[s + 1]! - spans[s]!
  const before = (t: Instant): number => {
    const s = firstSpanAfter(spans, t)
    return inside[s / 2]! + (s < spans.length ? Math.max(0, t - spans[s]!) : 0)
  }
  for (const { activity, from, to } of uses) {
    const minutes = calendar.countBefore(to) - calendar.countBefore(from) - (before(to) - before(from))
    if (minutes > 0) outside.push({ activity, from, to, minutes })
  }
}

const joinedByActivity = (outside: readonly OutsideHours[]): OutsideHours[] => {
  const byActivity = new Map<number, OutsideHours>()
  for (const one of outside) {
    const known = byActivity.get(one.activity)
    byActivity.set(
      one.activity,
      known
        ? {
            ...one,
            from: Math.min(known.from, one.from),
            to: Math.max(known.to, one.to),
            minutes: known.minutes + one.minutes,
          }
        : one,
    )
  }
  return [...byActivity.values()].sort((a, b) => a.activity - b.activity)
}

/**
 * Walks load and availability together.
 * @param busy - where the resource has hours of its own: what is asked for at any hour
 */
export const overloadsOf = (
  { from, load }: Pick<Steps, 'from' | 'load'>,
  availability: Availability,
  busy: Pick<Steps, 'from' | 'load'> | null,
): Overload[] => {
  const found: Overload[] = []
  let open: { -readonly [P in keyof Overload]: Overload[P] } | null = null
  /** Whether anything was at work since the overload that is open. */
  let isBroken = false
  const steps = availability.from
  let step = 0
  for (let k = 0; k < from.length; k++) {
    const end = k + 1 < from.length ? from[k + 1]! : from[k]!
    for (let t = from[k]!; t < end;) {
      while (step + 1 < steps.length && steps[step + 1]! <= t) step++
      const until = step + 1 < steps.length ? Math.min(end, steps[step + 1]!) : end
      const excess = load[k]! - availability.amount[step]!
      if (excess > GRAIN) {
        if (open && !isBroken && !(busy && isBusyBetween(busy, open.to, t))) {
          if (excess > open.load - open.available + GRAIN) {
            open.load = load[k]!
            open.available = availability.amount[step]!
          }
          open.to = until
          open.minutes += until - t
          open.excess += excess * (until - t)
        } else {
          if (open) found.push(open)
          open = {
            from: t,
            to: until,
            load: load[k]!,
            available: availability.amount[step]!,
            minutes: until - t,
            excess: excess * (until - t),
          }
        }
        isBroken = false
      } else if (load[k]! > GRAIN) isBroken = true
      t = until
    }
  }
  if (open) found.push(open)
  return found
}

/** Whether a step function is above 0 anywhere in [start, end). */
const isBusyBetween = (
  { from, load }: Pick<Steps, 'from' | 'load'>,
  start: Instant,
  end: Instant,
): boolean => {
  if (end <= start) return false
  let [low, high] = [0, from.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (from[middle]! <= start) low = middle
    else high = middle - 1
  }
  for (let k = low; k < from.length && from[k]! < end; k++)
    if (load[k]! > GRAIN && (from[k + 1] ?? Infinity) > start) return true
  return false
}

/** What is asked for in a stretch of time: who is at work in it, by its position in the plan, in order, and with how much. */
export const askedIn = (
  { uses, hours }: ResourceLoad,
  { from, to }: Pick<Overload, 'from' | 'to'>,
): { readonly activity: number; readonly amount: number }[] => {
  const amounts = new Map<number, number>()
  const seen = new Set<number>()
  for (const use of uses) {
    const [a, b] = [Math.max(use.from, from), Math.min(use.to, to)]
    if (b <= a || seen.has(use.assignment)) continue
    if (!isAtWork(use.calendar, hours, a, b)) continue
    seen.add(use.assignment)
    amounts.set(use.activity, (amounts.get(use.activity) ?? 0) + use.amount)
  }
  return [...amounts].sort(([a], [b]) => a - b).map(([activity, amount]) => ({ activity, amount }))
}

const isAtWork = (
  calendar: SpannedCalendar,
  hours: SpannedCalendar | null,
  from: Instant,
  to: Instant,
): boolean =>
  calendar.countBefore(to) > calendar.countBefore(from) &&
  (hours === null || jointSpans([calendar, hours], from, to).length > 0)

/** Positions of the activities at work in an overload, in order: between its parts nobody is. */
export const activitiesIn = (load: ResourceLoad, overload: Pick<Overload, 'from' | 'to'>): number[] =>
  askedIn(load, overload).map(({ activity }) => activity)

/** Overloads of the same activities in a row. */
export interface OverloadGroup extends Overload {
  readonly activities: readonly number[]
  /** Calendar days on which too much is asked for. */
  readonly days: number
}

/**
 * Overloads of the same activities in a row as one: an overload ends where one of them works on alone, over the other's lunch or in the
 * evening, and begins again; people see one.
 */
export const overloadGroups = (load: ResourceLoad): OverloadGroup[] => {
  const groups: { -readonly [P in keyof OverloadGroup]: OverloadGroup[P] }[] = []
  let lastDay = NONE as number
  for (const overload of load.overloads) {
    const activities = activitiesIn(load, overload)
    const [first, last] = [dayOf(overload.from), dayOf(overload.to - 1)]
    const group = groups.at(-1)
    const isSame =
      group !== undefined &&
      group.activities.length === activities.length &&
      group.activities.every((i, k) => i === activities[k])
    if (!isSame) {
      groups.push({ ...overload, activities, days: last - first + 1 })
      lastDay = last
      continue
    }
    group.to = overload.to
    group.minutes += overload.minutes
    group.excess += overload.excess
    if (overload.load - overload.available > group.load - group.available) {
      group.load = overload.load
      group.available = overload.available
    }
    group.days += last - Math.max(first, lastDay + 1) + 1
    lastDay = last
  }
  return groups
}
const dayOf = (t: Instant): number => Math.floor(t / MINUTES_PER_DAY)

/** Largest load of each calendar day from `firstDay` on. @param days - how many */
export const loadByDay = (
  { from, load }: Pick<Steps, 'from' | 'load'>,
  firstDay: number,
  days: number,
): Float64Array => {
  const most = new Float64Array(days)
  for (let k = 0; k + 1 < from.length; k++) {
    if (load[k] === 0) continue
    const first = Math.max(0, Math.floor(from[k]! / 1440) - firstDay)
    const last = Math.min(days - 1, Math.floor((from[k + 1]! - 1) / 1440) - firstDay)
    for (let day = first; day <= last; day++) if (load[k]! > most[day]!) most[day] = load[k]!
  }
  return most
}
