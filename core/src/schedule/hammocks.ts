import { shiftWork } from '../time/arithmetic.ts'
import type { Instant } from '../time/instant.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import { Kind, NONE, type Network, type ScheduleWarning } from '../network/network.ts'

/**
 * Hangs each hammock from the earliest of its start-side links (SS) to the latest of its finish-side links (FF), never before
 * its start; a missing side is the project's start or finish.
 */
export const hangHammocks = (
  network: Network,
  start: Int32Array,
  finish: Int32Array,
  projectFinish: Instant,
  warnings: ScheduleWarning[],
): void => {
  const { plan, activities, indexOf, calendars } = network
  for (let i = 0; i < activities.length; i++) {
    if (network.kind[i] !== Kind.Hammock) continue
    let from = NONE
    let to = NONE
    for (const link of network.hammockLinks) {
      if (link.to !== activities[i]!.id) continue
      const other = indexOf.get(link.from)!
      const base = link.type === 'SS' ? start[other]! : finish[other]!
      const on = lagCalendarOf(plan.project, link, activities[other], activities[i])
      const at = shiftWork(calendars.get(on), base, link.lag)
      if (link.type === 'SS') from = from === NONE ? at : Math.min(from, at)
      else to = Math.max(to, at)
    }
    start[i] = from === NONE ? network.projectStart : from
    const end = to === NONE ? projectFinish : to
    finish[i] = Math.max(start[i]!, end)
    if (end < start[i]!)
      warnings.push({
        code: 'hammock-inverted',
        activity: activities[i]!.id,
        message: `${activities[i]!.code} would end before it begins; its length is 0`,
      })
  }
}
