import { formatInstant } from '../time/instant.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activitiesInEach } from './askedIn.ts'
import { loadsOf, type ResourceLoad } from './load.ts'

/** Loads as the command line writes them (semantics2.md section 18): people and plant by id, activities by id. */
export interface LoadReport {
  readonly resources: Readonly<Record<string, ResourceLoadReport>>
}
export interface ResourceLoadReport {
  readonly peak: number
  readonly overloads: readonly {
    readonly from: string
    readonly to: string
    readonly load: number
    readonly available: number
    readonly activities: readonly string[]
  }[]
  readonly outsideHours: readonly {
    readonly activity: string
    readonly from: string
    readonly to: string
    readonly minutes: number
  }[]
}

export const loadReport = (schedule: Schedule): LoadReport => ({
  resources: Object.fromEntries(
    loadsOf(schedule).map((load) => [load.resource.id, reportOf(load, schedule.network.activities)]),
  ),
})

const reportOf = (load: ResourceLoad, activities: readonly { readonly id: string }[]): ResourceLoadReport => {
  const activitiesOf = activitiesInEach(load, load.overloads)
  return {
    peak: load.peak,
    overloads: load.overloads.map((overload, k) => ({
      from: formatInstant(overload.from),
      to: formatInstant(overload.to),
      load: overload.load,
      available: overload.available,
      activities: activitiesOf[k]!.map((i) => activities[i]!.id),
    })),
    outsideHours: load.outside.map(({ activity, from, to, minutes }) => ({
      activity: activities[activity]!.id,
      from: formatInstant(from),
      to: formatInstant(to),
      minutes,
    })),
  }
}
