import {
  costReport,
  level,
  LEVEL_RULES,
  LevelError,
  levelReport,
  loadReport,
  schedule,
  type LevelOptions,
  type LevelReport,
  type Period,
  type Plan,
} from '@geodrome/core'
import { UsageError, wholeNumber, type Command } from './command.ts'
import { when } from './when.ts'

const money = (amount: number): string => amount.toFixed(2).padStart(14)

const PERIODS: readonly string[] = ['day', 'week', 'month'] satisfies Period[]

export const costCommand: Command = {
  usage: 'FILE [--by day|week|month]',
  summary: 'cost of activities and groups, over time, damages and payments',
  options: { by: { type: 'string' } },
  prepare: ({ by = 'day' }) => {
    if (typeof by !== 'string' || !PERIODS.includes(by)) throw new UsageError('--by takes day, week or month')
    return ({ plan }) => {
      const report = costReport(schedule(plan), by as Period)
      return {
        json: report,
        text: () =>
          [
            `Planned ${money(report.total).trim()} ${plan.project.currency}`,
            ...plan.activities.map((activity) => {
              const { planned, atCompletion, spent } = report.activities[activity.id]!
              return `  ${activity.code.padEnd(10)} ${money(planned)} ${money(atCompletion)} ${money(spent)}  ${activity.name}`
            }),
            ...report.damages.map(
              ({ id, counted, amount, firstDay }) =>
                `${plan.damages.find((d) => d.id === id)!.name || 'Damages'}: ${money(amount).trim()} for ${counted} d${firstDay === null ? '' : `, from ${when(firstDay, 'start')}`}`,
            ),
            ...report.payments.map(
              ({ date, amount, direction }) =>
                `${direction === 'in' ? 'Received' : 'Paid'} ${when(date, 'finish')}: ${money(amount).trim()}`,
            ),
            '',
          ].join('\n'),
      }
    }
  },
}

export const loadCommand: Command = {
  usage: 'FILE',
  summary: 'load of people and plant, what is asked for beyond what there is, work outside their hours',
  options: {},
  prepare:
    () =>
    ({ plan }) => {
      const report = loadReport(schedule(plan))
      const code = new Map(plan.activities.map((activity) => [activity.id, activity.code]))
      return {
        json: report,
        text: () =>
          [
            ...plan.resources.flatMap(({ id, code: called, name }) => {
              const load = report.resources[id]
              if (load === undefined) return []
              return [
                `${(called || name).padEnd(10)} at most ${load.peak} at once`,
                ...load.overloads.map(
                  (overload) =>
                    `  ${overload.load} of ${overload.available}: ${when(overload.from, 'start')} to ${when(overload.to, 'finish')}, ${overload.activities.map((a) => code.get(a)!).join(', ')}`,
                ),
                ...load.outsideHours.map(
                  ({ activity, minutes }) =>
                    `  ${code.get(activity)!} works ${minutes} min outside its hours`,
                ),
              ]
            }),
            '',
          ].join('\n'),
      }
    },
}

const RULES: readonly string[] = [...LEVEL_RULES, 'best']

export const levelCommand: Command = {
  usage: `FILE [--rule ${RULES.join('|')}] [--seed N] [--inside-float]`,
  summary:
    'dates on which no more people and plant are asked for than there are, with why each activity waits',
  options: { rule: { type: 'string' }, seed: { type: 'string' }, 'inside-float': { type: 'boolean' } },
  prepare: ({ rule = 'best', seed, 'inside-float': insideFloat = false }) => {
    if (typeof rule !== 'string' || !RULES.includes(rule))
      throw new UsageError(`--rule takes ${RULES.join(', ')}`)
    const options: LevelOptions = {
      rule: rule as LevelOptions['rule'],
      seed: wholeNumber(seed, 'seed', 1, -2147483648, 4294967295),
      insideFloat: insideFloat === true,
    }
    return ({ plan }) => {
      const report = levelled(plan, options)
      const code = new Map(plan.activities.map((activity) => [activity.id, activity.code]))
      const resource = new Map(plan.resources.map((r) => [r.id, r.code || r.name]))
      return {
        json: report,
        text: () =>
          [
            `Finish ${when(report.finish, 'finish')}${report.finish === report.proven.finish ? ', proven the earliest' : `, not before ${when(report.proven.finish, 'finish')}`}`,
            ...plan.activities.flatMap(({ id }) => {
              const { start, finish, movedBy, because } = report.activities[id]!
              if (movedBy === 0 && because.length === 0) return []
              return [
                `  ${code.get(id)!.padEnd(10)} ${when(start, 'start')}  ${when(finish, 'finish')}  ${movedBy} d later`,
                ...because.map(
                  (wait) =>
                    `    waits for ${resource.get(wait.resource)!} until ${when(wait.to, 'start')}: ${wait.heldBy.map((a) => code.get(a)!).join(', ') || 'there is none'}`,
                ),
              ]
            }),
            ...report.unresolved.map(
              (one) => `! ${code.get(one.activity)!}, ${resource.get(one.resource)!}: ${one.reason}`,
            ),
            ...report.exceeded.map(
              ({ activity, limit, finish }) =>
                `! ${activity === null ? 'required finish' : code.get(activity)!} ${when(limit, 'finish')} is not kept: ${when(finish, 'finish')}`,
            ),
            '',
          ].join('\n'),
      }
    }
  },
}

const levelled = (plan: Plan, options: LevelOptions): LevelReport => {
  try {
    return levelReport(level(plan, options))
  } catch (error) {
    if (error instanceof LevelError) throw new UsageError(error.message)
    throw error
  }
}
