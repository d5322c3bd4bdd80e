import { formatInstant } from '../time/instant.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activitiesIn, loadsOf } from './load.ts'

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

export const loadReport = (schedule: Schedule): LoadReport => {
  const { activities } = schedule.network
  return {
    resources: Object.fromEntries(
      loadsOf(schedule).map((load) => [
        load.resource.id,
        {
          peak: load.peak,
          overloads: load.overloads.map((overload) => ({
            from: formatInstant(overload.from),
            to: formatInstant(overload.to),
            load: overload.load,
            available: overload.available,
            activities: activitiesIn(load, overload).map((i) => activities[i]!.id),
          })),
          outsideHours: load.outside.map(({ activity, from, to, minutes }) => ({
            activity: activities[activity]!.id,
            from: formatInstant(from),
            to: formatInstant(to),
            minutes,
          })),
        },
      ]),
    ),
  }
}
