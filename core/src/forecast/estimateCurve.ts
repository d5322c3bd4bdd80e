import type { ThreePoint } from '../plan/schema.ts'
import { estimateQuantile } from './estimate.ts'

/** A point of a density: a duration in the unit of the estimate, and how likely it is beside the likeliest (0 to 1). */
export interface CurvePoint {
  readonly at: number
  readonly density: number
}

/** Slices of equal probability that a curve is drawn from. */
const SLICES = 64

/**
 * The density of an estimate as it is drawn, from its quantiles: of every slice of equal probability its middle and how narrow it is.
 * Empty where nothing varies. Tails are cut at half a slice.
 */
export const estimateCurve = (estimate: ThreePoint): CurvePoint[] => {
  const quantile = estimateQuantile(estimate)
  const edges = Array.from({ length: SLICES + 1 }, (_, k) => quantile((k + 0.25) / (SLICES + 0.5)))
  if (edges.at(-1)! - edges[0]! <= 0) return []
  const points: CurvePoint[] = []
  for (let k = 0; k < SLICES; k++) {
    const width = edges[k + 1]! - edges[k]!
    if (width > 0) points.push({ at: (edges[k]! + edges[k + 1]!) / 2, density: 1 / width })
  }
  const most = Math.max(...points.map(({ density }) => density))
  return points.map(({ at, density }) => ({ at, density: density / most }))
}
