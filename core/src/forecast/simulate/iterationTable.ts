import { createEngine } from '../../schedule/engine.ts'
import { drawDurations, type SimulationModel } from './model.ts'

/**
 * What the iterations of a run gave, row by row. Any number of workers may fill it at once, each its own range of columns, where its
 * memory is shared; the result is the same in whatever ranges the iterations are run.
 */
export interface IterationTable {
  readonly iterations: number
  /** Finish of the network by iteration. */
  readonly finish: Int32Array
  /** Finish of each activity: activity × iterations + iteration. */
  readonly activityFinish: Int32Array
  /** Number of iterations in which each activity was on the longest path. */
  readonly onPath: Int32Array
}

/** Numbers that one run may hold: with its model and summary that is below 400 MB. */
const MOST_NUMBERS = 80_000_000

/** Numbers that the table of a run holds. @throws RangeError if that is more than there is room for */
export const tableNumbers = (activities: number, iterations: number): number => {
  if (activities * iterations <= MOST_NUMBERS) return activities * iterations
  throw new RangeError(
    `${activities} activities × ${iterations} iterations is more than one run can hold; take at most ${Math.floor(MOST_NUMBERS / activities)} iterations`,
  )
}

/**
 * @param memory - bytes of the given length, shared where several workers are to fill the table
 * @throws RangeError if the run would hold more than there is room for
 */
export const iterationTable = (
  model: SimulationModel,
  memory: (bytes: number) => ArrayBufferLike = (bytes) => new ArrayBuffer(bytes),
): IterationTable => {
  const { iterations } = model.options
  const n = model.network.order.length
  const numbers = (length: number): Int32Array => new Int32Array(memory(length * 4))
  return {
    iterations,
    finish: numbers(iterations),
    activityFinish: numbers(tableNumbers(n, iterations)),
    onPath: numbers(n),
  }
}

/** Columns that are gathered before they are written: rows of a long table lie far apart in memory. */
const BLOCK = 32

/**
 * Runs iterations from … to − 1 into the table. Each is scheduled in full with drawn durations, by the engine that gives the planned
 * dates: direction, calendars, constraints, hammocks, late placing and progress count in every one.
 */
export const runIterations = (
  model: SimulationModel,
  table: IterationTable,
  from = 0,
  to = table.iterations,
): void => {
  const { network } = model
  const n = network.order.length
  const engine = createEngine(network)
  const remaining = new Int32Array(n)
  const finishes = new Int32Array(n * BLOCK)
  const onPath = new Int32Array(n)
  for (let first = from; first < to; first += BLOCK) {
    const width = Math.min(BLOCK, to - first)
    for (let column = 0; column < width; column++) {
      drawDurations(model, first + column, remaining)
      const { finish, projectFinish } = engine.run(remaining)
      table.finish[first + column] = projectFinish
      for (let i = 0; i < n; i++) finishes[i * BLOCK + column] = finish[i]!
      engine.countLongestPath(onPath)
    }
    for (let i = 0; i < n; i++)
      table.activityFinish.set(finishes.subarray(i * BLOCK, i * BLOCK + width), i * table.iterations + first)
  }
  for (let i = 0; i < n; i++) if (onPath[i]! > 0) Atomics.add(table.onPath, i, onPath[i]!)
}
