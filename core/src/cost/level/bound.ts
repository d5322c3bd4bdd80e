import { jointSpans } from '../../time/jointSpans.ts'
import type { Instant } from '../../time/instant.ts'
import type { SpannedCalendar } from '../../time/calendar.ts'
import { Kind, State } from '../../network/network.ts'
import type { Schedule } from '../../schedule/schedule.ts'
import { calendarOf } from '../../plan/lagCalendar.ts'
import type { Availability } from '../availability.ts'
import type { Demands } from './placing.ts'
import { WEIGHTS, type Weight } from './weights.ts'
import { unionOf } from './windows.ts'

/** What no levelled plan can beat, and why. */
export interface Bound {
  readonly finish: Instant
  /** Position of the resource whose time it takes; null: the longest path on joint calendars. */
  readonly resource: number | null
}

/**
 * The longer of the longest path and, for each resource, the earliest instant by which its available time can hold the work assigned to
 * it: no work is done outside the joint calendars of those that need it, or before the first of them can start.
 * @param schedule - of the plan with its joint calendars
 * @param leftOut - activities that take what there is not, and so prove nothing
 */
export const lowerBound = (
  schedule: Schedule,
  demands: Demands,
  available: readonly Availability[],
  leftOut: ReadonlySet<number>,
): Bound => {
  const { network } = schedule
  const { plan, kind, state, remaining } = network
  let bound: Bound = { finish: schedule.projectFinish, resource: null }
  for (let r = 0; r < available.length; r++) {
    const jobs: Job[] = []
    let first = Infinity
    const calendars = new Set<SpannedCalendar>()
    for (let i = 0; i < remaining.length; i++) {
      if (kind[i] !== Kind.Work || state[i] === State.Finished || remaining[i] === 0) continue
      if (leftOut.has(i)) continue
      for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++) {
        if (demands.resource[d] !== r) continue
        // What can never be done has no time by which it is.
        if (demands.amount[d]! > Math.max(...available[r]!.amount)) continue
        jobs.push({ minutes: remaining[i]!, amount: demands.amount[d]! })
        first = Math.min(first, schedule.early.begin[i]!)
        calendars.add(network.calendars.get(calendarOf(plan.project, plan.activities[i]!)))
      }
    }
    if (jobs.length === 0) continue
    for (const weight of WEIGHTS) {
      const finish = holds(available[r]!, [...calendars], first, jobs, weight)
      if (finish > bound.finish) bound = { finish, resource: r }
    }
  }
  return bound
}

interface Job {
  readonly minutes: number
  readonly amount: number
}
/** How far ahead working time is walked before more of it is asked for. */
const CHUNK = 1440 * 366

/** The earliest instant by which available time, counted over minutes in which any of the calendars works, holds all the work. */
const holds = (
  { from, amount }: Availability,
  calendars: readonly SpannedCalendar[],
  start: Instant,
  jobs: readonly Job[],
  weight: Weight,
): Instant => {
  // Where what there is changes, work counts for the least that it can.
  const capacities = [...new Set(amount)].filter((capacity) => capacity > 0 && capacity < Infinity)
  let left = 0
  for (const job of jobs) {
    const fitting = capacities.filter((capacity) => capacity >= job.amount)
    left += job.minutes * Math.min(...fitting.map((capacity) => weight(job.amount, capacity)))
  }
  if (!(left > 0)) return start
  for (let low = start; low < start + 100 * CHUNK; low += CHUNK)
    for (const [a, b] of unionOf(calendars.map((calendar) => jointSpans([calendar], low, low + CHUNK))))
      for (let k = 0; k < from.length; k++) {
        const [s, e] = [Math.max(a, from[k]!), Math.min(b, from[k + 1] ?? Infinity)]
        if (e <= s || amount[k] === 0) continue
        if (e - s >= left - 1e-6) return Math.ceil(s + left - 1e-6)
        left -= e - s
      }
  return start
}
