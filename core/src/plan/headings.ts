import type { Change } from './change.ts'
import { freshId, removeActivity } from './edits.ts'
import { siblingsOf } from './outlineOrder.ts'
import type { Plan } from './schema.ts'

/** Why an activity cannot become the heading of what follows it: a heading has neither links nor people nor progress. Empty if it can. */
export const whyNoHeading = (plan: Plan, id: string): string => {
  const activity = plan.activities.find((a) => a.id === id)
  if (!activity) return 'it is gone'
  if (plan.links.some(({ from, to }) => from === id || to === id))
    return `${activity.code} has links, and a heading has none: unlink it first`
  if (plan.assignments.some((assignment) => assignment.activity === id))
    return `${activity.code} has resources, and a heading has none`
  if (typeof activity.progress.actualStart === 'string') return `${activity.code} has begun: it is work`
  return ''
}

/**
 * Makes groups of activities that are headings in a flat list: each takes what follows it, up to the next of them or to a group beside
 * it. Its code and name stay, its duration goes.
 * @param ids - activities that `whyNoHeading` has nothing against
 * @param random - for ids
 * @returns the change, with the groups and how many activities stand in them then
 */
export const makeHeadings = (
  plan: Plan,
  ids: readonly string[],
  random: () => number,
): { readonly change: Change; readonly groups: readonly string[]; readonly work: number } => {
  const chosen = new Set(ids)
  const changes: Change[] = []
  const groups: string[] = []
  let work = 0
  const owners = new Set(plan.activities.filter(({ id }) => chosen.has(id)).map(({ group }) => group))
  const taken = [...plan.groups] as { id: string }[]
  for (const owner of owners) {
    const siblings = siblingsOf(plan, owner)
    let heading: string | null = null
    for (const [at, sibling] of siblings.entries()) {
      if (sibling.kind === 'group') heading = null
      else if (chosen.has(sibling.id)) {
        const { code, name } = plan.activities[sibling.index]!
        heading = freshId(taken, 'g', random)
        taken.push({ id: heading })
        groups.push(heading)
        changes.push({
          kind: 'add',
          list: 'groups',
          item: { id: heading, code, name, parent: owner },
          before: siblings.slice(at).find(({ kind }) => kind === 'group')?.id ?? null,
        })
      } else if (heading !== null) {
        work++
        changes.push({ kind: 'set', list: 'activities', key: sibling.id, set: { group: heading } })
      }
    }
  }
  changes.push(
    ...plan.activities.filter(({ id }) => chosen.has(id)).map(({ id }) => removeActivity(plan, id)),
  )
  return { change: { kind: 'all', changes }, groups, work }
}
