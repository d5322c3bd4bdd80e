import { jointSpans } from '../time/jointSpans.ts'
import type { SpannedCalendar } from '../time/calendar.ts'
import { MINUTES_PER_DAY, type Instant, type WorkMinutes } from '../time/instant.ts'
import type { Resource } from '../plan/schema.ts'
import { activityCalendar } from '../network/activityCalendar.ts'
import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { availabilityOf, isWorker, type Availability } from './availability.ts'
import { emptyPeriods, workPeriods, type Dates, type WorkPeriods } from './workPeriods.ts'

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
/** Sums of fractions: what differs by less is equal. */
const GRAIN = 1e-6
const rounded = (amount: number): number => Math.round(amount / GRAIN) * GRAIN

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
  const uses = new Map<string, Use[]>(plan.resources.filter(isWorker).map(({ id }) => [id, []]))
  const periods = emptyPeriods()
  for (const [assignment, { activity: id, resource, amount }] of plan.assignments.entries()) {
    const of = uses.get(resource)
    if (of === undefined || amount === 0) continue
    const i = indexOf.get(id)!
    if (!isCounted(i)) continue
    workPeriods(schedule, i, dates, periods)
    const calendar = activityCalendar(
      calendars,
      plan.project,
      plan.activities[i]!,
      schedule.network.statusDate,
    )
    for (const [from, to] of partsOf(periods))
      of.push({ activity: i, assignment, amount, calendar, from, to })
  }
  const [first, last] = reachOf(uses.values())
  const known = new Map<SpannedCalendar, Map<SpannedCalendar | null, Int32Array>>()
  const spansOf: SpansOf = (calendar, hours) => {
    let own = known.get(calendar)
    if (!own) known.set(calendar, (own = new Map()))
    let spans = own.get(hours)
    if (!spans) own.set(hours, (spans = jointSpans(hours ? [calendar, hours] : [calendar], first, last)))
    return spans
  }
  return plan.resources
    .filter(isWorker)
    .map((resource) =>
      loadOf(
        resource,
        uses.get(resource.id)!,
        resource.calendar === null ? null : calendars.get(resource.calendar),
        spansOf,
      ),
    )
}
/** The spans in which a calendar works, within the hours of a resource if it has any, over all that is asked for. */
type SpansOf = (calendar: SpannedCalendar, hours: SpannedCalendar | null) => Int32Array

const reachOf = (uses: Iterable<readonly Use[]>): [Instant, Instant] => {
  let [first, last] = [Infinity, -Infinity]
  for (const own of uses)
    for (const { from, to } of own) {
      if (from < first) first = from
      if (to > last) last = to
    }
  return [first, last]
}

const partsOf = ({ doneFrom, doneTo, from, to }: WorkPeriods): (readonly [Instant, Instant])[] => [
  ...(doneFrom !== NONE && doneTo > doneFrom ? [[doneFrom, doneTo] as const] : []),
  ...(from !== NONE && to > from ? [[from, to] as const] : []),
]

const loadOf = (
  resource: Resource,
  uses: readonly Use[],
  hours: SpannedCalendar | null,
  spansOf: SpansOf,
): ResourceLoad => {
  const availability = availabilityOf(resource)
  const byCalendar = new Map<SpannedCalendar, Use[]>()
  for (const use of uses) {
    const same = byCalendar.get(use.calendar)
    if (same) same.push(use)
    else byCalendar.set(use.calendar, [use])
  }
  const outside: OutsideHours[] = []
  let steps = NO_STEPS
  let busy = NO_STEPS
  for (const [calendar, own] of byCalendar) {
    const spans = spansOf(calendar, hours)
    steps = merged(steps, stepsOn(spans, own))
    if (hours === null) continue
    busy = merged(busy, stepsOn(spansOf(calendar, null), own))
    addOutside(calendar, spans, own, outside)
  }
  const { from, load, peak } = summed(steps)
  return {
    resource,
    availability,
    hours,
    from,
    load,
    peak,
    overloads: overloadsOf({ from, load }, availability, hours === null ? null : summed(busy)),
    outside: joinedByActivity(outside),
    uses,
  }
}

/** Changes of the load, in order of time. */
interface Steps {
  readonly at: Int32Array
  readonly delta: Float64Array
}

const NO_STEPS: Steps = { at: new Int32Array(0), delta: new Float64Array(0) }

/** What uses of one calendar ask for, over the spans in which they can. */
const stepsOn = (spans: Int32Array, uses: readonly Use[]): Steps => {
  const events = new Float64Array(uses.length * 2)
  const order = new Int32Array(uses.length * 2)
  uses.forEach((use, u) => {
    events[2 * u] = use.from
    events[2 * u + 1] = use.to
    order[2 * u] = 2 * u
    order[2 * u + 1] = 2 * u + 1
  })
  order.sort((a, b) => events[a]! - events[b]!)
  const at = new Int32Array(spans.length + order.length)
  const delta = new Float64Array(at.length)
  let count = 0
  let asked = 0
  let e = 0
  const end = events[order[order.length - 1]!]!
  for (let s = firstSpanAfter(spans, events[order[0]!]!); s < spans.length && spans[s]! < end; s += 2) {
    while (e < order.length && events[order[e]!]! <= spans[s]!) asked += change(order[e++]!, uses)
    if (Math.abs(asked) > GRAIN) {
      at[count] = spans[s]!
      delta[count++] = asked
    }
    while (e < order.length && events[order[e]!]! < spans[s + 1]!) {
      const by = change(order[e]!, uses)
      at[count] = events[order[e]!]!
      delta[count++] = by
      asked += by
      e++
    }
    if (Math.abs(asked) > GRAIN) {
      at[count] = spans[s + 1]!
      delta[count++] = -asked
    }
  }
  return { at: at.subarray(0, count), delta: delta.subarray(0, count) }
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
const change = (event: number, uses: readonly Use[]): number =>
  (event & 1) === 0 ? uses[event >> 1]!.amount : -uses[event >> 1]!.amount

const merged = (a: Steps, b: Steps): Steps => {
  if (a.at.length === 0) return b
  const n = a.at.length + b.at.length
  const at = new Int32Array(n)
  const delta = new Float64Array(n)
  for (let k = 0, i = 0, j = 0; k < n; k++) {
    const isA = j === b.at.length || (i < a.at.length && a.at[i]! <= b.at[j]!)
    at[k] = isA ? a.at[i]! : b.at[j]!
    delta[k] = isA ? a.delta[i++]! : b.delta[j++]!
  }
  return { at, delta }
}

const summed = ({ at, delta }: Steps): Pick<ResourceLoad, 'from' | 'load' | 'peak'> => {
  const from = new Int32Array(at.length)
  const load = new Float64Array(at.length)
  let count = 0
  let sum = 0
  let peak = 0
  for (let k = 0; k < at.length;) {
    const t = at[k]!
    while (k < at.length && at[k] === t) sum += delta[k++]!
    sum = rounded(sum)
    if (count > 0 && load[count - 1] === sum) continue
    from[count] = t
    load[count++] = sum
    if (sum > peak) peak = sum
  }
  return { from: from.slice(0, count), load: load.slice(0, count), peak }
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
const overloadsOf = (
  { from, load }: Pick<ResourceLoad, 'from' | 'load'>,
  availability: Availability,
  busy: Pick<ResourceLoad, 'from' | 'load'> | null,
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
  { from, load }: Pick<ResourceLoad, 'from' | 'load'>,
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
  { from, load }: Pick<ResourceLoad, 'from' | 'load'>,
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
