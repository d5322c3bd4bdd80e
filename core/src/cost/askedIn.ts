import type { ResourceLoad } from './load.ts'
import type { Overload } from './overloads.ts'
import { inOrder } from './workTimes.ts'

/** What one activity asks of a resource in a stretch of time. */
export interface AskedInIt {
  readonly activity: number
  readonly amount: number
}
type Stretch = Pick<Overload, 'from' | 'to'>

/** What is asked for in a stretch of time: who is at work in it, by its position in the plan, in order, and with how much. */
export const askedIn = (load: ResourceLoad, stretch: Stretch): AskedInIt[] => {
  const { activity, assignment, amount } = load.uses
  const amounts = new Map<number, number>()
  // Both parts of one assignment stand together, and count once.
  let last = -1
  const add = (u: number): void => {
    if (assignment[u] !== last) amounts.set(activity[u]!, (amounts.get(activity[u]!) ?? 0) + amount[u]!)
    last = assignment[u]!
  }
  const isAtWork = atWorkFor(load)
  for (let u = 0; u < activity.length; u++) if (isAtWork(u, stretch)) add(u)
  return [...amounts].sort(([a], [b]) => a - b).map(([activity, amount]) => ({ activity, amount }))
}

/** Positions of the activities at work in a stretch of time, in order. */
export const activitiesIn = (load: ResourceLoad, stretch: Stretch): number[] =>
  askedIn(load, stretch).map(({ activity }) => activity)

/**
 * The same for stretches in order of time that do not overlap: all overloads of a resource.
 * O(uses · log + those under way in each stretch · log spans)
 */
export const activitiesInEach = (load: ResourceLoad, stretches: readonly Stretch[]): number[][] => {
  const { uses } = load
  const isAtWork = atWorkFor(load)
  const byStart = inOrder(uses.from)
  const underWay = new Int32Array(uses.from.length)
  let [count, next] = [0, 0]
  return stretches.map((stretch) => {
    for (; next < underWay.length && byStart.at[next]! < stretch.to; next++)
      underWay[count++] = byStart.which[next]!
    let kept = 0
    const atWork: number[] = []
    for (let k = 0; k < count; k++) {
      const u = underWay[k]!
      if (uses.to[u]! <= stretch.from) continue
      underWay[kept++] = u
      if (isAtWork(u, stretch)) insert(atWork, uses.activity[u]!)
    }
    count = kept
    return atWork
  })
}

/** Into a short list in order, unless it is there. */
const insert = (list: number[], one: number): void => {
  let k = list.length
  while (k > 0 && list[k - 1]! > one) k--
  if (k > 0 && list[k - 1] === one) return
  if (k === list.length) list.push(one)
  else list.splice(k, 0, one)
}

/** Whether a use is worked in a stretch of time, within the hours of the resource. */
const atWorkFor = ({ uses, hours, times }: ResourceLoad): ((use: number, stretch: Stretch) => boolean) => {
  const { clock, from, to } = uses
  const works = hours && uses.calendars.map((calendar) => times.workOf(calendar, hours))
  return (u, stretch) => {
    const begin = from[u]! > stretch.from ? from[u]! : stretch.from
    const end = to[u]! < stretch.to ? to[u]! : stretch.to
    if (end <= begin) return false
    if (works) return works[clock[u]!]!.minutesBefore(end) > works[clock[u]!]!.minutesBefore(begin)
    const calendar = uses.calendars[clock[u]!]!
    return calendar.countBefore(end) > calendar.countBefore(begin)
  }
}
