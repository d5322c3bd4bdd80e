import { shiftWork, unshiftWork } from '../../../time/arithmetic.ts'
import type { Calendar } from '../../../time/calendar.ts'
import { countsFromStart, limitsFinish } from '../../../network/network.ts'
import type { Bounds, Reason, Rule } from './bounds.ts'
import type { Timing } from './timing.ts'

/** A link between two variables, with its lag. */
export interface Linked {
  readonly from: number
  readonly to: number
  readonly code: number
  readonly lag: number
  readonly lagCalendar: Calendar
}

/** A link: how early it lets its successor begin, and how late that lets its predecessor. */
export class LinkRule implements Rule, Reason {
  private readonly bounds: Bounds
  private readonly link: Linked
  private readonly earlier: Timing
  private readonly later: Timing

  constructor(bounds: Bounds, timings: readonly Timing[], link: Linked) {
    this.bounds = bounds
    this.link = link
    this.earlier = timings[link.from]!
    this.later = timings[link.to]!
  }

  onRise(side: number): boolean {
    const { bounds } = this
    const { from, to } = this.link
    if (side === 2 * from) return bounds.raise(2 * to, this.leastOfLater(bounds.bound[side]!), this)
    return bounds.raise(2 * from + 1, -this.mostOfEarlier(-bounds.bound[side]!), this)
  }

  /** As little as still forces it: the two below are adjoint. */
  because(side: number, value: number, atoms: number[]): void {
    const { from, to } = this.link
    if (side === 2 * to) atoms.push(2 * from, this.mostOfEarlier(value - 1) + 1)
    else atoms.push(2 * to + 1, 1 - this.leastOfLater(1 - value))
  }

  private leastOfLater(count: number): number {
    const { earlier, later } = this
    const { code, lag, lagCalendar } = this.link
    const base = countsFromStart(code) ? earlier.startAt(count) : earlier.finishAt(count)
    const limit = lag === 0 ? base : shiftWork(lagCalendar, base, lag)
    return later.leastUnder(limit, limitsFinish(code))
  }

  private mostOfEarlier(count: number): number {
    const { earlier, later } = this
    const { code, lag, lagCalendar } = this.link
    const limit = later.limitFor(count, limitsFinish(code))
    const base = lag === 0 ? limit : unshiftWork(lagCalendar, limit, lag)
    return countsFromStart(code) ? earlier.lastUntil(base) : earlier.lastDoneBy(base)
  }
}
