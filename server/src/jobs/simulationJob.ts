import {
  BATCH,
  DRIVERS_ASKED,
  driversByRank,
  fiftyDots,
  formatInstant,
  instantOf,
  isSettled,
  ITERATIONS_TOGETHER,
  iterationTable,
  jointCurve,
  lookAtRun,
  LOOKS,
  nextSeek,
  percentileSorted,
  rowNumbers,
  runIterations,
  scenarioPlan,
  schedule,
  seekModel,
  seekRange,
  sensitivities,
  shareAtOrBelow,
  simulationModel,
  summarise,
  tableNumbers,
  type IterationTable,
  type Plan,
  type RunPartial,
  type SimulationModel,
  type Until,
} from '@geodrome/core'
import { NotFoundError } from '../errors.ts'
import { jobKind } from './jobKind.ts'

interface Prepared {
  readonly model: SimulationModel
  /** Planned finish. */
  readonly planned: number
  readonly until: Until | null
}

/** In which a run is worked on at once, mostly. */
const THREADS = 2
const SHOWN_WHILE_GROWING = [10, 20, 30, 40, 50, 60, 70, 80, 90]

/** The plan as a scenario sees it; null: as it is. @throws NotFoundError */
export const inScenario = (plan: Plan, scenario: string | null): Plan => {
  if (scenario === null) return plan
  if (!plan.scenarios.some(({ id }) => id === scenario))
    throw new NotFoundError(`there is no scenario "${scenario}"`)
  return scenarioPlan(plan, scenario).plan
}

/** Monte Carlo: iterations are the units, the table of iterations the memory. */
export const simulationJob = jobKind<'simulation', Prepared, IterationTable>({
  total: ({ iterations }) => iterations,
  subject: (plan, { scenario }) => inScenario(plan, scenario),
  weight: ({ activities }, { iterations }) =>
    tableNumbers(activities.length, iterations) + THREADS * rowNumbers(activities.length),
  together: ITERATIONS_TOGETHER,
  prepare: (plan, input) => ({
    model: simulationModel(plan, input),
    planned: schedule(plan).projectFinish,
    until: input.until ?? null,
  }),
  memory: ({ model }) => iterationTable(model, (bytes) => new SharedArrayBuffer(bytes)),
  run: ({ model }, table, { from, to }) => runIterations(model, table, from, to),
  partial: ({ planned }, table, ranges) => grown(finishesOf(table, ranges).sort(), planned),
  summary: ({ model, until }, table) => {
    const sorted = table.finish.slice().sort()
    const { requiredFinish } = model.network.plan.project
    const required = requiredFinish === null ? null : instantOf(requiredFinish, 'finish')
    const { buffer, byteOffset, byteLength } = table.finish
    const sensitivity = sensitivities(model, table)
    return {
      ...summarise(model, table, sensitivity),
      drivers: driversByRank(model, table, sensitivity).slice(0, DRIVERS_ASKED),
      joint: jointCurve(table, 0.8),
      risks: model.options.risks,
      dots: fiftyDots(sorted),
      required: required === null ? null : formatInstant(required),
      requiredProbability: required === null ? null : shareAtOrBelow(sorted, required),
      settled: until && {
        percent: until.percent,
        halfWidth: isSettled(model, table.finish, model.iterations, until).halfWidth,
      },
      finishes: Buffer.from(buffer, byteOffset, byteLength).toString('base64'),
    }
  },
  seek: {
    isAsked: ({ until }) => until !== undefined,
    most: (plan, input) => {
      const { iterations } = seekModel(plan, input)
      return { ...input, iterations, batch: BATCH }
    },
    next: nextSeek,
    memory: ({ iterations }) => new Int32Array(new SharedArrayBuffer(4 * iterations)),
    run: (plan, input) => {
      const model = seekModel(plan, input)
      const planned = schedule(plan).projectFinish
      return {
        range: (finishes, { from, to }) => seekRange(model, finishes, from, to),
        partial: (finishes, done) => grown(finishes.slice(0, done).sort(), planned),
        found: (finishes, done) =>
          isSettled(model, finishes, done, input.until!).isEnough
            ? { ...input, iterations: done, batch: BATCH }
            : null,
      }
    },
  },
  look: ({ model }, table, kind, question) =>
    lookAtRun(model, table, kind, LOOKS[kind].question.parse(question)),
})

/** What is shown of so many finishes, ascending. */
const grown = (sorted: Int32Array, planned: number): RunPartial<'simulation'> => ({
  dots: fiftyDots(sorted),
  percentiles: Object.fromEntries(
    SHOWN_WHILE_GROWING.map((p) => [String(p), formatInstant(percentileSorted(sorted, p))]),
  ),
  plannedProbability: shareAtOrBelow(sorted, planned),
})

const finishesOf = (table: IterationTable, ranges: readonly { from: number; to: number }[]): Int32Array => {
  const finishes = new Int32Array(ranges.reduce((sum, { from, to }) => sum + to - from, 0))
  let done = 0
  for (const { from, to } of ranges) {
    finishes.set(table.finish.subarray(from, to), done)
    done += to - from
  }
  return finishes
}
