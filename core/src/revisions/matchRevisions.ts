import type { Activity, Plan } from '../plan/schema.ts'

/** How an activity of one revision was found in the other. */
type MatchedBy = 'id' | 'code' | 'name'

export interface Matched {
  readonly before: Activity
  readonly after: Activity
  readonly by: MatchedBy
}

export interface Matching {
  readonly matched: readonly Matched[]
  readonly deleted: readonly Activity[]
  readonly added: readonly Activity[]
}

/**
 * Pairs the activities of two revisions: by id, then by code, then by name within the group of the same name. A code or name that
 * stands for several activities on either side pairs nothing. An id is trusted only where it speaks of the same thing: where both code
 * and name differ and either is found elsewhere in the other revision, that is believed instead.
 */
export const matchRevisions = (before: Plan, after: Plan): Matching => {
  const left = new Set(before.activities)
  const right = new Set(after.activities)
  const matched: Matched[] = []
  const pair = (a: Activity, b: Activity, by: MatchedBy): void => {
    matched.push({ before: a, after: b, by })
    left.delete(a)
    right.delete(b)
  }
  const codesAfter = unique(after.activities, (a) => a.code)
  const byId = new Map(after.activities.map((a) => [a.id, a]))
  for (const a of before.activities) {
    const b = byId.get(a.id)
    if (!b) continue
    const isAnother = a.code !== b.code && a.name !== b.name && codesAfter.has(a.code)
    if (!isAnother) pair(a, b, 'id')
  }
  const match = (key: (plan: Plan) => (a: Activity) => string, by: MatchedBy): void => {
    const found = unique([...right], key(after))
    for (const [text, a] of unique([...left], key(before))) {
      const b = found.get(text)
      if (b && text !== '') pair(a, b, by)
    }
  }
  match(() => (a) => a.code, 'code')
  match(nameInPlace, 'name')
  const order = new Map(before.activities.map((a, i) => [a, i]))
  matched.sort((x, y) => order.get(x.before)! - order.get(y.before)!)
  return { matched, deleted: [...left], added: [...right] }
}

/** Name of an activity with the names of the groups that it stands in. */
const nameInPlace = (plan: Plan): ((activity: Activity) => string) => {
  const groups = new Map(plan.groups.map((g) => [g.id, g]))
  return ({ name, group }) => {
    if (name === '') return ''
    const path = [name]
    for (let at = group; at !== null; at = groups.get(at)?.parent ?? null)
      path.push(groups.get(at)?.name ?? '')
    return path.join(' / ')
  }
}

const unique = (activities: readonly Activity[], key: (a: Activity) => string): Map<string, Activity> => {
  const found = new Map<string, Activity | null>()
  for (const a of activities) found.set(key(a), found.has(key(a)) ? null : a)
  return new Map([...found].filter((entry): entry is [string, Activity] => entry[1] !== null))
}
