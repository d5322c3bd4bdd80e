import type { Instant } from '../time/instant.ts'
import { Kind } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activityCosts, sumOf, type CostSum } from './activityCosts.ts'
import { costCurve, type CostCurve } from './costCurve.ts'
import { chargeFor, firstChargeableDay, measuredFinish, type Charge } from './damages.ts'
import { paymentsOf, type DuePayment } from './payments.ts'

/** Everything about the money of a plan on its dates, unrounded; arrays by the activity's position. */
export interface MoneyView {
  readonly planned: Float64Array
  readonly atCompletion: Float64Array
  readonly spent: Float64Array
  readonly length: Float64Array
  readonly total: CostSum
  readonly curve: CostCurve
  readonly damages: readonly (Charge & {
    readonly id: string
    readonly finish: Instant
    /** The first day that would be charged, whatever the finish. */
    readonly chargeableFrom: string | null
    /** What one more day after this finish adds. */
    readonly nextDay: number
  })[]
  readonly payments: readonly DuePayment[]
  /** Positions of hammocks. */
  readonly hammocks: readonly number[]
}

export const moneyView = (schedule: Schedule): MoneyView => {
  const { plan, calendars, kind } = schedule.network
  const costs = activityCosts(schedule)
  const all = plan.activities.map((_, i) => i)
  return {
    planned: costs.planned,
    atCompletion: costs.atCompletion,
    spent: costs.spent,
    length: costs.length,
    total: sumOf(costs, all),
    curve: costCurve(costs),
    damages: plan.damages.map((clause) => {
      const calendar = calendars.get(clause.calendar)
      const finish = measuredFinish(schedule, clause)
      const charge = chargeFor(clause, calendar, finish)
      return {
        ...charge,
        id: clause.id,
        finish,
        chargeableFrom: firstChargeableDay(clause, calendar),
        nextDay: chargeFor(clause, calendar, finish + 1440).amount - charge.amount,
      }
    }),
    payments: paymentsOf(schedule),
    hammocks: all.filter((i) => kind[i] === Kind.Hammock),
  }
}

/** The lowest that payments received less what is spent and paid out falls to, by day, and when it is above 0 again for good. */
export interface Balance {
  readonly firstDay: number
  /** At the end of each day: received − paid out − cost on early dates − damages. */
  readonly byDay: Float64Array
}
export const balanceOf = ({ curve, payments, damages }: MoneyView): Balance => {
  const dayOf = (t: Instant): number => Math.floor((t - 1) / 1440)
  const days = [...payments.map(({ at }) => dayOf(at)), ...damages.map(({ finish }) => dayOf(finish))]
  const firstDay = Math.min(curve.firstDay, ...days)
  const lastDay = Math.max(curve.firstDay + curve.early.length - 1, ...days)
  const byDay = new Float64Array(Math.max(0, lastDay - firstDay + 1))
  for (let k = 0; k < byDay.length; k++) {
    const at = firstDay + k - curve.firstDay
    byDay[k] = -(at < 0 ? 0 : (curve.early[Math.min(at, curve.early.length - 1)] ?? 0))
  }
  const from = (day: number, amount: number): void => {
    for (let k = day - firstDay; k < byDay.length; k++) byDay[k]! += amount
  }
  for (const { at, amount, direction } of payments) from(dayOf(at), direction === 'in' ? amount : -amount)
  for (const { finish, amount } of damages) from(dayOf(finish), -amount)
  return { firstDay, byDay }
}
