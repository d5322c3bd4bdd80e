import { formatInstant, type Instant } from '../time/instant.ts'
import { CalendarError } from '../time/calendar.ts'
import { applyChange } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import { PlanError } from '../plan/issue.ts'
import type { Plan, Resource } from '../plan/schema.ts'
import { Kind, NONE, State } from '../network/network.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'
import { activityCosts } from './activityCosts.ts'
import { availableAt } from './availability.ts'
import { chargeFor, measuredFinish } from './damages.ts'
import { level } from './level/level.ts'
import { LevelError } from './level/problem.ts'
import { freeLink } from './level/scenarioLinks.ts'
import { loadsOf, type ResourceLoad } from './load.ts'
import type { OverloadGroup } from './overloadGroups.ts'

/** How an overload might be got rid of; activities, calendars by id. */
export type WayOutKind =
  | { readonly kind: 'wait'; readonly activity: string; readonly behind: string }
  | { readonly kind: 'pause'; readonly activity: string }
  | { readonly kind: 'calendar'; readonly activity: string; readonly calendar: string }
  | { readonly kind: 'more'; readonly amount: number }
  | { readonly kind: 'level' }

/** A way out that has been tried: its change was made beside the plan and scheduled. */
export interface WayOut {
  readonly way: WayOutKind
  readonly change: Change
  readonly finish: Instant
  /** Cost at completion and damages, against the plan as it is; of more of the resource, what it is paid for the time. */
  readonly cost: number
  readonly damages: number
  /** Activities on other dates. */
  readonly moved: number
  /** Overloaded minutes of the resource that stay, of those there were. */
  readonly left: number
  /** Total float of the activity that gives way, before and after, in working minutes of its calendar; null where none gives way. */
  readonly float: { readonly before: number; readonly after: number } | null
}

/** More than so many activities in one overload are not each tried. */
const MOST_TRIED = 5

/**
 * Ways out of an overload, each tried: one waits for another, one pauses, one works other hours, there is more of the resource for the
 * time, everything is levelled. What does not lessen the overload, or cannot be, is left out; those that leave the finish come first.
 * @param load - of the resource, on the dates of `made`
 */
export const waysOut = (made: Schedule, load: ResourceLoad, overload: OverloadGroup): WayOut[] => {
  const { network } = made
  const { plan } = network
  const { resource } = load
  const before = figuresOf(made)
  const overloaded = load.overloads.reduce((sum, { minutes }) => sum + minutes, 0)
  const outside = outsideOf(load)
  const attempt = (way: WayOutKind, change: Change, extra = 0): WayOut | null => {
    let after: Schedule
    try {
      after = schedule(applyChange(plan, change).plan)
    } catch (error) {
      if (error instanceof PlanError || error instanceof CalendarError) return null
      throw error
    }
    const own = loadsOf(after).find((other) => other.resource.id === resource.id)!
    const left = own.overloads.reduce((sum, { minutes }) => sum + minutes, 0)
    // Hours that the resource does not have are no way out.
    if (left >= overloaded || outsideOf(own) > outside) return null
    const figures = figuresOf(after)
    return {
      way,
      change,
      finish: after.projectFinish,
      cost: figures.cost - before.cost + extra,
      damages: figures.damages - before.damages,
      moved: movedBetween(made, after),
      left,
      float: 'activity' in way ? floatsOf(made, after, way.activity) : null,
    }
  }
  const found: (WayOut | null)[] = []
  const inIt = overload.activities
    .filter((i) => network.kind[i] === Kind.Work && network.state[i] !== State.Finished)
    .sort((a, b) => made.start[a]! - made.start[b]! || made.finish[a]! - made.finish[b]!)
    .slice(0, MOST_TRIED)
  const isFree = (i: number): boolean => network.state[i] === State.NotStarted
  for (const i of inIt.filter(isFree)) {
    const { id } = plan.activities[i]!
    const behind = inIt
      .filter((j) => j !== i)
      .sort((a, b) => made.finish[a]! - made.finish[b]!)
      .map((j) => plan.activities[j]!.id)
    for (const other of behind.slice(0, 2))
      found.push(attempt({ kind: 'wait', activity: id, behind: other }, waiting(plan, resource, other, id)))
    found.push(attemptPause(plan, id, attempt))
    for (const calendar of plan.calendars
      .filter((c) => c.id !== calendarOf(plan.project, plan.activities[i]!))
      .slice(0, 6)) {
      const change: Change = { kind: 'set', list: 'activities', key: id, set: { calendar: calendar.id } }
      const way = attempt({ kind: 'calendar', activity: id, calendar: calendar.id }, change)
      if (way && way.left === 0) found.push(way)
    }
  }
  found.push(
    attempt({ kind: 'more', amount: overload.load }, more(load, overload), paidFor(plan, resource, overload)),
  )
  found.push(attemptLevel(plan, attempt))
  return found
    .filter((way) => way !== null)
    .sort(
      (a, b) =>
        a.left - b.left ||
        a.finish - b.finish ||
        a.cost + a.damages - b.cost - b.damages ||
        a.moved - b.moved ||
        (b.float?.after ?? 0) - (a.float?.after ?? 0),
    )
}

