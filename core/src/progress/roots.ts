import { State } from '../network/network.ts'
import { driversOf } from '../schedule/report.ts'
import type { Schedule } from '../schedule/schedule.ts'

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
