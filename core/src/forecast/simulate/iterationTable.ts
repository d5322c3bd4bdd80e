import { createEngine } from '../../schedule/engine.ts'
import { emptyMoney, IterationCosts } from './iterationCosts.ts'
import { BLOCK, DrawnBlock, type SimulationModel } from './model.ts'

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
  /** Lengths of hammocks in working minutes of the plan's hours of their calendars: hammock × iterations + iteration. */
  readonly hammockLength: Int32Array
  /** Cost by iteration, damages included; money unrounded. */
  readonly cost: Float64Array
  /** Of it what hammocks cost, and what risks that happened cost themselves; by iteration. */
  readonly overhead: Float64Array
  readonly riskCost: Float64Array
  /** Damages: clause × iterations + iteration. */
  readonly damages: Float64Array
}

/** Numbers that one run may hold: with its model and summary that is below 400 MB. */
const MOST_NUMBERS = 80_000_000

/** Iterations of which one run can hold everything. */
export const mostIterations = (activities: number): number =>
  Math.floor(MOST_NUMBERS / Math.max(1, activities))

/** Numbers that the table of a run holds. @throws RangeError if that is more than there is room for */
export const tableNumbers = (activities: number, iterations: number): number => {
  if (activities * iterations <= MOST_NUMBERS) return activities * iterations
  throw new RangeError(
    `${activities} activities × ${iterations} iterations is more than one run can hold; take at most ${mostIterations(activities)} iterations`,
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
  const { iterations, plan } = model
  const n = plan.activities.length
  const numbers = (length: number): Int32Array => new Int32Array(memory(length * 4))
  const amounts = (length: number): Float64Array => new Float64Array(memory(length * 8))
  return {
    iterations,
    finish: numbers(iterations),
    activityFinish: numbers(tableNumbers(n, iterations)),
    onPath: numbers(n),
    hammockLength: numbers(hammocksOf(model).length * iterations),
    cost: amounts(iterations),
    overhead: amounts(iterations),
    riskCost: amounts(iterations),
    damages: amounts(plan.damages.length * iterations),
  }
}

/** Positions of the hammocks of a plan. */
export const hammocksOf = ({ plan }: SimulationModel): number[] =>
  plan.activities.flatMap(({ kind }, i) => (kind === 'hammock' ? [i] : []))

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
  const { network, plan } = model
  const n = plan.activities.length
  const engine = createEngine(network, model.mayBeAbsent)
  const block = new DrawnBlock(model)
  // Gathered before they are written: rows of a long table lie far apart in memory.
  const finishes = new Int32Array(n * BLOCK)
  const onPath = new Int32Array(network.order.length)
  const hammocks = hammocksOf(model)
  const costs = new IterationCosts(model)
  const money = emptyMoney(plan.damages.length)
  for (let first = from; first < to; first += BLOCK) {
    const width = Math.min(BLOCK, to - first)
    block.draw(first, width)
    for (let column = 0; column < width; column++) {
      const iteration = first + column
      model.drawWeather?.(iteration)
      const remaining = block.columns[column]!
      const placed = engine.run(remaining)
      table.finish[iteration] = placed.projectFinish
      for (let i = 0; i < n; i++) finishes[i * BLOCK + column] = placed.finish[i]!
      engine.countLongestPath(onPath)
      hammocks.forEach((i, h) => {
        const hours = model.planned.network.calendar[i]!
        table.hammockLength[h * table.iterations + iteration] =
          hours.countBefore(placed.finish[i]!) - hours.countBefore(placed.start[i]!)
      })
      if (costs.isFree) continue
      costs.of(iteration, remaining, placed, money)
      table.cost[iteration] = money.cost
      table.overhead[iteration] = money.overhead
      table.riskCost[iteration] = money.risks
      money.damages.forEach((amount, d) => (table.damages[d * table.iterations + iteration] = amount))
    }
    for (let i = 0; i < n; i++)
      table.activityFinish.set(finishes.subarray(i * BLOCK, i * BLOCK + width), i * table.iterations + first)
  }
  for (let i = 0; i < n; i++) if (onPath[i]! > 0) Atomics.add(table.onPath, i, onPath[i]!)
}
