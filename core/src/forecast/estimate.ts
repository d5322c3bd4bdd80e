import type { ThreePoint } from '../plan/schema.ts'
import { betaQuantile, type TabledQuantile, type UnitQuantile } from './random/betaQuantile.ts'
import { exp, ln } from './random/exactMath.ts'
import { kernelShaped, type ShapedMinutes } from './random/kernelDraws.ts'
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
  return between(extremesOf(estimate, shape), likely, shape)
}

/** The quantile function of an estimate for many numbers at once. */
export interface QuantileRow {
  /** The value that {@link estimateQuantile} has at each of the first `width` in (0, 1), in its place. */
  readonly values: (row: Float64Array, width: number) => void
  /** What whole minutes of a share of it are read from where they are drawn; null where each value is computed. */
  readonly minutes: (share: number) => ShapedMinutes | null
}

export const quantileRow = (estimate: ThreePoint): QuantileRow => {
  const quantile = estimateQuantile(estimate)
  const oneByOne = (row: Float64Array, width: number): void => {
    for (let k = 0; k < width; k++) row[k] = quantile(row[k]!)
  }
  if (estimate.shape !== 'pert' || estimate.low === estimate.high)
    return { values: oneByOne, minutes: () => null }
  const { low, high } = extremesOf(estimate, 'pert')
  const span = high - low
  const table = betaTable((estimate.likely - low) / span)
  return {
    values: (row, width) => {
      if (!kernelShaped(table, low, span, row, width)) oneByOne(row, width)
    },
    minutes: (share) => ({ table, low, span, share }),
  }
}

const extremesOf = ({ low, likely, high, ends }: ThreePoint, shape: FixedShape): Extremes =>
  ends === 'extremes' ? { low, high } : fitPercentiles(low, likely, high, shape)

/** Expected value and variance of an estimate, in its own unit and its square. */
export interface Moments {
  readonly mean: number
  readonly variance: number
}

/**
 * Moments for PERT (semantics.md section 7): of a pert estimate (low + 4 likely + high) / 6 and ((high − low) / 6)², of others those of
 * the shape.
 * @see Malcolm, Roseboom, Clark, Fazar 1959, "Application of a Technique for Research and Development Program Evaluation"
 */
export const estimateMoments = (estimate: ThreePoint): Moments => {
  const { likely, shape } = estimate
  if (shape === 'fixed' || estimate.low === estimate.high) return { mean: likely, variance: 0 }
  if (shape === 'lognormal') return lognormalMoments(estimate.low, likely, estimate.high)
  const { low, high } =
    estimate.ends === 'extremes' ? estimate : fitPercentiles(estimate.low, likely, estimate.high, shape)
  const span = high - low
  switch (shape) {
    case 'uniform':
      return { mean: (low + high) / 2, variance: span ** 2 / 12 }
    case 'triangular':
      return {
        mean: (low + likely + high) / 3,
        variance: (span ** 2 - (likely - low) * (high - likely)) / 18,
      }
    case 'pert':
      return { mean: (low + 4 * likely + high) / 6, variance: (span / 6) ** 2 }
  }
}

const between = ({ low, high }: Extremes, likely: number, shape: FixedShape): Quantile => {
  const unit = unitQuantile(shape, (likely - low) / (high - low), betaTable)
  return (u) => low + (high - low) * unit(u)
}

const betaTables = new Map<number, TabledQuantile>()

/** Tables are shared by all estimates of one shape. */
const betaTable = (mode: number): TabledQuantile => {
  let known = betaTables.get(mode)
  if (!known) {
    if (betaTables.size > 2000) betaTables.clear()
    known = makeBetaTable(mode)
    betaTables.set(mode, known)
  }
  return known
}
const makeBetaTable = (mode: number): TabledQuantile => betaQuantile(1 + 4 * mode, 1 + 4 * (1 - mode))

