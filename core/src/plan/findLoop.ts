import type { Link, Plan } from './schema.ts'

/**
 * The links of one loop in order, or null. Hammocks drive nothing, so links out of them close no loop.
 * Depth-first with an explicit stack: O(activities + links), no recursion.
 */
export const findLoop = (plan: Pick<Plan, 'activities' | 'links'>): Link[] | null => {
  const index = new Map(plan.activities.map((a, i) => [a.id, i]))
  const outgoing: Link[][] = plan.activities.map(() => [])
  for (const link of plan.links) {
    const from = index.get(link.from)!
    if (plan.activities[from]!.kind !== 'hammock') outgoing[from]!.push(link)
  }
  const NEW = 0
  const OPEN = 1
  const DONE = 2
  const state = new Uint8Array(plan.activities.length)
  const nextLink = new Int32Array(plan.activities.length)
  for (let root = 0; root < state.length; root++) {
    if (state[root] !== NEW) continue
    const path: number[] = [root]
    const taken: Link[] = []
    state[root] = OPEN
    while (path.length > 0) {
      const at = path.at(-1)!
      const link = outgoing[at]![nextLink[at]!++]
      if (!link) {
        state[at] = DONE
        path.pop()
        taken.pop()
        continue
      }
      const to = index.get(link.to)!
      if (state[to] === OPEN) return [...taken.slice(path.indexOf(to)), link]
      if (state[to] === NEW) {
        state[to] = OPEN
        path.push(to)
        taken.push(link)
      }
    }
  }
  return null
}
