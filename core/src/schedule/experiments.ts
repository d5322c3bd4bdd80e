import { lengthsOf } from '../plan/durations.ts'
import { workBetween } from '../time/arithmetic.ts'
import { Kind, State, type Network } from '../network/network.ts'
import { copyEarlyDates, latestFinish, type EarlyDates } from './forwardPass.ts'
import { Propagation } from './propagation.ts'
import type { Schedule } from './schedule.ts'

/** What happens to the network's finish when one activity is longer or gone, by scheduling again. Working minutes of the project calendar. */
export interface Experiment {
  readonly activity: string
  /** By how much the finish moves later when the remaining work grows by a step of one of its days. */
  readonly nudge: number
  /** By how much the finish comes earlier when its remaining work is nothing. */
  readonly drag: number
}

/**
 * The nudge test and the drag of activities: criticality by experiment. Forward direction.
 * Only what lies downstream is scheduled again for each, and an activity without remaining work has neither.
 * @param ids - the activities to try; all by default
 * @param step - working minutes to add on each activity's own calendar; one day of it by default
 */
export const experiments = (schedule: Schedule, ids?: readonly string[], step?: number): Experiment[] => {
  const { network } = schedule
  const { plan } = network
  const project = network.calendars.get(plan.project.calendar)
  const trial = new Trial(schedule)
  return (ids ?? network.activities.map((a) => a.id)).map((id) => {
    const i = network.indexOf.get(id)
    if (i === undefined) throw new RangeError(`experiments: no activity "${id}"`)
    const isIdle = network.kind[i] !== Kind.Work || network.state[i] === State.Finished
    if (isIdle) return { activity: id, nudge: 0, drag: 0 }
    const day = step ?? lengthsOf(plan, network.calendar[i]!.id).dayMinutes
    const remaining = network.remaining[i]!
    return {
      activity: id,
      nudge: workBetween(project, schedule.projectFinish, trial.finishWith(i, remaining + day)),
      drag: remaining === 0 ? 0 : workBetween(project, trial.finishWith(i, 0), schedule.projectFinish),
    }
  })
}

/** A copy of the early dates on which one activity at a time is given another duration, and what moved is put back. */
class Trial {
  private readonly network: Network
  private readonly original: EarlyDates
  private readonly dates: EarlyDates
  private readonly remaining: Int32Array
  private readonly propagation: Propagation

  constructor({ network, early }: Schedule) {
    this.network = network
    this.original = early
    this.dates = copyEarlyDates(early)
    this.remaining = network.remaining.slice()
    this.propagation = new Propagation(network)
  }

  /** The network's finish with another remaining duration of activity i. */
  finishWith(i: number, remaining: number): number {
    const { network, dates, original } = this
    this.remaining[i] = remaining
    const moved = this.propagation.early(dates, this.remaining, [i])!
    this.remaining[i] = network.remaining[i]!
    const finish = latestFinish(network, dates)
    for (const j of moved) {
      dates.start[j] = original.start[j]!
      dates.finish[j] = original.finish[j]!
      dates.begin[j] = original.begin[j]!
      dates.beginCount[j] = original.beginCount[j]!
    }
    return finish
  }
}
