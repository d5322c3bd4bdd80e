import {
  durationWords,
  explain,
  explanationWords,
  instantOf,
  instantWords,
  iterationTable,
  plainText,
  runIterations,
  schedule,
  scheduleCsv,
  scheduleReport,
  simulationModel,
  spanEnd,
  summarise,
  varianceReport,
  withYearsOf,
  writePlan,
  type EdgeWords,
  lengthsOf,
  calendarOf,
} from '@geodrome/core'
import { UsageError, wholeNumber, type Command } from './command.ts'
import { costCommand, levelCommand, loadCommand } from './resourceCommands.ts'
import { reviewCommand } from './reviewCommand.ts'

const when = (date: string, edge: 'start' | 'finish'): string =>
  instantWords(instantOf(date, 'start'), edge, { year: true })

const scheduleCommand: Command = {
  usage: 'FILE [--baseline ID]',
  summary: 'dates, floats, critical and longest path; variance against a baseline',
  options: { baseline: { type: 'string' } },
  prepare:
    ({ baseline: wanted }) =>
    ({ plan, notes }) => {
      const made = schedule(plan)
      const report = scheduleReport(made)
      const baseline = plan.baselines.find(({ id }) => id === wanted)
      if (wanted !== undefined && !baseline)
        throw new UsageError(
          `the plan has no baseline "${wanted}"; it has ${plan.baselines.map(({ id }) => id).join(', ') || 'none'}`,
        )
      const variance = baseline ? varianceReport(made, baseline) : null
      const warnings = [
        ...notes.map((n) => ({ code: 'note', pointer: n.pointer, message: n.message })),
        ...report.warnings,
      ]
      const behind = (id: string): string => {
        const minutes = variance?.activities[id]?.finish ?? null
        return minutes === null ? '' : durationWords(minutes, lengthsOf(plan, plan.project.calendar))
      }
      return {
        json: { ...report, ...(variance && { variance }), warnings },
        text: () =>
          [
            `Finish ${when(report.finish, 'finish')}, start ${when(report.start, 'start')}`,
            ...plan.activities.map((a) => {
              const row = report.activities[a.id]!
              const calendar = lengthsOf(plan, calendarOf(plan.project, a))
              const float = row.totalFloat === null ? '' : durationWords(row.totalFloat, calendar)
              return `${row.onLongestPath ? '*' : ' '} ${row.code.padEnd(10)} ${when(row.start, 'start')}  ${when(row.finish, 'finish')}  ${float.padStart(10)}${behind(a.id).padStart(10)}  ${a.name}`
            }),
            ...warnings.map((w) => `! ${w.message}`),
            '',
          ].join('\n'),
      }
    },
}

const explainCommand: Command = {
  usage: 'FILE --activity ID',
  summary: 'why an activity starts, finishes and floats as it does',
  options: { activity: { type: 'string' } },
  prepare: ({ activity }) => {
    if (typeof activity !== 'string') throw new UsageError('explain needs --activity ID')
    return ({ plan }) => {
      const found =
        plan.activities.find((a) => a.id === activity) ?? plan.activities.find((a) => a.code === activity)
      if (!found) throw new UsageError(`the plan has no activity "${activity}"`)
      const made = schedule(plan)
      const explanation = explain(made, found.id)
      const withYears = <T>(make: () => T): T =>
        withYearsOf(made.projectStart, spanEnd(made.projectFinish, plan.project.requiredFinish), make)
      return {
        json: explanation,
        text: () => {
          const words = withYears(() => explanationWords(plan, explanation))
          const edge = ({ sentence, ladder, nextInLine }: EdgeWords): string[] => [
            plainText(sentence),
            ...ladder.map((rung) => `    ${plainText(rung.label).padEnd(44)} ${rung.at}`),
            ...nextInLine.map(
              (next) => `    next in line: ${plainText(next.label).padEnd(30)} ${next.behind}`,
            ),
          ]
          return [
            `${found.code} ${found.name}`,
            ...edge(words.start),
            ...edge(words.finish),
            ...edge(words.float),
            '',
          ].join('\n')
        },
      }
    }
  },
}

const simulateCommand: Command = {
  usage: 'FILE --iterations N --seed S [--no-risks] [--sampling lhs|random]',
  summary: 'distribution of the finish by Monte Carlo',
  options: {
    iterations: { type: 'string' },
    seed: { type: 'string' },
    'no-risks': { type: 'boolean' },
    sampling: { type: 'string' },
  },
  prepare: (options) => {
    const iterations = wholeNumber(options.iterations, 'iterations', 5000, 1, 1_000_000)
    const seed = wholeNumber(options.seed, 'seed', 1, -2147483648, 4294967295)
    const sampling = options.sampling ?? 'lhs'
    if (sampling !== 'lhs' && sampling !== 'random') throw new UsageError('--sampling takes lhs or random')
    return ({ plan }) => {
      const model = simulationModel(plan, { iterations, seed, sampling, risks: options['no-risks'] !== true })
      const table = iterationTable(model)
      runIterations(model, table)
      const summary = summarise(model, table)
      return {
        json: summary,
        text: () =>
          [
            `Planned ${when(summary.planned, 'finish')}, kept in ${Math.round(summary.plannedProbability * 100)} of 100 iterations`,
            ...Object.entries(summary.percentiles).map(
              ([p, date]) => `  ${p.padStart(3)} % by ${when(date, 'finish')}`,
            ),
            '',
          ].join('\n'),
      }
    }
  },
}

const convertCommand: Command = {
  usage: 'FILE --to json|csv',
  summary: 'the plan file with every default written out, or the activities with their dates',
  options: { to: { type: 'string' } },
  prepare: ({ to }) => {
    if (to !== 'json' && to !== 'csv') throw new UsageError('--to takes json or csv')
    return ({ plan }) => {
      const file = to === 'json' ? writePlan(plan) : scheduleCsv(schedule(plan))
      return { json: file, text: () => file }
    }
  },
}

/** Every command of the program; a new one is added here. */
export const COMMANDS: Readonly<Record<string, Command>> = {
  schedule: scheduleCommand,
  explain: explainCommand,
  review: reviewCommand,
  simulate: simulateCommand,
  cost: costCommand,
  load: loadCommand,
  level: levelCommand,
  convert: convertCommand,
}
