import { clockCalendar } from '../../../time/calendar.ts'
import type { Instant } from '../../../time/instant.ts'
import {
  countsFromStart,
  Kind,
  limitsFinish,
  LinkCode,
  NONE,
  State,
  type Network,
} from '../../../network/network.ts'
import type { Availability } from '../../availability.ts'
import type { Problem } from '../problem.ts'
import { Profile } from '../profile.ts'
import { heldFrom, standsWhereItIs } from '../standing.ts'
import { Bounds } from './bounds.ts'
import { LinkRule, type Linked } from './linkRule.ts'
import { ResourceRule } from './resourceRule.ts'
import { FinishTiming, Timing } from './timing.ts'

/**
 * What levelling asks, for {@link Bounds}: of each activity the working count at which it begins, on its own calendar. What it leaves out
 * (work that may pause holds nothing) only makes earlier finishes possible, so what is impossible here is impossible.
 */
export interface Model {
  readonly bounds: Bounds
  /** Variable of each activity by position; −1 where it has none. */
  readonly variableOf: Int32Array
  /** Of variables of work that needs something: what is to be decided. */
  readonly deciding: readonly number[]
  /** The variable of the finish, an instant. */
  readonly finish: number
  /** Where an activity starts that begins at a count. */
  startAt(variable: number, count: number): Instant
}

/** @throws CalendarError */
export const modelOf = (problem: Problem): Model => {
  const { network, joint, demands, available, options } = problem
  const n = network.order.length
  const variableOf = new Int32Array(n).fill(-1)
  const finishOf = new Int32Array(n).fill(-1)
  const timings: Timing[] = []
  const least: number[] = []
  const ends: number[] = []
  const made = (timing: Timing, from: number): number => {
    ends.push(timings.length)
    least.push(from)
    return timings.push(timing) - 1
  }
  const { early } = joint
  for (let i = 0; i < n; i++) {
    if (network.kind[i] === Kind.Hammock || network.state[i] === State.Finished) continue
    const calendar = network.calendar[i]!
    const v =
      network.kind[i] === Kind.AtFinish
        ? made(new FinishTiming(calendar), early.finish[i]!)
        : made(new Timing(calendar, network.remaining[i]!), early.beginCount[i]!)
    variableOf[i] = finishOf[i] = v
    if (isHeldOpen(network, i)) ends[v] = finishOf[i] = made(new FinishTiming(calendar), early.finish[i]!)
  }
  const finish = made(new Timing(clockCalendar, 0), joint.projectFinish)
  const bounds = new Bounds(timings.length)
  const add = (link: Linked): void =>
    bounds.add(new LinkRule(bounds, timings, link), [2 * link.from, 2 * link.to + 1])
  for (const k of heededLinks(network)) {
    const [i, j, code] = [network.linkFrom[k]!, network.linkTo[k]!, network.linkCode[k]!]
    const from = countsFromStart(code) ? variableOf[i]! : finishOf[i]!
    const rest = { from, code, lag: network.linkLag[k]!, lagCalendar: network.linkCalendar[k]! }
    add({ ...rest, to: variableOf[j]! })
    if (limitsFinish(code) && finishOf[j] !== variableOf[j]) add({ ...rest, to: finishOf[j]! })
  }
  const after = { code: LinkCode.FS, lag: 0, lagCalendar: clockCalendar }
  for (let i = 0; i < n; i++) {
    if (variableOf[i]! < 0) continue
    if (finishOf[i] !== variableOf[i]) add({ ...after, from: variableOf[i]!, to: finishOf[i]! })
    add({ ...after, from: finishOf[i]!, to: finish })
  }
  const deciding = new Set<number>()
  const left = leftByStanding(problem)
  available.forEach((_, r) => {
    const needs: (readonly [number, number])[] = []
    for (let i = 0; i < n; i++) {
      if (standsWhereItIs(network, i) || network.remaining[i] === 0 || options.mayPause?.[i] === 1) continue
      for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++)
        if (demands.resource[d] === r) needs.push([variableOf[i]!, demands.amount[d]!])
    }
    for (const [v] of needs) deciding.add(v)
    bounds.addSlow(
      new ResourceRule(bounds, timings, ends, needs, left[r]!),
      needs.flatMap(([v]) => [2 * v, 2 * v + 1, 2 * ends[v]!]),
    )
  })
  for (const [v, count] of least.entries()) bounds.raise(2 * v, count, null)
  return {
    bounds,
    variableOf,
    deciding: [...deciding].sort((a, b) => a - b),
    finish,
    startAt: (variable, count) => timings[variable]!.startAt(count),
  }
}

/** Whether it may finish later than its work ends, or stands: its finish is told by itself. */
const isHeldOpen = (network: Network, i: number): boolean =>
  network.kind[i] === Kind.Work &&
  (standsWhereItIs(network, i) ||
    network.finishFloor[i] !== NONE ||
    network.linkCode.subarray(network.inStart[i], network.inStart[i + 1]).some(limitsFinish))

/** Links between work that is still to be done, into what does not stand anyhow. */
const heededLinks = (network: Network): number[] =>
  [...network.linkFrom.keys()].filter(
    (k) =>
      network.state[network.linkFrom[k]!] !== State.Finished && !standsWhereItIs(network, network.linkTo[k]!),
  )

/** What there is beside work that stands where it is; where that may still be moved by its links, it holds nothing. */
const leftByStanding = ({ network, joint, demands, available }: Problem): Availability[] => {
  const profiles = available.map((steps) => new Profile(steps, network.order.length))
  for (let i = 0; i < network.order.length; i++) {
    if (!standsWhereItIs(network, i) || network.kind[i] !== Kind.Work) continue
    if (network.state[i] === State.Finished || network.remaining[i] === 0) continue
    const isMoved = [...network.linkFrom.subarray(network.inStart[i], network.inStart[i + 1])].some(
      (from) => network.state[from] !== State.Finished,
    )
    if (isMoved) continue
    for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++)
      profiles[demands.resource[d]!]!.take(
        heldFrom(network, joint.early, i),
        joint.early.finish[i]!,
        demands.amount[d]!,
      )
  }
  return profiles.map((profile) => profile.steps())
}
