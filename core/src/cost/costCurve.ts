import { MINUTES_PER_DAY, type Instant } from '../time/instant.ts'
import type { Calendar } from '../time/calendar.ts'
import { Kind, NONE } from '../network/network.ts'
import type { ActivityCosts } from './activityCosts.ts'
import { workPeriods, type WorkPeriods } from './workPeriods.ts'

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
/** The day on which a period ends; a point is on the day that it begins. */
const lastDayOf = (from: Instant, to: Instant): number => (to > from ? endDayOf(to) : dayOf(to))

/**
 * Cost over time on early and on late dates: two edges of the room that float gives. What is spent is the same on both; hammocks stand
 * at their early dates on both. O(n + days · calendars)
 */
export const costCurve = (costs: ActivityCosts): CostCurve => {
  const early = workPeriods(costs.schedule, 'early')
  const late = workPeriods(costs.schedule, 'late')
  const { firstDay, lastDay } = daysOf([early, late])
  if (firstDay > lastDay) return { firstDay: 0, early: new Float64Array(0), late: new Float64Array(0) }
  const days = new Days(firstDay, lastDay - firstDay + 1)
  return { firstDay, early: spreadOver(costs, early, days), late: spreadOver(costs, late, days) }
}

const daysOf = (all: readonly WorkPeriods[]): { firstDay: number; lastDay: number } => {
  let [firstDay, lastDay] = [Infinity, -Infinity]
  // Between these nothing asks for a day that is not there already.
  let [inFrom, inTo] = [Infinity, -Infinity]
  const see = (begin: Instant, end: Instant): void => {
    if (begin === NONE || (begin >= inFrom && end <= inTo)) return
    const beginDay = dayOf(begin)
    const endDay = endDayOf(end)
    const first = end > begin || beginDay < endDay ? beginDay : endDay
    const last = beginDay > endDay ? beginDay : endDay
    if (first < firstDay) firstDay = first
    if (last > lastDay) lastDay = last
    inFrom = (firstDay + 1) * MINUTES_PER_DAY
    inTo = lastDay * MINUTES_PER_DAY
  }
  for (const { doneFrom, doneTo, from, to } of all)
    for (let i = 0; i < from.length; i++) {
      see(doneFrom[i]!, doneTo[i]!)
      see(from[i]!, to[i]!)
    }
  return { firstDay, lastDay }
}

/** The days of a curve, and how much each calendar works before each of them. */
class Days {
  readonly first: number
  readonly count: number
  private readonly known = new Map<Calendar, Int32Array>()

  constructor(first: number, count: number) {
    this.first = first
    this.count = count
  }

  /** Working minutes before each day begins, and before the day after all. */
  worksBefore(calendar: Calendar): Int32Array {
    let before = this.known.get(calendar)
    if (!before) {
      before = new Int32Array(this.count + 1)
      for (let day = 0; day < before.length; day++)
        before[day] = calendar.countBefore((this.first + day) * MINUTES_PER_DAY)
      this.known.set(calendar, before)
    }
    return before
  }
}

/** Money spread over the working time of one calendar: whole days as a slope, the first and the last day apart. */
interface Slope {
  readonly calendar: Calendar
  readonly before: Int32Array
  /** Change of money per working minute, from a day on. */
  readonly change: Float64Array
}

const spreadOver = (costs: ActivityCosts, periods: WorkPeriods, days: Days): Float64Array => {
  const { network } = costs.schedule
  const perDay = new Float64Array(days.count)
  const slopes = new Map<Calendar, Slope>()
  const lump = (day: number, amount: number): void => {
    perDay[Math.min(days.count - 1, Math.max(0, day - days.first))]! += amount
  }
  let last: Slope | null = null
  const slopeOf = (calendar: Calendar): Slope => {
    if (last?.calendar === calendar) return last
    const known = slopes.get(calendar)
    last = known ?? {
      calendar,
      before: days.worksBefore(calendar),
      change: new Float64Array(days.count + 1),
    }
    if (!known) slopes.set(calendar, last)
    return last
  }
  const even = (calendar: Calendar, from: Instant, to: Instant, amount: number): void => {
    if (to <= from) return lump(dayOf(from), amount)
    const [first, last] = [dayOf(from), endDayOf(to)]
    if (first === last) return lump(first, amount)
    const [begin, end] = [calendar.countBefore(from), calendar.countBefore(to)]
    if (begin === end) return lump(last, amount)
    const rate = amount / (end - begin)
    const { before, change } = slopeOf(calendar)
    const [day, lastDay] = [first - days.first, last - days.first]
    perDay[day]! += rate * (before[day + 1]! - begin)
    perDay[lastDay]! += rate * (end - before[lastDay]!)
    change[day + 1]! += rate
    change[lastDay]! -= rate
  }
  const { done, toCome } = costs
  const { doneFrom, doneTo, from, to } = periods
  for (let i = 0; i < from.length; i++) {
    // What was spent before any work is known of stands where the work begins.
    const isBegun = doneFrom[i] !== NONE
    const [begun, doneBy] = isBegun ? [doneFrom[i]!, doneTo[i]!] : [from[i]!, from[i]!]
    if (done.even[i] !== 0) even(network.calendar[i]!, begun, doneBy, done.even[i]!)
    if (done.start[i] !== 0) lump(dayOf(begun), done.start[i]!)
    if (done.finish[i] !== 0) lump(lastDayOf(begun, doneBy), done.finish[i]!)
    if (from[i] === NONE) continue
    if (toCome.even[i] !== 0) even(network.calendar[i]!, from[i]!, to[i]!, toCome.even[i]!)
    if (toCome.start[i] !== 0) lump(dayOf(from[i]!), toCome.start[i]!)
    if (toCome.finish[i] !== 0) {
      const isAtFinish = network.kind[i] === Kind.AtFinish
      lump(isAtFinish ? endDayOf(to[i]!) : lastDayOf(from[i]!, to[i]!), toCome.finish[i]!)
    }
  }
  for (const { before, change } of slopes.values()) {
    let rate = 0
    for (let day = 0; day < days.count; day++) {
      rate += change[day]!
      perDay[day]! += rate * (before[day + 1]! - before[day]!)
    }
  }
  for (let day = 1; day < days.count; day++) perDay[day]! += perDay[day - 1]!
  return perDay
}
