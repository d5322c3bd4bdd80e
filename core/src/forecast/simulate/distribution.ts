import type { Distribution } from '../../wire/index.ts'
import { formatInstant, MINUTES_PER_DAY } from '../../time/instant.ts'
import { amountAt, DOT_PERCENTILES, PERCENTILES } from './amounts.ts'

/** What the values of a distribution are: instants, days or money. */
export type Unit = 'date' | 'days' | 'money'

/** As it is told: dates as texts, money to the cent, days to six places. */
export const toldAs = (unit: Unit, value: number): string | number => {
  if (unit === 'date') return formatInstant(Math.round(value))
  const factor = unit === 'money' ? 100 : 1e6
  return Math.round(value * factor) / factor
}

/** Bars of amounts at most. */
const MOST_BARS = 40

/** Share of the values at or below a limit. @param sorted - ascending */
export const shareUpTo = (sorted: Float64Array, limit: number): number => {
  let count = 0
  while (count < sorted.length && sorted[count]! <= limit) count++
  return sorted.length === 0 ? 0 : count / sorted.length
}

/** How values lie, but for what parts two peaks. @param values - at least one; instants, days or money */
export const distributionOf = (
  values: Float64Array,
  unit: Unit,
): Omit<Distribution, 'twoPeaks'> & { readonly gap: Gap | null } => {
  const sorted = values.slice().sort()
  const n = sorted.length
  const origin = sorted[0]!
  let sum = 0
  for (const value of sorted) sum += value - origin
  const mean = origin + sum / n
  let squares = 0
  for (const value of sorted) squares += (value - mean) ** 2
  const sd = n > 1 ? Math.sqrt(squares / (n - 1)) : 0
  const told = (value: number): string | number => toldAs(unit, value)
  return {
    mean: told(mean),
    sd: unit === 'date' ? sd / MINUTES_PER_DAY : sd,
    meanShare: shareUpTo(sorted, mean),
    best: told(origin),
    worst: told(sorted[n - 1]!),
    percentiles: Object.fromEntries(PERCENTILES.map((p) => [String(p), told(amountAt(sorted, p))])),
    dots: DOT_PERCENTILES.map((p) => told(amountAt(sorted, p))),
    ...barsOf(sorted, unit),
    gap: gapOf(sorted),
  }
}

const barsOf = (sorted: Float64Array, unit: Unit): Pick<Distribution, 'bars' | 'barWidth'> => {
  const width = unit === 'date' ? MINUTES_PER_DAY : roundWidth(sorted.at(-1)! - sorted[0]!)
  const bars: { from: string | number; count: number }[] = []
  let at = -Infinity
  for (const value of sorted) {
    // A finish at 24:00 belongs to the day that it ends.
    const from = Math.floor((unit === 'date' ? value - 1 : value) / width) * width
    if (from === at) bars.at(-1)!.count++
    else bars.push({ from: toldAs(unit, from), count: 1 })
    at = from
  }
  return { bars, barWidth: unit === 'date' ? 1 : width }
}

/** The least of 1, 2, 5 × a power of ten that cuts a span into few enough bars. */
const roundWidth = (span: number): number => {
  if (span <= 0) return 1
  const power = 10 ** Math.floor(Math.log10(span / MOST_BARS))
  return [1, 2, 5, 10].map((step) => step * power).find((width) => span / width <= MOST_BARS) ?? 10 * power
}

/** A valley between two places where the values gather. */
export interface Gap {
  readonly at: number
  readonly peaks: readonly [number, number]
  /** Share of the values below the valley. */
  readonly below: number
}

const BINS = 24
/** A second peak holds at least this share of the values, and the valley before it is at most so high beside the lower peak. */
const LEAST_SHARE = 0.1
const DEEPEST = 0.6
/** Fewer values say nothing about peaks. */
const FEWEST = 200

/**
 * Where values gather in two places: the deepest valley between two peaks of their counts in equal bins, between the 1st and the 99th
 * percentile, each averaged with its neighbours.
 * @param sorted - ascending
 */
const gapOf = (sorted: Float64Array): Gap | null => {
  const [low, high] = [amountAt(sorted, 1), amountAt(sorted, 99)]
  if (sorted.length < FEWEST || high <= low) return null
  const width = (high - low) / BINS
  const counts = new Float64Array(BINS)
  for (const value of sorted)
    if (value >= low && value <= high) counts[Math.min(BINS - 1, Math.floor((value - low) / width))]!++
  const smooth = counts.map((count, k) => ((counts[k - 1] ?? 0) + 2 * count + (counts[k + 1] ?? 0)) / 4)
  const highest = (from: number, to: number): number => {
    let best = from
    for (let k = from; k < to; k++) if (smooth[k]! > smooth[best]!) best = k
    return best
  }
  let found: { readonly valley: number; readonly depth: number } | null = null
  for (let valley = 1; valley < BINS - 1; valley++) {
    const lower = Math.min(smooth[highest(0, valley)]!, smooth[highest(valley + 1, BINS)]!)
    const depth = smooth[valley]! / lower
    if (depth <= DEEPEST && (found === null || depth < found.depth)) found = { valley, depth }
  }
  if (found === null) return null
  const at = low + (found.valley + 0.5) * width
  const below = shareUpTo(sorted, at)
  if (Math.min(below, 1 - below) < LEAST_SHARE) return null
  const centre = (bin: number): number => low + (bin + 0.5) * width
  return {
    at,
    peaks: [centre(highest(0, found.valley)), centre(highest(found.valley + 1, BINS))],
    below,
  }
}
