import { Kind, NONE, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** Which dates work is looked at on: those at which it is placed, its earliest, or its latest. */
export type Dates = 'placed' | 'early' | 'late'

/** When activities are at work, each by its own calendar, by position: what one has done, and what it has still to do. */
export interface WorkPeriods {
  /** From its actual start to the status date, or to its actual finish; NONE where it has not started. */
  readonly doneFrom: Int32Array
  readonly doneTo: Int32Array
  /** What remains; NONE where it is finished. A point begins and ends at its instant. */
  readonly from: Int32Array
  readonly to: Int32Array
}

/**
 * Finished work was at work on the days on which it was; started work from its actual start to the status date, and again in its
 * remaining part, without the idle time between. A hammock has done what lies before the status date. O(n)
 * @param dates - activities without late dates stand at their early ones
 */
export const workPeriods = (schedule: Schedule, dates: Dates): WorkPeriods => {
  const { network, early, late } = schedule
  const { kind, state, actualStart, actualFinish, remaining } = network
  const n = network.activities.length
  const periods = {
    doneFrom: new Int32Array(n).fill(NONE),
    doneTo: new Int32Array(n).fill(NONE),
    from: new Int32Array(n).fill(NONE),
    to: new Int32Array(n).fill(NONE),
  }
  const { doneFrom, doneTo, from, to } = periods
  const starts = dates === 'placed' ? schedule.start : early.start
  const finishes = dates === 'placed' ? schedule.finish : early.finish
  for (let i = 0; i < n; i++) {
    if (kind[i] === Kind.Hammock) hammockPeriods(schedule, i, periods)
    else if (state[i] === State.Finished) {
      doneFrom[i] = actualStart[i]!
      doneTo[i] = actualFinish[i]!
    } else {
      const isLate = dates === 'late' && late.start[i] !== NONE && late.finish[i] !== NONE
      const finish = isLate ? late.finish[i]! : finishes[i]!
      to[i] = finish
      if (state[i] === State.NotStarted) {
        from[i] = isLate ? late.start[i]! : starts[i]!
        continue
      }
      const calendar = network.calendar[i]!
      doneFrom[i] = actualStart[i]!
      doneTo[i] = Math.max(network.statusDate!, actualStart[i]!)
      from[i] = remaining[i] === 0 ? finish : calendar.minuteAt(calendar.countBefore(finish) - remaining[i]!)
    }
  }
  return periods
}

const hammockPeriods = (schedule: Schedule, i: number, periods: WorkPeriods): void => {
  const status = schedule.network.statusDate ?? NONE
  const [start, finish] = [schedule.start[i]!, schedule.finish[i]!]
  if (start < status) {
    periods.doneFrom[i] = start
    periods.doneTo[i] = Math.min(status, finish)
  }
  if (finish > status || start === finish) {
    periods.from[i] = Math.max(start, status)
    periods.to[i] = Math.max(finish, periods.from[i])
  }
}
