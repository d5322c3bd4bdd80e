import type { Compared, SimulationResult } from '@geodrome/core'

/** One of those that stand side by side: the plan, or a scenario. */
export interface Shown extends Compared {
  readonly name: string
  readonly mark: string
  readonly colour: string
  /** Why it has no dates; empty where it has. */
  readonly undated: string
  /** Of the run on the draws of all; null where there is none that still fits. */
  readonly result: SimulationResult | null
}
