import { lengthsOf } from '../../plan/durations.ts'
import { percentileSorted } from '../percentile.ts'
import { averageRanks, correlation } from '../rankCorrelation.ts'
import { iterationTable, runIterations, type IterationTable } from './iterationTable.ts'
import { simulationModel, type Driver, type SimulationModel } from './model.ts'

/** Days by which a percentile would come earlier without one spread, factor, risk or weather. */
export interface Owed extends Driver {
  /** Days of the project calendar. */
  readonly days: number
}

/** Drivers that are looked at: those whose draws go most with the finish. */
export const DRIVERS_ASKED = 20

/** What is drawn in a run, that which goes most with the finish first (rank correlation). */
export const driversByRank = (model: SimulationModel, table: IterationTable): Driver[] => {
  const { plan, network, iterations, options } = model
  const finishRanks = averageRanks(table.finish)
  const values = new Int32Array(iterations)
  const rankOf = (at: (iteration: number) => number): number => {
    for (let k = 0; k < iterations; k++) values[k] = at(k)
    return Math.abs(correlation(averageRanks(values), finishRanks))
  }
  const found: { driver: Driver; rank: number }[] = []
  const ownSpread = new Set(plan.activities.map(({ id }) => id))
  for (const { activity, at } of model.varying) {
    const { id } = network.activities[activity]!
    if (ownSpread.has(id)) found.push({ driver: { kind: 'spread', id }, rank: rankOf(at) })
  }
  // In millionths: ranks are made of whole numbers.
  for (const [id, at] of model.factors)
    found.push({ driver: { kind: 'factor', id }, rank: rankOf((k) => Math.round(1e6 * at(k))) })
  for (const { risk, happens } of model.risks)
    found.push({
      driver: { kind: 'risk', id: risk.id },
      rank: rankOf((k) => (happens(k) ? (risk.sign === 'threat' ? 1 : -1) : 0)),
    })
  if (options.spread !== false)
    for (const { id } of plan.weather) found.push({ driver: { kind: 'weather', id }, rank: 1 })
  return found
    .sort((a, b) => b.rank - a.rank || (a.driver.kind + a.driver.id < b.driver.kind + b.driver.id ? -1 : 1))
    .map(({ driver }) => driver)
}

/**
 * Days owed at a percentile to each of some drivers: the percentile of the run less that of the run beside it, on the same draws, in which
 * that driver alone is fixed at its planned value, or absent.
 * @param percent - of the finish
 */
export const daysOwed = (
  model: SimulationModel,
  table: IterationTable,
  percent: number,
  drivers: readonly Driver[],
): Owed[] => {
  const { plan } = model
  const calendar = model.planned.network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const at = (of: IterationTable): number => percentileSorted(of.finish.slice().sort(), percent)
  const with_ = at(table)
  return drivers
    .map((driver): Owed => {
      const beside = simulationModel(plan, { ...model.options, without: driver })
      const other = iterationTable(beside)
      runIterations(beside, other)
      return { ...driver, days: (calendar.countBefore(with_) - calendar.countBefore(at(other))) / dayMinutes }
    })
    .sort((a, b) => b.days - a.days)
}
