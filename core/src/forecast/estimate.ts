import type { ThreePoint } from '../plan/schema.ts'
import { betaQuantile, type UnitQuantile } from './random/betaQuantile.ts'
import { exp, ln } from './random/exactMath.ts'
import { normalQuantile } from './random/normalQuantile.ts'

/** Quantile function of an estimate: from a number in (0, 1) to working minutes, not yet rounded. */
export type Quantile = (u: number) => number

interface Extremes {
  readonly low: number
  readonly high: number
}
type FixedShape = 'pert' | 'triangular' | 'uniform'

/**
 * The distribution that a three-point estimate stands for.
 * - pert: beta on [low, high] with alpha = 1 + 4 (likely − low)/(high − low), beta = 1 + 4 (high − likely)/(high − low)
 * - lognormal: median = likely, low and high its 10th and 90th percentiles (shifted where they are not symmetric in the logarithm)
 * - `ends: "p10p90"`: the shape whose 10th and 90th percentiles are low and high, its mode at likely
 */
export const estimateQuantile = (estimate: ThreePoint): Quantile => {
  const { low, likely, high, shape } = estimate
  if (shape === 'fixed' || low === high) return () => likely
  if (shape === 'lognormal') return shiftedLognormal(low, likely, high)
  if (estimate.ends === 'extremes') return between({ low, high }, likely, shape)
  return between(fitPercentiles(low, likely, high, shape), likely, shape)
}

const between = ({ low, high }: Extremes, likely: number, shape: FixedShape): Quantile => {
  const unit = unitQuantile(shape, (likely - low) / (high - low))
  return (u) => low + (high - low) * unit(u)
}

const unitQuantiles = new Map<string, UnitQuantile>()

const unitQuantile = (shape: FixedShape, mode: number): UnitQuantile => {
  const key = `${shape} ${mode}`
  let known = unitQuantiles.get(key)
  if (!known) {
    if (unitQuantiles.size > 2000) unitQuantiles.clear()
    known = makeUnitQuantile(shape, mode)
    unitQuantiles.set(key, known)
  }
  return known
}

const makeUnitQuantile = (shape: FixedShape, mode: number): UnitQuantile => {
  switch (shape) {
    case 'uniform':
      return (u) => u
    case 'triangular':
      return (u) => (u < mode ? Math.sqrt(u * mode) : 1 - Math.sqrt((1 - u) * (1 - mode)))
    case 'pert':
      return betaQuantile(1 + 4 * mode, 1 + 4 * (1 - mode))
  }
}

/** Extremes of the shape with mode `likely` whose 10th and 90th percentiles are p10 and p90, by fixed-point iteration. */
const fitPercentiles = (p10: number, likely: number, p90: number, shape: FixedShape): Extremes => {
  const span = p90 - p10
  if (shape === 'uniform') return { low: p10 - span / 8, high: p90 + span / 8 }
  let low = p10 - span / 4
  let high = p90 + span / 4
  for (let round = 0; round < 200; round++) {
    const unit = makeFitted(shape, (likely - low) / (high - low))
    const lowOff = low + (high - low) * unit(0.1) - p10
    const highOff = low + (high - low) * unit(0.9) - p90
    if (Math.abs(lowOff) + Math.abs(highOff) < 1e-3) break
    low = Math.min(likely, low - lowOff)
    high = Math.max(likely, high - highOff)
  }
  return { low, high }
}

const makeFitted = (shape: FixedShape, mode: number): UnitQuantile =>
  makeUnitQuantile(shape, Math.min(1, Math.max(0, mode)))

/** Median, 10th and 90th percentile fix a lognormal with a shift; left-skewed ones are its mirror, symmetric ones normal. */
const shiftedLognormal = (p10: number, median: number, p90: number): Quantile => {
  const z90 = normalQuantile(0.9)
  const up = p90 - median
  const down = median - p10
  if (Math.abs(up - down) < 1e-9 * (up + down)) return (u) => median + (up / z90) * normalQuantile(u)
  if (up === 0 || down === 0)
    return up === 0
      ? (u) => Math.min(median, median + (down / z90) * normalQuantile(u))
      : (u) => Math.max(median, median + (up / z90) * normalQuantile(u))
  // Above the shift s: (median − s)² = (p10 − s)(p90 − s), so the scale is up·down / |up − down|.
  const scale = (up * down) / Math.abs(up - down)
  const sign = up > down ? 1 : -1
  const sigma = ln(Math.max(up, down) / scale + 1) / z90
  return (u) => median + sign * scale * (exp(sign * sigma * normalQuantile(u)) - 1)
}
