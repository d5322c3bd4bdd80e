import { applyUnchecked } from '../../plan/applyChange.ts'
import type { Change } from '../../plan/change.ts'
import { calendarOf } from '../../plan/lagCalendar.ts'
import { lengthsOf } from '../../plan/durations.ts'
import type { Plan, Resource } from '../../plan/schema.ts'
import type { Instant } from '../../time/instant.ts'
import { compileNetwork } from '../../network/compileNetwork.ts'
import { Kind, NONE, State, UNLIMITED, type Network } from '../../network/network.ts'
import { schedule, scheduleNetwork, type Schedule } from '../../schedule/schedule.ts'
import { availabilityOf, isWorker, type Availability } from '../availability.ts'
import type { Bound } from './bound.ts'
import { horizonAround, jointPlan, type Horizon } from './jointPlan.ts'
import type { Demands, PlacingOptions } from './placing.ts'
import { Windows, type Contradiction } from './windows.ts'

/** Levelling is not possible: the message says why. */
export class LevelError extends Error {
  override name = 'LevelError'
}

/** What is to be levelled: the plan on the joint calendars of its work, who needs how much, and how much there is. */
export interface Problem {
  readonly before: Schedule
  readonly horizon: Horizon
  readonly jointChanges: readonly Change[]
  /** Work without an hour in common with one of its resources. */
  readonly without: readonly { readonly activity: string; readonly resource: string }[]
  readonly joint: Schedule
  readonly network: Network
  readonly resources: readonly Resource[]
  readonly available: readonly Availability[]
  readonly demands: Demands
  readonly options: PlacingOptions
}

/** @throws LevelError, CalendarError */
export const problemOf = (plan: Plan, insideFloat: boolean): Problem => {
  if (plan.project.direction === 'backward')
    throw new LevelError(
      'a plan scheduled backward is placed as late as it can be and is not levelled; schedule it forward, from a start',
    )
  const before = schedule(plan)
  const horizon = horizonAround(before.projectStart, before.projectFinish)
  const { plan: withJoint, changes: jointChanges, without } = jointPlan(earlyOnly(plan), horizon)
  const joint = scheduleNetwork(compileNetwork(withJoint))
  const { network } = joint
  const resources = plan.resources.filter((r) => isWorker(r) && r.available.length > 0)
  const n = network.order.length
  const shortestPiece = new Int32Array(n)
  const mayPause = new Uint8Array(n)
  withJoint.activities.forEach((activity, i) => {
    if (activity.split !== true || network.state[i] !== State.NotStarted) return
    mayPause[i] = 1
    shortestPiece[i] = lengthsOf(withJoint, calendarOf(withJoint.project, activity)).dayMinutes
  })
  const latestStart = joint.late.start.map((at, i) =>
    at === NONE || network.kind[i] === Kind.Hammock ? UNLIMITED : at,
  )
  return {
    before,
    horizon,
    jointChanges: [...placedEarly(plan), ...jointChanges],
    without,
    joint,
    network,
    resources,
    available: resources.map(availabilityOf),
    demands: demandsOf(withJoint, network, resources),
    options: {
      latestStart: insideFloat ? latestStart : null,
      mayPause: mayPause.includes(1) ? mayPause : null,
      shortestPiece,
    },
  }
}

/** What is placed as late as its float allows would be placed late again in the scenario: work that needs a resource is not. */
const placedEarly = (plan: Plan): Change[] => {
  const needing = new Set(plan.assignments.map(({ activity }) => activity))
  return plan.activities.flatMap(({ id, place }): Change[] =>
    place === 'late' && needing.has(id)
      ? [{ kind: 'set', list: 'activities', key: id, set: { place: 'early' } }]
      : [],
  )
}
const earlyOnly = (plan: Plan): Plan => {
  const changes = placedEarly(plan)
  return changes.length === 0 ? plan : applyUnchecked(plan, { kind: 'all', changes }).plan
}

const demandsOf = (plan: Plan, network: Network, resources: readonly Resource[]): Demands => {
  const position = new Map(resources.map(({ id }, r) => [id, r]))
  const byActivity = new Map<number, Map<number, number>>()
  for (const { activity, resource, amount } of plan.assignments) {
    const r = position.get(resource)
    if (r === undefined || amount === 0) continue
    const i = network.indexOf.get(activity)!
    if (network.kind[i] !== Kind.Work) continue
    const own = byActivity.get(i) ?? new Map<number, number>()
    byActivity.set(i, own.set(r, (own.get(r) ?? 0) + amount))
  }
  const n = network.order.length
  const first = new Int32Array(n + 1)
  const resource: number[] = []
  const amount: number[] = []
  for (let i = 0; i < n; i++) {
    for (const [r, units] of byActivity.get(i) ?? []) {
      resource.push(r)
      amount.push(units)
    }
    first[i + 1] = resource.length
  }
  return { first, resource: Int32Array.from(resource), amount: Float64Array.from(amount) }
}

/** The earliest finish that is not proven impossible. */
export interface Proven extends Bound {
  /** What stands in the way of a finish a minute earlier; null where it is the bound's path, or its resource as a whole. */
  readonly because: Contradiction | null
  /** Whether that is known because every way to an earlier one was ruled out. */
  readonly isSearched: boolean
}

/**
 * The bound, and what windows add to it.
 * @param leftOut - activities that take what there is not, and so prove nothing
 * @param reached - a finish that is possible
 */
export const provenFrom = (
  problem: Problem,
  bound: Bound,
  leftOut: ReadonlySet<number>,
  reached: Instant,
): Proven => {
  const { joint, demands, available, options } = problem
  if (bound.finish >= reached) return { ...bound, because: null, isSearched: false }
  const windows = new Windows(joint, demands, available, options.mayPause, leftOut, reached)
  const { finish, because } = windows.earliest(bound.finish, reached)
  return because === null
    ? { ...bound, because, isSearched: false }
    : { finish, resource: because.resource, because, isSearched: false }
}
