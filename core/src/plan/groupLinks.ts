import { pointer, type PlanIssue } from './issue.ts'
import type { PlanFile } from './schema.ts'

type FileLink = PlanFile['links'][number]

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

  const parentOf = new Map(groups.map((g) => [g.id, g.parent]))
  const within = (group: string | null, ancestor: string): boolean => {
    const seen = new Set<string>()
    for (let at = group; at !== null && at !== undefined && !seen.has(at); at = parentOf.get(at) ?? null) {
      if (at === ancestor) return true
      seen.add(at)
    }
    return false
  }
  const membersOf = (group: string): string[] =>
    activities.filter((a) => a.kind !== 'hammock' && within(a.group, group)).map((a) => a.id)
  const openEnds = (group: string, end: 'from' | 'to'): string[] => {
    const members = new Set(membersOf(group))
    const tied = new Set(links.filter((l) => members.has(l.from) && members.has(l.to)).map((l) => l[end]))
    return [...members].filter((id) => !tied.has(id))
  }

  return links.flatMap((link, i) => {
    if (!isGroup(link.from) && !isGroup(link.to)) return [link]
    const froms = isGroup(link.from) ? openEnds(link.from, 'from') : [link.from]
    const tos = isGroup(link.to) ? openEnds(link.to, 'to') : [link.to]
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
