import { lengthsOf } from '../plan/durations.ts'
import { workBetween } from '../time/arithmetic.ts'
import type { Instant } from '../time/instant.ts'
import { countsFromStart, Kind, limitsFinish, State, type Network } from '../network/network.ts'
import { copyEarlyDates, isPinned, latestFinish, linkLimit, type EarlyDates } from './forwardPass.ts'
import { Propagation } from './propagation.ts'
import type { Schedule } from './schedule.ts'

/** What happens to the network's finish when one activity is longer or gone, by scheduling again. Working minutes of the project calendar. */
export interface Experiment {
  readonly activity: string
  /** By how much the finish moves later when the remaining work grows by a step of one of its days. */
  readonly nudge: number
  /** By how much the finish comes earlier when its remaining work is nothing. */
  readonly drag: number
  /** Where the longer work moves nothing beyond, on the longest path where there are some; none where it moves the finish. */
  readonly stops: readonly Stop[]
}

/** An activity that takes a delay up: what comes before it moves, and it stays. */
export interface Stop {
  readonly activity: string
  /** `calendar`: it waits for its next working time anyway. `date`: a date holds it, whatever comes before. `itself`: it begins earlier.
   * `start`: it follows the start of what is longer, not its finish. */
  readonly by: 'calendar' | 'date' | 'itself' | 'start'
  /** Where it starts. */
  readonly at: Instant
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
    if (isIdle) return { activity: id, nudge: 0, drag: 0, stops: [] }
    const day = step ?? lengthsOf(plan, network.calendar[i]!.id).dayMinutes
    const remaining = network.remaining[i]!
    const longer = trial.finishWith(i, remaining + day)
    const nudge = workBetween(project, schedule.projectFinish, longer)
    return {
      activity: id,
      nudge,
      stops: longer === schedule.projectFinish ? stopsIn(schedule, trial.stopped) : [],
      drag: remaining === 0 ? 0 : workBetween(project, trial.finishWith(i, 0), schedule.projectFinish),
    }
  })
}

/** Stops as they are told: only those on the longest path, where there are some, in order of time. */
const stopsIn = (
  { network, early, onLongestPath }: Schedule,
  stopped: ReadonlyMap<number, Stop['by']>,
): Stop[] =>
  [...stopped]
    .filter(([v], _, all) => onLongestPath[v] === 1 || all.every(([other]) => onLongestPath[other] !== 1))
    .sort(([a], [b]) => early.start[a]! - early.start[b]!)
    .slice(0, MOST_STOPS)
    .map(([v, by]) => ({ activity: network.activities[v]!.id, by, at: early.start[v]! }))
const MOST_STOPS = 3

/** A copy of the early dates on which one activity at a time is given another duration, and what moved is put back. */
class Trial {
  private readonly network: Network
  private readonly original: EarlyDates
  private readonly dates: EarlyDates
  private readonly remaining: Int32Array
  private readonly propagation: Propagation
  private readonly drives: Uint8Array
  /** Activities at which the last trial stopped, by position. */
  readonly stopped = new Map<number, Stop['by']>()

  constructor({ network, early, drives }: Schedule) {
    this.drives = drives
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
    this.findStops(i, moved)
    for (const j of moved) {
      dates.start[j] = original.start[j]!
      dates.finish[j] = original.finish[j]!
      dates.begin[j] = original.begin[j]!
      dates.beginCount[j] = original.beginCount[j]!
    }
    return finish
  }

  /** Successors of what moved that stay: because they wait for their calendar anyway, or because a date holds them. */
  private findStops(i: number, moved: Iterable<number>): void {
    const { network, dates, original, drives, stopped } = this
    stopped.clear()
    if (dates.finish[i] === original.finish[i] && dates.start[i] !== original.start[i])
      stopped.set(i, 'itself')
    const all = new Set<number>()
    for (const u of moved)
      if (dates.start[u] !== original.start[u] || dates.finish[u] !== original.finish[u]) all.add(u)
    for (const u of all)
      for (let o = network.outStart[u]!; o < network.outStart[u + 1]!; o++) {
        const k = network.outLink[o]!
        const v = network.linkTo[k]!
        if (all.has(v) || network.state[v] === State.Finished) continue
        if (drives[k] === 1)
          stopped.set(v, u === i && countsFromStart(network.linkCode[k]!) ? 'start' : 'calendar')
        else if (isPinned(network, v) && linkLimit(network, dates, k) > edgeOf(network, dates, k, v))
          stopped.set(v, 'date')
      }
  }
}

/** The edge of a link's successor that the link limits. */
const edgeOf = (network: Network, dates: EarlyDates, k: number, v: number): Instant =>
  limitsFinish(network.linkCode[k]!) ? dates.finish[v]! : dates.start[v]!
