import { PlanCalendars } from '../time/planCalendars.ts'
import type { Calendar } from '../time/calendar.ts'
import { instantOf, type Instant } from '../time/instant.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import { linkEndsOf, positionsOf, type LinkEnds } from '../plan/positions.ts'
import type { Activity, Link, Plan } from '../plan/schema.ts'
import { activityCalendar } from './activityCalendar.ts'
import { compileLimits } from './compileLimits.ts'
import {
  emptyActivityArrays,
  Kind,
  LinkCode,
  networkOf,
  NONE,
  State,
  type ActivityArrays,
  type Network,
  type ScheduleWarning,
} from './network.ts'
import { compileRemaining } from './compileRemaining.ts'
import { topologicalOrder } from './topologicalOrder.ts'

/**
 * Compiles a validated plan for scheduling. O(n + m) beside the calendars.
 * @param plan - a plan that {@link validatePlan} finds nothing wrong with
 * @param given - calendars to take instead of the plan's own hours: those of a forecast lose days to the weather
 */
export const compileNetwork = (plan: Plan, given: PlanCalendars | null = null): Network => {
  const { project, activities } = plan
  const n = activities.length
  const indexOf = positionsOf(activities)
  const projectStart = instantOf(project.start, 'start')
  const statusDate = project.statusDate === null ? null : instantOf(project.statusDate, 'start')
  const calendars = given ?? new PlanCalendars(plan.calendars, projectStart)
  const calendar = new Array<Calendar>(n)
  for (let i = 0; i < n; i++) calendar[i] = activityCalendar(calendars, project, activities[i]!, statusDate)
  const warnings: ScheduleWarning[] = []

  const arrays = emptyActivityArrays(n)
  for (let i = 0; i < n; i++)
    compileActivity(arrays, activities[i]!, i, calendar[i]!, projectStart, statusDate, warnings)

  const ends = linkEndsOf(plan.links, activities)
  const { driving, hammockLinks } = withoutHammocks(plan.links, ends, arrays.kind, activities, warnings)
  const compiled = compileLinks(plan.links, driving, ends, n)
  const linkCalendar = new Array<Calendar>(compiled.links.length)
  for (let k = 0; k < linkCalendar.length; k++) {
    const from = compiled.linkFrom[k]!
    // Without a lag nothing is counted, and any calendar will do.
    linkCalendar[k] =
      compiled.linkLag[k] === 0
        ? calendar[from]!
        : calendars.get(
            lagCalendarOf(project, compiled.links[k]!, activities[from], activities[compiled.linkTo[k]!]),
          )
  }
  return networkOf({
    plan,
    activities,
    indexOf,
    calendars,
    calendar,
    linkCalendar,
    ...arrays,
    ...compiled,
    order: topologicalOrder(n, compiled, arrays.kind),
    hammockLinks,
    projectStart,
    statusDate,
    follows: project.outOfSequence === 'follow',
    warnings,
    isMirror: false,
  })
}

/** Compiles one activity: its kind, what is left of it, its limits. */
export const compileActivity = (
  arrays: ActivityArrays,
  activity: Activity,
  i: number,
  calendar: Calendar,
  projectStart: Instant,
  statusDate: Instant | null,
  warnings: ScheduleWarning[],
): void => {
  arrays.kind[i] = kindOf(activity)
  arrays.placedLate[i] = activity.place === 'late' ? 1 : 0
  compileRemaining(arrays, activity, i, calendar, statusDate, warnings)
  compileLimits(arrays, activity, i, calendar, projectStart, statusDate)
  const overrides =
    arrays.startPin[i] !== NONE ||
    arrays.finishPin[i] !== NONE ||
    arrays.startCut[i] !== NONE ||
    arrays.finishCut[i] !== NONE
  arrays.isPlain[i] = arrays.state[i] === State.NotStarted && !overrides ? 1 : 0
}

const kindOf = (activity: Activity): Kind => {
  if (activity.kind === 'hammock') return Kind.Hammock
  if (activity.kind === 'milestone') return activity.edge === 'finish' ? Kind.AtFinish : Kind.AtStart
  return Kind.Work
}

type CompiledLinks = Pick<
  Network,
  'links' | 'inStart' | 'linkFrom' | 'linkTo' | 'linkCode' | 'linkLag' | 'outStart' | 'outLink'
>

/** Positions, in the plan, of the links that drive; those into hammocks apart, those out of hammocks reported and left out. */
const withoutHammocks = (
  links: readonly Link[],
  { from, to }: LinkEnds,
  kind: Uint8Array,
  activities: readonly Activity[],
  warnings: ScheduleWarning[],
): { driving: Int32Array; hammockLinks: Link[] } => {
  const driving = new Int32Array(links.length)
  const hammockLinks: Link[] = []
  let count = 0
  for (let g = 0; g < links.length; g++) {
    if (kind[from[g]!] === Kind.Hammock)
      warnings.push({
        code: 'hammock-drives-nothing',
        activity: links[g]!.from,
        message: `a hammock drives nothing; its link to ${activities[to[g]!]!.code} is left out`,
      })
    else if (kind[to[g]!] === Kind.Hammock) hammockLinks.push(links[g]!)
    else driving[count++] = g
  }
  return { driving: driving.subarray(0, count), hammockLinks }
}

/** Sorts the driving links by successor (counting sort, stable) and indexes them both ways. */
const compileLinks = (
  given: readonly Link[],
  driving: Int32Array,
  ends: LinkEnds,
  n: number,
): CompiledLinks => {
  const m = driving.length
  const inStart = offsets(ends.to, driving, n)
  const links = new Array<Link>(m)
  const linkFrom = new Int32Array(m)
  const linkTo = new Int32Array(m)
  const linkCode = new Uint8Array(m)
  const linkLag = new Int32Array(m)
  const fill = inStart.slice()
  for (let d = 0; d < m; d++) {
    const g = driving[d]!
    const link = given[g]!
    const k = fill[ends.to[g]!]!++
    links[k] = link
    linkFrom[k] = ends.from[g]!
    linkTo[k] = ends.to[g]!
    linkCode[k] = LinkCode[link.type]
    linkLag[k] = link.lag
  }
  const outStart = offsets(ends.from, driving, n)
  const outLink = new Int32Array(m)
  fill.set(outStart)
  for (let k = 0; k < m; k++) outLink[fill[linkFrom[k]!]!++] = k
  return { links, inStart, linkFrom, linkTo, linkCode, linkLag, outStart, outLink }
}

/** CSR offsets, length n + 1, of chosen items by their owner. */
const offsets = (owner: Int32Array, chosen: Int32Array, n: number): Int32Array => {
  const start = new Int32Array(n + 1)
  for (let k = 0; k < chosen.length; k++) start[owner[chosen[k]!]! + 1]!++
  for (let i = 0; i < n; i++) start[i + 1]! += start[i]!
  return start
}
