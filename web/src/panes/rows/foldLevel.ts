import type { Plan } from '@geodrome/core'

type Groups = Plan['groups']
type Folded = ReadonlySet<string>

/** How deep each group lies, 0 at the top. */
export const groupDepths = (groups: Groups): ReadonlyMap<string, number> => {
  const byId = new Map(groups.map((group) => [group.id, group]))
  const depths = new Map<string, number>()
  const depthOf = (id: string): number => {
    const known = depths.get(id)
    if (known !== undefined) return known
    const parent = byId.get(id)?.parent ?? null
    const depth = parent === null || !byId.has(parent) ? 0 : depthOf(parent) + 1
    depths.set(id, depth)
    return depth
  }
  groups.forEach(({ id }) => depthOf(id))
  return depths
}

/** Everything from a depth on folded: at 0 only the top groups are seen. */
export const foldedFrom = (groups: Groups, depth: number): Folded =>
  new Set([...groupDepths(groups)].filter(([, at]) => at >= depth).map(([id]) => id))

/** One level less: of the groups that are seen open, the deepest are folded. */
export const foldOneLevel = (groups: Groups, folded: Folded): Folded => {
  const depths = groupDepths(groups)
  const open = groups
    .filter(({ id }) => !groupsAround(groups, id).some((around) => folded.has(around)))
    .map(({ id }) => depths.get(id)!)
  return new Set([
    ...folded,
    ...foldedFrom(
      groups,
      open.reduce((a, b) => Math.max(a, b), 0),
    ),
  ])
}

/** One level more: of the folded groups, the highest are opened. */
export const openOneLevel = (groups: Groups, folded: Folded): Folded => {
  const depths = groupDepths(groups)
  const highest = [...folded].flatMap((id) => depths.get(id) ?? []).reduce((a, b) => Math.min(a, b), Infinity)
  return new Set([...folded].filter((id) => (depths.get(id) ?? 0) > highest))
}

/** The groups around an activity or group, the nearest first. */
export const groupsAround = (groups: Groups, group: string | null): string[] => {
  const parents = new Map(groups.map(({ id, parent }) => [id, parent]))
  const found: string[] = []
  for (let at = group; at !== null && !found.includes(at); at = parents.get(at) ?? null) found.push(at)
  return found
}
