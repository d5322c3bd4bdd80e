import type {
  Accepted,
  Change,
  Effect,
  Finding,
  Fitness,
  Foresight,
  FourteenPoints,
  IntegrityTest,
  Limits,
  Plan,
  Reopened,
  RevisionComparison,
  NetworkShape,
} from '@geodrome/core'

/** What the page and the review worker say to each other. */

/** Findings of one check that are sent at once; more are asked for page by page. */
export const PAGE = 50

/** The findings of one check, as the sheet shows them. */
export interface CheckGroup {
  readonly check: string
  readonly count: number
  readonly isHeavy: boolean
  /** The greatest effect among them. */
  readonly effect: Effect
  /** Distinct activities and links that they touch. */
  readonly activities: number
  readonly links: number
  /** Part of all that the check counts; null for checks of the whole project. */
  readonly share: number | null
  /** The weightiest, a page of them. */
  readonly findings: readonly Finding[]
  /** Against the review that was kept last: how many appeared and went; null without one, or where it did not name its findings. */
  readonly since: {
    readonly before: number
    readonly appeared: number | null
    readonly gone: number | null
  } | null
}

export interface ReviewView {
  readonly version: number
  readonly groups: readonly CheckGroup[]
  readonly open: number
  readonly movers: number
  readonly accepted: readonly Accepted[]
  readonly acceptedCount: number
  readonly reopened: Readonly<Record<string, Reopened>>
  readonly counts: Readonly<Record<string, number>>
  readonly limits: Limits
  readonly fitness: Fitness
  /** Findings whose effect is still being measured. */
  readonly unmeasured: number
  /** What the last pass changed: findings gone and new since the review before it. Null for the first. */
  readonly pass: { readonly gone: readonly string[]; readonly appeared: readonly string[] } | null
  readonly reviewMs: number
}

/** A repair with what it would do. */
export interface Preview {
  readonly kind: string
  readonly label: string
  readonly change: Change
  readonly foresight: Foresight
  /** Open findings of the check that can be repaired the same way. */
  readonly alike: number
}

export type ReviewAsk =
  | { readonly kind: 'page'; readonly check: string; readonly from: number }
  /** Previews of the repairs of one finding, new findings included. */
  | { readonly kind: 'preview'; readonly fingerprint: string }
  /** All repairs of a kind as one change, and what they would do together. */
  | { readonly kind: 'repairAll'; readonly check: string; readonly repair: string }
  | {
      readonly kind: 'accept'
      readonly fingerprints: readonly string[] | { readonly check: string }
      readonly reason: string
      readonly by: string
      readonly at: string
    }
  | { readonly kind: 'keep'; readonly by: string; readonly at: string; readonly note: string }
  /** Findings about one activity. */
  | { readonly kind: 'about'; readonly activity: string }
  | { readonly kind: 'points' }
  | { readonly kind: 'shape' }
  | { readonly kind: 'revisions'; readonly other: Plan; readonly direction: 'before' | 'after' }

export interface ReviewAnswers {
  page: readonly Finding[]
  preview: readonly Preview[]
  repairAll: {
    readonly change: Change
    readonly repaired: number
    readonly left: number
    readonly foresight: Foresight
  } | null
  accept: Change | null
  keep: Change | null
  about: readonly Finding[]
  points: FourteenPoints | null
  shape: NetworkShape | null
  revisions: RevisionComparison | { readonly problem: string } | null
}

export type ReviewRequest =
  | { readonly kind: 'load'; readonly version: number; readonly plan: Plan }
  | { readonly kind: 'change'; readonly version: number; readonly change: Change }
  | { readonly kind: 'ask'; readonly requestId: number; readonly ask: ReviewAsk }
  /** Tests activities one after the other; null stops. */
  | { readonly kind: 'integrity'; readonly activities: readonly string[] | 'all' | null }

export type ReviewReply =
  | { readonly kind: 'reviewed'; readonly view: ReviewView }
  | { readonly kind: 'answer'; readonly requestId: number; readonly answer: unknown }
  | {
      readonly kind: 'integrity'
      readonly tests: readonly IntegrityTest[]
      readonly done: number
      readonly total: number
    }
