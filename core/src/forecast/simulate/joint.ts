import { formatInstant } from '../../time/instant.ts'
import { percentileSorted } from '../percentile.ts'
import type { JointLook } from '../../wire/index.ts'
import { roundMoney } from '../../plan/money.ts'
import { iterationCosts } from './iterationCosts.ts'
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
  const byCost = orderOfAmounts(cost)
  const kept: JointPoint[] = []
  let least = Infinity
  for (const date of [...dates].sort((a, b) => a - b)) {
    const within = byCost.filter((k) => finish[k]! <= date)
    if (within.length < needed) continue
    const amount = cost[within[needed - 1]!]!
    // A later date that saves nothing is no choice.
    if (amount >= least) continue
    least = amount
    let keeping = needed
    while (keeping < within.length && cost[within[keeping]!]! <= amount) keeping++
    kept.push({
      finish: formatInstant(date),
      cost: Math.ceil(amount * 100) / 100,
      probability: keeping / iterations,
    })
  }
  return kept
}

/** Positions of amounts in ascending order. */
const orderOfAmounts = (amounts: Float64Array): Uint32Array =>
  Uint32Array.from(amounts.keys()).sort((a, b) => amounts[a]! - amounts[b]!)

/** Iterations that are drawn at most. */
const MOST_DOTS = 400

/** What is drawn of dates and money together: some of the iterations, what is planned, and the curve of a confidence. @param percent - in 100 */
export const jointPicture = (model: SimulationModel, table: IterationTable, percent: number): JointLook => {
  const { finish, cost, iterations } = table
  const step = Math.max(1, iterations / MOST_DOTS)
  const chosen = Array.from({ length: Math.min(iterations, MOST_DOTS) }, (_, k) => Math.floor(k * step))
  const planned = { finish: model.planned.projectFinish, cost: roundMoney(iterationCosts(model).planned) }
  let kept = 0
  for (let k = 0; k < iterations; k++)
    if (finish[k]! <= planned.finish && cost[k]! <= planned.cost + 0.005) kept++
  return {
    dots: chosen.map((k) => ({ finish: formatInstant(finish[k]!), cost: roundMoney(cost[k]!) })),
    curve: jointCurve(table, percent / 100),
    planned: { finish: formatInstant(planned.finish), cost: planned.cost, probability: kept / iterations },
  }
}
