import { CalendarError } from '../time/calendar.ts'
import { NONE } from '../network/network.ts'
import { copyLateDates } from './backwardPass.ts'
import { copyEarlyDates } from './forwardPass.ts'
import { Propagation } from './propagation.ts'
import type { Schedule } from './schedule.ts'

/**
 * Who shares the float of activity i: by experiment, the activity is lengthened by all of its float (by a minute where it has
 * none), with the finish it is measured against unmoved, and those whose total float falls are the sharers.
 * Only what can change is recomputed: downstream early dates, upstream late dates. What would be pushed beyond the end of its calendar
 * has no date left, and so no float; what lies beyond it cannot be said.
 * @returns ids in plan order, without the activity itself
 */
export const sharersOfFloat = (schedule: Schedule, i: number): string[] => {
  const { network } = schedule
  const total = schedule.float.total[i]!
  if (total === NONE) return []
  const remaining = network.remaining.slice()
  remaining[i]! += Math.max(1, total)
  const early = copyEarlyDates(schedule.early)
  const late = copyLateDates(schedule.late)
  const pushedOut = new Set<number>()
  const onFailure = (j: number, error: unknown): boolean => {
    if (!(error instanceof CalendarError)) return false
    pushedOut.add(j)
    return true
  }
  const propagation = new Propagation(network)
  const computed = new Set([
    ...propagation.early(early, remaining, [i], { onFailure })!,
    ...propagation.late(late, remaining, schedule.target, [i], { onFailure }),
  ])
  computed.delete(i)
  const { total: floats } = schedule.float
  const loses = (j: number): boolean =>
    pushedOut.has(j) || (floats[j] !== NONE && late.beginCount[j]! - early.beginCount[j]! < floats[j]!)
  return [...computed]
    .filter(loses)
    .sort((a, b) => a - b)
    .map((j) => network.activities[j]!.id)
}
