import { formatInstant, MINUTES_PER_DAY } from '../../time/instant.ts'
import { scheduleNetwork } from '../../schedule/schedule.ts'
import { percentileSorted, shareAtOrBelow } from '../percentile.ts'
import { averageRanks, correlation } from '../rankCorrelation.ts'
import type { SimulationModel } from './model.ts'
import type { IterationTable } from './iterationTable.ts'

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

const PERCENTILES = [5, 10, 20, 30, 40, 50, 60, 70, 80, 90, 95]

/** @param table - with every iteration of the model's run */
export const summarise = (model: SimulationModel, table: IterationTable): SimulationSummary => {
  const { network, options } = model
  const { iterations } = table
  const planned = scheduleNetwork(network).projectFinish
  const sorted = table.finish.slice().sort()
  const origin = sorted[0]!
  let sum = 0
  for (const at of sorted) sum += at - origin
  const mean = sum / iterations
  let squares = 0
  for (const at of sorted) squares += (at - origin - mean) ** 2
  const sd = iterations > 1 ? Math.sqrt(squares / (iterations - 1)) / MINUTES_PER_DAY : 0

  const finishRanks = averageRanks(table.finish)
  const drawn = new Int32Array(iterations)
  const sensitivity = new Map(
    model.varying.map(({ activity, at }) => {
      // Drawn once more: to keep every duration of every iteration would double what a run holds.
      for (let k = 0; k < iterations; k++) drawn[k] = at(k)
      return [activity, correlation(averageRanks(drawn), finishRanks)]
    }),
  )
  const activities: Record<string, ActivityForecast> = {}
  network.activities.forEach((activity, i) => {
    const finishes = table.activityFinish.slice(i * iterations, (i + 1) * iterations).sort()
    activities[activity.id] = {
      criticality: table.onPath[i]! / iterations,
      sensitivity: sensitivity.get(i) ?? 0,
      p50: formatInstant(percentileSorted(finishes, 50)),
      p80: formatInstant(percentileSorted(finishes, 80)),
    }
  })
  return {
    iterations,
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
