import { applyMany } from './applyMany.ts'
import { keyOf, shapeItem, shapeProject, type Change, type Item, type ListName } from './change.ts'
import { PlanError, pointer } from './issue.ts'
import { earlier, refuse, shaped, withFields } from './itemFields.ts'
import { keepLinkEnds, keepPositions } from './positions.ts'
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
  switch (change.kind) {
    case 'project':
      return setProject(plan, change.set)
    case 'set':
      return setItem(plan, change.list, change.key, change.set)
    case 'add':
      return addItem(plan, change.list, change.item, change.before)
    case 'remove':
      return removeItem(plan, change.list, change.key)
    case 'move':
      return moveItem(plan, change.list, change.key, change.before)
    case 'all':
      return applyAll(plan, change.changes)
  }
}

/** From this many changes on they are made on linked copies of the lists, where each costs the same however long a list is. */
const MANY = 24

const applyAll = (plan: Plan, changes: readonly Change[]): Applied => {
  if (changes.length >= MANY) return applyMany(plan, changes)
  let at = plan
  const inverses: Change[] = []
  for (const change of changes) {
    const applied = applyUnchecked(at, change)
    at = applied.plan
    inverses.push(applied.inverse)
  }
  return { plan: at, inverse: { kind: 'all', changes: inverses.reverse() } }
}

const setProject = (plan: Plan, set: Item): Applied => {
  const project = shaped('/project', () => shapeProject(withFields(plan.project, set)))
  return { plan: { ...plan, project }, inverse: { kind: 'project', set: earlier(plan.project, set) } }
}

const itemsOf = (plan: Plan, list: ListName): readonly Item[] => plan[list] as readonly Item[]

const positionOf = (plan: Plan, list: ListName, key: string): number => {
  const position = itemsOf(plan, list).findIndex((item) => keyOf(list, item) === key)
  if (position < 0) refuse(pointer(list), `there is no "${key}" in ${list} any more`, [key])
  return position
}

const withList = (plan: Plan, list: ListName, items: readonly Item[]): Plan =>
  ({ ...plan, [list]: items }) as Plan

const setItem = (plan: Plan, list: ListName, key: string, set: Item): Applied => {
  const position = positionOf(plan, list, key)
  const items = itemsOf(plan, list)
  const item = items[position]!
  const next = shaped(pointer(list, position), () => shapeItem(list, withFields(item, set)))
  if (keyOf(list, next) !== key)
    refuse(pointer(list, position, 'id'), 'an identity never changes; add a new item instead')
  const changed = withList(plan, list, items.with(position, next))
  if (list === 'activities') keepPositions(plan.activities, changed.activities)
  return { plan: changed, inverse: { kind: 'set', list, key, set: earlier(item, set) } }
}

const addItem = (plan: Plan, list: ListName, item: Item, before: string | null): Applied => {
  const items = itemsOf(plan, list)
  const next = shaped(pointer(list, items.length), () => shapeItem(list, item))
  const key = keyOf(list, next)
  const position = before === null ? items.length : positionOf(plan, list, before)
  const after = items.slice()
  after.splice(position, 0, next)
  if (list === 'links') keepLinkEnds(items as never, after as never, position, 1)
  return {
    plan: withList(plan, list, after),
    inverse: { kind: 'remove', list, key },
  }
}

const removeItem = (plan: Plan, list: ListName, key: string): Applied => {
  const position = positionOf(plan, list, key)
  const items = itemsOf(plan, list)
  const following = items[position + 1]
  const after = items.slice()
  after.splice(position, 1)
  if (list === 'links') keepLinkEnds(items as never, after as never, position, -1)
  return {
    plan: withList(plan, list, after),
    inverse: { kind: 'add', list, item: items[position]!, before: following ? keyOf(list, following) : null },
  }
}

const moveItem = (plan: Plan, list: ListName, key: string, before: string | null): Applied => {
  const position = positionOf(plan, list, key)
  const items = itemsOf(plan, list)
  const after = items[position + 1]
  const without = items.toSpliced(position, 1)
  const target = before === null ? without.length : without.findIndex((item) => keyOf(list, item) === before)
  if (target < 0) refuse(pointer(list), `there is no "${before}" in ${list} to stand before`)
  return {
    plan: withList(plan, list, without.toSpliced(target, 0, items[position]!)),
    inverse: { kind: 'move', list, key, before: after ? keyOf(list, after) : null },
  }
}
