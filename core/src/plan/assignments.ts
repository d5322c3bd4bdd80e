import { keyOf, type Change } from './change.ts'
import { freshId } from './edits.ts'
import type { Assignment, Plan, Resource } from './schema.ts'

/** What an activity is to have of a resource. */
export interface Wanted {
  readonly resource: string
  readonly amount: number
}

/** The assignments of each activity, by its id. */
export const assignmentsOf = (plan: Plan): ReadonlyMap<string, readonly Assignment[]> => {
  const known = byPlan.get(plan.assignments)
  if (known) return known
  const found = new Map<string, Assignment[]>()
  for (const assignment of plan.assignments) {
    const own = found.get(assignment.activity)
    if (own) own.push(assignment)
    else found.set(assignment.activity, [assignment])
  }
  byPlan.set(plan.assignments, found)
  return found
}
const byPlan = new WeakMap<Plan['assignments'], ReadonlyMap<string, readonly Assignment[]>>()

/** Gives activities what they are to have, and nothing else; what is there already keeps what else is said of it. */
export const assign = (
  plan: Plan,
  activities: readonly string[],
  wanted: readonly Wanted[],
  random: () => number,
): Change => {
  const changes = assignEach(plan, new Map(activities.map((id) => [id, wanted])), random)
  return changes.length === 1 ? changes[0]! : { kind: 'all', changes }
}

/** {@link assign} where each activity is to have something else. O(assignments of the plan + what is wanted) */
export const assignEach = (
  plan: Plan,
  wantedBy: ReadonlyMap<string, readonly Wanted[]>,
  random: () => number,
): Change[] => {
  const taken = new Set(plan.assignments.map(({ id }) => id))
  const newId = (): string => {
    let id: string
    do id = freshId([], 'x', random)
    while (taken.has(id))
    taken.add(id)
    return id
  }
  const changes: Change[] = []
  for (const [activity, wanted] of wantedBy) {
    const own = assignmentsOf(plan).get(activity) ?? []
    const kept = new Set<Assignment>()
    for (const { resource, amount } of wanted) {
      const there = own.find((a) => a.resource === resource && !kept.has(a))
      if (there === undefined) {
        const item = { id: newId(), activity, resource, amount }
        changes.push({ kind: 'add', list: 'assignments', item, before: null })
        continue
      }
      kept.add(there)
      if (there.amount !== amount)
        changes.push({ kind: 'set', list: 'assignments', key: keyOf('assignments', there), set: { amount } })
    }
    for (const assignment of own)
      if (!kept.has(assignment))
        changes.push({ kind: 'remove', list: 'assignments', key: keyOf('assignments', assignment) })
  }
  return changes
}

/** Removes a resource with all its assignments. */
export const removeResource = (plan: Plan, id: string): Change => ({
  kind: 'all',
  changes: [
    ...plan.assignments
      .filter((a) => a.resource === id)
      .map((a): Change => ({ kind: 'remove', list: 'assignments', key: keyOf('assignments', a) })),
    { kind: 'remove', list: 'resources', key: id },
  ],
})

/** A new resource, as it is when nothing is said of it yet. */
export const newResource = (plan: Plan, kind: Resource['kind'], random: () => number): Change => {
  const codes = new Set(plan.resources.map(({ code }) => code))
  let number = plan.resources.length + 1
  while (codes.has(`R${number}`)) number++
  const per = kind === 'material' ? 'quantity' : kind === 'fee' ? 'call' : 'hour'
  return {
    kind: 'add',
    list: 'resources',
    before: null,
    item: { id: freshId(plan.resources, 'r', random), code: `R${number}`, name: '', kind, price: 0, per },
  }
}