const unitQuantile = (
  shape: FixedShape,
  mode: number,
  tableOf: (mode: number) => TabledQuantile,
): UnitQuantile => {
  switch (shape) {
    case 'uniform':
      return (u) => u
    case 'triangular':
      return (u) => (u < mode ? Math.sqrt(u * mode) : 1 - Math.sqrt((1 - u) * (1 - mode)))
    case 'pert':
      return tableOf(mode).at
  }
}

/** Extremes of the shape with mode `likely` whose 10th and 90th percentiles are p10 and p90, by fixed-point iteration. */
const fitPercentiles = (p10: number, likely: number, p90: number, shape: FixedShape): Extremes => {
  const span = p90 - p10
  if (shape === 'uniform') return { low: p10 - span / 8, high: p90 + span / 8 }
  let low = p10 - span / 4
  let high = p90 + span / 4
  for (let round = 0; round < 200; round++) {
    const mode = Math.min(1, Math.max(0, (likely - low) / (high - low)))
    // Most of these are looked at once.
    const unit = unitQuantile(shape, mode, makeBetaTable)
    const lowOff = low + (high - low) * unit(0.1) - p10
    const highOff = low + (high - low) * unit(0.9) - p90
    if (Math.abs(lowOff) + Math.abs(highOff) < 1e-3) break
    low = Math.min(likely, low - lowOff)
    high = Math.max(likely, high - highOff)
  }
  return { low, high }
}

/** The lognormal with a shift that a median and its 10th and 90th percentiles fix; null where they are symmetric, or one-sided. */
const lognormalOf = (
  p10: number,
  median: number,
  p90: number,
): { readonly scale: number; readonly sign: 1 | -1; readonly sigma: number } | null => {
  const up = p90 - median
  const down = median - p10
  if (up === 0 || down === 0 || Math.abs(up - down) < 1e-9 * (up + down)) return null
  // Above the shift s: (median − s)² = (p10 − s)(p90 − s), so the scale is up·down / |up − down|.
  const scale = (up * down) / Math.abs(up - down)
  return {
    scale,
    sign: up > down ? 1 : -1,
    sigma: ln(Math.max(up, down) / scale + 1) / normalQuantile(0.9),
  }
}

/** Median, 10th and 90th percentile fix a lognormal with a shift; left-skewed ones are its mirror, symmetric ones normal. */
const shiftedLognormal = (p10: number, median: number, p90: number): Quantile => {
  const z90 = normalQuantile(0.9)
  const up = p90 - median
  const down = median - p10
  const shifted = lognormalOf(p10, median, p90)
  if (shifted) {
    const { scale, sign, sigma } = shifted
    return (u) => median + sign * scale * (exp(sign * sigma * normalQuantile(u)) - 1)
  }
  if (up === 0 || down === 0)
    return up === 0
      ? (u) => Math.min(median, median + (down / z90) * normalQuantile(u))
      : (u) => Math.max(median, median + (up / z90) * normalQuantile(u))
  return (u) => median + (up / z90) * normalQuantile(u)
}

const lognormalMoments = (p10: number, median: number, p90: number): Moments => {
  const shifted = lognormalOf(p10, median, p90)
  const z90 = normalQuantile(0.9)
  if (shifted) {
    const { scale, sign, sigma } = shifted
    const grown = Math.exp(sigma ** 2 / 2)
    return {
      mean: median + sign * scale * (grown - 1),
      variance: scale ** 2 * grown ** 2 * (Math.exp(sigma ** 2) - 1),
    }
  }
  const up = p90 - median
  const down = median - p10
  if (up === down || (up > 0 && down > 0)) return { mean: median, variance: (up / z90) ** 2 }
  // Half a normal: E|z| / 2 = 1/√(2π), E z² / 2 = 1/2.
  const sd = Math.max(up, down) / z90
  const shift = sd / Math.sqrt(2 * Math.PI)
  return { mean: median + (up > 0 ? shift : -shift), variance: sd ** 2 / 2 - shift ** 2 }
}
