import { formatInstant, MINUTES_PER_DAY } from '../../time/instant.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { calendarOf } from '../../plan/lagCalendar.ts'
import { groupsAround } from '../../plan/scope.ts'
import { percentileOf, percentileSorted, shareAtOrBelow } from '../percentile.ts'
import { amountsOf, DOT_PERCENTILES, PERCENTILES, type Amounts } from './amounts.ts'
import { finishesOfActivity } from './packedFinishes.ts'
import { iterationCosts } from './iterationCosts.ts'
import { hammocksOf, type IterationTable } from './iterationTable.ts'
import type { SimulationModel } from './model.ts'
import { sensitivities } from './sensitivities.ts'

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
  /** Null where nothing costs anything. */
  readonly cost: (Amounts & { readonly planned: number }) | null
  /** By clause. */
  readonly damages: Readonly<Record<string, Amounts>>
  /** Milestones and groups: dates; hammocks: lengths in days of their calendars. */
  readonly targets: Readonly<Record<string, TargetForecast>>
  /** Of each risk drawn, the share of the iterations in which it happened. */
  readonly happened: Readonly<Record<string, number>>
}
interface TargetForecast {
  readonly mean: string | number
  readonly percentiles: Readonly<Record<string, string | number>>
}
export interface ActivityForecast {
  readonly criticality: number
  readonly sensitivity: number
  readonly p50: string
  readonly p80: string
}

/**
 * @param table - with every iteration of the model's run
 * @param sensitivity - where it is known already
 */
export const summarise = (
  model: SimulationModel,
  table: IterationTable,
  sensitivity: ReadonlyMap<number, number> = sensitivities(model, table),
): SimulationSummary => {
  const { plan, options } = model
  const { iterations } = table
  const planned = model.planned.projectFinish
  const sorted = table.finish.slice().sort()
  const origin = sorted[0]!
  let sum = 0
  for (const at of sorted) sum += at - origin
  const mean = sum / iterations
  let squares = 0
  for (const at of sorted) squares += (at - origin - mean) ** 2
  const sd = iterations > 1 ? Math.sqrt(squares / (iterations - 1)) / MINUTES_PER_DAY : 0

  const activities: Record<string, ActivityForecast> = {}
  plan.activities.forEach((activity, i) => {
    const finishes = finishesOfActivity(table.activityFinish, i)
    activities[activity.id] = {
      criticality: table.onPath[i]! / iterations,
      sensitivity: sensitivity.get(i) ?? 0,
      p50: formatInstant(percentileOf(finishes, 50)),
      p80: formatInstant(percentileOf(finishes, 80)),
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
    ...moneyOf(model, table),
    targets: targetsOf(model, table),
    happened: Object.fromEntries(
      model.risks.map(({ risk, happens }) => {
        let count = 0
        for (let k = 0; k < iterations; k++) if (happens(k)) count++
        return [risk.id, count / iterations]
      }),
    ),
  }
}

const moneyOf = (
  model: SimulationModel,
  table: IterationTable,
): Pick<SimulationSummary, 'cost' | 'damages'> => {
  const { iterations } = table
  const costs = iterationCosts(model)
  return {
    cost: costs.isFree ? null : { planned: Math.round(costs.planned * 100) / 100, ...amountsOf(table.cost) },
    damages: Object.fromEntries(
      model.plan.damages.map(({ id }, d) => [
        id,
        amountsOf(table.damages.slice(d * iterations, (d + 1) * iterations)),
      ]),
    ),
  }
}

const datesOf = (finishes: Int32Array): TargetForecast => {
  const sorted = finishes.slice().sort()
  const origin = sorted[0]!
  let sum = 0
  for (const at of sorted) sum += at - origin
  return {
    mean: formatInstant(origin + Math.round(sum / sorted.length)),
    percentiles: Object.fromEntries(
      PERCENTILES.map((p) => [String(p), formatInstant(percentileSorted(sorted, p))]),
    ),
  }
}

const targetsOf = (model: SimulationModel, table: IterationTable): Record<string, TargetForecast> => {
  const { plan } = model
  const { iterations, activityFinish } = table
  const row = (i: number): Int32Array => finishesOfActivity(activityFinish, i)
  const targets: Record<string, TargetForecast> = {}
  const around = groupsAround(plan)
  for (const { id } of plan.groups) {
    const members = plan.activities.flatMap((a, i) =>
      a.kind !== 'hammock' && around(a.group).includes(id) ? [i] : [],
    )
    if (members.length === 0) continue
    const latest = row(members[0]!)
    for (const i of members.slice(1)) row(i).forEach((at, k) => (latest[k] = Math.max(latest[k]!, at)))
    targets[id] = datesOf(latest)
  }
  plan.activities.forEach(({ id, kind }, i) => {
    if (kind === 'milestone') targets[id] = datesOf(row(i))
  })
  hammocksOf(model).forEach((i, h) => {
    const activity = plan.activities[i]!
    const { dayMinutes } = lengthsOf(plan, calendarOf(plan.project, activity))
    const lengths = table.hammockLength.subarray(h * iterations, (h + 1) * iterations)
    const { mean, percentiles } = amountsOf(
      Float64Array.from(lengths, (minutes) => minutes / dayMinutes),
      6,
    )
    targets[activity.id] = { mean, percentiles }
  })
  return targets
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

/** The finishes that fifty dots stand at. @param sorted - ascending, at least one */
export const fiftyDots = (sorted: Int32Array): string[] =>
  DOT_PERCENTILES.map((p) => formatInstant(percentileSorted(sorted, p)))
