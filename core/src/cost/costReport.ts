import { formatInstant, MINUTES_PER_DAY, weekdayOf, civilDate } from '../time/instant.ts'
import { roundMoney } from '../plan/money.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import { Kind } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activityCosts, costAt, groupCosts, type CostSum } from './activityCosts.ts'
import { costCurve, type CostCurve } from './costCurve.ts'
import { chargeFor, measuredFinish } from './damages.ts'
import { paymentsOf } from './payments.ts'

export type Period = 'day' | 'week' | 'month'

/** The cost as the command line writes it (semantics2.md section 18): money with two decimals, by id. */
export interface CostReport {
  readonly total: number
  readonly activities: Readonly<Record<string, CostSum>>
  readonly groups: Readonly<Record<string, CostSum>>
  /** Lengths in days of their own calendar. */
  readonly hammocks: Readonly<Record<string, { readonly length: number; readonly cost: number }>>
  readonly damages: readonly {
    readonly id: string
    readonly counted: number
    readonly amount: number
    readonly firstDay: string | null
  }[]
  readonly payments: readonly {
    readonly id: string
    readonly date: string
    readonly amount: number
    readonly direction: 'in' | 'out'
  }[]
  /** Cumulative at the end of the date: the last day of each period. */
  readonly curve: readonly { readonly date: string; readonly early: number; readonly late: number }[]
}

export const costReport = (schedule: Schedule, by: Period = 'day'): CostReport => {
  const { network } = schedule
  const { plan, activities } = network
  const costs = activityCosts(schedule)
  const days = (i: number): number =>
    costs.length[i]! / lengthsOf(plan, calendarOf(plan.project, activities[i]!)).dayMinutes
  return {
    total: roundMoney(costs.planned.reduce((sum, cost) => sum + cost, 0)),
    activities: Object.fromEntries(activities.map(({ id }, i) => [id, roundSum(costAt(costs, i))])),
    groups: Object.fromEntries([...groupCosts(costs)].map(([id, sum]) => [id, roundSum(sum)])),
    hammocks: Object.fromEntries(
      activities.flatMap(({ id }, i) =>
        network.kind[i] === Kind.Hammock
          ? [[id, { length: days(i), cost: roundMoney(costs.atCompletion[i]!) }]]
          : [],
      ),
    ),
    damages: plan.damages.map((clause) => {
      const { counted, amount, firstDay } = chargeFor(
        clause,
        network.calendars.get(clause.calendar),
        measuredFinish(schedule, clause),
      )
      return { id: clause.id, counted, amount: roundMoney(amount), firstDay }
    }),
    payments: paymentsOf(schedule).map(({ activity, at, amount, direction }) => ({
      id: activities[activity]!.id,
      date: formatInstant(at),
      amount: roundMoney(amount),
      direction,
    })),
    curve: curveBy(costCurve(costs), by).map(({ day, early, late }) => ({
      date: formatInstant(day * MINUTES_PER_DAY).slice(0, 10),
      early: roundMoney(early),
      late: roundMoney(late),
    })),
  }
}

const roundSum = ({ planned, atCompletion, spent }: CostSum): CostSum => ({
  planned: roundMoney(planned),
  atCompletion: roundMoney(atCompletion),
  spent: roundMoney(spent),
})

/** A curve read at the last day of each period; weeks end on Sunday, and the last day of all ends the last period. */
export const curveBy = (
  { firstDay, early, late }: CostCurve,
  by: Period,
): { day: number; early: number; late: number }[] => {
  const rows: { day: number; early: number; late: number }[] = []
  for (let k = 0; k < early.length; k++) {
    const day = firstDay + k
    const isLast = k === early.length - 1
    const ends = by === 'day' || (by === 'week' ? weekdayOf(day) === 6 : civilDate(day + 1).day === 1)
    if (ends || isLast) rows.push({ day, early: early[k]!, late: late[k]! })
  }
  return rows
}
