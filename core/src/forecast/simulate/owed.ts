import type { Network } from '../../network/network.ts'
import { lengthsOf } from '../../plan/durations.ts'
import type { Activity, Plan } from '../../plan/schema.ts'
import { scopeWidth } from '../../plan/scope.ts'
import { ABSENT } from '../../schedule/forwardPass.ts'
import { ROW } from '../../schedule/kernelRows.ts'
import { percentileSorted } from '../percentile.ts'
import { fillFinishes } from './finishes.ts'
import { iterate } from './iterate.ts'
import type { IterationTable } from './iterationTable.ts'
import {
  fillDurations,
  simulationModel,
  type Driver,
  type SimulationModel,
  type SimulationOptions,
  type Varying,
} from './model.ts'
import { worksOf } from './riskWork.ts'
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
    found.push({
      driver: { kind: 'factor', id },
      rank: Math.abs(rank((values) => values.forEach((_, k) => (values[k] = Math.round(1e6 * at(k)))))),
    })
  for (const { risk, happens } of model.risks)
    found.push({
      driver: { kind: 'risk', id: risk.id },
      rank: Math.abs(
        rank((values) =>
          values.forEach((_, k) => (values[k] = happens(k) ? (risk.sign === 'threat' ? 1 : -1) : 0)),
        ),
      ),
    })
  if (options.spread !== false)
    for (const { id } of plan.weather) found.push({ driver: { kind: 'weather', id }, rank: 1 })
  return found
    .sort((a, b) => b.rank - a.rank || (a.driver.kind + a.driver.id < b.driver.kind + b.driver.id ? -1 : 1))
    .map(({ driver }) => driver)
}

/** A run, and one beside it without each of some drivers, to be filled in any order by any number of workers. */
export interface OwedRun {
  readonly model: SimulationModel
  readonly drivers: readonly Driver[]
  /** Of each of the runs, all batches. */
  readonly iterations: number
  readonly besides: readonly Beside[]
}

/** What is otherwise without one driver: durations, or, of the weather, the calendars of a whole model. */
type Beside =
  | { readonly kind: 'durations'; readonly varying: readonly Varying[] }
  | { readonly kind: 'model'; readonly model: SimulationModel }

export const owedRun = (plan: Plan, options: SimulationOptions, drivers: readonly Driver[]): OwedRun => {
  const model = simulationModel(plan, options)
  return {
    model,
    drivers,
    iterations: model.iterations,
    besides: drivers.map((driver) => besideOf(model, driver)),
  }
}

const besideOf = ({ plan, options, network }: SimulationModel, driver: Driver): Beside => {
  const model = simulationModel(plan, { ...options, without: driver })
  if (driver.kind === 'weather') return { kind: 'model', model }
  const drawn = new Map(model.varying.map((one) => [model.network.activities[one.activity]!.id, one]))
  return {
    kind: 'durations',
    varying: touchedBy(plan, network, driver).map((activity): Varying => {
      const { id } = network.activities[activity]!
      const planned = network.remaining[activity]!
      // Work of a risk is not in the network without it.
      const otherwise = model.network.indexOf.has(id) ? planned : ABSENT
      const fixed: Varying = {
        activity,
        alone: null,
        fill: (_, width, into) => void into.fill(otherwise, 0, width),
      }
      return { ...(drawn.get(id) ?? fixed), activity }
    }),
  }
}

/** Positions of the activities whose durations are drawn with a driver. */
const touchedBy = (plan: Plan, network: Network, { kind, id }: Driver): number[] => {
  const positions = (of: (activity: Activity) => boolean): number[] =>
    network.activities.flatMap((activity, i) => (of(activity) ? [i] : []))
  switch (kind) {
    case 'spread':
      return positions((activity) => activity.id === id)
    case 'factor': {
      const widthOf = scopeWidth(plan)
      const factor = plan.factors.find((one) => one.id === id)
      return factor ? positions((activity) => widthOf(factor.scope, activity) !== null) : []
    }
    default: {
      const risk = plan.risks.find((one) => one.id === id)
      const touched = new Set(risk?.impacts.map(({ activity }) => activity))
      const works = new Set(risk === undefined ? [] : worksOf(risk).map((work) => work.id))
      return positions((activity) => touched.has(activity.id) || works.has(activity.id))
    }
  }
}

/** Numbers that the finishes of all its runs are. */
export const owedNumbers = (drivers: number, iterations: number): number => (drivers + 1) * iterations

