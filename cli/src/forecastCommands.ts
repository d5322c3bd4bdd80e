import {
  BATCH,
  daysOwed,
  driversByRank,
  DRIVERS_ASKED,
  iterationTable,
  jointCurve,
  parseDate,
  pert,
  replay,
  runIterations,
  seekSettled,
  simulationModel,
  summarise,
  type IterationTable,
  type Plan,
  type Settled,
  type SimulationModel,
  type SimulationOptions,
  type Until,
} from '@geodrome/core'
import { numberBetween, UsageError, wholeNumber, type Command } from './command.ts'
import { when } from './when.ts'

const inHundred = (share: number): string => `${Math.round(share * 100)} of 100`
const days = (value: number): string => `${Math.round(value * 100) / 100} d`

export const pertCommand: Command = {
  usage: 'FILE [--by DATE] [--confidence 0.8] [--to ID]',
  summary: 'expected length, its deviation, probabilities, the paths within reach',
  options: { by: { type: 'string' }, confidence: { type: 'string' }, to: { type: 'string' } },
  prepare: ({ by, confidence: asked, to }) => {
    if (typeof by === 'string' && parseDate(by) === null)
      throw new UsageError('--by takes a date: YYYY-MM-DD or YYYY-MM-DDTHH:MM')
    const confidence = numberBetween(asked, 'confidence', 0, 1) ?? 0.8
    if (confidence === 1) throw new UsageError('--confidence takes a number below 1: nothing is certain')
    return ({ plan }) => {
      const target =
        typeof to === 'string' ? plan.activities.find(({ id, code }) => id === to || code === to) : null
      if (target === undefined) throw new UsageError(`the plan has no activity "${String(to)}"`)
      const report = pert(plan, {
        by: typeof by === 'string' ? by : null,
        confidence,
        to: target?.id ?? null,
      })
      const codeOf = new Map(plan.activities.map(({ id, code }) => [id, code]))
      const { mean, sd, finish, probability, dateAtConfidence, paths } = report
      return {
        json: { mean, sd, finish, probability, dateAtConfidence, paths },
        text: () =>
          [
            `Expected ${when(finish, 'finish')}: ${days(mean)}, deviation ${days(sd)}`,
            ...(report.by === null || probability === null
              ? []
              : [`Kept by ${when(report.by, 'finish')} in ${inHundred(probability)}`]),
            `${Math.round(confidence * 100)} % sure by ${when(dateAtConfidence, 'finish')}`,
            ...paths.map(
              (path) =>
                `  ${days(path.mean).padStart(10)} ± ${days(path.sd).padEnd(8)} ${path.activities.map((id) => codeOf.get(id) ?? id).join(' → ')}`,
            ),
            '',
          ].join('\n'),
      }
    }
  },
}

/** As many whole batches as the percentile takes to be as sure as asked. */
const runUntil = (
  plan: Plan,
  options: SimulationOptions,
  until: Until,
): { model: SimulationModel; table: IterationTable; settled: Settled } => {
  const settled = seekSettled(plan, options, until)
  return { ...run(plan, { ...options, iterations: settled.iterations, batch: BATCH }), settled }
}

export const simulateCommand: Command = {
  usage:
    'FILE --iterations N --seed S [--no-risks] [--sampling lhs|random] [--until D [--percentile P]] [--joint P] [--owed P] [--replay I]',
  summary: 'distribution of dates and money by Monte Carlo, and what it is owed to',
  options: {
    iterations: { type: 'string' },
    seed: { type: 'string' },
    'no-risks': { type: 'boolean' },
    sampling: { type: 'string' },
    until: { type: 'string' },
    percentile: { type: 'string' },
    joint: { type: 'string' },
    owed: { type: 'string' },
    replay: { type: 'string' },
  },
  prepare: (options) => {
    const iterations = wholeNumber(options.iterations, 'iterations', 5000, 1, 1_000_000)
    const seed = wholeNumber(options.seed, 'seed', 1, -2147483648, 4294967295)
    const sampling = options.sampling ?? 'lhs'
    if (sampling !== 'lhs' && sampling !== 'random') throw new UsageError('--sampling takes lhs or random')
    const within = numberBetween(options.until, 'until', 0, 10_000)
    const percent = numberBetween(options.percentile, 'percentile', 0, 100) ?? 80
    if (within !== null && options.iterations !== undefined)
      throw new UsageError(
        `--until runs batches of ${BATCH} iterations until it is settled; leave --iterations out`,
      )
    const joint = numberBetween(options.joint, 'joint', 0, 100) ?? 80
    const owed = numberBetween(options.owed, 'owed', 0, 100)
    return ({ plan }) => {
      const asked: SimulationOptions = { iterations, seed, sampling, risks: options['no-risks'] !== true }
      const ran = within === null ? run(plan, asked) : runUntil(plan, asked, { days: within, percent })
      const { model, table } = ran
      const { happened, ...summary } = summarise(model, table)
      const debts =
        owed === null ? null : daysOwed(model, owed, driversByRank(model, table).slice(0, DRIVERS_ASKED))
      const replayed =
        options.replay === undefined
          ? null
          : replay(model, wholeNumber(options.replay, 'replay', 1, 1, table.iterations) - 1)
      return {
        json: {
          ...summary,
          joint: jointCurve(table, joint / 100),
          risks: Object.fromEntries(
            Object.entries(happened).map(([id, share]) => [
              id,
              {
                happened: share,
                owed: debts?.find((one) => one.kind === 'risk' && one.id === id)?.days ?? null,
              },
            ]),
          ),
          ...(debts && { owed: debts }),
          ...(ran.settled && { settled: ran.settled }),
          ...(replayed && { replay: replayed }),
        },
        text: () =>
          [
            `Planned ${when(summary.planned, 'finish')}, kept in ${inHundred(summary.plannedProbability)} iterations`,
            ...Object.entries(summary.percentiles).map(
              ([p, date]) => `  ${p.padStart(3)} % by ${when(date, 'finish')}`,
            ),
            ...(ran.settled
              ? [
                  `Settled to ± ${days(ran.settled.halfWidth)} at ${percent} % after ${ran.settled.iterations} iterations`,
                ]
              : []),
            ...(debts ?? []).map(
              ({ kind, id, days: saved }) => `  ${days(saved).padStart(10)} owed to ${kind} ${id}`,
            ),
            '',
          ].join('\n'),
      }
    }
  },
}

/** All iterations of a run. */
const run = (
  plan: Plan,
  options: SimulationOptions,
): { model: SimulationModel; table: IterationTable; settled: null } => {
  const model = simulationModel(plan, options)
  const table = iterationTable(model)
  runIterations(model, table)
  return { model, table, settled: null }
}
