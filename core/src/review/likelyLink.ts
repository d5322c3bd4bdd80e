import { Kind } from '../network/network.ts'
import type { ReviewContext } from './context.ts'

/**
 * What an activity with an open end most likely waits for, or what waits for it: the nearest row of its own group,
 * above it for a start and below it for a finish, whose link would close no loop. Null where there is none.
 */
export const likelyNeighbour = (
  context: ReviewContext,
  i: number,
  end: 'start' | 'finish',
): number | null => {
  const { network } = context
  const { group } = network.activities[i]!
  const step = end === 'start' ? -1 : 1
  let reached: ReadonlySet<number> | null = null
  for (let j = i + step; j >= 0 && j < network.activities.length; j += step) {
    if (network.activities[j]!.group !== group || network.kind[j] === Kind.Hammock || context.isFinished(j))
      continue
    reached ??= end === 'start' ? behind(context, i) : before(context, i)
    if (!reached.has(j)) return j
  }
  return null
}

const behind = ({ network }: ReviewContext, i: number): Set<number> =>
  reachedFrom(i, (at, add) => {
    for (let o = network.outStart[at]!; o < network.outStart[at + 1]!; o++)
      add(network.linkTo[network.outLink[o]!]!)
  })
const before = ({ network }: ReviewContext, i: number): Set<number> =>
  reachedFrom(i, (at, add) => {
    for (let k = network.inStart[at]!; k < network.inStart[at + 1]!; k++) add(network.linkFrom[k]!)
  })

const reachedFrom = (i: number, each: (at: number, add: (next: number) => void) => void): Set<number> => {
  const reached = new Set([i])
  const open = [i]
  for (let at = open.pop(); at !== undefined; at = open.pop())
    each(at, (next) => {
      if (reached.has(next)) return
      reached.add(next)
      open.push(next)
    })
  return reached
}
