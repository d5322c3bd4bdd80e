import type { Change } from '../plan/change.ts'

export const DIFFERENCE_KINDS = [
  'actuals',
  'added',
  'deleted',
  'durations',
  'logic',
  'limits',
  'calendars',
  'progress',
  'project',
  'recoded',
  'other',
] as const
export type DifferenceKind = (typeof DIFFERENCE_KINDS)[number]

/** One thing that differs, and what it alone does to the finish of the earlier revision. */
export interface Difference {
  readonly kind: DifferenceKind
  /** Ids in the earlier revision; of added ones, those that they would have there. */
  readonly activities: readonly string[]
  readonly what: string
  readonly before: string
  readonly after: string
  /** Working minutes of the earlier project calendar by which the finish moves later; null where it cannot stand alone or was not measured. */
  readonly moves: number | null
  /** Of an update: what it consists of, each with what it does on top of those before it, so that they come to the whole. */
  readonly parts?: readonly Difference[]
  /** An actual date, or one before the earlier status date, that was put in, altered or taken out afterwards. */
  readonly isAfterTheFact: boolean
}

/** A difference before its effect is measured. */
export interface Draft extends Omit<Difference, 'moves' | 'isAfterTheFact' | 'parts'> {
  /** That makes it in the earlier revision; null where it cannot be made there alone, or makes no difference to any date. */
  readonly change: Change | null
  readonly isAfterTheFact?: boolean
}
