import { State } from '../network/network.ts'
import { driversOf } from '../schedule/report.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Variance } from './variance.ts'

/**
 * Whose account it is on: of activities that all are off in one way, those that no other of them drives, each with what is off only
 * because it is, itself first.
 */
export const rootsOf = (
  schedule: Schedule,
  isOff: (activity: number) => boolean,
): ReadonlyMap<number, readonly number[]> => {
  const { network } = schedule
  const roots = new Map<number, number[]>()
  const rootOf = new Map<number, number>()
  for (const i of network.order) {
    if (!isOff(i)) continue
    const driver =
      network.state[i] === State.Finished ? undefined : driversOf(schedule, i).find((j) => rootOf.has(j))
    const root = driver === undefined ? i : rootOf.get(driver)!
    rootOf.set(i, root)
    const members = roots.get(root)
    if (members) members.push(i)
    else roots.set(root, [i])
  }
  return roots
}

/** What finishes later than agreed, on one account. */
export interface Account {
  /** Positions, first the one on whose account it is. */
  readonly activities: readonly number[]
  readonly reachesFinish: boolean
}

/** On whose account what is later than agreed is, the latest first. */
export const accountsOf = (schedule: Schedule, { finish }: Pick<Variance, 'finish'>): readonly Account[] =>
  [...rootsOf(schedule, (i) => finish[i]! > 0)]
    .sort(([a], [b]) => finish[b]! - finish[a]!)
    .map(([, activities]) => ({
      activities,
      reachesFinish: activities.some((i) => schedule.onLongestPath[i] === 1),
    }))
