import { riskWorths, type Plan, type RiskWorth, type SimulationOptions } from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

/** What each risk of a plan is worth at a percentile; one after the other. */
export interface RisksQuestion {
  readonly plan: Plan
  readonly options: SimulationOptions
  readonly percent: number
}

serveLongWork<RisksQuestion, RiskWorth>(({ plan, options, percent }, say) => {
  for (const worth of riskWorths(plan, options, percent)) say(worth)
})
