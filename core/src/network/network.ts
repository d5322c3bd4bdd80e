import type { PlanCalendars } from '../time/planCalendars.ts'
import type { Calendar } from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'
import type { Activity, Link, Plan } from '../plan/schema.ts'

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
    | 'no-late-dates'
  readonly activity: string
  readonly message: string
}

/**
 * A plan compiled for the passes: n activities by their position in the plan, m links sorted by successor.
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
