import type { Instant } from '../time/instant.ts'
import { Kind, NONE, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** Which dates work is looked at on: those at which it is placed, its earliest, or its latest. */
export type Dates = 'placed' | 'early' | 'late'

/** When an activity is at work, by its own calendar: what it has done, and what it has still to do. */
export interface WorkPeriods {
  /** From its actual start to the status date, or to its actual finish; NONE where it has not started. */
  doneFrom: Instant
  doneTo: Instant
  /** What remains; NONE where it is finished. A point begins and ends at its instant. */
  from: Instant
  to: Instant
}

export const emptyPeriods = (): WorkPeriods => ({ doneFrom: NONE, doneTo: NONE, from: NONE, to: NONE })

/**
 * Finished work was at work on the days on which it was; started work from its actual start to the status date, and again in its
 * remaining part, without the idle time between. A hammock has done what lies before the status date.
 * @param dates - activities without late dates stand at their early ones
 * @param periods - filled
 */
export const workPeriods = (schedule: Schedule, i: number, dates: Dates, periods: WorkPeriods): void => {
  const { network } = schedule
  periods.doneFrom = periods.doneTo = periods.from = periods.to = NONE
  const state = network.state[i]
  if (network.kind[i] === Kind.Hammock) {
    const status = network.statusDate ?? NONE
    const [start, finish] = [schedule.start[i]!, schedule.finish[i]!]
    if (start < status) {
      periods.doneFrom = start
      periods.doneTo = Math.min(status, finish)
    }
    if (finish > status || start === finish) {
      periods.from = Math.max(start, status)
      periods.to = Math.max(finish, periods.from)
    }
    return
  }
  if (state === State.Finished) {
    periods.doneFrom = network.actualStart[i]!
    periods.doneTo = network.actualFinish[i]!
    return
  }
  const { start, finish } = datesOf(schedule, i, dates)
  periods.to = finish
  if (state === State.NotStarted) {
    periods.from = start
    return
  }
  const calendar = network.calendar[i]!
  periods.doneFrom = network.actualStart[i]!
  periods.doneTo = Math.max(network.statusDate!, periods.doneFrom)
  periods.from =
    network.remaining[i] === 0
      ? finish
      : calendar.minuteAt(calendar.countBefore(finish) - network.remaining[i]!)
}

const datesOf = (schedule: Schedule, i: number, dates: Dates): { start: Instant; finish: Instant } => {
  const { early, late } = schedule
  if (dates === 'placed') return { start: schedule.start[i]!, finish: schedule.finish[i]! }
  if (dates === 'late' && late.start[i] !== NONE && late.finish[i] !== NONE)
    return { start: late.start[i]!, finish: late.finish[i]! }
  return { start: early.start[i]!, finish: early.finish[i]! }
}

/** Work periods of all activities, by position. */
export type AllPeriods = Readonly<Record<keyof WorkPeriods, Int32Array>>

export const allPeriods = (schedule: Schedule, dates: Dates): AllPeriods => {
  const n = schedule.network.activities.length
  const all: AllPeriods = {
    doneFrom: new Int32Array(n),
    doneTo: new Int32Array(n),
    from: new Int32Array(n),
    to: new Int32Array(n),
  }
  const periods = emptyPeriods()
  for (let i = 0; i < n; i++) {
    workPeriods(schedule, i, dates, periods)
    all.doneFrom[i] = periods.doneFrom
    all.doneTo[i] = periods.doneTo
    all.from[i] = periods.from
    all.to[i] = periods.to
  }
  return all
}
