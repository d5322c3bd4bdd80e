import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import type { Plan, Scenario } from '../plan/schema.ts'
import { changesUnder, newScenario, scenarioPlan } from './scenarioPlan.ts'

/**
 * A plan with one of its scenarios and no other: what is sent to a colleague who has the plan. What it stands on comes along as changes of
 * its own. @throws RangeError without that scenario
 */
export const scenarioAlone = (plan: Plan, id: string): Plan => {
  if (!plan.scenarios.some((one) => one.id === id)) throw new RangeError(`the plan has no scenario "${id}"`)
  return {
    ...plan,
    scenarios: plan.scenarios
      .filter((one) => one.id === id)
      .map((one) => (one.base === undefined ? one : { ...one, base: null })),
    scenarioChanges: changesUnder(plan, id).map(({ change, was }, k) => ({
      id: `c${k + 1}`,
      scenario: id,
      change,
      ...(was && { was }),
    })),
  }
}

/** A scenario of a file, as it would come into a plan. */
export interface OfferedScenario {
  readonly name: string
  readonly by: string
  readonly changes: number
  /** Of them, those that do not fit this plan: they come along as void. */
  readonly unfit: number
  /** Whether the plan has it already, change for change. */
  readonly isHere: boolean
  readonly take: Change
  /** The id that it gets. */
  readonly id: string
}

/** The scenarios of another copy of a plan, each with what taking it in would do. */
export const scenariosOffered = (plan: Plan, other: Plan, random: () => number): readonly OfferedScenario[] =>
  other.scenarios.map((scenario) => {
    const items = changesUnder(other, scenario.id)
    const own = items.map(({ change }) => change as Change)
    const { id: _, base: __, ...facts } = scenario
    const { change: take, id } = newScenario(
      plan,
      { ...facts, name: freeName(plan, scenario.name) },
      own,
      random,
      items.map(({ was }) => was),
    )
    return {
      name: scenario.name,
      by: scenario.by,
      changes: own.length,
      unfit: scenarioPlan(applyUnchecked(plan, take).plan, id).unfit.size,
      isHere: plan.scenarios.some((one) => isSame(plan, one, scenario, own)),
      take,
      id,
    }
  })

const freeName = ({ scenarios }: Plan, name: string): string => {
  const taken = new Set(scenarios.map((one) => one.name))
  if (!taken.has(name)) return name
  for (let k = 2; ; k++) if (!taken.has(`${name} (${k})`)) return `${name} (${k})`
}

const isSame = (plan: Plan, one: Scenario, { name }: Scenario, changes: readonly Change[]): boolean =>
  one.name === name &&
  JSON.stringify(changesUnder(plan, one.id).map(({ change }) => change)) === JSON.stringify(changes)
