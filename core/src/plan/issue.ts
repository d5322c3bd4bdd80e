/** One thing wrong with a plan, in the user's terms: where, what, and how to mend it. */
export interface PlanIssue {
  /** JSON pointer into the plan file. */
  readonly pointer: string
  readonly code: IssueCode
  readonly message: string
  /** Ids of the activities, links or calendars concerned, for pointing at them. */
  readonly ids?: readonly string[]
}

export type IssueCode =
  | 'not-json'
  | 'shape'
  | 'forbidden-name'
  | 'duplicate-id'
  | 'unknown-id'
  | 'loop'
  | 'self-link'
  | 'hammock-link'
  | 'no-working-time'
  | 'overlapping-shifts'
  | 'inverted-range'
  | 'constraint'
  | 'progress'
  | 'missing'
  | 'estimate'
  | 'too-large'

/** The plan cannot be read or cannot be scheduled; carries every issue found. */
export class PlanError extends Error {
  override name = 'PlanError'
  readonly issues: readonly PlanIssue[]
  constructor(issues: readonly PlanIssue[]) {
    super(issues.map((issue) => `${issue.pointer}: ${issue.message}`).join('\n'))
    this.issues = issues
  }
}

/** JSON pointer of path segments. */
export const pointer = (...segments: readonly (string | number | symbol)[]): string =>
  segments.map((s) => '/' + String(s).replaceAll('~', '~0').replaceAll('/', '~1')).join('')
