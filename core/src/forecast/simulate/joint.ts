import { formatInstant } from '../../time/instant.ts'
import { percentileSorted } from '../percentile.ts'
import { amountAt } from './amounts.ts'
import type { IterationTable } from './iterationTable.ts'

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
