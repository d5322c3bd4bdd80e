import type { Group, Plan } from './schema.ts'

/** What stands directly in a group, or at the top: work by its position in the plan, and groups. */
export type OutlineChild =
  | { readonly kind: 'activity'; readonly id: string; readonly index: number }
  | {
      readonly kind: 'group'
      readonly id: string
      readonly group: Group
      /** Position of the activity before which it stands; Infinity for one at the end. */
      readonly anchor: number
    }

/**
 * The order of the outline: groups beside each other in their order, and work beside groups where it stands in the plan. A group
 * stands before its first work, an empty one before the group that follows, or at the end. O(activities + groups) time.
 * @returns what stands in each group by id, and under null at the top
 */
export const outlineChildren = (plan: Plan): ReadonlyMap<string | null, readonly OutlineChild[]> => {
  const parentOf = new Map(plan.groups.map((g) => [g.id, g.parent]))
  const firstWork = new Map<string, number>()
  const work = new Map<string | null, number[]>()
  // Ten thousand of them after every edit: neighbours mostly stand in one group, which is then looked up once.
  let last: string | null | undefined
  let list: number[] = []
  for (let i = 0; i < plan.activities.length; i++) {
    const { group } = plan.activities[i]!
    if (group !== last) {
      last = group
      list = work.get(group) ?? []
      if (list.length === 0) work.set(group, list)
      for (let at = group; at !== null && !firstWork.has(at); at = parentOf.get(at) ?? null)
        firstWork.set(at, i)
    }
    list.push(i)
  }
  const groups = new Map<string | null, Group[]>()
  for (const group of plan.groups) {
    const list = groups.get(group.parent)
    if (list) list.push(group)
    else groups.set(group.parent, [group])
  }
  const children = new Map<string | null, readonly OutlineChild[]>()
  for (const owner of new Set([...work.keys(), ...groups.keys()]))
    children.set(owner, merged(plan, work.get(owner) ?? [], groups.get(owner) ?? [], firstWork))
  return children
}

const merged = (
  plan: Plan,
  work: readonly number[],
  groups: readonly Group[],
  firstWork: ReadonlyMap<string, number>,
): OutlineChild[] => {
  const anchors = anchorsOf(groups, firstWork)
  const found: OutlineChild[] = []
  let next = 0
  const addWork = (before: number): void => {
    for (; next < work.length && work[next]! < before; next++)
      found.push({ kind: 'activity', id: plan.activities[work[next]!]!.id, index: work[next]! })
  }
  groups.forEach((group, g) => {
    addWork(anchors[g]!)
    found.push({ kind: 'group', id: group.id, group, anchor: anchors[g]! })
  })
  addWork(Infinity)
  return found
}

/** Never less than that of a group before it; that of the group that follows for one without work. */
const anchorsOf = (groups: readonly Group[], firstWork: ReadonlyMap<string, number>): number[] => {
  const anchors: number[] = []
  let least = 0
  for (const { id } of groups) {
    const own = firstWork.get(id)
    if (own !== undefined) least = Math.max(least, own)
    anchors.push(own === undefined ? Infinity : least)
  }
  for (let g = groups.length - 2; g >= 0; g--) if (!firstWork.has(groups[g]!.id)) anchors[g] = anchors[g + 1]!
  return anchors
}

/** What stands beside a row, itself included, in order. */
export const siblingsOf = (plan: Plan, owner: string | null): readonly OutlineChild[] =>
  outlineChildren(plan).get(owner) ?? []
