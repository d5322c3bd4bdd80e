import {
  durationWords,
  explain,
  isPlanFile,
  PLAN_FILES,
  writePlanFile,
  explanationWords,
  plainText,
  schedule,
  scheduleReport,
  spanEnd,
  varianceReport,
  withYearsOf,
  type EdgeWords,
  lengthsOf,
  calendarOf,
} from '@geodrome/core'
import { when } from './when.ts'
import { UsageError, type Command } from './command.ts'
import { chainCommand } from './chainCommand.ts'
import { compareCommand } from './compareCommand.ts'
import { crashCommand } from './crashCommand.ts'
import { pertCommand, simulateCommand } from './forecastCommands.ts'
import { costCommand, levelCommand, loadCommand } from './resourceCommands.ts'
import { reportCommand } from './reportCommand.ts'
import { reviewCommand } from './reviewCommand.ts'

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

const FILE_NAMES = Object.keys(PLAN_FILES)

const convertCommand: Command = {
  usage: `FILE --to ${FILE_NAMES.join('|')}`,
  summary: 'the plan file with every default written out, activities with their dates, the network',
  options: { to: { type: 'string' } },
  prepare: ({ to }) => {
    if (typeof to !== 'string' || !isPlanFile(to))
      throw new UsageError(`--to takes ${FILE_NAMES.slice(0, -1).join(', ')} or ${FILE_NAMES.at(-1)}`)
    return async ({ plan }) => {
      const file = await writePlanFile(to, plan)
      return { json: file, text: () => '' }
    }
  },
}

/** Every command of the program; a new one is added here. */
export const COMMANDS: Readonly<Record<string, Command>> = {
  schedule: scheduleCommand,
  explain: explainCommand,
  review: reviewCommand,
  pert: pertCommand,
  simulate: simulateCommand,
  crash: crashCommand,
  chain: chainCommand,
  cost: costCommand,
  load: loadCommand,
  level: levelCommand,
  compare: compareCommand,
  report: reportCommand,
  convert: convertCommand,
}
