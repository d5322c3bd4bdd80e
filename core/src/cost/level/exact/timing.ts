import { endOfCount, settle, settleBack } from '../../../time/arithmetic.ts'
import { clockCalendar, type Calendar } from '../../../time/calendar.ts'
import type { Instant, WorkMinutes } from '../../../time/instant.ts'

/** What counts on a calendar mean for work that begins there: when it starts and finishes, and back. A point takes no minutes. */
export class Timing {
  readonly calendar: Calendar
  readonly minutes: WorkMinutes
  constructor(calendar: Calendar, minutes: WorkMinutes) {
    this.calendar = calendar
    this.minutes = minutes
  }
  startAt(count: number): Instant {
    return this.calendar.minuteAt(count)
  }
  finishAt(count: number): Instant {
    return this.minutes === 0 ? this.startAt(count) : endOfCount(this.calendar, count + this.minutes)
  }
  /** The first count that starts at or after an instant. */
  firstFrom(t: Instant): number {
    return this.calendar.countBefore(t)
  }
  /** The last count that starts at or before an instant. */
  lastUntil(t: Instant): number {
    return this.calendar.countBefore(t + 1) - 1
  }
  /** The last count that finishes at or before an instant. */
  lastDoneBy(t: Instant): number {
    return this.minutes === 0 ? this.lastUntil(t) : this.calendar.countBefore(t) - this.minutes
  }
  /** The first count that finishes at or after an instant. */
  firstDoneFrom(t: Instant): number {
    return this.minutes === 0 ? this.firstFrom(t) : this.lastDoneBy(t - 1) + 1
  }
  /** The first count under a limit of its start or its finish. */
  leastUnder(limit: Instant, isOfFinish: boolean): number {
    return this.firstFrom(limit) - (isOfFinish ? this.minutes : 0)
  }
  /** The latest such limit under which a count is possible. */
  limitFor(count: number, isOfFinish: boolean): Instant {
    return this.startAt(isOfFinish ? count + this.minutes : count)
  }
}

/** An instant at which something finishes, which may be the end of a shift: told by itself, and settled on a calendar. */
export class FinishTiming extends Timing {
  private readonly settledOn: Calendar
  constructor(settledOn: Calendar) {
    super(clockCalendar, 0)
    this.settledOn = settledOn
  }
  override leastUnder(limit: Instant): Instant {
    return settle(this.settledOn, limit)
  }
  override limitFor(at: Instant): Instant {
    return settleBack(this.settledOn, at)
  }
}
