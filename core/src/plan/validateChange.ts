import type { Change, Item } from './change.ts'
import { LISTS, meaningOf, type ListName } from './fields.ts'
import type { PlanIssue } from './issue.ts'
import type { Activity, Link, Plan } from './schema.ts'
import { linkEndsOf, positionsOf, successorsOf } from './positions.ts'
import { activityIssues, validatePlan } from './validatePlan.ts'

const projectIssues = (after: Plan, set: Item): PlanIssue[] | null => {
  const positions = positionsOf(after.activities)
  const exist = (ids: readonly string[]): boolean => ids.every((id) => positions.has(id))
  // Of the declared ends no more is asked than that they exist.
  const { opens: _opens, closes: _closes, ...others } = set
  return breaksNothingElse('project', others) && exist(after.project.opens) && exist(after.project.closes)
    ? []
    : null
}

/** Rules that one new link can break; null where the whole plan has to be looked at to say what is wrong. */
const newLinkIssues = (after: Plan, id: string): PlanIssue[] | null => {
  const positions = positionsOf(after.activities)
  const link: Link | undefined = after.links.findLast((other) => other.id === id)
  const from = link && positions.get(link.from)
  const to = link && positions.get(link.to)
  if (from === undefined || to === undefined || from === to || link!.lagOn?.startsWith('calendar:'))
    return null
  // Work of risks stands between activities like links.
  if (after.risks.some(({ work }) => (work?.length ?? 0) > 0)) return null
  return after.activities[to]!.kind === 'hammock' || closesLoop(after, from, to) ? null : []
}

/**
 * Whether a way leads from activity `to` to activity `from`: then a link between them closes a loop. Hammocks drive nothing. What is
 * looked through are the links without the new one, whose index is kept between tries. O(what `to` reaches)
 */
const closesLoop = (plan: Plan, from: number, to: number): boolean => {
  const ends = linkEndsOf(plan.links, plan.activities)
  const { start, heads } = successorsOf(ends.grownFrom ?? ends, plan.activities.length)
  const seen = new Uint8Array(plan.activities.length)
  const stack = [to]
  seen[to] = 1
  while (stack.length > 0) {
    const at = stack.pop()!
    if (at === from) return true
    if (plan.activities[at]!.kind === 'hammock') continue
    for (let o = start[at]!; o < start[at + 1]!; o++) {
      const head = heads[o]!
      if (seen[head] === 1) continue
      seen[head] = 1
      stack.push(head)
    }
  }
  return false
}

/** Whether only the item's own rules look at what is set. */
const breaksNothingElse = (list: ListName | 'project', set: Item): boolean =>
  Object.keys(set).every((field) => meaningOf(list, field).breaks === 'item')

/**
 * The rules that a change could break: those of the items it sets where it reaches no further, else all of {@link validatePlan}.
 * @param after - the plan with the change applied; before the change it kept every rule
 */
export const validateChange = (after: Plan, change: Change): PlanIssue[] => {
  const issues = localIssues(after, change)
  return issues ?? validatePlan(after)
}

/** Parts of a change that are looked at one by one. */
const MOST_PARTS = 50

/** Issues of a change that reaches no further than its own items; null where the whole plan has to be looked at. */
const localIssues = (after: Plan, change: Change): PlanIssue[] | null => {
  if (change.kind === 'all') {
    // One look at the whole plan costs less than a look for each.
    if (change.changes.length > MOST_PARTS) return null
    const parts = change.changes.map((part) => localIssues(after, part))
    return parts.every((part) => part !== null) ? parts.flat() : null
  }
  if (change.kind === 'move') return []
  if (change.kind === 'project') return projectIssues(after, change.set)
  if (change.kind === 'remove' && change.list === 'links') return []
  if (change.kind === 'add' && change.list === 'links') return newLinkIssues(after, String(change.item.id))
  if (!LISTS[change.list].breaks) return []
  if (change.kind !== 'set' || !breaksNothingElse(change.list, change.set)) return null
  if (change.list !== 'activities') return []
  const i = after.activities.findIndex((a) => a.id === change.key)
  return i < 0 ? null : activityIssues(after, after.activities[i] as Activity, i)
}