const outsideOf = (load: ResourceLoad): number => load.outside.reduce((sum, { minutes }) => sum + minutes, 0)

type Attempt = (way: WayOutKind, change: Change, extra?: number) => WayOut | null

const waiting = (plan: Plan, resource: Resource, from: string, to: string): Change =>
  freeLink(plan)(from, to, `${resource.code || resource.name} is handed over`)

const attemptPause = (plan: Plan, id: string, attempt: Attempt): WayOut | null => {
  const split: Change = { kind: 'set', list: 'activities', key: id, set: { split: true } }
  const changes = levelChanges(applyChange(plan, split).plan)
  if (
    changes === null ||
    !changes.some((c) => c.kind === 'add' && c.list === 'calendars' && isPauseOf(c, id))
  )
    return null
  return attempt({ kind: 'pause', activity: id }, { kind: 'all', changes: [split, ...changes] })
}
const isPauseOf = (change: Extract<Change, { kind: 'add' }>, id: string): boolean =>
  String(change.item.id).endsWith(` paused ${id}`)

const attemptLevel = (plan: Plan, attempt: Attempt): WayOut | null => {
  const changes = levelChanges(plan)
  return changes === null || changes.length === 0
    ? null
    : attempt({ kind: 'level' }, { kind: 'all', changes })
}
const levelChanges = (plan: Plan): Change[] | null => {
  try {
    return [...level(plan, { rule: 'least-float', seed: 1, insideFloat: false }).changes]
  } catch (error) {
    if (error instanceof LevelError || error instanceof CalendarError) return null
    throw error
  }
}

/** As much as is asked for at most, for the time of the overload; what was there before and after stays. */
const more = ({ resource, availability }: ResourceLoad, { from, to, load }: OverloadGroup): Change => {
  const steps = resource.available.map((step) => ({ ...step }))
  const at = (step: { from: string | null }, k: number): Instant =>
    step.from === null ? -Infinity : availability.from[availability.from.length - steps.length + k]!
  const available = [
    ...steps.filter((step, k) => at(step, k) < from),
    { from: formatInstant(from), amount: load },
    ...(steps.some((step, k) => at(step, k) === to)
      ? []
      : [{ from: formatInstant(to), amount: availableAt(availability, to) }]),
    ...steps.filter((step, k) => at(step, k) >= to),
  ]
  return { kind: 'set', list: 'resources', key: resource.id, set: { available } }
}

/** What the excess is paid: by the hour or the day of the project, once for each unit more where it is paid by piece or call. */
const paidFor = (
  plan: Plan,
  { price, per }: Resource,
  { load, available, excess }: OverloadGroup,
): number => {
  if (per === 'hour') return (price * excess) / 60
  if (per === 'day') return (price * excess) / lengthsOf(plan, plan.project.calendar).dayMinutes
  return price * (load - available)
}

const figuresOf = (made: Schedule): { cost: number; damages: number } => {
  const { plan, calendars } = made.network
  return {
    cost: activityCosts(made).atCompletion.reduce((sum, cost) => sum + cost, 0),
    damages: plan.damages.reduce(
      (sum, clause) =>
        sum + chargeFor(clause, calendars.get(clause.calendar), measuredFinish(made, clause)).amount,
      0,
    ),
  }
}

const movedBetween = (before: Schedule, after: Schedule): number => {
  let moved = 0
  for (let i = 0; i < before.start.length; i++)
    if (before.start[i] !== after.start[i] || before.finish[i] !== after.finish[i]) moved++
  return moved
}

const floatsOf = (before: Schedule, after: Schedule, id: string): WayOut['float'] => {
  const i = before.network.indexOf.get(id)!
  const [a, b] = [before.float.total[i]!, after.float.total[i]!]
  return a === NONE || b === NONE ? null : { before: a, after: b }
}
