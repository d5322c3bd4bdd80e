import {
  alternativeBeside,
  CalendarError,
  comparedPlan,
  scenarioPlan,
  type Alternative,
  type AlternativeBeside,
  type Plan,
} from '@geodrome/core'
import { serveLongWork } from './longWork.ts'

/** The plan, and the scenarios that are to stand beside it. */
export interface AlternativesQuestion {
  readonly plan: Plan
  readonly scenarios: readonly string[]
}
/** First the plan itself, then each scenario: what it is compared by, or why it has no dates. */
export type AlternativesAnswer =
  | { readonly kind: 'plan'; readonly itself: Alternative }
  | { readonly kind: 'scenario'; readonly id: string; readonly beside: AlternativeBeside }
  | { readonly kind: 'undated'; readonly id: string; readonly why: string }

serveLongWork<AlternativesQuestion, AlternativesAnswer>(({ plan, scenarios }, say) => {
  const base = comparedPlan(plan)
  say({ kind: 'plan', itself: base.itself })
  for (const id of scenarios)
    try {
      say({ kind: 'scenario', id, beside: alternativeBeside(base, scenarioPlan(plan, id).plan) })
    } catch (error) {
      if (!(error instanceof CalendarError)) throw error
      say({ kind: 'undated', id, why: error.message })
    }
})
