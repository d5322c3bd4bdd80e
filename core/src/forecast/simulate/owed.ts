import { lengthsOf } from '../../plan/durations.ts'
import type { Plan } from '../../plan/schema.ts'
import { percentileSorted } from '../percentile.ts'
import { drawAgain } from './drawAgain.ts'
import type { IterationTable } from './iterationTable.ts'
import { simulationModel, type Driver, type SimulationModel, type SimulationOptions } from './model.ts'
import { rankWithFinish, sensitivities } from './sensitivities.ts'

/** Days by which a percentile would come earlier without one spread, factor, risk or weather. */
export interface Owed extends Driver {
  /** Days of the project calendar. */
  readonly days: number
}

/** Drivers that are looked at: those whose draws go most with the finish. */
export const DRIVERS_ASKED = 20

/**
 * What is drawn in a run, that which goes most with the finish first (rank correlation).
 * @param sensitivity - where it is known already
 */
export const driversByRank = (
  model: SimulationModel,
  table: IterationTable,
  sensitivity: ReadonlyMap<number, number> = sensitivities(model, table),
): Driver[] => {
  const { plan, network, options } = model
  const rank = rankWithFinish(table)
  const found: { driver: Driver; rank: number }[] = []
  const ownSpread = new Set(plan.activities.map(({ id }) => id))
  for (const { activity } of model.varying) {
    const { id } = network.activities[activity]!
    if (ownSpread.has(id))
      found.push({ driver: { kind: 'spread', id }, rank: Math.abs(sensitivity.get(activity) ?? 0) })
  }
  // In millionths: ranks are made of whole numbers.
  for (const [id, at] of model.factors)
    found.push({ driver: { kind: 'factor', id }, rank: Math.abs(rank((k) => Math.round(1e6 * at(k)))) })
  for (const { risk, happens } of model.risks)
    found.push({
      driver: { kind: 'risk', id: risk.id },
      rank: Math.abs(rank((k) => (happens(k) ? (risk.sign === 'threat' ? 1 : -1) : 0))),
    })
  if (options.spread !== false)
    for (const { id } of plan.weather) found.push({ driver: { kind: 'weather', id }, rank: 1 })
  return found
    .sort((a, b) => b.rank - a.rank || (a.driver.kind + a.driver.id < b.driver.kind + b.driver.id ? -1 : 1))
    .map(({ driver }) => driver)
}

/** Iterations of a run with and without each of some drivers, to be filled in any order by any number of workers. */
export interface OwedRun {
  readonly plan: Plan
  readonly options: SimulationOptions
  readonly drivers: readonly Driver[]
  /** Of each of the runs, all batches. */
  readonly iterations: number
  /** The run beside which the others stand, with everything; then those without each driver. Made when first asked for. */
  readonly models: (SimulationModel | null)[]
}

export const owedRun = (plan: Plan, options: SimulationOptions, drivers: readonly Driver[]): OwedRun => ({
  plan,
  options,
  drivers,
  iterations: options.iterations * (options.batches ?? 1),
  models: Array.from({ length: drivers.length + 1 }, () => null),
})

/** Number of runs × iterations: one with everything, and one without each driver. */
export const owedUnits = (drivers: number, iterations: number): number => (drivers + 1) * iterations

const modelAt = (run: OwedRun, slot: number): SimulationModel =>
  (run.models[slot] ??= simulationModel(run.plan, {
    ...run.options,
    without: slot === 0 ? null : run.drivers[slot - 1]!,
  }))

/** @param finish - filled from … to − 1: run × iterations + iteration */
export const runOwed = (run: OwedRun, finish: Int32Array, from: number, to: number): void => {
  const { iterations } = run
  for (let at = from; at < to;) {
    const slot = Math.floor(at / iterations)
    const end = Math.min(to, (slot + 1) * iterations)
    const first = at - slot * iterations
    const begin = at
    drawAgain(modelAt(run, slot), first, first + end - at, (iteration, _, placed) => {
      finish[begin + iteration - first] = placed.projectFinish
    })
    at = end
  }
}

/**
 * Days owed at a percentile to each driver: the percentile of the run less that of the run beside it, on the same draws, in which that
 * driver alone is fixed at its planned value, or absent.
 * @param finish - by {@link runOwed}
 * @param isThere - whether a run's iterations are all there; of those that are not nothing is told
 * @param percent - of the finish
 */
export const owedOf = (
  run: OwedRun,
  finish: Int32Array,
  percent: number,
  isThere: (slot: number) => boolean = () => true,
): Owed[] => {
  const { plan, iterations, drivers } = run
  const calendar = modelAt(run, 0).planned.network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const at = (slot: number): number =>
    calendar.countBefore(
      percentileSorted(finish.slice(slot * iterations, (slot + 1) * iterations).sort(), percent),
    )
  if (!isThere(0)) return []
  const with_ = at(0)
  return drivers
    .flatMap((driver, k): Owed[] =>
      isThere(k + 1) ? [{ ...driver, days: (with_ - at(k + 1)) / dayMinutes }] : [],
    )
    .sort((a, b) => b.days - a.days)
}

/** Days owed at a percentile to each of some drivers, all at once. @param percent - of the finish */
export const daysOwed = (
  { plan, options }: SimulationModel,
  percent: number,
  drivers: readonly Driver[],
): Owed[] => {
  const run = owedRun(plan, options, drivers)
  const finish = new Int32Array(owedUnits(drivers.length, run.iterations))
  runOwed(run, finish, 0, finish.length)
  return owedOf(run, finish, percent)
}
