import { complexity, type Complexity } from '../network/complexity.ts'
import { Kind, State } from '../network/network.ts'
import type { Plan } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** The shape of a network: what its form alone says about a forecast. */
export interface NetworkShape {
  readonly complexity: Complexity
  /** Driving links ÷ activities, without implied links and hammocks. */
  readonly linksPerActivity: number
  /** Most activities that stand one behind the other, by id, from the first to the last. */
  readonly longestChain: readonly string[]
  /** Unfinished activities with three links into them or more, redundant ones not counted, the most first. */
  readonly mergePoints: readonly { readonly activity: string; readonly into: number }[]
  /** Activities in work at once: on average over the time from first start to last finish, and at most, with when that begins. */
  readonly meanParallel: number
  readonly mostParallel: number
  readonly mostParallelAt: number | null
}

const MERGE_FROM = 3

export const networkShape = (plan: Plan, schedule: Schedule): NetworkShape => {
  const found = complexity(plan)
  const { network } = schedule
  const implied = new Set(found.implied)
  const into = (i: number): number => {
    let count = 0
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
      if (!implied.has(network.links[k]!.id)) count++
    return count
  }
  const mergePoints = network.activities
    .map((activity, i) => ({
      activity: activity.id,
      into: into(i),
      isOpen: network.state[i] === State.NotStarted,
    }))
    .filter(({ into, isOpen }) => into >= MERGE_FROM && isOpen)
    .sort((a, b) => b.into - a.into)
    .map(({ activity, into }) => ({ activity, into }))
  return {
    complexity: found,
    linksPerActivity: found.activities === 0 ? 0 : found.links / found.activities,
    longestChain: longestChain(schedule),
    mergePoints,
    ...parallelism(schedule),
  }
}

/** The path with most activities on it, whatever their durations. */
const longestChain = ({ network }: Schedule): string[] => {
  const n = network.order.length
  const length = new Int32Array(n)
  const before = new Int32Array(n).fill(-1)
  let last = -1
  for (const i of network.order) {
    if (network.kind[i] === Kind.Hammock) continue
    length[i] = 1
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
      const from = network.linkFrom[k]!
      if (length[from]! + 1 <= length[i]) continue
      length[i] = length[from]! + 1
      before[i] = from
    }
    if (last < 0 || length[i] > length[last]!) last = i
  }
  const chain: string[] = []
  for (let at = last; at >= 0; at = before[at]!) chain.push(network.activities[at]!.id)
  return chain.reverse()
}

/** Sweeps over starts and finishes of work. */
const parallelism = ({
  network,
  start,
  finish,
}: Schedule): Pick<NetworkShape, 'meanParallel' | 'mostParallel' | 'mostParallelAt'> => {
  const work = [...network.order].filter((i) => network.kind[i] === Kind.Work && finish[i]! > start[i]!)
  if (work.length === 0) return { meanParallel: 0, mostParallel: 0, mostParallelAt: null }
  const starts = Int32Array.from(work, (i) => start[i]!).sort()
  const finishes = Int32Array.from(work, (i) => finish[i]!).sort()
  let open = 0
  let most = 0
  let mostAt: number | null = null
  for (let s = 0, f = 0; s < starts.length;) {
    if (finishes[f]! <= starts[s]!) {
      open--
      f++
      continue
    }
    open++
    if (open > most) {
      most = open
      mostAt = starts[s]!
    }
    s++
  }
  const elapsed = work.reduce((sum, i) => sum + finish[i]! - start[i]!, 0)
  return {
    meanParallel: elapsed / (finishes.at(-1)! - starts[0]!),
    mostParallel: most,
    mostParallelAt: mostAt,
  }
}
