import type { Change, Item } from '../plan/change.ts'
import type { Activity, Constraint, Link } from '../plan/schema.ts'

/** The changes that repairs are made of. */

export const setActivity = (id: string, set: Item): Change => ({
  kind: 'set',
  list: 'activities',
  key: id,
  set,
})
export const setLink = (id: string, set: Item): Change => ({ kind: 'set', list: 'links', key: id, set })
export const addLink = (link: Link): Change => ({
  kind: 'add',
  list: 'links',
  item: link as unknown as Item,
  before: null,
})
export const removeLink = (id: string): Change => ({ kind: 'remove', list: 'links', key: id })

export const withoutConstraint = (activity: Activity, constraint: Constraint): Change =>
  setActivity(activity.id, { constraints: activity.constraints.filter((other) => other !== constraint) })

export const withConstraint = (
  activity: Activity,
  constraint: Constraint,
  set: Partial<Constraint>,
): Change =>
  setActivity(activity.id, {
    constraints: activity.constraints.map((other) => (other === constraint ? { ...other, ...set } : other)),
  })
