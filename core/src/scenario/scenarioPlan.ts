import { applyChange } from '../plan/applyChange.ts'
import { changeSchema, type Change } from '../plan/change.ts'
import { PlanError } from '../plan/issue.ts'
import type { Plan } from '../plan/schema.ts'

/** A plan as a scenario sees it, and those of its changes that no longer fit the plan under it. */
export interface ScenarioPlan {
  readonly plan: Plan
  readonly unfit: readonly { readonly index: number; readonly reason: string }[]
}

/**
 * The plan with a scenario's changes on top. A scenario is a list of changes, so whatever moves in the plan moves under it;
 * a change that no longer fits (its activity was removed, say) is left out and reported, never guessed at.
 * @throws RangeError if the plan has no such scenario
 */
export const scenarioPlan = (plan: Plan, scenarioId: string): ScenarioPlan => {
  const scenario = plan.scenarios.find((s) => s.id === scenarioId)
  if (!scenario) throw new RangeError(`scenarioPlan: no scenario "${scenarioId}"`)
  let at = plan
  const unfit: { index: number; reason: string }[] = []
  scenario.changes.forEach((raw, index) => {
    const parsed = changeSchema.safeParse(raw)
    if (!parsed.success) {
      unfit.push({ index, reason: 'this is not a change' })
      return
    }
    try {
      at = applyChange(at, parsed.data).plan
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      unfit.push({ index, reason: error.issues[0]!.message })
    }
  })
  return { plan: at, unfit }
}

/** The change that appends an edit to a scenario: scenarios are edited through the plan, like everything. */
export const editInScenario = (plan: Plan, scenarioId: string, edit: Change): Change => {
  const scenario = plan.scenarios.find((s) => s.id === scenarioId)
  if (!scenario) throw new RangeError(`editInScenario: no scenario "${scenarioId}"`)
  return { kind: 'set', list: 'scenarios', key: scenarioId, set: { changes: [...scenario.changes, edit] } }
}
