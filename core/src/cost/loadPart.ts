import { isWithin } from '../plan/outline.ts'
import type { Activity, Plan } from '../plan/schema.ts'

/** Whose part of a load is looked at: that of named activities, or of all that have an owner, stand in a group, or carry a tag. */
export type LoadPart =
  | { readonly by: 'activities'; readonly ids: readonly string[] }
  | { readonly by: 'owner'; readonly owner: string }
  | { readonly by: 'group'; readonly group: string }
  | { readonly by: 'tag'; readonly tag: string; readonly value: string }

/** Whether an activity, by its position in the plan, belongs to a part. A group counts with all groups in it. */
export const isOfPart = (plan: Plan, part: LoadPart): ((activity: number) => boolean) => {
  const { activities } = plan
  switch (part.by) {
    case 'activities': {
      const ids = new Set(part.ids)
      return (i) => ids.has(activities[i]!.id)
    }
    case 'owner':
      return (i) => activities[i]!.owner === part.owner
    case 'group': {
      const inside = new Set<string | null>(
        plan.groups.filter(({ id }) => isWithin(plan, id, part.group)).map(({ id }) => id),
      )
      return (i) => inside.has(activities[i]!.group)
    }
    case 'tag':
      return (i) => tagOf(activities[i]!, part.tag) === part.value
  }
}

const tagOf = ({ tags }: Activity, tag: string): string => {
  const value = tags[tag]
  return value === null || value === undefined ? '' : String(value)
}

/** Every part of a plan that somebody has: owners, groups and tags with at least one assignment, by their names. */
export const loadParts = (plan: Plan): LoadPart[] => {
  const assigned = new Set(plan.assignments.map(({ activity }) => activity))
  const own = plan.activities.filter(({ id }) => assigned.has(id))
  const distinct = (texts: readonly string[]): string[] =>
    [...new Set(texts.filter((text) => text !== ''))].sort((a, b) => a.localeCompare(b, 'en'))
  const tags = distinct(own.flatMap((a) => Object.keys(a.tags)))
  return [
    ...distinct(own.map((a) => a.owner ?? '')).map((owner): LoadPart => ({ by: 'owner', owner })),
    ...groupsWith(plan, own).map((group): LoadPart => ({ by: 'group', group })),
    ...tags.flatMap((tag) =>
      distinct(own.map((a) => tagOf(a, tag))).map((value): LoadPart => ({ by: 'tag', tag, value })),
    ),
  ]
}

/** Groups in which one of the activities stands, in the order of the plan. */
const groupsWith = (plan: Plan, activities: readonly Activity[]): string[] => {
  const parents = new Map(plan.groups.map(({ id, parent }) => [id, parent]))
  const found = new Set<string>()
  for (const { group } of activities)
    for (let at = group; at !== null && !found.has(at); at = parents.get(at) ?? null) found.add(at)
  return plan.groups.map(({ id }) => id).filter((id) => found.has(id))
}
