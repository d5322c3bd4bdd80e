import type { Alternative, AlternativeBeside, SimulationResult } from '@geodrome/core'
import type { Pairing } from '../../composables/pairing.ts'

/** One of those that stand side by side: the plan, or a scenario. */
export interface Shown {
  /** Null: the plan itself. */
  readonly id: string | null
  readonly name: string
  readonly mark: string
  readonly colour: string
  /** Null while it is not known, or where it has no dates. */
  readonly itself: Alternative | null
  /** Null of the plan. */
  readonly beside: AlternativeBeside | null
  /** Why it has no dates; empty where it has. */
  readonly undated: string
  /** Of the run on the draws of all; null where there is none that still fits. */
  readonly result: SimulationResult | null
  /** Beside the plan's run, iteration by iteration. */
  readonly pairing: Pairing | null
}