/**
 * Runs iterations from … to − 1 of all its runs. What varies is drawn once for all of them: without a driver only what it touches is
 * drawn anew, and only what follows from that is scheduled again.
 * @param finish - filled: run × iterations + iteration; the run with everything first
 */
export const runOwed = (run: OwedRun, finish: Int32Array, from: number, to: number): void => {
  const { model, besides, iterations } = run
  /** Without each driver, what its activities take instead: by activity that it touches × {@link ROW} + column. */
  const otherwise = besides.map(
    (beside) => new Int32Array(beside.kind === 'durations' ? beside.varying.length * ROW : 0),
  )
  let drawnFrom = -1
  const drawOtherwise = (first: number, width: number): void => {
    drawnFrom = first
    besides.forEach((beside, b) => {
      if (beside.kind !== 'durations') return
      beside.varying.forEach((one, v) => fillDurations(one, first, width, otherwise[b]!, v * ROW))
    })
  }
  const kept = new Int32Array(model.network.remaining.length)
  iterate(
    model,
    from,
    to,
    {
      rows: (placed, first, width) => {
        drawOtherwise(first, width)
        finish.set(placed.projectFinish.subarray(0, width), first)
        let isGood = true
        besides.forEach((beside, b) => {
          if (beside.kind !== 'durations' || !isGood) return
          const changes = beside.varying.map(({ activity }, v) => ({
            activity,
            remaining: otherwise[b]!.subarray(v * ROW, v * ROW + width),
          }))
          isGood = placed.finishesWith(width, changes)
          finish.set(placed.projectFinish.subarray(0, width), (b + 1) * iterations + first)
        })
        return isGood
      },
      one: (iteration, remaining, placed, engine) => {
        const first = iteration - ((iteration - from) % ROW)
        if (drawnFrom !== first) drawOtherwise(first, Math.min(ROW, to - first))
        finish[iteration] = placed.projectFinish
        for (let b = 0; b < besides.length; b++) {
          const beside = besides[b]!
          if (beside.kind !== 'durations') continue
          const { varying } = beside
          const seeds: number[] = []
          varying.forEach(({ activity }, v) => {
            kept[v] = remaining[activity]!
            remaining[activity] = otherwise[b]![v * ROW + iteration - first]!
            if (remaining[activity] !== kept[v]) seeds.push(activity)
          })
          finish[(b + 1) * iterations + iteration] =
            seeds.length === 0 ? finish[iteration] : engine.finishWith(remaining, seeds)
          varying.forEach(({ activity }, v) => (remaining[activity] = kept[v]!))
        }
      },
    },
    { again: true },
  )
  besides.forEach((beside, b) => {
    const at = (b + 1) * iterations
    if (beside.kind === 'model')
      fillFinishes(beside.model, null, finish.subarray(at, at + iterations), from, to)
  })
}

/**
 * Days owed at a percentile to each driver: the percentile of the run less that of the run beside it, on the same draws, in which that
 * driver alone is fixed at its planned value, or absent.
 * @param finish - by {@link runOwed}
 * @param percent - of the finish
 * @param ranges - of the iterations that are there; all where none are said
 */
export const owedOf = (
  run: OwedRun,
  finish: Int32Array,
  percent: number,
  ranges: readonly { readonly from: number; readonly to: number }[] = [{ from: 0, to: run.iterations }],
): Owed[] => {
  const { model, iterations, drivers } = run
  const { plan } = model
  const calendar = model.planned.network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const count = ranges.reduce((sum, { from, to }) => sum + to - from, 0)
  const at = (slot: number): number => {
    const there = new Int32Array(count)
    let filled = 0
    for (const { from, to } of ranges) {
      there.set(finish.subarray(slot * iterations + from, slot * iterations + to), filled)
      filled += to - from
    }
    return calendar.countBefore(percentileSorted(there.sort(), percent))
  }
  const with_ = at(0)
  return drivers
    .map((driver, k): Owed => ({ ...driver, days: (with_ - at(k + 1)) / dayMinutes }))
    .sort((a, b) => b.days - a.days)
}

/** Days owed at a percentile to each of some drivers, all at once. @param percent - of the finish */
export const daysOwed = (
  { plan, options }: SimulationModel,
  percent: number,
  drivers: readonly Driver[],
): Owed[] => {
  const run = owedRun(plan, options, drivers)
  const finish = new Int32Array(owedNumbers(drivers.length, run.iterations))
  runOwed(run, finish, 0, run.iterations)
  return owedOf(run, finish, percent)
}
