import { formatInstant, MINUTES_PER_DAY } from '../time/instant.ts'
import { roundMoney } from '../plan/money.ts'
import { lengthsOf } from '../plan/durations.ts'
import { activityCosts, costAt } from '../cost/activityCosts.ts'
import { costCurve } from '../cost/costCurve.ts'
import { curveBy } from '../cost/costReport.ts'
import { chargeFor, measuredFinish } from '../cost/damages.ts'
import { loadByDay, loadsOf } from '../cost/load.ts'
import { overloadGroups } from '../cost/overloadGroups.ts'
import { paymentsOf } from '../cost/payments.ts'
import { baselineOf, frozenBy } from '../progress/baselines.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { availableWords } from '../words/resources.ts'
import type { RecordSheet } from './reviewRecord.ts'

const dayText = (day: number): string => formatInstant(day * MINUTES_PER_DAY).slice(0, 10)

/** Resources, who has them, their load by day, overloads, cost of activities and over time, damages and payments, as tables. */
export const resourceRecord = (schedule: Schedule): RecordSheet[] => {
  const { network } = schedule
  const { plan, activities } = network
  const nameOf = new Map(plan.resources.map((r) => [r.id, r.name || r.code]))
  const activityOf = new Map(activities.map((a) => [a.id, a]))
  const calendarOf = (id: string | null): string =>
    id === null ? '' : plan.calendars.find((c) => c.id === id)?.name || id
  const costs = activityCosts(schedule)
  const loads = loadsOf(schedule)
  const firstDay = Math.floor(
    Math.min(schedule.projectStart, ...loads.map(({ from }) => from[0] ?? Infinity)) / 1440,
  )
  const endDay = Math.ceil(
    Math.max(schedule.projectFinish, ...loads.map(({ from }) => from.at(-1) ?? -Infinity)) / 1440,
  )
  const byDay = loads.map((load) => loadByDay(load, firstDay, endDay - firstDay))
  const baseline = baselineOf(plan)
  const frozen = baseline && frozenBy(baseline)
  const groups = new Map(plan.groups.map((g) => [g.id, g.name]))
  return [
    {
      name: 'Resources',
      head: ['code', 'name', 'kind', 'price', 'per', 'available', 'hours', 'falls due', 'peak'],
      rows: plan.resources.map((r) => [
        r.code,
        r.name,
        r.kind,
        r.price,
        r.per,
        availableWords(r),
        calendarOf(r.calendar),
        r.accrue ?? '',
        loads.find(({ resource }) => resource.id === r.id)?.peak ?? '',
      ]),
    },
    {
      name: 'Assignments',
      head: ['code', 'activity', 'resource', 'amount', 'hours hold the work'],
      rows: plan.assignments.map((a) => [
        activityOf.get(a.activity)!.code,
        activityOf.get(a.activity)!.name,
        nameOf.get(a.resource)!,
        a.amount,
        a.drives === false ? 'no' : 'yes',
      ]),
    },
    {
      name: 'Load',
      head: ['day', ...loads.map(({ resource }) => resource.name || resource.code)],
      rows: Array.from({ length: Math.max(0, endDay - firstDay) }, (_, k) => [
        dayText(firstDay + k),
        ...byDay.map((load) => load[k]!),
      ]),
    },
    {
      name: 'Overloads',
      head: ['resource', 'from', 'to', 'asked for', 'there', 'days', 'hours over', 'activities'],
      rows: loads.flatMap((load) =>
        overloadGroups(load).map((one) => [
          load.resource.name || load.resource.code,
          formatInstant(one.from),
          formatInstant(one.to),
          one.load,
          one.available,
          one.days,
          Math.round((one.excess / 60) * 100) / 100,
          one.activities.map((i) => activities[i]!.code).join(' '),
        ]),
      ),
    },
    {
      name: 'Cost',
      head: ['code', 'activity', 'group', 'agreed', 'planned', 'at completion', 'spent', 'currency'],
      rows: activities.map((a, i) => {
        const { planned, atCompletion, spent } = costAt(costs, i)
        return [
          a.code,
          a.name,
          a.group === null ? '' : (groups.get(a.group) ?? ''),
          frozen?.get(a.id)?.cost ?? '',
          roundMoney(planned),
          roundMoney(atCompletion),
          roundMoney(spent),
          plan.project.currency,
        ]
      }),
    },
    {
      name: 'Cost over time',
      head: ['day', 'on early dates', 'on late dates'],
      rows: curveBy(costCurve(costs), 'day').map(({ day, early, late }) => [
        dayText(day),
        roundMoney(early),
        roundMoney(late),
      ]),
    },
    {
      name: 'Damages',
      head: ['name', 'measured', 'finish', 'days charged', 'first day', 'amount'],
      rows: plan.damages.map((clause) => {
        const finish = measuredFinish(schedule, clause)
        const charge = chargeFor(clause, network.calendars.get(clause.calendar), finish)
        return [
          clause.name,
          clause.measures === null ? 'project' : activityOf.get(clause.measures)!.code,
          formatInstant(finish),
          charge.counted,
          charge.firstDay ?? '',
          roundMoney(charge.amount),
        ]
      }),
    },
    {
      name: 'Payments',
      head: ['code', 'payment', 'date', 'amount', 'direction', 'made'],
      rows: paymentsOf(schedule).map(({ activity, at, amount, direction, isMade }) => [
        activities[activity]!.code,
        activities[activity]!.name,
        formatInstant(at),
        roundMoney(amount),
        direction,
        isMade ? 'yes' : 'no',
      ]),
    },
    {
      name: 'Hammocks',
      head: ['code', 'name', 'length in days', 'cost'],
      rows: activities.flatMap((a, i) =>
        a.kind === 'hammock'
          ? [
              [
                a.code,
                a.name,
                costs.length[i]! / lengthsOf(plan, a.calendar ?? plan.project.calendar).dayMinutes,
                roundMoney(costs.atCompletion[i]!),
              ],
            ]
          : [],
      ),
    },
  ]
}
