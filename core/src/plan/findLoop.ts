import { linkEndsOf } from './positions.ts'
import type { Link, Plan } from './schema.ts'

/**
 * The links of one loop in order, or null. Hammocks drive nothing, so links out of them close no loop.
 * Depth-first with an explicit stack over links in CSR form: O(activities + links), no recursion, a few typed arrays.
 */
export const findLoop = (plan: Pick<Plan, 'activities' | 'links'>): Link[] | null => {
  const { activities, links } = plan
  const n = activities.length
  const { from, to } = linkEndsOf(links, activities)
  const outStart = new Int32Array(n + 1)
  for (let k = 0; k < links.length; k++)
    if (activities[from[k]!]!.kind !== 'hammock') outStart[from[k]! + 1]!++
  for (let i = 0; i < n; i++) outStart[i + 1]! += outStart[i]!
  const next = outStart.slice()
  const outLink = new Int32Array(outStart[n]!)
  for (let k = 0; k < links.length; k++)
    if (activities[from[k]!]!.kind !== 'hammock') outLink[next[from[k]!]!++] = k

  const NEW = 0
  const OPEN = 1
  const DONE = 2
  const state = new Uint8Array(n)
  next.set(outStart)
  for (let root = 0; root < n; root++) {
    if (state[root] !== NEW) continue
    const path: number[] = [root]
    const taken: number[] = []
    state[root] = OPEN
    while (path.length > 0) {
      const at = path[path.length - 1]!
      if (next[at]! === outStart[at + 1]!) {
        state[at] = DONE
        path.pop()
        taken.pop()
        continue
      }
      const link = outLink[next[at]!++]!
      const target = to[link]!
      if (state[target] === OPEN) return [...taken.slice(path.indexOf(target)), link].map((k) => links[k]!)
      if (state[target] === NEW) {
        state[target] = OPEN
        path.push(target)
        taken.push(link)
      }
    }
  }
  return null
}
