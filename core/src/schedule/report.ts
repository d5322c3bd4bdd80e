import { formatInstant } from '../time/instant.ts'
import { NONE, type Network, type ScheduleWarning } from '../network/network.ts'
import type { Schedule } from './schedule.ts'

/** The schedule as the command line writes it: dates as texts, float in working minutes, activities by id. */
export interface ScheduleReport {
  readonly finish: string
  readonly start: string
  readonly criticalPath: readonly string[]
  readonly longestPath: readonly string[]
  readonly activities: Readonly<Record<string, ActivityReport>>
  readonly warnings: readonly ScheduleWarning[]
}
export interface ActivityReport {
  readonly code: string
  readonly start: string
  readonly finish: string
  readonly lateStart: string | null
  readonly lateFinish: string | null
  readonly totalFloat: number | null
  readonly freeFloat: number | null
  readonly startFloat: number | null
  readonly critical: boolean
  readonly onLongestPath: boolean
  readonly drivers: readonly string[]
}

const dateOrNull = (at: number): string | null => (at === NONE ? null : formatInstant(at))
const minutesOrNull = (minutes: number): number | null => (minutes === NONE ? null : minutes)

export const scheduleReport = (schedule: Schedule): ScheduleReport => {
  const { network } = schedule
  const entries = network.activities.map((activity, i): [string, ActivityReport] => [
    activity.id,
    {
      code: activity.code,
      start: formatInstant(schedule.start[i]!),
      finish: formatInstant(schedule.finish[i]!),
      lateStart: dateOrNull(schedule.late.start[i]!),
      lateFinish: dateOrNull(schedule.lateFinishShown[i]!),
      totalFloat: minutesOrNull(schedule.float.total[i]!),
      freeFloat: minutesOrNull(schedule.float.free[i]!),
      startFloat: minutesOrNull(schedule.float.start[i]!),
      critical: schedule.critical[i] === 1,
      onLongestPath: schedule.onLongestPath[i] === 1,
      drivers: driversOf(schedule, i).map((j) => network.activities[j]!.id),
    },
  ])
  return {
    finish: formatInstant(schedule.projectFinish),
    start: formatInstant(schedule.projectStart),
    criticalPath: inOrderOfStart(schedule, schedule.critical),
    longestPath: inOrderOfStart(schedule, schedule.onLongestPath),
    activities: Object.fromEntries(entries),
    warnings: schedule.warnings,
  }
}

/** The activities whose links decide where activity i stands; in a plan scheduled backward, its successors. */
export const driversOf = (schedule: Schedule, i: number): number[] => {
  const { network, drives } = schedule
  const found = new Set<number>()
  if (network.plan.project.direction === 'backward') {
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++)
      if (drives[network.outLink[o]!] === 1) found.add(network.linkTo[network.outLink[o]!]!)
  } else
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
      if (drives[k] === 1) found.add(network.linkFrom[k]!)
  return [...found]
}

/** Ids of the marked activities by start, then finish, then their order in the network. */
export const inOrderOfStart = (schedule: Schedule, marked: Uint8Array): string[] => {
  const { network, start, finish } = schedule
  const rank = rankOf(network)
  return network.activities
    .map((_, i) => i)
    .filter((i) => marked[i] === 1)
    .sort((a, b) => start[a]! - start[b]! || finish[a]! - finish[b]! || rank[a]! - rank[b]!)
    .map((i) => network.activities[i]!.id)
}

const rankOf = (network: Network): Int32Array => {
  const rank = new Int32Array(network.order.length)
  network.order.forEach((i, at) => (rank[i] = at))
  return rank
}
