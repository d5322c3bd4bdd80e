/** What a run gave of an amount, of money or of days. */
export interface Amounts {
  readonly mean: number
  readonly sd: number
  /** By percentile: "10" … "90". */
  readonly percentiles: Readonly<Record<string, number>>
}

/** Percentiles that are told of everything. */
export const PERCENTILES = [5, 10, 20, 30, 40, 50, 60, 70, 80, 90, 95]

/** Percentiles at which the fifty dots of a picture stand; each stands for two in a hundred iterations. */
export const DOT_PERCENTILES = Array.from({ length: 50 }, (_, k) => 2 * k + 1)

/** The smallest value with at least `percent` % of the values at or below it. @param sorted - ascending, at least one */
export const amountAt = (sorted: Float64Array, percent: number): number => {
  const rank = Math.ceil((percent / 100) * sorted.length - 1e-9)
  return sorted[Math.min(sorted.length, Math.max(1, rank)) - 1]!
}

const roundedTo = (decimals: number, value: number): number => {
  const factor = 10 ** decimals
  return Math.round(value * factor) / factor
}

/** @param decimals - money is told with two, days with more */
export const amountsOf = (values: Float64Array, decimals = 2): Amounts => {
  const sorted = values.slice().sort()
  const n = sorted.length
  let sum = 0
  for (const value of sorted) sum += value
  const mean = sum / n
  let squares = 0
  for (const value of sorted) squares += (value - mean) ** 2
  return {
    mean: roundedTo(decimals, mean),
    sd: roundedTo(decimals, n > 1 ? Math.sqrt(squares / (n - 1)) : 0),
    percentiles: Object.fromEntries(
      PERCENTILES.map((p) => [String(p), roundedTo(decimals, amountAt(sorted, p))]),
    ),
  }
}
