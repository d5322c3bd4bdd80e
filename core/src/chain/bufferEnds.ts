import { instantOf, type Instant } from '../time/instant.ts'
import type { AgreedChain } from '../plan/schema.ts'
import { Kind, type Network } from '../network/network.ts'
import { linkLimit, type LinkedDates } from '../schedule/forwardPass.ts'

/** Positions of work that takes time, but for what was agreed to end within the buffer: that is not protected by it. */
const workBefore = (network: Network, { activities }: AgreedChain, begin: Instant): number[] =>
  network.activities.flatMap(({ id, duration }, i) => {
    const finish = activities[id]?.[1]
    const isBefore = finish === undefined || instantOf(finish, 'finish') <= begin
    return network.kind[i] === Kind.Work && duration > 0 && isBefore ? [i] : []
  })

/**
 * Where what a buffer protects ends on some dates: of the project with its last work, whichever that is by then; otherwise as the links of
 * the buffer say, where they are still there, else at the finish of what it stands behind. Null where none of it is in the network any more.
 */
export const bufferEnd = (
  network: Network,
  agreed: AgreedChain,
  { kind, start, after, before }: AgreedChain['buffers'][number],
): ((dates: LinkedDates) => Instant | null) => {
  if (kind === 'project') {
    const work = workBefore(network, agreed, instantOf(start, 'start'))
    return ({ finish }) => {
      let end = -Infinity
      for (const i of work) end = Math.max(end, finish[i]!)
      return end === -Infinity ? null : end
    }
  }
  const positions = (ids: readonly string[]): number[] => ids.flatMap((id) => network.indexOf.get(id) ?? [])
  const into = positions(before)
  const parts = positions(after).map((i) => ({
    i,
    ties: into.flatMap((j) =>
      Array.from(
        { length: network.inStart[j + 1]! - network.inStart[j]! },
        (_, k) => network.inStart[j]! + k,
      ).filter((k) => network.linkFrom[k] === i),
    ),
  }))
  return (dates) => {
    let end = -Infinity
    for (const { i, ties } of parts)
      if (ties.length === 0) end = Math.max(end, dates.finish[i]!)
      else for (const k of ties) end = Math.max(end, linkLimit(network, dates, k))
    return end === -Infinity ? null : end
  }
}
