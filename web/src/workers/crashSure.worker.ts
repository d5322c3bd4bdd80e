import {
  applyChange,
  finishesOf,
  overloadsBeside,
  percentileSorted,
  schedule,
  shareAtOrBelow,
  simulationModel,
  type Change,
  type MoreOverload,
  type Plan,
} from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

/** A plan as it is and crashed, simulated on the same draws. */
export interface CrashSureQuestion {
  readonly plan: Plan
  readonly crashing: Change
  /** Id of the activity whose finish is asked for; null: the project's. */
  readonly to: string | null
  readonly iterations: number
  readonly seed: number
  readonly risks: boolean
  /** What should be kept; null where nothing is. */
  readonly due: number | null
}
interface Sure {
  /** 80 of 100 iterations finish by it. */
  readonly p80: number
  /** Share that keeps what is due; null where nothing is. */
  readonly kept: number | null
}
export interface CrashSureAnswer {
  readonly normal: Sure
  readonly crashed: Sure
  /** Whom the crashed plan asks for more than there is, beyond the plan as it is. */
  readonly short: readonly MoreOverload[]
}

serveLongWork<CrashSureQuestion, CrashSureAnswer>(
  ({ plan, crashing, to, iterations, seed, risks, due }, say) => {
    const sure = (one: Plan): Sure => {
      const model = simulationModel(one, { iterations, seed, sampling: 'lhs', risks })
      const finishes = finishesOf(model, to === null ? null : model.network.indexOf.get(to)!)
      return {
        p80: percentileSorted(finishes, 80),
        kept: due === null ? null : shareAtOrBelow(finishes, due),
      }
    }
    const faster = applyChange(plan, crashing).plan
    const short = overloadsBeside(schedule(plan), schedule(faster))
    say({ normal: sure(plan), crashed: sure(faster), short })
  },
)
