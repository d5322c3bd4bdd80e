import { applyChange } from '../plan/applyChange.ts'
import { changeSchema, keyOf, type Change } from '../plan/change.ts'
import { freshId } from '../plan/edits.ts'
import { PlanError } from '../plan/issue.ts'
import type { Plan, Scenario, ScenarioChange } from '../plan/schema.ts'
import { foundBy, type Found } from './found.ts'

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

/** A scenario and those that it stands on, the one on the plan itself first; none for the plan. */
export const lineageOf = (plan: Plan, scenarioId: string | null): readonly string[] => {
  const lineage: string[] = []
  for (let at = scenarioId; at !== null && !lineage.includes(at);) {
    lineage.unshift(at)
    at = plan.scenarios.find(({ id }) => id === at)?.base ?? null
  }
  return lineage
}

/** The changes of a scenario and of those that it stands on, in the order in which they are made. */
export const changesUnder = (plan: Plan, scenarioId: string): ScenarioChange[] =>
  lineageOf(plan, scenarioId).flatMap((id) => changesOfScenario(plan, id))

/**
 * The plan with a scenario's changes on top, under them those of the scenarios that it stands on. A scenario is a list of changes, so whatever moves in the plan moves under it;
 * a change that no longer fits (its activity was removed, say) is left out and reported, never guessed at.
 * @throws RangeError if the plan has no such scenario
 */
export const scenarioPlan = (plan: Plan, scenarioId: string): ScenarioPlan => {
  scenarioOf(plan, scenarioId)
  let at = plan
  const unfit = new Map<string, string>()
  for (const item of changesUnder(plan, scenarioId)) {
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

/** The plan under a scenario: itself, or as the scenario sees it that it stands on. */
export const planUnder = (plan: Plan, scenarioId: string): Plan => {
  const { base = null } = scenarioOf(plan, scenarioId)
  return base === null ? plan : scenarioPlan(plan, base).plan
}

/** The change that appends an edit to a scenario: scenarios are edited through the plan, like everything. */
export const editInScenario = (
  plan: Plan,
  scenarioId: string,
  edit: Change,
  random: () => number,
): Change => {
  const id = freshId(changesOfScenario(plan, scenarioId), 'c', random)
  const was = foundBy(planUnder(plan, scenarioId), edit)
  return {
    kind: 'add',
    list: 'scenarioChanges',
    item: { id, scenario: scenarioId, change: edit, was },
    before: null,
  }
}

/** Changes beyond so many stand as one in a scenario: nobody takes them out one by one. */
const MOST_APART = 200

/**
 * The change that adds a scenario with its changes, each of them an item that can be taken out again.
 * @param found - what each of them found, where they were made on another plan
 * @returns it, and the id of the scenario
 */
export const newScenario = (
  plan: Plan,
  facts: Pick<Scenario, 'name' | 'by' | 'why' | 'holdsIf'>,
  changes: readonly Change[],
  random: () => number,
  found: readonly (Found | undefined)[] = changes.map((one) => foundBy(plan, one)),
): { change: Change; id: string } => {
  const id = freshId(plan.scenarios, 's', random)
  const apart: readonly { readonly change: Change; readonly was?: Found | undefined }[] =
    changes.length > MOST_APART
      ? [{ change: { kind: 'all', changes: [...changes] }, was: Object.assign({}, ...found) as Found }]
      : changes.map((one, k) => ({ change: one, was: found[k] }))
  const change: Change = {
    kind: 'all',
    changes: [
      { kind: 'add', list: 'scenarios', item: { id, ...facts }, before: null },
      ...apart.map(({ change: one, was }, k): Change => ({
        kind: 'add',
        list: 'scenarioChanges',
        item: { id: `c${k + 1}`, scenario: id, change: one, ...(was && { was }) },
        before: null,
      })),
    ],
  }
  return { change, id }
}

/** The changes of a scenario go, and it itself. */
const withoutIt = (plan: Plan, scenarioId: string): Change[] => [
  ...changesOfScenario(plan, scenarioId).map((item): Change => ({
    kind: 'remove',
    list: 'scenarioChanges',
    key: keyOf('scenarioChanges', item),
  })),
  { kind: 'remove', list: 'scenarios', key: scenarioId },
]

/** Scenarios that stand on another one come to stand on what is under it. */
const onto = (plan: Plan, scenarioId: string, base: string | null): Change[] =>
  plan.scenarios
    .filter((one) => one.base === scenarioId)
    .map(({ id }): Change => ({ kind: 'set', list: 'scenarios', key: id, set: { base } }))

/**
 * The change that removes a scenario with its changes. What stands on it stays what it is: it takes its changes over, and stands on what
 * was under it.
 */
export const removeScenario = (plan: Plan, scenarioId: string): Change => {
  const { base = null } = scenarioOf(plan, scenarioId)
  const own = changesOfScenario(plan, scenarioId)
  const takenOver = plan.scenarios
    .filter((one) => one.base === scenarioId)
    .flatMap(({ id }): Change[] => {
      const theirs = changesOfScenario(plan, id)
      const taken = new Set(theirs.map((item) => item.id))
      const before = theirs[0] ? keyOf('scenarioChanges', theirs[0]) : null
      return own.map(({ change, was }, k): Change => {
        let fresh = `${scenarioId}-${k + 1}`
        while (taken.has(fresh)) fresh += 'x'
        taken.add(fresh)
        return {
          kind: 'add',
          list: 'scenarioChanges',
          item: { id: fresh, scenario: id, change, ...(was && { was }) },
          before,
        }
      })
    })
  return {
    kind: 'all',
    changes: [...takenOver, ...onto(plan, scenarioId, base), ...withoutIt(plan, scenarioId)],
  }
}

/**
 * The change that makes a scenario the plan: its changes and those under them are made, and it goes. What stood on it stands on the plan.
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
      ...changesUnder(plan, scenarioId).map(({ change }) => change as Change),
      ...onto(plan, scenarioId, null),
      ...withoutIt(plan, scenarioId),
    ],
  }
}
