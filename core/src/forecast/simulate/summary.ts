import { formatInstant, MINUTES_PER_DAY } from '../../time/instant.ts'
import { scheduleNetwork } from '../../schedule/schedule.ts'
import { percentileSorted, shareAtOrBelow } from '../percentile.ts'
import { averageRanks, correlation } from '../rankCorrelation.ts'
import type { SimulationModel } from './model.ts'
import type { IterationRange } from './runIterations.ts'

/** Result of a simulation; the shape is that of the command line. Deviations in calendar days. */
export interface SimulationSummary {
  readonly iterations: number
  readonly seed: number
  readonly sampling: string
  readonly planned: string
  readonly plannedProbability: number
  readonly mean: string
  readonly sd: number
  readonly best: string
  readonly worst: string
  readonly percentiles: Readonly<Record<string, string>>
  readonly histogram: readonly { readonly from: string; readonly count: number }[]
  readonly activities: Readonly<Record<string, ActivityForecast>>
  readonly cost: null
}
export interface ActivityForecast {
  readonly criticality: number
  readonly sensitivity: number
  readonly p50: string
  readonly p80: string
}

/** Puts ranges, in any order, together into whole rows. */
export const joinRanges = (ranges: readonly IterationRange[]): IterationRange => {
  const sorted = [...ranges].sort((a, b) => a.from - b.from)
  if (sorted.length === 1) return sorted[0]!
  const from = sorted[0]!.from
  const to = sorted.at(-1)!.to
  const width = to - from
  const n = sorted[0]!.onPath.length
  const joined: IterationRange = {
    from,
    to,
    finish: new Int32Array(width),
    activityFinish: new Int32Array(n * width),
    duration: new Int32Array(n * width),
    onPath: new Int32Array(n),
  }
  for (const range of sorted) {
    const own = range.to - range.from
    const offset = range.from - from
    joined.finish.set(range.finish, offset)
    for (let i = 0; i < n; i++) {
      joined.activityFinish.set(range.activityFinish.subarray(i * own, (i + 1) * own), i * width + offset)
      joined.duration.set(range.duration.subarray(i * own, (i + 1) * own), i * width + offset)
      joined.onPath[i]! += range.onPath[i]!
    }
  }
  return joined
}

const PERCENTILES = [5, 10, 20, 30, 40, 50, 60, 70, 80, 90, 95]

/** @param all - every iteration of the model's run */
export const summarise = (model: SimulationModel, all: IterationRange): SimulationSummary => {
  const { network, options } = model
  const planned = scheduleNetwork(network).projectFinish
  const width = all.to - all.from
  const sorted = all.finish.slice().sort()
  const origin = sorted[0]!
  let sum = 0
  for (const at of sorted) sum += at - origin
  const mean = sum / width
  let squares = 0
  for (const at of sorted) squares += (at - origin - mean) ** 2
  const sd = width > 1 ? Math.sqrt(squares / (width - 1)) / MINUTES_PER_DAY : 0

  const finishRanks = averageRanks(all.finish)
  const activities: Record<string, ActivityForecast> = {}
  network.activities.forEach((activity, i) => {
    const row = all.activityFinish.slice(i * width, (i + 1) * width).sort()
    const durations = all.duration.subarray(i * width, (i + 1) * width)
    const varies = durations.some((d) => d !== durations[0])
    activities[activity.id] = {
      criticality: all.onPath[i]! / width,
      sensitivity: varies ? correlation(averageRanks(durations), finishRanks) : 0,
      p50: formatInstant(percentileSorted(row, 50)),
      p80: formatInstant(percentileSorted(row, 80)),
    }
  })
  return {
    iterations: width,
    seed: options.seed,
    sampling: options.sampling,
    planned: formatInstant(planned),
    plannedProbability: shareAtOrBelow(sorted, planned),
    mean: formatInstant(origin + Math.round(mean)),
    sd,
    best: formatInstant(origin),
    worst: formatInstant(sorted.at(-1)!),
    percentiles: Object.fromEntries(
      PERCENTILES.map((p) => [String(p), formatInstant(percentileSorted(sorted, p))]),
    ),
    histogram: histogramByDay(sorted),
    activities,
    cost: null,
  }
}

/** Iterations by the calendar day on which they finish. */
const histogramByDay = (sorted: Int32Array): { from: string; count: number }[] => {
  const bars: { from: string; count: number }[] = []
  for (const at of sorted) {
    // A finish at 24:00 belongs to the day that it ends.
    const from = formatInstant(Math.floor((at - 1) / MINUTES_PER_DAY) * MINUTES_PER_DAY)
    if (bars.at(-1)?.from === from) bars.at(-1)!.count++
    else bars.push({ from, count: 1 })
  }
  return bars
}

/** Number of dots in the picture of a distribution; each stands for two in a hundred iterations. */
const DOTS = 50

/** The finishes that fifty dots stand at: the 1st, 3rd … 99th percentile. @param sorted - ascending, at least one */
export const fiftyDots = (sorted: Int32Array): string[] =>
  Array.from({ length: DOTS }, (_, k) => formatInstant(percentileSorted(sorted, 2 * k + 1)))
