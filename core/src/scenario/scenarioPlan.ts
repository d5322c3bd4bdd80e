import { applyChange } from '../plan/applyChange.ts'
import { changeSchema, keyOf, type Change } from '../plan/change.ts'
import { freshId } from '../plan/edits.ts'
import { PlanError } from '../plan/issue.ts'
import type { Plan, Scenario, ScenarioChange } from '../plan/schema.ts'

/** A plan as a scenario sees it, and those of its changes that no longer fit the plan under it. */
export interface ScenarioPlan {
  readonly plan: Plan
  /** The keys of changes that are left out, each with why. */
  readonly unfit: ReadonlyMap<string, string>
}

const scenarioOf = (plan: Plan, id: string): Scenario => {
  const scenario = plan.scenarios.find((s) => s.id === id)
  if (!scenario) throw new RangeError(`the plan has no scenario "${id}"`)
  return scenario
}

/** The changes of a scenario, in the order in which they are made. */
export const changesOfScenario = (plan: Plan, scenarioId: string): ScenarioChange[] =>
  plan.scenarioChanges.filter(({ scenario }) => scenario === scenarioId)

/**
 * The plan with a scenario's changes on top. A scenario is a list of changes, so whatever moves in the plan moves under it;
 * a change that no longer fits (its activity was removed, say) is left out and reported, never guessed at.
 * @throws RangeError if the plan has no such scenario
 */
export const scenarioPlan = (plan: Plan, scenarioId: string): ScenarioPlan => {
  scenarioOf(plan, scenarioId)
  let at = plan
  const unfit = new Map<string, string>()
  for (const item of changesOfScenario(plan, scenarioId)) {
    const key = keyOf('scenarioChanges', item)
    const parsed = changeSchema.safeParse(item.change)
    if (!parsed.success) {
      unfit.set(key, 'this is not a change')
      continue
    }
    try {
      at = applyChange(at, parsed.data).plan
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      unfit.set(key, error.issues[0]!.message)
    }
  }
  return { plan: at, unfit }
}

/** The change that appends an edit to a scenario: scenarios are edited through the plan, like everything. */
export const editInScenario = (
  plan: Plan,
  scenarioId: string,
  edit: Change,
  random: () => number,
): Change => {
  scenarioOf(plan, scenarioId)
  const id = freshId(changesOfScenario(plan, scenarioId), 'c', random)
  return {
    kind: 'add',
    list: 'scenarioChanges',
    item: { id, scenario: scenarioId, change: edit },
    before: null,
  }
}

/** Changes beyond so many stand as one in a scenario: nobody takes them out one by one. */
const MOST_APART = 200

/**
 * The change that adds a scenario with its changes, each of them an item that can be taken out again.
 * @returns it, and the id of the scenario
 */
export const newScenario = (
  plan: Plan,
  facts: Pick<Scenario, 'name' | 'by' | 'why' | 'holdsIf'>,
  changes: readonly Change[],
  random: () => number,
): { change: Change; id: string } => {
  const id = freshId(plan.scenarios, 's', random)
  const apart = changes.length > MOST_APART ? [{ kind: 'all', changes: [...changes] } as const] : changes
  const change: Change = {
    kind: 'all',
    changes: [
      { kind: 'add', list: 'scenarios', item: { id, ...facts }, before: null },
      ...apart.map((change, k): Change => ({
        kind: 'add',
        list: 'scenarioChanges',
        item: { id: `c${k + 1}`, scenario: id, change },
        before: null,
      })),
    ],
  }
  return { change, id }
}

/** The change that removes a scenario with its changes. */
export const removeScenario = (plan: Plan, scenarioId: string): Change => ({
  kind: 'all',
  changes: [
    ...changesOfScenario(plan, scenarioId).map((item): Change => ({
      kind: 'remove',
      list: 'scenarioChanges',
      key: keyOf('scenarioChanges', item),
    })),
    { kind: 'remove', list: 'scenarios', key: scenarioId },
  ],
})

/**
 * The change that makes a scenario the plan: its changes are made and the scenario goes.
 * @throws PlanError if one of them does not fit the plan any more
 */
export const promoteScenario = (plan: Plan, scenarioId: string): Change => {
  const { unfit } = scenarioPlan(plan, scenarioId)
  if (unfit.size > 0)
    throw new PlanError([
      {
        pointer: '/scenarioChanges',
        code: 'unknown-id',
        message: `${[...unfit.values()][0]!}; take the change out of the scenario first`,
        ids: [...unfit.keys()],
      },
    ])
  return {
    kind: 'all',
    changes: [
      ...changesOfScenario(plan, scenarioId).map(({ change }) => change as Change),
      removeScenario(plan, scenarioId),
    ],
  }
}
