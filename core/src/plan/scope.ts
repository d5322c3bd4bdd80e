import type { Activity, Plan, Scope } from './schema.ts'

/** A group and the groups around it, nearest first. @param group - null: none */
export const groupsAround = (plan: Pick<Plan, 'groups'>): ((group: string | null) => readonly string[]) => {
  const parent = new Map(plan.groups.map(({ id, parent: around }) => [id, around]))
  const known = new Map<string, readonly string[]>()
  const chainOf = (group: string | null): readonly string[] => {
    if (group === null || !parent.has(group)) return []
    let chain = known.get(group)
    if (chain === undefined) known.set(group, (chain = [group, ...chainOf(parent.get(group) ?? null)]))
    return chain
  }
  return chainOf
}

/** Width of a scope that names nothing. */
const ALL = 1e6

/**
 * How narrowly scopes hold an activity: 0 by name, 1 by a tag, 2 and on by its nearest group, a large number by naming nothing; null
 * where it does not.
 */
export const scopeWidth = (
  plan: Pick<Plan, 'groups'>,
): ((scope: Scope, activity: Activity) => number | null) => {
  const around = groupsAround(plan)
  const named = new WeakMap<object, Set<string>>()
  return (scope, activity) => {
    if (scope.activities !== undefined) {
      let ids = named.get(scope.activities)
      if (ids === undefined) named.set(scope.activities, (ids = new Set(scope.activities)))
      return ids.has(activity.id) ? 0 : null
    }
    if (scope.tag !== undefined) {
      const [field, value] = scope.tag
      const own = Object.hasOwn(activity.tags, field) ? activity.tags[field] : undefined
      return own === value || (Array.isArray(own) && own.includes(value)) ? 1 : null
    }
    if (scope.group !== undefined) {
      const depth = around(activity.group).indexOf(scope.group)
      return depth < 0 ? null : 2 + depth
    }
    return ALL
  }
}
