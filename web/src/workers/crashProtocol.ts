import type { Change, Plan, PertReport } from '@geodrome/core'

/** What the page and the crashing worker say to each other; activities by id, instants as the plan's. */

export interface CrashRequest {
  readonly plan: Plan
  /** Id of the activity whose finish is asked for; null: the project's. */
  readonly to: string | null
  /** Whole days of each activity's calendar, or fractions. */
  readonly whole: boolean
}

export interface CrashStepView {
  readonly finish: number
  readonly cost: {
    readonly crashing: number
    readonly time: number
    readonly damages: number
    readonly total: number
  }
  /** Crashed further than in the step before, or (negative) less: working minutes of its calendar. */
  readonly changes: readonly {
    readonly activity: string
    readonly minutes: number
    readonly option: string
  }[]
  /** All that is crashed, with its price. */
  readonly crashed: readonly {
    readonly activity: string
    readonly minutes: number
    readonly price: number
    readonly option: string
  }[]
  readonly perDay: number
  readonly notUsed: readonly {
    readonly activity: string
    readonly slope: number
    readonly why: 'at-its-limit' | 'has-float' | 'saves-nothing' | 'saves-less'
    readonly minutes: number
  }[]
  /** What makes it a scenario. */
  readonly change: Change
  /** The plan so crashed by PERT. */
  readonly pert: Pick<PertReport, 'probability' | 'dateAtConfidence'>
}

export interface CrashView {
  readonly steps: readonly CrashStepView[]
  /** A longest path with everything at its shortest. */
  readonly blocking: readonly string[]
  /** Work on it that waits for its own calendar, with the instant. */
  readonly waits: readonly { readonly activity: string; readonly until: number }[]
  /** Whether one calendar rules all work and lags: then what is found is the optimum. */
  readonly isProven: boolean
  readonly crashable: number
}
