import type { Change, Item } from './change.ts'
import type { PlanIssue } from './issue.ts'
import type { Activity, Plan } from './schema.ts'
import { linkEndsOf, positionsOf } from './positions.ts'
import { activityIssues, validatePlan } from './validatePlan.ts'

/** Fields of an activity that only its own rules look at: setting one of them cannot break anything elsewhere. */
const OWN_FIELDS = new Set([
  'code', 'name', 'duration', 'confirmed', 'place', 'constraints', 'aim', 'estimate', 'crash', 'focused', 'progress', 'promise',
  'cost', 'payment', 'decision', 'owner', 'tags', 'checklist', 'notes',
])
const OWN_LINK_FIELDS = new Set(['lag', 'nature', 'reason'])
/** Lists that nothing else refers to. */
const LOOSE_LISTS = new Set(['scenarios', 'acceptances', 'baselines', 'reviews'])

/** Facts of the project that no rule looks at, beside the declared ends, which must exist. */
const OWN_PROJECT_FIELDS = new Set(['code', 'name', 'notes', 'responsible', 'currency', 'opens', 'closes', 'requiredFinish', 'criticalFloat', 'nearCriticalFloat', 'outOfSequence', 'review'])

const projectIssues = (after: Plan, set: Item): PlanIssue[] | null => {
  const positions = positionsOf(after.activities)
  const exist = (ids: readonly string[]): boolean => ids.every((id) => positions.has(id))
  return onlySets(set, OWN_PROJECT_FIELDS) && (!set.opens || exist(after.project.opens)) && (!set.closes || exist(after.project.closes)) ? [] : null
}

/** Rules that one new link can break; null where the whole plan has to be looked at to say what is wrong. */
const newLinkIssues = (after: Plan, id: string): PlanIssue[] | null => {
  const positions = positionsOf(after.activities)
  const same = after.links.filter((l) => l.id === id)
  const [link] = same
  const from = link && positions.get(link.from)
  const to = link && positions.get(link.to)
  if (same.length !== 1 || from === undefined || to === undefined || from === to || link!.lagOn?.startsWith('calendar:')) return null
  return after.activities[to]!.kind === 'hammock' || closesLoop(after, from, to) ? null : []
}

/** Whether a way leads from activity `to` to activity `from` already; hammocks drive nothing. O(activities + links) at worst. */
const closesLoop = (plan: Plan, from: number, to: number): boolean => {
  const ends = linkEndsOf(plan.links, plan.activities)
  const n = plan.activities.length
  const outStart = new Int32Array(n + 1)
  for (const i of ends.from) outStart[i + 1]!++
  for (let i = 0; i < n; i++) outStart[i + 1]! += outStart[i]!
  const next = outStart.slice()
  const heads = new Int32Array(ends.to.length)
  for (let k = 0; k < heads.length; k++) heads[next[ends.from[k]!]!++] = ends.to[k]!
  const seen = new Uint8Array(n)
  const stack = [to]
  seen[to] = 1
  while (stack.length > 0) {
    const at = stack.pop()!
    if (at === from) return true
    if (plan.activities[at]!.kind === 'hammock') continue
    for (let o = outStart[at]!; o < outStart[at + 1]!; o++) {
      const head = heads[o]!
      if (seen[head] === 1) continue
      seen[head] = 1
      stack.push(head)
    }
  }
  return false
}

const onlySets = (set: Item, fields: ReadonlySet<string>): boolean => Object.keys(set).every((field) => fields.has(field))

/**
 * The rules that a change could break: those of the items it sets where it reaches no further, else all of {@link validatePlan}.
 * @param after - the plan with the change applied; before the change it kept every rule
 */
export const validateChange = (after: Plan, change: Change): PlanIssue[] => {
  const issues = localIssues(after, change)
  return issues ?? validatePlan(after)
}

/** Issues of a change that reaches no further than its own items; null where the whole plan has to be looked at. */
const localIssues = (after: Plan, change: Change): PlanIssue[] | null => {
  if (change.kind === 'all') {
    const parts = change.changes.map((part) => localIssues(after, part))
    return parts.every((part) => part !== null) ? parts.flat() : null
  }
  if (change.kind === 'move') return []
  if (change.kind === 'project') return projectIssues(after, change.set)
  if (change.kind === 'remove' && change.list === 'links') return []
  if (change.kind === 'add' && change.list === 'links') return newLinkIssues(after, String(change.item.id))
  if (change.kind !== 'set') return null
  if (LOOSE_LISTS.has(change.list)) return []
  if (change.list === 'links') return onlySets(change.set, OWN_LINK_FIELDS) ? [] : null
  if (change.list !== 'activities' || !onlySets(change.set, OWN_FIELDS)) return null
  const i = after.activities.findIndex((a) => a.id === change.key)
  return i < 0 ? null : activityIssues(after, after.activities[i] as Activity, i)
}
