import { compileNetwork } from '../network/compileNetwork.ts'
import { countsFromStart, Kind, limitsFinish, NONE, State, type Network } from '../network/network.ts'
import type { Instant } from '../time/instant.ts'
import { heldByStartLinks, isPinned, linkLimit } from '../schedule/forwardPass.ts'
import { scheduleNetwork } from '../schedule/schedule.ts'
import type { Plan } from '../plan/schema.ts'
import { crashablesOf, type Crashable } from './crashData.ts'

/** t[to] − t[from] ≥ length. */
interface Arc {
  readonly from: number
  readonly to: number
  readonly length: number
}

/** An activity that can be shortened: t[finish] − t[start] is between normal − limit and normal. Times of the network. */
export interface Shortening {
  readonly activity: number
  readonly start: number
  readonly finish: number
  readonly normal: number
  readonly limit: number
  /** Money per minute of the network's time. */
  readonly slope: number
  /** Minutes of the network's time for a working minute of the activity's calendar. */
  readonly rate: number
  readonly crashable: Crashable
}

/** Work that its own calendar keeps from starting when its predecessors would let it: a tide, a surveyor's day. */
interface CalendarWait {
  readonly activity: number
  /** When it starts all the same. */
  readonly until: Instant
}

/**
 * How plans become differences between events:
 * - `minutes`: each duration in working minutes of its own calendar, lags in those of theirs (semantics.md section 9)
 * - `calendars`: each duration and lag in working minutes of the project's calendar, as it lies in the plan. Work that waits for its
 *   calendar stays where it is, since nothing that comes before it brings it forward until the calendar works earlier.
 * On one calendar both are the same.
 */
export type Basis = 'minutes' | 'calendars'

export const SOURCE = 0
export const SINK = 1

/** The plan as events and differences between them, from the project's start. The sink is the finish asked for. */
export interface EventNetwork {
  readonly plan: Plan
  readonly network: Network
  readonly nodes: number
  readonly arcs: readonly Arc[]
  readonly shortenings: readonly Shortening[]
  /** Times of all events with normal durations, each as early as it can be. */
  readonly early: Int32Array
  readonly waits: readonly CalendarWait[]
}

export const startOf = (i: number): number => 2 + 2 * i
export const finishOf = (i: number): number => 3 + 2 * i

/**
 * @param to - id of the activity whose finish is asked for; null: the project's
 * @throws PlanError for crash data that cannot be
 */
export const eventNetwork = (
  plan: Plan,
  to: string | null = null,
  basis: Basis = 'minutes',
): EventNetwork => {
  const crashables = crashablesOf(plan)
  const network = compileNetwork(plan)
  const n = plan.activities.length
  const calendar = network.calendars.get(plan.project.calendar)
  const origin = calendar.countBefore(network.projectStart)
  const timeOf = (at: Instant): number => calendar.countBefore(at) - origin
  const arcs: Arc[] = []
  const shortenings: Shortening[] = []
  const waits: CalendarWait[] = []
  const early = new Int32Array(2 + 2 * n)
  const target = to === null ? null : network.indexOf.get(to)
  if (target === undefined) throw new RangeError(`eventNetwork: no activity "${to}"`)
  const placed = basis === 'calendars' ? scheduleNetwork(network).early : null
  const lagOf = (k: number): number => {
    if (placed === null) return network.linkLag[k]!
    const from = network.linkFrom[k]!
    const base = countsFromStart(network.linkCode[k]!) ? placed.start[from]! : placed.finish[from]!
    return timeOf(linkLimit(network, placed, k)) - timeOf(base)
  }

  for (const i of network.order) {
    if (network.kind[i] === Kind.Hammock) continue
    const [start, finish] = [startOf(i), finishOf(i)]
    const isFinished = network.state[i] === State.Finished
    const stands = isFinished || isPinned(network, i)
    const left = network.remaining[i]!
    const length = placed === null || left === 0 ? left : timeOf(placed.finish[i]!) - timeOf(placed.begin[i]!)
    let [from, until] = [0, -Infinity]
    if (isFinished) from = timeOf(network.actualFinish[i]!)
    else if (network.startPin[i] !== NONE) from = timeOf(network.startPin[i]!)
    else if (network.finishPin[i] !== NONE) from = timeOf(network.finishPin[i]!) - length
    else {
      from = Math.max(0, timeOf(network.startFloor[i]!))
      if (network.finishFloor[i] !== NONE) until = timeOf(network.finishFloor[i]!)
    }
    const ownStart = from
    if (until !== -Infinity) arcs.push({ from: SOURCE, to: finish, length: until })
    if (!stands)
      for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
        const code = network.linkCode[k]!
        if (!limitsFinish(code) && !heldByStartLinks(network, i)) continue
        const before = network.linkFrom[k]!
        const base = countsFromStart(code) ? startOf(before) : finishOf(before)
        const lag = lagOf(k)
        arcs.push({ from: base, to: limitsFinish(code) ? finish : start, length: lag })
        if (limitsFinish(code)) until = Math.max(until, early[base]! + lag)
        else from = Math.max(from, early[base]! + lag)
      }
    early[finish] = Math.max(from + length, until)
    early[start] = early[finish] - length
    if (placed !== null && !stands && timeOf(placed.begin[i]!) > early[start]) {
      early[start] = timeOf(placed.begin[i]!)
      early[finish] = early[start] + length
      waits.push({ activity: i, until: placed.begin[i]! })
      arcs.push({ from: SOURCE, to: start, length: early[start] })
    } else arcs.push({ from: SOURCE, to: start, length: ownStart })
    // Work goes on without a break: never longer than normal, shorter by what is crashed.
    arcs.push({ from: finish, to: start, length: -length })
    const crashable = stands || left === 0 ? undefined : crashables.get(i)
    const rate = left === 0 ? 1 : length / left
    const own = crashable ? Math.min(left, Math.round(crashable.limit * (left / crashable.normal))) : 0
    const limit = Math.floor(own * rate)
    arcs.push({ from: start, to: finish, length: length - limit })
    if (crashable && limit > 0)
      shortenings.push({
        activity: i,
        start,
        finish,
        normal: length,
        limit,
        slope: crashable.slope / rate,
        rate,
        crashable,
      })
    if (target === null || target === i) {
      arcs.push({ from: finish, to: SINK, length: 0 })
      early[SINK] = Math.max(early[SINK]!, early[finish])
    }
  }
  return { plan, network, nodes: 2 + 2 * n, arcs, shortenings, early, waits }
}
