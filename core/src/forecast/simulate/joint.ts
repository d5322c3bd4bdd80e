import { formatInstant } from '../../time/instant.ts'
import { percentileSorted } from '../percentile.ts'
import type { JointLook } from '../../wire/index.ts'
import { roundMoney } from '../../plan/money.ts'
import { amountAt } from './amounts.ts'
import { IterationCosts } from './iterationCosts.ts'
import type { IterationTable } from './iterationTable.ts'
import type { SimulationModel } from './model.ts'

/** A date and an amount that are both kept with a confidence. */
export interface JointPoint {
  readonly finish: string
  readonly cost: number
  /** Share of the iterations that keep both. */
  readonly probability: number
}

/** Points of a curve at most. */
const MOST_POINTS = 40

/**
 * The dates and amounts that are both kept with a chosen confidence: for dates from the one that alone has it to the latest, the least
 * amount that gives it together. Empty where nothing costs anything.
 * @param confidence - share of the iterations, above 0 and up to 1
 */
export const jointCurve = (table: IterationTable, confidence: number): JointPoint[] => {
  const { finish, cost, iterations } = table
  if (!cost.some((amount) => amount !== 0)) return []
  const needed = Math.max(1, Math.ceil(confidence * iterations - 1e-9))
  const sorted = finish.slice().sort()
  const dates = new Set<number>()
  for (let k = 0; k <= MOST_POINTS; k++)
    dates.add(percentileSorted(sorted, 100 * (confidence + ((1 - confidence) * k) / MOST_POINTS)))
  const byFinish = Uint32Array.from(finish.keys()).sort((a, b) => finish[a]! - finish[b]!)
  const kept: JointPoint[] = []
  let least = Infinity
  for (const date of [...dates].sort((a, b) => a - b)) {
    const end = byFinish.findIndex((k) => finish[k]! > date)
    const within = Float64Array.from(end < 0 ? byFinish : byFinish.subarray(0, end), (k) => cost[k]!).sort()
    if (within.length < needed) continue
    const amount = amountAt(within, (100 * needed) / within.length)
    // A later date that saves nothing is no choice.
    if (amount >= least) continue
    least = amount
    kept.push({
      finish: formatInstant(date),
      cost: Math.ceil(amount * 100) / 100,
      probability: shareOf(within, amount, iterations),
    })
  }
  return kept
}

const shareOf = (within: Float64Array, amount: number, iterations: number): number =>
  within.reduce((count, one) => count + (one <= amount ? 1 : 0), 0) / iterations

/** Iterations that are drawn at most. */
const MOST_DOTS = 400

/** What is drawn of dates and money together: some of the iterations, what is planned, and the curve of a confidence. @param percent - in 100 */
export const jointPicture = (model: SimulationModel, table: IterationTable, percent: number): JointLook => {
  const { finish, cost, iterations } = table
  const step = Math.max(1, iterations / MOST_DOTS)
  const chosen = Array.from({ length: Math.min(iterations, MOST_DOTS) }, (_, k) => Math.floor(k * step))
  const planned = { finish: model.planned.projectFinish, cost: roundMoney(new IterationCosts(model).planned) }
  let kept = 0
  for (let k = 0; k < iterations; k++)
    if (finish[k]! <= planned.finish && cost[k]! <= planned.cost + 0.005) kept++
  return {
    dots: chosen.map((k) => ({ finish: formatInstant(finish[k]!), cost: roundMoney(cost[k]!) })),
    curve: jointCurve(table, percent / 100),
    planned: { finish: formatInstant(planned.finish), cost: planned.cost, probability: kept / iterations },
  }
}
