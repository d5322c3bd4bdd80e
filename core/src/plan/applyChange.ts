import type { Change } from './change.ts'
import { interpretChange } from './interpretChange.ts'
import { PlanError } from './issue.ts'
import { itemArrays } from './itemArrays.ts'
import { itemChains } from './itemChains.ts'
import type { Plan } from './schema.ts'
import { validateChange } from './validateChange.ts'

export interface Applied {
  readonly plan: Plan
  /** The change that takes the plan back, byte for byte. */
  readonly inverse: Change
}

/**
 * Applies a change to a plan. Plans are immutable: untouched lists and items keep their identity.
 * @throws PlanError if the change does not fit the plan or the result breaks a rule; nothing is then changed
 */
export const applyChange = (plan: Plan, change: Change): Applied => {
  const applied = applyUnchecked(plan, change)
  const issues = validateChange(applied.plan, change)
  if (issues.length > 0) throw new PlanError(issues)
  return applied
}

/** {@link applyChange} without the rules on the whole plan: for lists of changes that were checked when they were made. */
export const applyUnchecked = (plan: Plan, change: Change): Applied => {
  const items = change.kind === 'all' && change.changes.length >= MANY ? itemChains(plan) : itemArrays(plan)
  const inverse = interpretChange(items, change)
  return { plan: items.toPlan(), inverse }
}

/** From this many changes on chains cost less than copies of the lists. */
const MANY = 24
