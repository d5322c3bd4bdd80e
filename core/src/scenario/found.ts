import { keyOf, type Change, type Item } from '../plan/change.ts'
import type { Plan, ScenarioChange } from '../plan/schema.ts'

/** What a change of a scenario found, by the paths of the facts that it sets. */
export type Found = NonNullable<ScenarioChange['was']>

/** One field of one item that a change sets, and the change of that field alone. */
export type FieldSet = Extract<Change, { kind: 'set' | 'project' }>

/** What a change sets, field by field. */
export const fieldsSet = (change: Change): FieldSet[] => {
  switch (change.kind) {
    case 'all':
      return change.changes.flatMap(fieldsSet)
    case 'project':
    case 'set':
      return Object.entries(change.set).map(([field, value]) => ({ ...change, set: { [field]: value } }))
    default:
      return []
  }
}
export const pathOf = (one: FieldSet): string => {
  const [field] = Object.keys(one.set)
  return one.kind === 'project' ? `project/${field!}` : `${one.list}/${one.key}/${field!}`
}
/** The item that it is about; null where there is none. */
export const itemOf = (plan: Plan, one: FieldSet): Item | null =>
  one.kind === 'project'
    ? plan.project
    : ((plan[one.list] as Item[]).find((item) => keyOf(one.list, item) === one.key) ?? null)
export const valueIn = (item: Item, one: FieldSet): unknown => item[Object.keys(one.set)[0]!]

/**
 * What a scenario's change finds where it sets something: by the path of each fact, the value that the plan under the scenario has. Kept
 * with the change, it tells later whether the plan has moved on.
 */
export const foundBy = (under: Plan, change: Change): Found =>
  Object.fromEntries(
    fieldsSet(change).flatMap((one) => {
      const item = itemOf(under, one)
      return item === null ? [] : [[pathOf(one), valueIn(item, one) ?? null]]
    }),
  )
