import { MINUTES_PER_DAY } from '../time/instant.ts'
import type { Baseline } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { frozenBy } from './baselines.ts'

/** What a baseline says of money, unrounded. */
export interface AgreedMoney {
  /** By position of the activity; NaN where the baseline says nothing. */
  readonly byActivity: Float64Array
  /** Of all that it froze, what the plan no longer has among them. */
  readonly total: number
  /** Sum at the end of each day from `firstDay` on. */
  readonly curve: Float64Array
}

/**
 * Agreed cost, spread evenly over the working time between the agreed dates on the calendar that the activity has now; what has none
 * falls on the day of its finish. Null where the baseline has no costs.
 * @param firstDay, days - what the curve covers; what lies before or after counts on its first or last day
 */
export const agreedMoney = (
  schedule: Schedule,
  baseline: Baseline,
  firstDay: number,
  days: number,
): AgreedMoney | null => {
  const { network } = schedule
  const byActivity = new Float64Array(network.activities.length).fill(NaN)
  const perDay = new Float64Array(days)
  const put = (day: number, amount: number): void => {
    if (days > 0) perDay[Math.min(days - 1, Math.max(0, day - firstDay))]! += amount
  }
  let [total, known] = [0, 0]
  for (const [id, { start, finish, cost }] of frozenBy(baseline)) {
    if (cost === null) continue
    known++
    total += cost
    const i = network.indexOf.get(id)
    if (i !== undefined) byActivity[i] = cost
    if (finish === null || cost === 0) continue
    const lastDay = Math.floor((finish - 1) / MINUTES_PER_DAY)
    const calendar =
      i === undefined ? network.calendars.get(network.plan.project.calendar) : network.calendar[i]!
    const worked = start === null ? 0 : calendar.countBefore(finish) - calendar.countBefore(start)
    if (start === null || worked <= 0) {
      put(lastDay, cost)
      continue
    }
    let before = calendar.countBefore(start)
    for (let day = Math.floor(start / MINUTES_PER_DAY); day <= lastDay; day++) {
      const until = calendar.countBefore(Math.min(finish, (day + 1) * MINUTES_PER_DAY))
      put(day, (cost * (until - before)) / worked)
      before = until
    }
  }
  if (known === 0) return null
  for (let k = 1; k < days; k++) perDay[k]! += perDay[k - 1]!
  return { byActivity, total, curve: perDay }
}
