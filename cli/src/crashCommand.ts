import {
  crash,
  crashReport,
  durationMinutes,
  eventNetwork,
  lengthsOf,
  loadSolver,
  needsSolver,
  parseDate,
  type CrashAsk,
  type Plan,
} from '@geodrome/core'
import { numberBetween, UsageError, type Command } from './command.ts'
import { when } from './when.ts'

const DURATION = /^\s*\d+(\.\d+)?\s*[mhdw]\s*$/

/** A date, or a length in days and hours of the project calendar. @throws UsageError */
const deadlineOf = (text: string): ((plan: Plan) => NonNullable<CrashAsk['deadline']>) => {
  if (parseDate(text) !== null) return () => ({ date: text })
  if (!DURATION.test(text))
    throw new UsageError('--deadline takes a date (YYYY-MM-DD) or a duration such as 52d')
  return (plan) => ({ minutes: durationMinutes(text, lengthsOf(plan, plan.project.calendar)) })
}

export const crashCommand: Command = {
  usage: 'FILE [--deadline DATE|DURATION] [--budget X] [--curve] [--whole d] [--to ID]',
  summary: 'the cheapest way to a date, the earliest date for a budget, or the whole curve',
  options: {
    deadline: { type: 'string' },
    budget: { type: 'string' },
    curve: { type: 'boolean' },
    whole: { type: 'string' },
    to: { type: 'string' },
  },
  prepare: ({ deadline: text, budget: money, curve, whole: period, to }) => {
    if (text !== undefined && money !== undefined)
      throw new UsageError('give a deadline or a budget, not both')
    const deadline = typeof text === 'string' ? deadlineOf(text) : null
    const budget = money === '0' ? 0 : numberBetween(money, 'budget', 0, 1e15)
    // "--whole d" is by whole days; a number asks for so many of them.
    const whole =
      period === 'd'
        ? 1
        : numberBetween(typeof period === 'string' ? period.replace(/d$/, '') : period, 'whole', 0, 1000)
    return async ({ plan }) => {
      const target =
        typeof to === 'string' ? plan.activities.find(({ id, code }) => id === to || code === to) : null
      if (target === undefined) throw new UsageError(`the plan has no activity "${String(to)}"`)
      const ask: CrashAsk = {
        deadline: deadline?.(plan) ?? null,
        budget,
        whole,
        curve: curve === true,
        to: target?.id ?? null,
      }
      const solver = needsSolver(eventNetwork(plan, ask.to), whole) ? await loadSolver() : null
      const result = crash(plan, ask, solver)
      const report = crashReport(result, ask)
      const codeOf = new Map(plan.activities.map(({ id, code }) => [id, code]))
      return {
        json: report,
        text: () =>
          [
            report.feasible
              ? `${when(report.finish, 'finish')}, ${report.duration} d: crashing costs ${report.crashCost}`
              : `It cannot be kept: the shortest is ${report.shortest} d, ${when(report.finish, 'finish')}, along ${(report.blocking ?? []).map((id) => codeOf.get(id) ?? id).join(' → ')}`,
            ...Object.entries(report.crashed).map(
              ([id, days]) => `  ${codeOf.get(id) ?? id}  ${days} d shorter`,
            ),
            ...(report.curve ?? []).map(
              ({ duration, crashCost }) =>
                `  ${String(duration).padStart(10)} d  ${crashCost.toFixed(2).padStart(14)}`,
            ),
            '',
          ].join('\n'),
      }
    }
  },
}
