import { shiftWork } from '../time/arithmetic.ts'
import type { Calendar } from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import { Kind, NONE, type Network } from '../network/network.ts'

interface HangingLink {
  readonly from: number
  readonly isStartSide: boolean
  readonly lag: number
  readonly calendar: Calendar
}
interface Hammock {
  readonly activity: number
  readonly links: readonly HangingLink[]
}

/** The hammocks of a network with what each hangs from, ready to be hung many times. O(n + hammock links) */
export const compileHammocks = (network: Network): readonly Hammock[] => {
  if (!network.kind.includes(Kind.Hammock)) return []
  const { plan, activities, indexOf, calendars, hammockLinks } = network
  const hammocks = new Map<number, HangingLink[]>()
  for (let i = 0; i < activities.length; i++) if (network.kind[i] === Kind.Hammock) hammocks.set(i, [])
  for (const link of hammockLinks) {
    const [from, to] = [indexOf.get(link.from)!, indexOf.get(link.to)!]
    hammocks.get(to)!.push({
      from,
      isStartSide: link.type === 'SS',
      lag: link.lag,
      calendar: calendars.get(lagCalendarOf(plan.project, link, activities[from], activities[to])),
    })
  }
  return [...hammocks].map(([activity, links]) => ({ activity, links }))
}

/**
 * Hangs a hammock from the earliest of its start-side links (SS) to the latest of its finish-side links (FF), never before its
 * start; a missing side is the project's start or finish.
 * @param start - dates of all activities; the hammock's own are filled
 * @param stride, column - of dates of many runs: those of activity i in one of them stand at i × stride + column
 * @returns whether it would end before it begins, and has length 0 instead
 */
export const hangHammock = (
  { activity, links }: Hammock,
  start: Int32Array,
  finish: Int32Array,
  projectStart: Instant,
  projectFinish: Instant,
  stride = 1,
  column = 0,
): boolean => {
  let from = NONE
  let to = NONE
  for (const link of links) {
    const hangs = link.from * stride + column
    const at = shiftWork(link.calendar, link.isStartSide ? start[hangs]! : finish[hangs]!, link.lag)
    if (!link.isStartSide) to = Math.max(to, at)
    else from = from === NONE ? at : Math.min(from, at)
  }
  const begin = from === NONE ? projectStart : from
  const end = to === NONE ? projectFinish : to
  start[activity * stride + column] = begin
  finish[activity * stride + column] = Math.max(begin, end)
  return end < begin
}
