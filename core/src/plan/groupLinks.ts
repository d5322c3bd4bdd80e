import { PlanError, pointer, type PlanIssue } from './issue.ts'
import type { PlanFile } from './schema.ts'

type FileLink = PlanFile['links'][number]

/** Links that links on groups may become, all together. */
const MOST_MADE = 200_000

/** The activities of a group and of what is in it, hammocks left out. */
const membersByGroup = (
  groups: PlanFile['groups'],
  activities: readonly { id: string; group: string | null; kind: string }[],
): ((group: string) => string[]) => {
  const children = new Map<string, string[]>()
  for (const { id, parent } of groups)
    if (parent !== null) {
      const known = children.get(parent)
      if (known) known.push(id)
      else children.set(parent, [id])
    }
  const own = new Map<string, number[]>()
  activities.forEach(({ group, kind }, i) => {
    if (group === null || kind === 'hammock') return
    const known = own.get(group)
    if (known) known.push(i)
    else own.set(group, [i])
  })
  return (group) => {
    const within = new Set([group])
    for (const id of within) for (const child of children.get(id) ?? []) within.add(child)
    const members = [...within].flatMap((id) => own.get(id) ?? [])
    return members.sort((a, b) => a - b).map((i) => activities[i]!.id)
  }
}

/**
 * Links on groups hide the true driver, so they become links on the group's open starts (as successor) and open finishes
 * (as predecessor), and each is reported.
 */
export const expandGroupLinks = (
  links: readonly FileLink[],
  groups: PlanFile['groups'],
  activities: readonly { id: string; group: string | null; kind: string }[],
  notes: PlanIssue[],
): FileLink[] => {
  const groupIds = new Set(groups.map((g) => g.id))
  const activityIds = new Set(activities.map((a) => a.id))
  const isGroup = (id: string): boolean => groupIds.has(id) && !activityIds.has(id)
  if (!links.some((link) => isGroup(link.from) || isGroup(link.to))) return [...links]

  const membersOf = membersByGroup(groups, activities)
  const successors = new Map<string, string[]>()
  const predecessors = new Map<string, string[]>()
  const note = (map: Map<string, string[]>, key: string, other: string): void => {
    const known = map.get(key)
    if (known) known.push(other)
    else map.set(key, [other])
  }
  for (const { from, to } of links) {
    note(successors, from, to)
    note(predecessors, to, from)
  }
  const ends = new Map<string, readonly string[]>()
  /** Its members that nothing in the group follows, or that nothing in it precedes. */
  const openEnds = (group: string, end: 'from' | 'to'): readonly string[] => {
    const key = `${end} ${group}`
    let open = ends.get(key)
    if (open === undefined) {
      const members = new Set(membersOf(group))
      const tied = end === 'from' ? successors : predecessors
      ends.set(key, (open = [...members].filter((id) => !tied.get(id)?.some((other) => members.has(other)))))
    }
    return open
  }

  let count = 0
  return links.flatMap((link, i) => {
    if (!isGroup(link.from) && !isGroup(link.to)) return [link]
    const froms = isGroup(link.from) ? openEnds(link.from, 'from') : [link.from]
    const tos = isGroup(link.to) ? openEnds(link.to, 'to') : [link.to]
    count += froms.length * tos.length
    if (count > MOST_MADE)
      throw new PlanError([
        {
          pointer: pointer('links', i),
          code: 'too-large',
          message: `a link from "${link.from}" to "${link.to}" means ${(froms.length * tos.length).toLocaleString('en')} links between their activities; link their open ends through a milestone instead`,
          ids: [link.from, link.to],
        },
      ])
    const made = froms.flatMap((from) =>
      tos.map((to): FileLink => ({ ...link, id: undefined, from, to, ofGroup: true })),
    )
    notes.push({
      pointer: pointer('links', i),
      code: 'unknown-id',
      message: `a link on a group was turned into ${made.length} link(s) between its activities`,
      ids: [link.from, link.to],
    })
    return made
  })
}
