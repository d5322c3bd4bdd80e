import type { PlacedDates } from '../../schedule/engine.ts'
import { ROW } from '../../schedule/kernelRows.ts'
import { iterate, type Look } from './iterate.ts'
import { emptyMoney, type IterationCosts, iterationCosts, type IterationMoney } from './iterationCosts.ts'
import type { SimulationModel } from './model.ts'
import {
  BYTES_EACH,
  keepBlock,
  keepFinishes,
  packedFinishes,
  packedNumbers,
  type PackedFinishes,
} from './packedFinishes.ts'
import { PlacedColumns } from './placedColumns.ts'

/**
 * What the iterations of a run gave, row by row. Any number of workers may fill it at once, each its own range of columns, where its
 * memory is shared; the result is the same in whatever ranges the iterations are run.
 */
export interface IterationTable {
  readonly iterations: number
  /** Finish of the network by iteration. */
  readonly finish: Int32Array
  readonly activityFinish: PackedFinishes
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

/** Finishes of activities that one run may hold: with its model and summary that is below 400 MB. */
const MOST_FINISHES = 100_000_000

/** Iterations of which one run can hold everything. */
export const mostIterations = (activities: number): number =>
  Math.floor(MOST_FINISHES / Math.max(1, activities))

/** Rows of one activity: what is left, start, finish, begin, and what is packed of it. */
const ROWS_EACH = 5
/** Numbers that one thread holds beside the table, to schedule in rows. */
export const rowNumbers = (activities: number): number => activities * ROW * ROWS_EACH

/** Room that the table of a run takes, in numbers of four bytes. @throws RangeError if that is more than there is room for */
export const tableNumbers = (activities: number, iterations: number): number => {
  if (activities * iterations <= MOST_FINISHES)
    return Math.ceil((packedNumbers(activities, iterations) * BYTES_EACH) / 4)
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
  tableNumbers(n, iterations)
  const numbers = (length: number): Int32Array => new Int32Array(memory(length * 4))
  const amounts = (length: number): Float64Array => new Float64Array(memory(length * 8))
  return {
    iterations,
    finish: numbers(iterations),
    activityFinish: packedFinishes(model.planned.finish.subarray(0, n), iterations, memory),
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
 * Runs iterations from … to − 1 into the table. Each is scheduled in full with drawn durations, where the planned dates would stand with
 * them: direction, calendars, constraints, hammocks, late placing and progress count in every one.
 */
export const runIterations = (
  model: SimulationModel,
  table: IterationTable,
  from = 0,
  to = table.iterations,
): void => {
  const { iterations } = table
  const n = model.plan.activities.length
  const onPath = new Int32Array(model.network.order.length)
  const money = new TableMoney(model, table)
  const hammocks = hammocksOf(model).map((i) => ({ i, hours: model.planned.network.calendar[i]! }))
  const look: Look = {
    rows: (placed, first, width) => {
      const { start, finish, projectFinish } = placed
      table.finish.set(projectFinish.subarray(0, width), first)
      if (width === ROW && first % ROW === 0)
        keepBlock(table.activityFinish, first, placed.packedFinishes(table.activityFinish.base))
      else for (let i = 0; i < n; i++) keepFinishes(table.activityFinish, i, first, finish, i * ROW, width)
      placed.countLongestPath(width, onPath)
      hammocks.forEach(({ i, hours }, h) => {
        for (let at = i * ROW; at < i * ROW + width; at++)
          table.hammockLength[h * iterations + first + at - i * ROW] =
            hours.countBefore(finish[at]!) - hours.countBefore(start[at]!)
      })
      if (money.isFree) return
      const columns = new PlacedColumns(placed)
      for (let column = 0; column < width; column++) {
        const { remaining, dates } = columns.at(column)
        model.weather?.hold(first + column)
        money.keep(first + column, remaining, dates)
      }
    },
    one: (iteration, remaining, placed, engine) => {
      const { start, finish } = placed
      table.finish[iteration] = placed.projectFinish
      for (let i = 0; i < n; i++) keepFinishes(table.activityFinish, i, iteration, finish, i, 1)
      engine.countLongestPath(onPath)
      hammocks.forEach(({ i, hours }, h) => {
        table.hammockLength[h * iterations + iteration] =
          hours.countBefore(finish[i]!) - hours.countBefore(start[i]!)
      })
      if (!money.isFree) money.keep(iteration, remaining, placed)
    },
  }
  iterate(model, from, to, look, { packs: true })
  for (let i = 0; i < n; i++) if (onPath[i]! > 0) Atomics.add(table.onPath, i, onPath[i]!)
}

/** The money of iterations, into the table. */
class TableMoney {
  private readonly table: IterationTable
  private readonly costs: IterationCosts
  private readonly money: IterationMoney
  readonly isFree: boolean

  constructor(model: SimulationModel, table: IterationTable) {
    this.table = table
    this.costs = iterationCosts(model)
    this.money = emptyMoney(model.plan.damages.length)
    this.isFree = this.costs.isFree
  }

  keep(iteration: number, remaining: Int32Array, placed: PlacedDates): void {
    const { table, money } = this
    this.costs.of(iteration, remaining, placed, money)
    table.cost[iteration] = money.cost
    table.overhead[iteration] = money.overhead
    table.riskCost[iteration] = money.risks
    money.damages.forEach((amount, d) => (table.damages[d * table.iterations + iteration] = amount))
  }
}
