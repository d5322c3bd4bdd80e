import { instantOf, type Instant } from '../time/instant.ts'
import { Kind, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** Why an update asks about an activity; in the order in which it does. */
export const ASKED_AS = [
  'should-have-started',
  'under-way',
  'should-have-finished',
  'promised',
  'added',
] as const
export type AskedAs = (typeof ASKED_AS)[number]
export interface Asked {
  readonly activity: number
  readonly as: AskedAs
}

/**
 * What an update to a status date asks about, and nothing else: each activity once. Hammocks follow what they hang from.
 * @param added - ids of further activities that somebody wants to say something about
 */
export const askedBy = (schedule: Schedule, statusDate: Instant, added: ReadonlySet<string>): Asked[] => {
  const { network } = schedule
  const asked: Asked[] = []
  const reason = (i: number): AskedAs | null => {
    const { promise } = network.activities[i]!
    if (promise !== null && instantOf(promise.finish, 'finish') <= statusDate) return 'promised'
    if (schedule.finish[i]! <= statusDate) return 'should-have-finished'
    if (network.state[i] === State.Started) return 'under-way'
    return schedule.start[i]! < statusDate ? 'should-have-started' : null
  }
  network.activities.forEach(({ id }, i) => {
    if (network.kind[i] === Kind.Hammock) return
    const as = network.state[i] === State.Finished ? null : reason(i)
    if (as !== null) asked.push({ activity: i, as })
    else if (added.has(id)) asked.push({ activity: i, as: 'added' })
  })
  const rank = new Map(ASKED_AS.map((as, k) => [as, k]))
  return asked.sort(
    (a, b) =>
      rank.get(a.as)! - rank.get(b.as)! ||
      schedule.start[a.activity]! - schedule.start[b.activity]! ||
      a.activity - b.activity,
  )
}
