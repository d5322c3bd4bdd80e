import type { Change, Item } from './change.ts'
import type { PlanIssue } from './issue.ts'
import type { Activity, Plan } from './schema.ts'
import { activityIssues, validatePlan } from './validatePlan.ts'

/** Fields of an activity that only its own rules look at: setting one of them cannot break anything elsewhere. */
const OWN_FIELDS = new Set([
  'code', 'name', 'duration', 'confirmed', 'place', 'constraints', 'aim', 'estimate', 'crash', 'focused', 'progress', 'promise',
  'cost', 'payment', 'decision', 'owner', 'tags', 'checklist', 'notes',
])
const OWN_LINK_FIELDS = new Set(['lag', 'nature', 'reason'])
/** Lists that nothing else refers to. */
const LOOSE_LISTS = new Set(['scenarios', 'acceptances', 'baselines', 'reviews'])

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
  if (change.kind !== 'set') return null
  if (LOOSE_LISTS.has(change.list)) return []
  if (change.list === 'links') return onlySets(change.set, OWN_LINK_FIELDS) ? [] : null
  if (change.list !== 'activities' || !onlySets(change.set, OWN_FIELDS)) return null
  const i = after.activities.findIndex((a) => a.id === change.key)
  return i < 0 ? null : activityIssues(after, after.activities[i] as Activity, i)
}
