import type { SpannedCalendar } from '../time/calendar.ts'
import type { Instant, WorkMinutes } from '../time/instant.ts'
import type { Uses } from './uses.ts'
import type { WorkTimes } from './workTimes.ts'

/** Work that a resource is to do outside the hours of its own calendar: neither load nor overload. */
export interface OutsideHours {
  readonly activity: number
  readonly from: Instant
  readonly to: Instant
  readonly minutes: WorkMinutes
}

/** Times of activities outside the hours of what they need, in the order of the plan. */
export const outsideHours = (uses: Uses, hours: SpannedCalendar, times: WorkTimes): OutsideHours[] => {
  const works = uses.calendars.map((calendar) => times.workOf(calendar, hours))
  /** Of most calendars these hours leave out nothing. */
  const isCut = uses.calendars.map(
    (calendar, c) => times.workOf(calendar, null).minutes !== works[c]!.minutes,
  )
  const byActivity = new Map<number, OutsideHours>()
  for (let u = 0; u < uses.from.length; u++) {
    const [from, to, clock] = [uses.from[u]!, uses.to[u]!, uses.clock[u]!]
    if (!isCut[clock]!) continue
    const [calendar, inside] = [uses.calendars[clock]!, works[clock]!]
    const worked = calendar.countBefore(to) - calendar.countBefore(from)
    const minutes = worked - (inside.minutesBefore(to) - inside.minutesBefore(from))
    if (minutes === 0) continue
    const activity = uses.activity[u]!
    const known = byActivity.get(activity)
    byActivity.set(
      activity,
      known
        ? {
            activity,
            from: Math.min(known.from, from),
            to: Math.max(known.to, to),
            minutes: known.minutes + minutes,
          }
        : { activity, from, to, minutes },
    )
  }
  return [...byActivity.values()].sort((a, b) => a.activity - b.activity)
}
