import { CalendarError } from '../time/calendar.ts'
import { Kind, NONE, UNLIMITED } from '../network/network.ts'
import { backwardStep, type Bounds, type LateDates } from './backwardPass.ts'
import { forwardStep, type EarlyDates } from './forwardPass.ts'
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
  const early: EarlyDates = {
    start: schedule.early.start.slice(),
    finish: schedule.early.finish.slice(),
    begin: schedule.early.begin.slice(),
    beginCount: schedule.early.beginCount.slice(),
  }
  const late: LateDates = {
    start: schedule.late.start.slice(),
    finish: schedule.late.finish.slice(),
    beginCount: schedule.late.beginCount.slice(),
    startLimit: schedule.late.startLimit.slice(),
    finishLimit: schedule.late.finishLimit.slice(),
  }
  const moved = new Uint8Array(network.order.length)
  const bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }
  const pushedOut = new Uint8Array(network.order.length)
  const isPlaced = (j: number, place: () => void): boolean => {
    try {
      place()
      return true
    } catch (error) {
      if (!(error instanceof CalendarError)) throw error
      pushedOut[j] = 1
      return false
    }
  }
  const dirty = new Uint8Array(network.order.length)
  dirty[i] = 1
  for (const j of network.order) {
    if (dirty[j] === 0 || network.kind[j] === Kind.Hammock) continue
    const start = early.start[j]
    const finish = early.finish[j]
    if (!isPlaced(j, () => forwardStep(network, remaining[j]!, early, j))) continue
    if (start === early.start[j] && finish === early.finish[j]) continue
    moved[j] = 1
    for (let o = network.outStart[j]!; o < network.outStart[j + 1]!; o++)
      dirty[network.linkTo[network.outLink[o]!]!] = 1
  }
  dirty.fill(0)
  dirty[i] = 1
  for (let at = network.order.length - 1; at >= 0; at--) {
    const j = network.order[at]!
    if (dirty[j] === 0 || network.kind[j] === Kind.Hammock) continue
    const startLimit = late.startLimit[j]
    const finishLimit = late.finishLimit[j]
    if (!isPlaced(j, () => backwardStep(network, remaining[j]!, schedule.target, late, j, bounds))) continue
    if (startLimit === late.startLimit[j] && finishLimit === late.finishLimit[j]) continue
    moved[j] = 1
    for (let k = network.inStart[j]!; k < network.inStart[j + 1]!; k++) dirty[network.linkFrom[k]!] = 1
  }
  moved[i] = pushedOut[i] = 0
  const losers: string[] = []
  for (let j = 0; j < moved.length; j++)
    if (
      pushedOut[j] === 1 ||
      (moved[j] === 1 &&
        schedule.float.total[j] !== NONE &&
        late.beginCount[j]! - early.beginCount[j]! < schedule.float.total[j]!)
    )
      losers.push(network.activities[j]!.id)
  return losers
}
