import type {
  Change,
  Experiment,
  Explanation,
  FloatPath,
  ListSheet,
  Plan,
  ScheduleDifference,
  ScheduleWarning,
  SheetsReading,
} from '@geodrome/core'
import type { QuestionName } from './questions.ts'

/** What the page and the schedule worker say to each other. Arrays are by the activity's position in the plan. */

/** A schedule as the page shows it; NONE (from core) where there is no value. */
export interface ScheduleView {
  readonly start: Int32Array
  readonly finish: Int32Array
  readonly earlyStart: Int32Array
  readonly lateStart: Int32Array
  readonly lateFinish: Int32Array
  readonly totalFloat: Int32Array
  readonly freeFloat: Int32Array
  readonly critical: Uint8Array
  readonly onLongestPath: Uint8Array
  /** 0 not started, 1 started, 2 finished. */
  readonly state: Uint8Array
  /** 1 for links that drive, by position in the plan. */
  readonly drives: Uint8Array
  readonly projectStart: number
  readonly projectFinish: number
  readonly warnings: readonly ScheduleWarning[]
  readonly computeMs: number
}

export type ScheduleRequest =
  | { readonly kind: 'load'; readonly version: number; readonly plan: Plan }
  | { readonly kind: 'change'; readonly version: number; readonly change: Change }
  | { readonly kind: 'explain'; readonly requestId: number; readonly activity: string }
  | { readonly kind: 'probe'; readonly requestId: number; readonly activity: string }
  | { readonly kind: 'try'; readonly requestId: number; readonly changes: readonly Change[] }
  | { readonly kind: 'compare'; readonly requestId: number; readonly plan: Plan }
  | { readonly kind: 'ask'; readonly requestId: number; readonly name: QuestionName; readonly input: unknown }
  | { readonly kind: 'read-list'; readonly requestId: number; readonly list: ListToRead }

/** A list of somebody else's, and the plan it is read into: the one in view where none is given. */
export interface ListToRead {
  readonly plan: Plan | null
  readonly sheets: readonly ListSheet[]
  readonly group: string | null
}

/** Why a plan cannot be scheduled, and where it fails. */
export interface Unscheduled {
  readonly message: string
  /** Ids, where they are known. */
  readonly activity: string | null
  readonly calendar: string | null
}

export interface ScheduledReply {
  readonly kind: 'scheduled'
  readonly version: number
  readonly view: ScheduleView
  /** Against the schedule before; null for the first. */
  readonly effect: EditEffect | null
}
/** What an edit did, as counts: the lists of a large plan would take longer to hand over than to find. */
export interface EditEffect {
  readonly moved: number
  readonly lostFloat: number
  readonly gainedFloat: number
  readonly joinedLongestPath: number
  readonly leftLongestPath: number
  /** 1 for what was changed, moved, added or has another float, by position. */
  readonly touched: Uint8Array
}
/** Why an activity is where it is, or why that cannot be said; null where it is not in the schedule. */
export type Explained = Explanation | { readonly problem: string } | null
/** What is found about one activity by scheduling again, and the chains that lead to it. */
export interface Probe {
  /** null where a day more would lead beyond the end of a calendar. */
  readonly experiment: Experiment | null
  /** The tightest chains, at most a few. */
  readonly paths: readonly FloatPath[]
  /** Working minutes by which each link in and out falls short of driving, by link id. */
  readonly slack: ReadonlyMap<string, number>
}
/** What a change would do to the schedule, and how many activities it would bring to other dates; or why it cannot be made. */
export type Trial = { readonly finish: number; readonly moved: number } | { readonly problem: string }
export interface Comparison {
  readonly view: ScheduleView
  /** From the plan in view to the compared one. */
  readonly difference: ScheduleDifference
  readonly longestPath: readonly string[]
}
/** What was asked, or why there is no answer. */
export type Answered = { readonly value: unknown } | { readonly problem: string }
export type ScheduleReply =
  | ScheduledReply
  | ({ readonly kind: 'refused'; readonly version: number } & Unscheduled)
  | { readonly kind: 'probed'; readonly requestId: number; readonly probe: Probe | null }
  | { readonly kind: 'explained'; readonly requestId: number; readonly explanation: Explained }
  | { readonly kind: 'tried'; readonly requestId: number; readonly trials: readonly Trial[] }
  | {
      readonly kind: 'compared'
      readonly requestId: number
      readonly comparison: Comparison | { readonly problem: string } | null
    }
  | { readonly kind: 'answered'; readonly requestId: number; readonly answer: Answered }
  | { readonly kind: 'list-read'; readonly requestId: number; readonly reading: SheetsReading | null }
