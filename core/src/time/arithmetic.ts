import type { Calendar } from './calendar.ts'
import type { Instant, WorkMinutes } from './instant.ts'

/** The arithmetic of working time, in terms of a calendar's two primitives. */

/** `t` itself if the minute [t, t+1) works, else the beginning of the next working minute. */
export const nextWork = (calendar: Calendar, t: Instant): Instant =>
  calendar.minuteAt(calendar.countBefore(t))

/** The latest end of a working minute at or before `t`. */
export const prevWork = (calendar: Calendar, t: Instant): Instant =>
  endOfCount(calendar, calendar.countBefore(t))

/** End of the working minute before which, itself included, `count` minutes have been worked. */
export const endOfCount = (calendar: Calendar, count: WorkMinutes): Instant =>
  calendar.minuteAt(count - 1) + 1

/** The end of the n-th working minute at or after `t`; `t` for n = 0. */
export const addWork = (calendar: Calendar, t: Instant, n: WorkMinutes): Instant =>
  n === 0 ? t : endOfCount(calendar, calendar.countBefore(t) + n)

/** The beginning of the n-th working minute before `t`, counting backwards; `t` for n = 0. */
export const subWork = (calendar: Calendar, t: Instant, n: WorkMinutes): Instant =>
  n === 0 ? t : calendar.minuteAt(calendar.countBefore(t) - n)

/** Whether the minute [t, t+1) works. */
export const isWorking = (calendar: Calendar, t: Instant): boolean =>
  calendar.countBefore(t + 1) !== calendar.countBefore(t)

/** `t` if the minute before it works, else {@link nextWork}: where a finish that is pushed to `t` stands. */
export const settle = (calendar: Calendar, t: Instant): Instant =>
  isWorking(calendar, t - 1) ? t : nextWork(calendar, t)

/** Working minutes in [from, to), negative if `to` is before `from`. */
export const workBetween = (calendar: Calendar, from: Instant, to: Instant): WorkMinutes =>
  calendar.countBefore(to) - calendar.countBefore(from)

/** The beginning of the latest working minute that begins at or before `t`. */
export const lastMinuteFrom = (calendar: Calendar, t: Instant): Instant =>
  calendar.minuteAt(calendar.countBefore(t + 1) - 1)

/** Adds a lag, or takes off a lead (negative). */
export const shiftWork = (calendar: Calendar, t: Instant, lag: WorkMinutes): Instant =>
  lag >= 0 ? addWork(calendar, t, lag) : subWork(calendar, t, -lag)

/** The latest instant that {@link shiftWork} by `lag` takes to `limit` or before: its exact adjoint. */
export const unshiftWork = (calendar: Calendar, limit: Instant, lag: WorkMinutes): Instant => {
  if (lag === 0) return limit
  if (lag > 0) return subWork(calendar, limit, lag)
  return calendar.minuteAt(calendar.countBefore(limit + 1) - 1 - lag)
}

/** `t` if the minute before or the minute at it works, else {@link prevWork}: where a finish limit takes hold. */
export const settleBack = (calendar: Calendar, t: Instant): Instant =>
  isWorking(calendar, t - 1) || isWorking(calendar, t) ? t : prevWork(calendar, t)
