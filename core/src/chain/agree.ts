import { formatInstant } from '../time/instant.ts'
import type { AgreedChain, ChainSettings, Plan } from '../plan/schema.ts'
import { criticalChain } from './criticalChain.ts'
import { insertBuffers } from './insertBuffers.ts'

/**
 * The chain with its buffers as it is now, to be agreed (semantics2.md section 16, step 7): frozen, so that what comes can be measured by it.
 * @param at - the day on which it is agreed
 * @throws LevelError, CalendarError
 */
export const agreement = (plan: Plan, settings: ChainSettings, at: string): AgreedChain => {
  const chain = criticalChain(plan, settings)
  const buffered = insertBuffers(plan, settings, chain)
  const { network } = chain.base
  const idOf = (i: number): string => plan.activities[i]!.id
  return {
    at,
    activities: Object.fromEntries(
      plan.activities.map(({ id }, i) => [
        id,
        [formatInstant(buffered.start[i]!), formatInstant(buffered.finish[i]!), network.remaining[i]!],
      ]),
    ),
    buffers: buffered.buffers.map(({ id, kind, minutes, start, finish, after, before, course }) => ({
      id,
      kind,
      minutes,
      start: formatInstant(start),
      finish: formatInstant(finish),
      after: after.map(idOf),
      before: before.map(idOf),
      course: course.filter((i) => network.remaining[i]! > 0).map(idOf),
    })),
    chain: chain.chain.activities.filter((i) => network.remaining[i]! > 0).map(idOf),
    handovers: chain.handOvers.map(({ resource, from, to }) => ({
      resource,
      from: idOf(from),
      to: idOf(to),
    })),
  }
}
