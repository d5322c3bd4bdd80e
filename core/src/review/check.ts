import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'

export type Topic = 'Logic' | 'Float' | 'Constraints' | 'Calendars' | 'Progress' | 'Estimates' | 'Cost'
/** `moves-answer`: the finish or its probability is wrong while this stands; `caution`: worth knowing. */
export type Severity = 'moves-answer' | 'caution'

/** What a finding does to the finish, found by scheduling without it; minutes of the project calendar. */
export type Effect =
  | { readonly kind: 'finish'; readonly minutes: number }
  /** A date is missed by this much. */
  | { readonly kind: 'short'; readonly minutes: number }
  /** So much float is lost. */
  | { readonly kind: 'float'; readonly minutes: number }
  | { readonly kind: 'none' }
  | { readonly kind: 'unknown' }

export interface Repair {
  readonly label: string
  readonly change: Change
}

export interface Finding {
  readonly check: string
  readonly topic: Topic
  readonly severity: Severity
  readonly activities: readonly string[]
  readonly links: readonly string[]
  /** One sentence: what was found and where. */
  readonly message: string
  /** The measure that exceeds the threshold, and the threshold; null where a check has none. */
  readonly value: number | null
  readonly threshold: number | null
  readonly effect: Effect
  /** Identifies the facts under the finding: when they change it is another finding. */
  readonly fingerprint: string
  readonly repairs: readonly Repair[]
}

/** What a check looks at. `finishWith` schedules the plan with a change and gives the difference to the finish in working minutes. */
export interface ReviewContext {
  readonly plan: Plan
  readonly schedule: Schedule
  /** Working minutes of the project calendar by which the finish moves later under a change; null where it cannot be scheduled. */
  finishMovesBy(change: Change): number | null
}

export interface Check {
  readonly id: string
  readonly topic: Topic
  /** What is looked for, as a column heading. */
  readonly title: string
  /** Said when nothing is found. */
  readonly clean: string
  readonly why: string
  /** How a forecast is distorted while a finding of this kind stands; null where it is not. */
  readonly bias: 'too good' | null
  find(context: ReviewContext): Finding[]
}

/** Effect of a finding whose removal would move the finish by `minutes`. */
export const effectOf = (minutes: number | null): Effect =>
  minutes === null ? { kind: 'unknown' } : minutes === 0 ? { kind: 'none' } : { kind: 'finish', minutes: -minutes }
