import { PlanCalendars } from '../time/planCalendars.ts'
import type { Calendar } from '../time/calendar.ts'
import { instantOf, type Instant } from '../time/instant.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import { linkEndsOf, positionsOf, type LinkEnds } from '../plan/positions.ts'
import type { Activity, Link, Plan } from '../plan/schema.ts'
import { layLimits } from './limits.ts'
import { layRemaining } from './remaining.ts'
import { topologicalOrder } from './topologicalOrder.ts'

/** Stands for "no date" and "no float" in the typed arrays. */
export const NONE = -2147483648
/** Stands for "no limit" on late dates. */
export const UNLIMITED = 2147483647

/** Kinds as the passes see them. `AtStart`: milestones at a start; work without duration stands like one. */
export const Kind = { Work: 0, AtStart: 1, AtFinish: 2, Hammock: 3 } as const
export type Kind = (typeof Kind)[keyof typeof Kind]

export const State = { NotStarted: 0, Started: 1, Finished: 2 } as const
export type State = (typeof State)[keyof typeof State]

/** Types of links as numbers. Bit 0: limits the successor's finish; bit 1: counts from the predecessor's start. */
export const LinkCode = { FS: 0, FF: 1, SS: 2, SF: 3 } as const
export const limitsFinish = (code: number): boolean => (code & 1) === 1
export const countsFromStart = (code: number): boolean => (code & 2) === 2

/** A note about something that the calculation left out or that the user should know. */
export interface ScheduleWarning {
  readonly code:
    | 'hammock-drives-nothing'
    | 'hammock-inverted'
    | 'promise-not-started'
    | 'promise-in-the-past'
    | 'promise-not-kept'
    | 'promise-off-hours'
    | 'actual-after-status-date'
    | 'finish-in-the-gap'
    | 'no-actual-start'
  readonly activity: string
  readonly message: string
}

/**
 * A plan laid out for the passes: n activities by their position in the plan, m links sorted by successor.
 * Links that drive nothing (out of hammocks) are left out; links into hammocks are kept apart.
 */
export interface Network {
  readonly plan: Plan
  readonly activities: readonly Activity[]
  readonly indexOf: ReadonlyMap<string, number>
  readonly calendars: PlanCalendars
  /** Calendar of each activity, and of each link's lag. */
  readonly calendar: readonly Calendar[]
  readonly linkCalendar: readonly Calendar[]
  /** Activities in an order in which every predecessor comes before its successors; hammocks last. */
  readonly order: Int32Array
  readonly kind: Uint8Array
  /** 1 for activities without actual dates and overriding constraints: the passes need not look for them. */
  readonly isPlain: Uint8Array
  /** 1 for activities placed as late as free float allows. */
  readonly placedLate: Uint8Array
  readonly state: Uint8Array
  /** Remaining work in minutes of the activity's calendar. */
  readonly remaining: Int32Array
  readonly actualStart: Int32Array
  readonly actualFinish: Int32Array
  /** Earliest start and finish from all but links: project start, status date, not-before dates. */
  readonly startFloor: Int32Array
  readonly finishFloor: Int32Array
  /** Latest start and finish from not-after dates. */
  readonly startCeiling: Int32Array
  readonly finishCeiling: Int32Array
  /** Overriding dates: where the edge stands (exactly), or from where it is cut (not-after). NONE without. */
  readonly startPin: Int32Array
  readonly finishPin: Int32Array
  readonly startCut: Int32Array
  readonly finishCut: Int32Array
  /** Links in order of successor: those of activity i are inStart[i] … inStart[i+1]. */
  readonly links: readonly Link[]
  readonly inStart: Int32Array
  readonly linkFrom: Int32Array
  readonly linkTo: Int32Array
  readonly linkCode: Uint8Array
  readonly linkLag: Int32Array
  /** Positions of the links out of activity i: outLink[outStart[i]] … outLink[outStart[i+1]−1]. */
  readonly outStart: Int32Array
  readonly outLink: Int32Array
  /** Links into hammocks, which hang from them and are not driven. */
  readonly hammockLinks: readonly Link[]
  readonly projectStart: Instant
  readonly statusDate: Instant | null
  /** Whether started work drops the start limits that come after its actual start. */
  readonly follows: boolean
  readonly warnings: readonly ScheduleWarning[]
  /** Whether this is a network in the mirror of time, for scheduling backward. */
  readonly isMirror: boolean
}

/**
 * A network of given parts, made in one place: objects with the same fields in the same order have one shape to the engine that runs
 * this, and what it has compiled for one network serves all of them. Spread together here and there, each kind of edit brought a
 * shape of its own, and the passes were compiled anew for it (50 to 60 ms on 10,000 activities).
 */
