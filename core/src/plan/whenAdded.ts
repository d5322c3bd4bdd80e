import { applyUnchecked } from './applyChange.ts'
import { keyOf, type Change } from './change.ts'
import type { ListName } from './fields.ts'
import type { Plan } from './schema.ts'

/** The parts of a change, in the order in which they are made. */
const partsOf = (change: Change): readonly Change[] =>
  change.kind === 'all' ? change.changes.flatMap(partsOf) : [change]

const isAdding = (list: ListName, key: string, part: Change): boolean =>
  part.kind === 'add' && part.list === list && keyOf(list, part.item) === key

/** Whether a change adds the item of a list that has a key. */
export const addsItem = (change: Change, list: ListName, key: string): boolean =>
  partsOf(change).some((part) => isAdding(list, key, part))

/**
 * The plan as it was when an item was added to it, with that item: what the same change does later is not in it.
 * @param before - the plan on which the change was made
 */
export const planWhenAdded = (before: Plan, change: Change, list: ListName, key: string): Plan => {
  const parts = partsOf(change)
  const changes = parts.slice(0, parts.findIndex((part) => isAdding(list, key, part)) + 1)
  return applyUnchecked(before, { kind: 'all', changes }).plan
}
