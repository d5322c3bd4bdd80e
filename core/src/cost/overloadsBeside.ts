import type { Resource } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { loadsOf } from './load.ts'

/** A resource of which one plan asks for more beyond what there is than another does. */
export interface MoreOverload {
  readonly resource: Resource
  /** Minutes in which too much is asked for. */
  readonly before: number
  readonly after: number
}

/** Whom a change of the plan asks for more than there is, beyond what was so before; the most first. */
export const overloadsBeside = (before: Schedule, after: Schedule): MoreOverload[] => {
  const minutesIn = (schedule: Schedule): ReadonlyMap<string, number> =>
    new Map(
      loadsOf(schedule).map(({ resource, overloads }) => [
        resource.id,
        overloads.reduce((sum, { minutes }) => sum + minutes, 0),
      ]),
    )
  const then = minutesIn(before)
  return [...minutesIn(after)]
    .map(([id, minutes]): MoreOverload => ({
      resource: after.network.plan.resources.find((one) => one.id === id)!,
      before: then.get(id) ?? 0,
      after: minutes,
    }))
    .filter((one) => one.after > one.before)
    .sort((a, b) => b.after - b.before - (a.after - a.before))
}