export const networkOf = (parts: Network): Network => ({
  plan: parts.plan,
  activities: parts.activities,
  indexOf: parts.indexOf,
  calendars: parts.calendars,
  calendar: parts.calendar,
  linkCalendar: parts.linkCalendar,
  order: parts.order,
  kind: parts.kind,
  isPlain: parts.isPlain,
  placedLate: parts.placedLate,
  state: parts.state,
  remaining: parts.remaining,
  actualStart: parts.actualStart,
  actualFinish: parts.actualFinish,
  startFloor: parts.startFloor,
  finishFloor: parts.finishFloor,
  startCeiling: parts.startCeiling,
  finishCeiling: parts.finishCeiling,
  startPin: parts.startPin,
  finishPin: parts.finishPin,
  startCut: parts.startCut,
  finishCut: parts.finishCut,
  links: parts.links,
  inStart: parts.inStart,
  linkFrom: parts.linkFrom,
  linkTo: parts.linkTo,
  linkCode: parts.linkCode,
  linkLag: parts.linkLag,
  outStart: parts.outStart,
  outLink: parts.outLink,
  hammockLinks: parts.hammockLinks,
  projectStart: parts.projectStart,
  statusDate: parts.statusDate,
  follows: parts.follows,
  warnings: parts.warnings,
  isMirror: parts.isMirror,
})

/**
 * Lays a validated plan out for scheduling. O(n + m) beside the calendars.
 * @param plan - a plan that {@link validatePlan} finds nothing wrong with
 */
export const compileNetwork = (plan: Plan): Network => {
  const { project, activities } = plan
  const n = activities.length
  const indexOf = positionsOf(activities)
  const projectStart = instantOf(project.start, 'start')
  const statusDate = project.statusDate === null ? null : instantOf(project.statusDate, 'start')
  const calendars = new PlanCalendars(plan.calendars, projectStart)
  const calendar = new Array<Calendar>(n)
  for (let i = 0; i < n; i++) calendar[i] = calendars.get(activities[i]!.calendar ?? project.calendar)
  const warnings: ScheduleWarning[] = []

  const arrays = emptyActivityArrays(n)
  for (let i = 0; i < n; i++)
    layActivity(arrays, activities[i]!, i, calendar[i]!, projectStart, statusDate, warnings)

  const ends = linkEndsOf(plan.links, activities)
  const { driving, hammockLinks } = withoutHammocks(plan.links, ends, arrays.kind, activities, warnings)
  const laid = layLinks(plan.links, driving, ends, n)
  const linkCalendar = new Array<Calendar>(laid.links.length)
  for (let k = 0; k < linkCalendar.length; k++) {
    const from = laid.linkFrom[k]!
    // Without a lag nothing is counted, and any calendar will do.
    linkCalendar[k] =
      laid.linkLag[k] === 0
        ? calendar[from]!
        : calendars.get(lagCalendarOf(project, laid.links[k]!, activities[from], activities[laid.linkTo[k]!]))
  }
  return networkOf({
    plan,
    activities,
    indexOf,
    calendars,
    calendar,
    linkCalendar,
    ...arrays,
    ...laid,
    order: topologicalOrder(n, laid, arrays.kind),
    hammockLinks,
    projectStart,
    statusDate,
    follows: project.outOfSequence === 'follow',
    warnings,
    isMirror: false,
  })
}

/** What the passes know of an activity, as arrays by its position. */
export type ActivityArrays = Pick<
  Network,
  | 'kind'
  | 'isPlain'
  | 'placedLate'
  | 'state'
  | 'remaining'
  | 'actualStart'
  | 'actualFinish'
  | 'startFloor'
  | 'finishFloor'
  | 'startCeiling'
  | 'finishCeiling'
  | 'startPin'
  | 'finishPin'
  | 'startCut'
  | 'finishCut'
>

/** Arrays for n activities, without limits or dates. */
export const emptyActivityArrays = (n: number): ActivityArrays => ({
  kind: new Uint8Array(n),
  isPlain: new Uint8Array(n),
  placedLate: new Uint8Array(n),
  state: new Uint8Array(n),
  remaining: new Int32Array(n),
  actualStart: new Int32Array(n).fill(NONE),
  actualFinish: new Int32Array(n).fill(NONE),
  startFloor: new Int32Array(n).fill(NONE),
  finishFloor: new Int32Array(n).fill(NONE),
  startCeiling: new Int32Array(n).fill(UNLIMITED),
  finishCeiling: new Int32Array(n).fill(UNLIMITED),
  startPin: new Int32Array(n).fill(NONE),
  finishPin: new Int32Array(n).fill(NONE),
  startCut: new Int32Array(n).fill(NONE),
  finishCut: new Int32Array(n).fill(NONE),
})

/** Lays one activity out: its kind, what is left of it, its limits. */
export const layActivity = (
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
  layRemaining(arrays, activity, i, calendar, statusDate, warnings)
  layLimits(arrays, activity, i, calendar, projectStart, statusDate)
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

type Laid = Pick<
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
const layLinks = (given: readonly Link[], driving: Int32Array, ends: LinkEnds, n: number): Laid => {
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
