import { MINUTES_PER_DAY, type Instant } from '../time/instant.ts'
import type { Calendar } from '../time/calendar.ts'
import { Kind, NONE } from '../network/network.ts'
import type { ActivityCosts } from './activityCosts.ts'
import { allPeriods, type AllPeriods } from './workPeriods.ts'

/** Cumulative cost at the end of each calendar day, unrounded. */
export interface CostCurve {
  /** Number of the first day. */
  readonly firstDay: number
  readonly early: Float64Array
  readonly late: Float64Array
}

const dayOf = (t: Instant): number => Math.floor(t / MINUTES_PER_DAY)
/** The day on which work ends that ends at an instant: at 24:00 the day before. */
const endDayOf = (t: Instant): number => Math.floor((t - 1) / MINUTES_PER_DAY)

/**
 * Cost over time on early and on late dates: two edges of the room that float gives. What is spent is the same on both; hammocks stand
 * at their early dates on both. O(n + days · calendars)
 */
export const costCurve = (costs: ActivityCosts): CostCurve => {
  const early = allPeriods(costs.schedule, 'early')
  const late = allPeriods(costs.schedule, 'late')
  let [firstDay, lastDay] = [Infinity, -Infinity]
  const see = (begin: Instant, end: Instant): void => {
    if (begin === NONE) return
    const beginDay = dayOf(begin)
    const endDay = endDayOf(end)
    const first = end > begin || beginDay < endDay ? beginDay : endDay
    const last = beginDay > endDay ? beginDay : endDay
    if (first < firstDay) firstDay = first
    if (last > lastDay) lastDay = last
  }
  for (const { doneFrom, doneTo, from, to } of [early, late])
    for (let i = 0; i < from.length; i++) {
      see(doneFrom[i]!, doneTo[i]!)
      see(from[i]!, to[i]!)
    }
  if (firstDay > lastDay) return { firstDay: 0, early: new Float64Array(0), late: new Float64Array(0) }
  const days = lastDay - firstDay + 1
  return {
    firstDay,
    early: spreadOver(costs, early, firstDay, days),
    late: spreadOver(costs, late, firstDay, days),
  }
}

/** Money spread over the working time of one calendar: whole days as a slope, the first and the last day apart. */
interface Slope {
  readonly calendar: Calendar
  /** Change of money per working minute, from a day on. */
  readonly change: Float64Array
}

const spreadOver = (
  costs: ActivityCosts,
  periods: AllPeriods,
  firstDay: number,
  days: number,
): Float64Array => {
  const { network } = costs.schedule
  const perDay = new Float64Array(days)
  const slopes = new Map<Calendar, Slope>()
  const lump = (day: number, amount: number): void => {
    if (amount !== 0) perDay[Math.min(days - 1, Math.max(0, day - firstDay))]! += amount
  }
  let last: Slope | null = null
  const slopeOf = (calendar: Calendar): Slope => {
    if (last?.calendar === calendar) return last
    last = slopes.get(calendar) ?? { calendar, change: new Float64Array(days + 1) }
    slopes.set(calendar, last)
    return last
  }
  const even = (calendar: Calendar, from: Instant, to: Instant, amount: number): void => {
    if (amount === 0) return
    const count = to > from ? calendar.countBefore(to) - calendar.countBefore(from) : 0
    if (count === 0) return lump(to > from ? endDayOf(to) : dayOf(from), amount)
    const rate = amount / count
    const [first, last] = [dayOf(from), endDayOf(to)]
    if (first === last) return lump(first, amount)
    const endOfFirst = (first + 1) * MINUTES_PER_DAY
    const startOfLast = last * MINUTES_PER_DAY
    lump(first, rate * (calendar.countBefore(endOfFirst) - calendar.countBefore(from)))
    lump(last, rate * (calendar.countBefore(to) - calendar.countBefore(startOfLast)))
    if (last - first < 2) return
    const slope = slopeOf(calendar)
    slope.change[first + 1 - firstDay]! += rate
    slope.change[last - firstDay]! -= rate
  }
  const { done, toCome } = costs
  for (let i = 0; i < costs.planned.length; i++) {
    const calendar = network.calendar[i]!
    const [from, to] = [periods.from[i]!, periods.to[i]!]
    // What was spent before any work is known of stands where the work begins.
    const isBegun = periods.doneFrom[i] !== NONE
    const [doneFrom, doneTo] = isBegun ? [periods.doneFrom[i]!, periods.doneTo[i]!] : [from, from]
    even(calendar, doneFrom, doneTo, done.even[i]!)
    lump(dayOf(doneFrom), done.start[i]!)
    lump(doneTo > doneFrom ? endDayOf(doneTo) : dayOf(doneTo), done.finish[i]!)
    if (from === NONE) continue
    even(calendar, from, to, toCome.even[i]!)
    lump(dayOf(from), toCome.start[i]!)
    lump(to > from || network.kind[i] === Kind.AtFinish ? endDayOf(to) : dayOf(to), toCome.finish[i]!)
  }
  for (const { calendar, change } of slopes.values()) {
    let rate = 0
    let before = calendar.countBefore(firstDay * MINUTES_PER_DAY)
    for (let day = 0; day < days; day++) {
      rate += change[day]!
      const after = calendar.countBefore((firstDay + day + 1) * MINUTES_PER_DAY)
      perDay[day]! += rate * (after - before)
      before = after
    }
  }
  for (let day = 1; day < days; day++) perDay[day]! += perDay[day - 1]!
  return perDay
}
