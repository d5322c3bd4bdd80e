import { instantOf, type Instant } from '../time/instant.ts'
import type { SpannedCalendar } from '../time/calendar.ts'
import type { PlanCalendars } from '../time/planCalendars.ts'
import { withoutSpans } from '../time/withoutSpans.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Activity, Project } from '../plan/schema.ts'

/**
 * The calendar on which an activity is worked: its own, without the stretches in which it was suspended. One that is still open lasts to
 * the status date: work can be taken up there.
 */
export const activityCalendar = (
  calendars: PlanCalendars,
  project: Project,
  activity: Activity,
  statusDate: Instant | null,
): SpannedCalendar => {
  const own = calendars.get(calendarOf(project, activity))
  const { suspended } = activity.progress
  if (suspended === undefined || suspended.length === 0) return own
  const known = made.get(suspended)
  if (known && known.own === own && known.statusDate === statusDate) return known.calendar
  const gaps: [Instant, Instant][] = []
  const stretches = suspended
    .map(({ from, to }) => [
      instantOf(from, 'start'),
      to === null ? (statusDate ?? -Infinity) : instantOf(to, 'start'),
    ])
    .filter(([from, to]) => to! > from!)
    .sort(([a], [b]) => a! - b!) as [Instant, Instant][]
  for (const [from, to] of stretches) {
    const last = gaps.at(-1)
    if (last && from <= last[1]) last[1] = Math.max(last[1], to)
    else gaps.push([from, to])
  }
  const calendar = gaps.length === 0 ? own : withoutSpans(own, gaps)
  made.set(suspended, { own, statusDate, calendar })
  return calendar
}
const made = new WeakMap<
  object,
  { readonly own: SpannedCalendar; readonly statusDate: Instant | null; readonly calendar: SpannedCalendar }
>()
