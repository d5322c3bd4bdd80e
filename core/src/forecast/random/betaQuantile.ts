import { power } from './exactMath.ts'

const CELLS = 1024

/** Quantile function over (0, 1). */
export type UnitQuantile = (u: number) => number

/** A quantile function as a table. */
export interface TabledQuantile {
  readonly at: UnitQuantile
  /** u and the value of each point in turn. */
  readonly points: Float64Array
  /** Where in `points` to look first, for each of as many equal steps of u as there are cells. */
  readonly guide: Uint16Array
}

/**
 * Quantile function of the beta distribution, from a table of its integral at 1,025 points that crowd towards both ends.
 * Absolute error below 2e-6 (tested against closed forms).
 * @param alpha, beta - each ≥ 1
 */
export const betaQuantile = (alpha: number, beta: number): TabledQuantile => {
  const x = new Float64Array(CELLS + 1)
  const cumulated = new Float64Array(CELLS + 1)
  // x = t²(3 − 2t) crowds the points; dx = 6t(1 − t) dt. Two-point Gauss in every cell.
  const place = (t: number): number => t * t * (3 - 2 * t)
  const weight = (t: number): number => {
    const at = place(t)
    return power(at, alpha - 1) * power(1 - at, beta - 1) * 6 * t * (1 - t)
  }
  const offset = 0.5 / Math.sqrt(3)
  for (let k = 0; k < CELLS; k++) {
    const middle = (k + 0.5) / CELLS
    const area = weight(middle - offset / CELLS) + weight(middle + offset / CELLS)
    x[k + 1] = place((k + 1) / CELLS)
    cumulated[k + 1] = cumulated[k]! + area
  }
  const whole = cumulated[CELLS]!
  for (let k = 1; k <= CELLS; k++) cumulated[k]! /= whole
  x[CELLS] = 1
  // Side by side, so that what one number is read from lies together: u and the value of each point in turn.
  const points = new Float64Array(2 * CELLS + 2)
  for (let k = 0; k <= CELLS; k++) {
    points[2 * k] = cumulated[k]!
    points[2 * k + 1] = x[k]!
  }
  // From the first point for a step of u, one or two more find the one.
  const guide = new Uint16Array(CELLS + 1)
  for (let g = 0, k = 0; g <= CELLS; g++) {
    while (k < CELLS - 1 && cumulated[k + 1]! <= g / CELLS) k++
    guide[g] = 2 * k
  }
  const last = 2 * (CELLS - 1)
  const at = (u: number): number => {
    if (u <= 0) return 0
    if (u >= 1) return 1
    let k = guide[(u * CELLS) | 0]!
    while (k < last && points[k + 2]! <= u) k += 2
    const from = points[k]!
    const value = points[k + 1]!
    const width = points[k + 2]! - from
    return width <= 0 ? value : value + ((points[k + 3]! - value) * (u - from)) / width
  }
  return { at, points, guide }
}
