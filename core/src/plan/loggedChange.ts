import type { Change } from './change.ts'

/** A change as the log holds it and as everybody who has the plan open hears of it. */
export interface LoggedChange {
  /** The revision that it made. */
  readonly revision: number
  readonly uid: string
  /** The tab that sent it. */
  readonly client: string
  readonly author: string
  /** The uid of the change that it takes back. */
  readonly undoes: string | null
  readonly change: Change
  readonly inverse: Change
  /** When it was stored, ISO 8601 in UTC. */
  readonly at: string
}

/** A plan in the list of plans. */
export interface PlanSummary {
  readonly id: string
  readonly code: string
  readonly name: string
  readonly revision: number
  readonly changedAt: string
}
