import { instantOf, type Instant } from '../time/instant.ts'
import { Kind, limitsFinish, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { linkLimit } from '../schedule/forwardPass.ts'

/** What still has to happen before work can begin. */
export type Block =
  /** A predecessor, a decision, a payment: `until` is when it lets the work begin. */
  | { readonly kind: 'work' | 'decision' | 'payment'; readonly activity: number; readonly until: Instant }
  /** A date that holds its start. */
  | { readonly kind: 'date'; readonly until: Instant }
export interface Ahead {
  readonly activity: number
  /** In the order in which they let go, the last one last. Empty for what is under way, and for what nothing holds. */
  readonly blocks: readonly Block[]
}

/**
 * What is to be done from the status date (without one, from the project's start) until an instant, in the order of starts, each with
 * what blocks it: whatever it waits for that has not happened.
 */
export const lookAhead = (schedule: Schedule, until: Instant): Ahead[] => {
  const { network } = schedule
  const from = network.statusDate ?? schedule.projectStart
  const found: Ahead[] = []
  network.activities.forEach((_, i) => {
    const isAhead =
      network.kind[i] !== Kind.Hammock &&
      network.state[i] !== State.Finished &&
      schedule.start[i]! < until &&
      schedule.finish[i]! >= from
    if (isAhead) found.push({ activity: i, blocks: blocksOf(schedule, i, from) })
  })
  return found.sort(
    (a, b) => schedule.start[a.activity]! - schedule.start[b.activity]! || a.activity - b.activity,
  )
}

const blocksOf = (schedule: Schedule, i: number, from: Instant): Block[] => {
  const { network } = schedule
  if (network.state[i] !== State.NotStarted) return []
  const blocks: Block[] = []
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
    const j = network.linkFrom[k]!
    if (limitsFinish(network.linkCode[k]!) || network.kind[j] === Kind.Hammock) continue
    const happened = network.links[k]!.type === 'SS' ? State.Started : State.Finished
    const until = linkLimit(network, schedule.early, k)
    if (network.state[j]! >= happened && until <= from) continue
    const { decision, payment } = network.activities[j]!
    blocks.push({ kind: decision ? 'decision' : payment ? 'payment' : 'work', activity: j, until })
  }
  for (const { edge, rule, date } of network.activities[i]!.constraints) {
    if (edge !== 'start' || rule === 'not-after') continue
    const until = instantOf(date, 'start')
    if (until > from) blocks.push({ kind: 'date', until })
  }
  return blocks.sort((a, b) => a.until - b.until)
}
