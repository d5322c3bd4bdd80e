import { Kind, NONE } from '../../network/network.ts'
import { linkDrives } from '../../schedule/drivingLinks.ts'
import { emptyEarlyDates, forwardPass, latestFinish } from '../../schedule/forwardPass.ts'
import { drawDurations, type SimulationModel } from './model.ts'

/** What a range of iterations gave. Rows are activities, columns iterations of the range. */
export interface IterationRange {
  readonly from: number
  readonly to: number
  /** Finish of the network by iteration. */
  readonly finish: Int32Array
  /** Finish of each activity: activity × (to − from) + (iteration − from). */
  readonly activityFinish: Int32Array
  /** Remaining duration of each activity, laid out likewise. */
  readonly duration: Int32Array
  /** Number of iterations of the range in which each activity was on the longest path. */
  readonly onPath: Int32Array
}

/**
 * Runs iterations from … to − 1. Each is a full forward pass with drawn durations: calendars, constraints and progress count
 * in every one. The result is the same in whatever ranges the iterations are run.
 */
export const runIterations = (model: SimulationModel, from: number, to: number): IterationRange => {
  const { network } = model
  const n = network.order.length
  const width = to - from
  const range: IterationRange = {
    from,
    to,
    finish: new Int32Array(width),
    activityFinish: new Int32Array(n * width).fill(NONE),
    duration: new Int32Array(n * width),
    onPath: new Int32Array(n),
  }
  const remaining = new Int32Array(n)
  const early = emptyEarlyDates(n)
  const seen = new Int32Array(n).fill(-1)
  const stack: number[] = []
  for (let column = 0; column < width; column++) {
    drawDurations(model, from + column, remaining)
    forwardPass(network, remaining, early)
    const finish = latestFinish(network, early)
    range.finish[column] = finish
    for (let i = 0; i < n; i++) {
      range.activityFinish[i * width + column] = early.finish[i]!
      range.duration[i * width + column] = remaining[i]!
      if (early.finish[i] === finish && network.kind[i] !== Kind.Hammock) {
        seen[i] = column
        stack.push(i)
      }
    }
    // Walk back over driving links; only links into the path are looked at.
    while (stack.length > 0) {
      const i = stack.pop()!
      range.onPath[i]!++
      for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
        const before = network.linkFrom[k]!
        if (seen[before] === column || !linkDrives(network, remaining, early, k)) continue
        seen[before] = column
        stack.push(before)
      }
    }
  }
  return range
}
