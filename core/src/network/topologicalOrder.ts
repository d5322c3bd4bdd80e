import type { Network } from './network.ts'
import { Kind } from './network.ts'

/**
 * Order in which every predecessor comes before its successors (Kahn 1962, "Topological sorting of large networks",
 * CACM 5(11)); among the ready, the first in plan order of discovery. Hammocks come last: they hang from the others.
 * @throws RangeError if the links close a loop: the caller should have validated the plan
 */
export const topologicalOrder = (
  n: number,
  links: Pick<Network, 'inStart' | 'linkTo' | 'outStart' | 'outLink'>,
  kind: Uint8Array,
): Int32Array => {
  const waiting = new Int32Array(n)
  const order = new Int32Array(n)
  let filled = 0
  for (let i = 0; i < n; i++) {
    waiting[i] = links.inStart[i + 1]! - links.inStart[i]!
    if (waiting[i] === 0 && kind[i] !== Kind.Hammock) order[filled++] = i
  }
  for (let at = 0; at < filled; at++) {
    const i = order[at]!
    for (let o = links.outStart[i]!; o < links.outStart[i + 1]!; o++) {
      const to = links.linkTo[links.outLink[o]!]!
      if (--waiting[to]! === 0) order[filled++] = to
    }
  }
  for (let i = 0; i < n; i++) if (kind[i] === Kind.Hammock) order[filled++] = i
  if (filled < n) throw new RangeError('topologicalOrder: the links close a loop')
  return order
}
