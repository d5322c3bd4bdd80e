import { addWork, isWorking, nextWork, settle, shiftWork, subWork } from '../time/arithmetic.ts'
import type { Calendar } from '../time/calendar.ts'
import { formatInstant, type Instant } from '../time/instant.ts'
import type { Network } from '../network/network.ts'

export type StepOp = 'date' | 'add-work' | 'sub-work' | 'next-work' | 'settle'

/** One line of the arithmetic: what was done, on which calendar, and the instant after it. */
export interface Step {
  readonly op: StepOp
  /** Calendar id; null for a date that is taken as it stands. */
  readonly calendar: string | null
  /** Working minutes added or taken off; 0 for the others. */
  readonly minutes: number
  readonly at: string
  /** Given for the step that places the activity as late as its float allows. */
  readonly why?: 'placed-late'
}

/** In the mirror of time, what is added is taken off, and the next work is the last by then. */
const MIRRORED_OP: Readonly<Record<StepOp, StepOp>> = {
  date: 'date',
  'add-work': 'sub-work',
  'sub-work': 'add-work',
  'next-work': 'settle',
  settle: 'settle',
}

/** An instant of a network as text; those of a mirror are turned back. */
export const written = (network: Network, at: Instant): string => formatInstant(network.isMirror ? -at : at)

/** Builds the steps of a candidate, doing each one as it is written down. */
export class Ladder {
  readonly steps: Step[] = []
  readonly network: Network
  at: Instant
  constructor(network: Network, date: Instant) {
    this.network = network
    this.at = date
    this.write('date', null, 0)
  }
  private write(op: StepOp, calendar: Calendar | null, minutes: number): this {
    const isMirror = this.network.isMirror
    this.steps.push({
      op: isMirror ? MIRRORED_OP[op] : op,
      calendar: calendar?.id ?? null,
      minutes,
      at: written(this.network, this.at),
    })
    return this
  }
  to(at: Instant, op: StepOp, calendar: Calendar, minutes = 0): this {
    this.at = at
    return this.write(op, calendar, minutes)
  }
  lag(calendar: Calendar, lag: number): this {
    if (lag === 0) return this
    return this.to(
      shiftWork(calendar, this.at, lag),
      lag > 0 ? 'add-work' : 'sub-work',
      calendar,
      Math.abs(lag),
    )
  }
  addWork(calendar: Calendar, minutes: number): this {
    return minutes === 0 ? this : this.to(addWork(calendar, this.at, minutes), 'add-work', calendar, minutes)
  }
  subWork(calendar: Calendar, minutes: number): this {
    return minutes === 0 ? this : this.to(subWork(calendar, this.at, minutes), 'sub-work', calendar, minutes)
  }
  nextWork(calendar: Calendar): this {
    return this.to(nextWork(calendar, this.at), 'next-work', calendar)
  }
  settle(calendar: Calendar): this {
    return this.to(settle(calendar, this.at), 'settle', calendar)
  }
  /** Back to the last minute that begins by then (start), or to the last end of work by then (finish); no step where it is there. */
  backTo(calendar: Calendar, edge: 'start' | 'finish'): this {
    if (isWorking(calendar, edge === 'start' ? this.at : this.at - 1)) return this
    this.subWork(calendar, 1)
    return edge === 'start' ? this : this.addWork(calendar, 1)
  }
  /** Later by what its float allows. */
  placedLate(calendar: Calendar, minutes: number): this {
    this.addWork(calendar, minutes)
    this.steps.push({ ...this.steps.pop()!, why: 'placed-late' })
    return this
  }
}
