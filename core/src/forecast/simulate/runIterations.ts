import { createEngine } from '../../schedule/engine.ts'
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
 * Runs iterations from … to − 1. Each is scheduled in full with drawn durations, by the engine that gives the planned dates:
 * direction, calendars, constraints, hammocks, late placing and progress count in every one. The result is the same in whatever
 * ranges the iterations are run.
 */
export const runIterations = (model: SimulationModel, from: number, to: number): IterationRange => {
  const n = model.network.order.length
  const width = to - from
  const range: IterationRange = {
    from,
    to,
    finish: new Int32Array(width),
    activityFinish: new Int32Array(n * width),
    duration: new Int32Array(n * width),
    onPath: new Int32Array(n),
  }
  const engine = createEngine(model.network)
  const remaining = new Int32Array(n)
  for (let column = 0; column < width; column++) {
    drawDurations(model, from + column, remaining)
    const { finish, projectFinish } = engine.run(remaining)
    range.finish[column] = projectFinish
    for (let i = 0; i < n; i++) {
      range.activityFinish[i * width + column] = finish[i]!
      range.duration[i * width + column] = remaining[i]!
    }
    engine.countLongestPath(range.onPath)
  }
  return range
}
