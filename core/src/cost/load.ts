import type { SpannedCalendar } from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'
import type { Resource } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { availabilityOf, type Availability } from './availability.ts'
import { eventsOf, stepsOf, StepRoom, type Steps } from './loadSteps.ts'
import { outsideHours, type OutsideHours } from './outsideHours.ts'
import { overloadsOf, type Overload } from './overloads.ts'
import { areSameUses, usesOf, type Uses } from './uses.ts'
import { WorkTimes, type Sorted } from './workTimes.ts'
import type { Dates } from './workPeriods.ts'

/** What is asked of people or plant, over time. */
export interface ResourceLoad extends Steps {
  readonly resource: Resource
  readonly availability: Availability
  /** Its own calendar; null if it is there at any hour. */
  readonly hours: SpannedCalendar | null
  readonly overloads: readonly Overload[]
  readonly outside: readonly OutsideHours[]
  /** Everything that asks for it. */
  readonly uses: Uses
  /** When those who ask for it work. */
  readonly times: WorkTimes
}

/**
 * Loads of all people and plant of a plan on its dates (semantics2.md section 11), in the order of the plan.
 * O(assignments · log + spans of working time of each resource's calendars)
 * @param isCounted - whether an activity counts, by its position: the part of the load that some ask for; null for all
 */
export const loadsOf = (
  schedule: Schedule,
  dates: Dates = 'placed',
  isCounted: ((activity: number) => boolean) | null = null,
): ResourceLoad[] => {
  const { plan, calendars } = schedule.network
  const uses = usesOf(schedule, dates, isCounted)
  const times = WorkTimes.over(...reachOf(uses))
  const room = new StepRoom()
  const asked = plan.resources.flatMap((resource, r) => {
    const own = uses[r]
    if (!own) return []
    const hours = resource.calendar === null ? null : calendars.get(resource.calendar)
    // Parts of a load are asked for now and then, between edits of the whole.
    const last = isCounted === null ? lastLoads.get(resource) : undefined
    const isKept = last && last.hours === hours && last.times === times && areSameUses(last.uses, own)
    return [{ resource, own, hours, kept: isKept ? last : null }]
  })
  const events = eventsOf(asked.flatMap(({ own, kept }) => (kept ? [] : [own])))
  let next = 0
  return asked.map(({ resource, own, hours, kept }) => {
    if (kept) return kept
    const load = loadOf(resource, own, hours, times, room, events[next++]!)
    if (isCounted === null) lastLoads.set(resource, load)
    return load
  })
}

/** Most edits move little: whom nothing else is asked of than the last time has the same load. */
const lastLoads = new WeakMap<Resource, ResourceLoad>()

const reachOf = (uses: Iterable<Uses | null>): [Instant, Instant] => {
  let [first, last] = [Infinity, -Infinity]
  for (const own of uses) {
    if (own === null) continue
    for (const t of own.from) if (t < first) first = t
    for (const t of own.to) if (t > last) last = t
  }
  return first <= last ? [first, last] : [0, 0]
}

const loadOf = (
  resource: Resource,
  uses: Uses,
  hours: SpannedCalendar | null,
  times: WorkTimes,
  room: StepRoom,
  events: Sorted,
): ResourceLoad => {
  const availability = availabilityOf(resource)
  const steps = stepsOf(uses, times, hours, room, events)
  return {
    resource,
    availability,
    hours,
    ...steps,
    overloads: overloadsOf(
      steps,
      availability,
      hours === null ? null : () => stepsOf(uses, times, null, room, events),
    ),
    outside: hours === null ? [] : outsideHours(uses, hours, times),
    uses,
    times,
  }
}

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
