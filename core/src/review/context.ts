import { newLink } from '../plan/links.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import { type DayLengths, lengthsOf } from '../plan/durations.ts'
import type { Activity, Link, LinkType, Plan } from '../plan/schema.ts'
import { CLOCK_ID } from '../time/calendar.ts'
import { loadsOf, type ResourceLoad } from '../cost/load.ts'
import { impliedLinks } from '../network/impliedLinks.ts'
import { State, type Network } from '../network/network.ts'
import { floatCauses, type FloatCause } from '../schedule/floatCause.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { hashOf } from '../plan/hash.ts'
import type { Limits } from './limits.ts'

/** What a check looks at: the plan, its schedule, the limits in force, and what several checks need, made once. */
export class ReviewContext {
  readonly plan: Plan
  readonly schedule: Schedule
  readonly network: Network
  readonly limits: Limits
  /** Links that were removed lately, in that order; a repair may offer them again. */
  readonly removedLinks: readonly Link[]
  private readonly namesById: ReadonlyMap<string, string>
  private causes: readonly (FloatCause | null)[] | null = null
  private constrainedOnes: readonly number[] | null = null
  private foundLoads: readonly ResourceLoad[] | null = null
  private dayMinutesOf: Int32Array | null = null
  private places: Int32Array | null = null

  constructor(plan: Plan, schedule: Schedule, limits: Limits, removedLinks: readonly Link[] = []) {
    this.plan = plan
    this.schedule = schedule
    this.network = schedule.network
    this.limits = limits
    this.removedLinks = removedLinks
    this.namesById = new Map(plan.calendars.map((c) => [c.id, c.name || c.id]))
  }

  /** Ids of links that other paths imply; kept for as long as activities and links are the same objects. */
  get implied(): readonly string[] {
    const known = impliedOf.get(this.plan.links)
    if (known && known.lagOn === this.plan.project.lagOn && sameNodes(known.activities, this.plan.activities))
      return known.ids
    const ids = impliedLinks(this.plan)
    impliedOf.set(this.plan.links, { ids, lagOn: this.plan.project.lagOn, activities: this.plan.activities })
    return ids
  }

  lengths(calendar: string): DayLengths {
    return lengthsOf(this.plan, calendar)
  }
  /** Length of a day of each activity's calendar, by position; minutes. */
  get dayMinutes(): Int32Array {
    if (this.dayMinutesOf) return this.dayMinutesOf
    const { calendar } = this.network
    const days = new Int32Array(calendar.length)
    for (let i = 0; i < days.length; i++)
      days[i] =
        i > 0 && calendar[i] === calendar[i - 1] ? days[i - 1]! : this.lengths(calendar[i]!.id).dayMinutes
    return (this.dayMinutesOf = days)
  }
  /** Unfinished activities that have a constraint, by position: few, and several checks ask for them. */
  get constrained(): readonly number[] {
    if (this.constrainedOnes) return this.constrainedOnes
    const { activities } = this.network
    const found: number[] = []
    for (let i = 0; i < activities.length; i++)
      if (activities[i]!.constraints.length > 0 && !this.isFinished(i)) found.push(i)
    return (this.constrainedOnes = found)
  }
  /** Where each activity stands in the order of the network, by position: what comes before it stands before it. */
  get placeInOrder(): Int32Array {
    if (this.places) return this.places
    const { order } = this.network
    const places = new Int32Array(this.network.activities.length)
    order.forEach((i, place) => (places[i] = place))
    return (this.places = places)
  }
  /** The date behind each activity's float, by position. */
  get floatCauses(): readonly (FloatCause | null)[] {
    return (this.causes ??= floatCauses(this.schedule))
  }
  /** What is asked of people and plant. */
  get loads(): readonly ResourceLoad[] {
    return (this.foundLoads ??= loadsOf(this.schedule))
  }
  get projectLengths(): DayLengths {
    return this.lengths(this.plan.project.calendar)
  }
  lengthsOf(activity: Activity): DayLengths {
    return this.lengths(calendarOf(this.plan.project, activity))
  }
  /** Whether a calendar has no hours but the windows that are listed, such as tides: its work has no other. */
  isOfWindows(id: string): boolean {
    for (let at = this.plan.calendars.find((c) => c.id === id); at;) {
      if (at.windows && at.windows.length > 0) return true
      const { parent } = at
      at = this.plan.calendars.find((c) => c.id === parent)
    }
    return false
  }
  calendarName(id: string): string {
    return id === CLOCK_ID ? 'the clock' : (this.namesById.get(id) ?? id)
  }
  code(id: string): string {
    const i = this.network.indexOf.get(id)
    return i === undefined ? id : this.network.activities[i]!.code
  }
  isFinished(i: number): boolean {
    return this.network.state[i] === State.Finished
  }

  /** A link for a repair; its id follows from what it ties, so that the same repair is the same change every time. */
  newLink(from: string, to: string, type: LinkType): Link {
    const taken = linkIdsOf(this.plan.links)
    let id = `l${hashOf(`${from} ${type} ${to}`)}`
    while (taken.has(id)) id += 'x'
    return newLink({ id, from, to, type, lag: 0 })
  }
}

const idsOfLinks = new WeakMap<readonly Link[], ReadonlySet<string>>()
const linkIdsOf = (links: readonly Link[]): ReadonlySet<string> => {
  let ids = idsOfLinks.get(links)
  if (!ids) idsOfLinks.set(links, (ids = new Set(links.map((l) => l.id))))
  return ids
}

interface KnownImplied {
  readonly ids: readonly string[]
  readonly lagOn: string
  readonly activities: readonly Activity[]
}
const impliedOf = new WeakMap<readonly Link[], KnownImplied>()

/** Whether nothing that implied links depend on differs: which activities there are, their kinds and calendars. */
const sameNodes = (a: readonly Activity[], b: readonly Activity[]): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every(
      (one, i) =>
        one === b[i] || (one.id === b[i]!.id && one.kind === b[i]!.kind && one.calendar === b[i]!.calendar),
    ))
