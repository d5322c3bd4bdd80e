import { newLink } from './links.ts'
import type { Change } from './change.ts'
import { freshId } from './edits.ts'
import { isWithin } from './outline.ts'
import type { LinkType, Plan } from './schema.ts'

/**
 * Where a link on a group is really tied: as predecessor at its open finishes (activities that lead to nothing else in the group),
 * as successor at its open starts. A link on the group itself would hide which of them drives.
 */
export const groupEnds = (plan: Plan, group: string, side: 'from' | 'to'): string[] => {
  const members = new Set(
    plan.activities.filter((a) => a.kind !== 'hammock' && isWithin(plan, a.group, group)).map((a) => a.id),
  )
  const tied = new Set(plan.links.filter((l) => members.has(l.from) && members.has(l.to)).map((l) => l[side]))
  return [...members].filter((id) => !tied.has(id))
}

/** The links between activities that stand for one on a group; those that there are already are left out. */
export const linkGroup = (
  plan: Plan,
  ends: { from: readonly string[]; to: readonly string[] },
  type: LinkType,
  lag: number,
  random: () => number,
): Change => {
  const made = [...plan.links]
  const changes: Change[] = []
  for (const from of ends.from)
    for (const to of ends.to) {
      if (from === to || made.some((l) => l.from === from && l.to === to && l.type === type)) continue
      const item = newLink({
        id: freshId(made, 'l', random),
        from,
        to,
        type,
        lag,
      })
      made.push(item)
      changes.push({ kind: 'add', list: 'links', item, before: null })
    }
  return changes.length === 1 ? changes[0]! : { kind: 'all', changes }
}
