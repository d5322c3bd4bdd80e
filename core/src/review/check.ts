import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import type { ReviewContext } from './context.ts'
import type { Facts } from './fingerprint.ts'
import type { LimitRule } from './limits.ts'

export const TOPICS = ['Logic', 'Float', 'Constraints', 'Calendars', 'Progress', 'Estimates', 'Cost'] as const
export type Topic = (typeof TOPICS)[number]
/** `moves-answer`: the finish or its probability is wrong while this stands; `caution`: worth knowing. */
export type Severity = 'moves-answer' | 'caution'

/** What a finding does to the answer. Minutes of the project calendar. */
export type Effect =
  /** By scheduling without it: the finish is so much later (positive) or earlier (negative) because of it. */
  | { readonly kind: 'finish'; readonly minutes: number }
  /** The required finish is missed by this much. */
  | { readonly kind: 'short'; readonly minutes: number }
  /** A date of one activity is missed by this much; the finish need not be. */
  | { readonly kind: 'missed'; readonly minutes: number }
  /** The finish stays; so much of a delay that there is already does not show (0: there is none today, and one would not show). */
  | { readonly kind: 'hides'; readonly minutes: number }
  /** The finish stays, and so much float is lost; minutes of the activity's own calendar. */
  | { readonly kind: 'float'; readonly minutes: number }
  /** Dates and floats can be wrong by up to so much of a day. */
  | { readonly kind: 'day'; readonly minutes: number }
  /** The dates stay; what is wrong is the forecast. */
  | { readonly kind: 'forecast' }
  | { readonly kind: 'none' }
  /** It cannot be scheduled away: what is not in the plan has no figure. */
  | { readonly kind: 'unknown' }
  /** Not yet scheduled without it; see {@link measureEffects}. */
  | { readonly kind: 'unmeasured' }

export interface Repair {
  /** The way of repairing, the same for all findings of a check that can be repaired so. */
  readonly kind: string
  readonly label: string
  readonly change: Change
}

/** What a check finds; {@link Finding} adds whose it is. */
export interface Found {
  /** Where in the network: with the check, what makes it the same finding when its facts change. */
  readonly place: string
  readonly facts: Facts
  readonly severity: Severity
  readonly activities: readonly string[]
  readonly links: readonly string[]
  readonly calendars?: readonly string[]
  /** One sentence: what was found and where. */
  readonly message: string
  /** Why it matters here, where that differs from finding to finding of a check; {@link Check.why} otherwise. */
  readonly why?: string
  /** The measure, and the limit that it passes; null where a check has none. In the unit of the check's limit. */
  readonly value: number | null
  readonly threshold: number | null
  /** Known at once, or found by scheduling the plan with {@link without}. */
  readonly effect?: Effect
  /** The plan without what was found. */
  readonly without?: Change
  /** What it does where the finish stays without it; `own-float`: what its first activity gains in float. None by default. */
  readonly otherwise?: Effect | 'own-float'
  readonly repairs: readonly Repair[]
}

export interface Finding extends Found {
  readonly check: string
  readonly topic: Topic
  readonly effect: Effect
  /** Place and facts in one: when they change it is another finding. */
  readonly fingerprint: string
}

/** Which way a forecast errs while a finding of a kind stands, and why. */
export interface Bias {
  /** The only way of forecasting that errs; every one where it is left out. */
  readonly of?: 'PERT'
  readonly direction: 'too early' | 'too late' | 'too narrow' | 'either way'
  readonly because: string
}

/**
 * One thing that Review looks for. Each stands in a file of its own under `checks/` and in the list of `CHECKS`.
 * A check is a pure function of the plan and its schedule; it changes nothing and measures no time.
 */
export interface Check {
  readonly id: string
  readonly topic: Topic
  /** What is looked for, as a column heading. */
  readonly title: string
  /** Said when nothing is found. */
  readonly clean: string
  /** What the plan has none of, so that there is nothing to test; null where there is. Not tested is not clean. */
  readonly lacks?: (plan: Plan) => string | null
  readonly why: string
  /** What its share is counted of. */
  readonly of: 'activities' | 'links' | 'calendars' | 'project'
  /** How a forecast is distorted while a finding of this kind stands; null where it is not. */
  readonly bias: Bias | null
  readonly limit: LimitRule | null
  find(context: ReviewContext): Found[]
}

/** What a check finds at nearly every activity; shared, so that ten thousand times nothing allocates nothing. */
export const NOTHING: Found[] = []
Object.freeze(NOTHING)
