import { NONE } from '../network/network.ts'
import type { SpannedCalendar } from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { assignmentTable } from './assignmentTable.ts'
import { isWorker } from './availability.ts'
import { workPeriods, type Dates, type WorkPeriods } from './workPeriods.ts'

/** What is asked for from one instant to another, each while a calendar works: in columns, as there may be many. */
export interface Asked {
  readonly calendars: readonly SpannedCalendar[]
  /** Which of the calendars. */
  readonly clock: Int32Array
  readonly amount: Float64Array
  readonly from: Int32Array
  readonly to: Int32Array
}
export interface AskedOnce {
  readonly amount: number
  readonly calendar: SpannedCalendar
  readonly from: Instant
  readonly to: Instant
}
/** Assignments of one resource: what is done of one and what remains of it are two uses. In the order of the assignments. */
export interface Uses extends Asked {
  readonly activity: Int32Array
  readonly assignment: Int32Array
}

export const inColumns = (asked: readonly AskedOnce[]): Asked => {
  const calendars: SpannedCalendar[] = []
  const clock = Int32Array.from(asked, ({ calendar }) => {
    const known = calendars.indexOf(calendar)
    return known >= 0 ? known : calendars.push(calendar) - 1
  })
  return {
    calendars,
    clock,
    amount: Float64Array.from(asked, ({ amount }) => amount),
    from: Int32Array.from(asked, ({ from }) => from),
    to: Int32Array.from(asked, ({ to }) => to),
  }
}

/**
 * Who uses each resource of a plan, by its position; null for material and fees, which are not at work. O(n + assignments)
 * @param isCounted - whether an activity counts, by its position
 */
export const usesOf = (
  schedule: Schedule,
  dates: Dates,
  isCounted: ((activity: number) => boolean) | null,
): (Uses | null)[] => {
  const { plan, indexOf } = schedule.network
  const { activity, resource, amount } = assignmentTable(plan, indexOf)
  const counted = isCounted && Uint8Array.from(plan.activities, (_, i) => (isCounted(i) ? 1 : 0))
  const periods = workPeriods(schedule, dates)
  const parts = partsOf(periods)
  const isAtWork = plan.resources.map(isWorker)
  /** Where those of a resource begin in columns that all share: many small ones take ten times as long to get. */
  const begin = new Int32Array(plan.resources.length + 1)
  /** Of each assignment the parts of its activity, none where it asks for nothing that is at work. */
  const asks = new Uint8Array(activity.length)
  for (let a = 0; a < asks.length; a++) {
    if (amount[a] === 0 || !isAtWork[resource[a]!]!) continue
    if (counted !== null && counted[activity[a]!] === 0) continue
    const part = parts[activity[a]!]!
    asks[a] = part
    begin[resource[a]! + 1]! += (part & 1) + (part >> 1)
  }
  for (let r = 0; r < isAtWork.length; r++) begin[r + 1]! += begin[r]!
  const calendars: SpannedCalendar[] = []
  const clock = clocksOf(schedule, calendars)
  const all = emptyUses(begin.at(-1)!, calendars)
  const next = begin.slice()
  for (let a = 0; a < activity.length; a++) {
    const i = activity[a]!
    for (let part = 1; part <= Math.min(2, asks[a]!); part++) {
      if ((asks[a]! & part) === 0) continue
      const k = next[resource[a]!]!++
      all.activity[k] = i
      all.assignment[k] = a
      all.clock[k] = clock[i]!
      all.amount[k] = amount[a]!
      all.from[k] = (part === 1 ? periods.doneFrom : periods.from)[i]!
      all.to[k] = (part === 1 ? periods.doneTo : periods.to)[i]!
    }
  }
  return isAtWork.map((is, r) => (is ? usesBetween(all, begin[r]!, begin[r + 1]!) : null))
}

/** Whether the same is asked for, by the same, at the same times. */
export const areSameUses = (a: Uses, b: Uses): boolean => {
  const n = a.from.length
  if (b.from.length !== n) return false
  for (let u = 0; u < n; u++)
    if (
      a.from[u] !== b.from[u] ||
      a.to[u] !== b.to[u] ||
      a.activity[u] !== b.activity[u] ||
      a.assignment[u] !== b.assignment[u] ||
      a.amount[u] !== b.amount[u] ||
      a.calendars[a.clock[u]!] !== b.calendars[b.clock[u]!]
    )
      return false
  return true
}

/** By activity: 1 where some of it is done, and 2 where some remains. */
const partsOf = ({ doneFrom, doneTo, from, to }: WorkPeriods): Uint8Array => {
  const parts = new Uint8Array(from.length)
  for (let i = 0; i < parts.length; i++)
    parts[i] =
      (doneFrom[i] !== NONE && doneTo[i]! > doneFrom[i]! ? 1 : 0) |
      (from[i] !== NONE && to[i]! > from[i]! ? 2 : 0)
  return parts
}

const emptyUses = (count: number, calendars: readonly SpannedCalendar[]): Uses => ({
  calendars,
  activity: new Int32Array(count),
  assignment: new Int32Array(count),
  clock: new Int32Array(count),
  amount: new Float64Array(count),
  from: new Int32Array(count),
  to: new Int32Array(count),
})

const usesBetween = (all: Uses, begin: number, end: number): Uses => ({
  calendars: all.calendars,
  activity: all.activity.subarray(begin, end),
  assignment: all.assignment.subarray(begin, end),
  clock: all.clock.subarray(begin, end),
  amount: all.amount.subarray(begin, end),
  from: all.from.subarray(begin, end),
  to: all.to.subarray(begin, end),
})

/** Calendars on which activities are worked, by the position of an activity. @param calendars - filled */
const clocksOf = ({ network }: Schedule, calendars: SpannedCalendar[]): Int32Array => {
  const positions = new Map<SpannedCalendar, number>()
  const clocks = new Int32Array(network.activities.length)
  let [last, position]: [SpannedCalendar | null, number | undefined] = [null, undefined]
  for (let i = 0; i < clocks.length; i++) {
    // Only in the mirror of time there are others, and no schedule is.
    const calendar = network.calendar[i] as SpannedCalendar
    if (calendar !== last) {
      last = calendar
      position = positions.get(calendar)
      if (position === undefined) positions.set(calendar, (position = calendars.push(calendar) - 1))
    }
    clocks[i] = position!
  }
  return clocks
}
