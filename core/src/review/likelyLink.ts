import { Kind } from '../network/network.ts'
import type { ReviewContext } from './context.ts'

/** Rows that are looked at around an open end. */
const NEAR = 40

/**
 * What an activity with an open end most likely waits for, or what waits for it: the nearest row of its own group, above it for a start
 * and below it for a finish, that stands on the right side of it in the order of the network, so that a link closes no loop. Null where
 * there is none.
 */
export const likelyNeighbour = (
  context: ReviewContext,
  i: number,
  end: 'start' | 'finish',
): number | null => {
  const { network, placeInOrder } = context
  const { group } = network.activities[i]!
  const step = end === 'start' ? -1 : 1
  for (let near = 1; near <= NEAR; near++) {
    const j = i + near * step
    const other = network.activities[j]
    if (other === undefined) return null
    if (other.group !== group || network.kind[j] === Kind.Hammock || context.isFinished(j)) continue
    if ((placeInOrder[j]! - placeInOrder[i]!) * step > 0) return j
  }
  return null
}
