import { KEEPERS, scenarioPlan, type Keeper, type Plan } from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'
import { NotFoundError } from '../errors.ts'

/** @throws NotFoundError where a plan keeps nothing in such a list */
export const keeperOf = (list: string | undefined): Keeper => {
  const keeper = KEEPERS.find((one) => one === list)
  if (!keeper)
    throw new NotFoundError(`the plan is not kept in "${list ?? ''}"; it is in ${KEEPERS.join(' and ')}`)
  return keeper
}

/**
 * The plan as it is, or as it was when something of it was kept.
 * @param kept - what kept it: "baselines/b1"
 * @throws NotFoundError
 */
export const planThen = async (plans: PlanRepository, id: string, kept: unknown): Promise<Plan> => {
  if (kept === undefined) return (await plans.get(id)).plan
  const [list, ...key] = String(kept).split('/')
  return (await plans.kept(id, keeperOf(list), key.join('/'))).plan
}

/** The plan as {@link planThen}, or as the scenario asked for sees it. @throws NotFoundError */
export const meantPlan = async (
  plans: PlanRepository,
  id: string,
  { scenario, kept }: { readonly scenario?: unknown; readonly kept?: unknown },
): Promise<Plan> => {
  const plan = await planThen(plans, id, kept)
  if (scenario === undefined) return plan
  if (!plan.scenarios.some((one) => one.id === scenario))
    throw new NotFoundError(`there is no scenario "${String(scenario)}"`)
  return scenarioPlan(plan, String(scenario)).plan
}
