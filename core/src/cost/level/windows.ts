import { jointSpans } from '../../time/jointSpans.ts'
import type { Instant } from '../../time/instant.ts'
import type { SpannedCalendar } from '../../time/calendar.ts'
import { calendarOf } from '../../plan/lagCalendar.ts'
import { Kind, LinkCode, NONE, UNLIMITED, type Network } from '../../network/network.ts'
import { backwardPass, emptyLateDates, type LateDates } from '../../schedule/backwardPass.ts'
import type { Schedule } from '../../schedule/schedule.ts'
import { mostAvailable, type Availability } from '../availability.ts'
import type { Demands } from './placing.ts'
import { standsWhereItIs } from './standing.ts'
import { WEIGHTS } from './weights.ts'

/** Why a finish cannot be kept: work that would have to be done in a time that does not hold it. */
export interface Contradiction {
  readonly from: Instant
  readonly to: Instant
  /** Position of the resource that it needs; null: it is work of which no two can be done at once. */
  readonly resource: number | null
  /** Who would have to work in it, by position. */
  readonly activities: readonly number[]
  /** Minutes that they need of it at least, and minutes in which any of them could work. */
  readonly needed: number
  readonly there: number
}

/** Plans with more work on limited resources are looked at in fewer windows, and only resource by resource. */
const SMALL = 60
const FEW_WINDOWS = 24
/** Beyond it windows cost more than the search, and prove next to nothing. */
const MOST_JOBS = 300

/** What only so much can be done of at once: a resource under one weight, or work that excludes each other. */
interface Machine {
  readonly resource: number | null
  readonly members: readonly number[]
  readonly weight: readonly number[]
  /** Minutes in which any of its members could work, up to an instant. */
  readonly thereBefore: (t: Instant) => number
}

/**
 * Proves finishes impossible: under a finish every activity has a window, from its earliest start to the latest finish that links leave
 * it, and between any two instants the part of its work that no shift within its window takes elsewhere. Where these parts need more
 * than there is, the finish cannot be kept.
 * @see Baptiste, Le Pape & Nuijten 1999, "Satisfiability tests and time-bound adjustments for cumulative scheduling problems", Ann. Oper. Res. 92
 */
export class Windows {
  private readonly network: Network
  private readonly early: Int32Array
  private readonly jobs: readonly number[]
  private readonly machines: readonly Machine[]
  private readonly mayPause: Uint8Array | null
  private readonly late: LateDates

  /**
   * @param schedule - of the plan with its joint calendars
   * @param leftOut - activities that take what there is not, and so prove nothing
   * @param until - no finish after it is asked about
   */
  constructor(
    schedule: Schedule,
    demands: Demands,
    available: readonly Availability[],
    mayPause: Uint8Array | null,
    leftOut: ReadonlySet<number>,
    until: Instant,
  ) {
    const { network } = schedule
    const n = network.order.length
    // Limits may be passed where work has to wait: only links and the finish count.
    const none = new Int32Array(n).fill(UNLIMITED)
    this.network = { ...network, startCeiling: none, finishCeiling: none }
    this.early = schedule.early.begin
    this.mayPause = mayPause
    this.late = emptyLateDates(n)
    this.jobs = jobsOf(network, demands, leftOut)
    this.machines =
      this.jobs.length > MOST_JOBS
        ? []
        : machinesOf(network, this.jobs, demands, available, this.early, until)
  }

  /**
   * The earliest finish in [from, to] that is not proven impossible, and the contradiction of the one a minute before it.
   * @param to - a finish that is possible
   */
  earliest(from: Instant, to: Instant): { readonly finish: Instant; readonly because: Contradiction | null } {
    let [low, high] = [from, this.jobs.length > MOST_JOBS ? from : to]
    let because: Contradiction | null = null
    // The longer the time, the wider all windows: what is possible stays so.
    while (low < high) {
      const middle = low + Math.floor((high - low) / 2)
      const found = this.contradiction(middle)
      if (found === null) high = middle
      else {
        because = found
        low = middle + 1
      }
    }
    return { finish: low, because }
  }

  private contradiction(finish: Instant): Contradiction | null {
    const { network, late, early, jobs } = this
    backwardPass(network, network.remaining, finish, late)
    const windows = jobs.filter((i) => late.finish[i] !== NONE)
    const starts = fewOf([...new Set(windows.map((i) => early[i]!))])
    const ends = fewOf([...new Set(windows.map((i) => late.finish[i]!))])
    const inside = new Float64Array(network.order.length)
    const first = Float64Array.from(windows, (i) => network.calendar[i]!.countBefore(early[i]!))
    const last = Float64Array.from(windows, (i) => network.calendar[i]!.countBefore(late.finish[i]!))
    const calendars = [...new Set(windows.map((i) => network.calendar[i]!))]
    const clock = Int32Array.from(windows, (i) => calendars.indexOf(network.calendar[i]!))
    const countsAt = (t: Instant): number[] => calendars.map((calendar) => calendar.countBefore(t))
    const countsAtEnds = ends.map(countsAt)
    for (const from of starts) {
      const countsFrom = countsAt(from)
      for (const [e, to] of ends.entries()) {
        if (to <= from) continue
        const countsTo = countsAtEnds[e]!
        for (let w = 0; w < windows.length; w++) {
          const i = windows[w]!
          const [a, b] = [countsFrom[clock[w]!]!, countsTo[clock[w]!]!]
          inside[i] = this.leastInside(i, a - first[w]!, b - a, last[w]! - b)
        }
        const found = this.tooMuchIn(inside, from, to)
        if (found) return found
      }
    }
    return null
  }

  private tooMuchIn(inside: Float64Array, from: Instant, to: Instant): Contradiction | null {
    for (const { resource, members, weight, thereBefore } of this.machines) {
      let needed = 0
      for (let m = 0; m < members.length; m++) needed += inside[members[m]!]! * weight[m]!
      if (needed === 0) continue
      const there = thereBefore(to) - thereBefore(from)
      if (needed <= there + 1e-6) continue
      return {
        from,
        to,
        resource,
        activities: members.filter((i, m) => inside[i]! > 0 && weight[m]! > 0),
        needed: Math.ceil(needed - 1e-6),
        there,
      }
    }
    return null
  }

  /**
   * Minutes of an activity that lie in a stretch of time wherever in its window it stands.
   * @param before - working minutes of its window before the stretch, `within` it, and `after` it; below 0: the window begins or ends in it
   */
  private leastInside(i: number, before: number, within: number, after: number): number {
    const minutes = this.network.remaining[i]!
    const early = Math.min(minutes, Math.max(0, before))
    const late = Math.min(minutes, Math.max(0, after))
    if (this.mayPause?.[i] === 1) return Math.max(0, minutes - early - late)
    return Math.max(0, Math.min(minutes - early, minutes - late, within))
  }
}

/** Work that waits where it has to, on what there is enough of at some time. */
const jobsOf = (network: Network, demands: Demands, leftOut: ReadonlySet<number>): number[] =>
  network.activities.flatMap((_, i) =>
    network.kind[i] === Kind.Work &&
    network.remaining[i]! > 0 &&
    !standsWhereItIs(network, i) &&
    demands.first[i + 1]! > demands.first[i]! &&
    !leftOut.has(i)
      ? [i]
      : [],
  )

/** At most so many of some instants, the first and the last among them. */
const fewOf = (instants: number[]): readonly number[] => {
  instants.sort((a, b) => a - b)
  if (instants.length <= SMALL) return instants
  return Array.from(
    { length: FEW_WINDOWS },
    (_, k) => instants[Math.round((k * (instants.length - 1)) / (FEW_WINDOWS - 1))]!,
  )
}

const machinesOf = (
  network: Network,
  jobs: readonly number[],
  demands: Demands,
  available: readonly Availability[],
  early: Int32Array,
  until: Instant,
): Machine[] => {
  const { plan } = network
  const start = jobs.reduce((first, i) => Math.min(first, early[i]!), until)
  const calendarsOf = (members: readonly number[]): SpannedCalendar[] => [
    ...new Set(members.map((i) => network.calendars.get(calendarOf(plan.project, plan.activities[i]!)))),
  ]
  const machines: Machine[] = []
  available.forEach((steps, resource) => {
    const amounts = jobs.flatMap((i): (readonly [number, number])[] => {
      for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++)
        if (demands.resource[d] === resource && demands.amount[d]! <= mostAvailable(steps))
          return [[i, demands.amount[d]!]]
      return []
    })
    if (amounts.length < 2) return
    const members = amounts.map(([i]) => i)
    const thereBefore = countedUnion(calendarsOf(members), start, until, steps)
    const capacities = [...new Set(steps.amount)].filter((amount) => amount > 0 && amount < Infinity)
    for (const weightOf of WEIGHTS) {
      // Where what there is changes, work counts for the least that it can.
      const weight = amounts.map(([, amount]) =>
        Math.min(
          ...capacities
            .filter((capacity) => capacity >= amount)
            .map((capacity) => weightOf(amount, capacity)),
        ),
      )
      machines.push({ resource, members, weight, thereBefore })
    }
  })
  if (jobs.length <= SMALL)
    for (const members of exclusions(network, jobs, demands, available))
      machines.push({
        resource: null,
        members,
        weight: members.map(() => 1),
        thereBefore: countedUnion(calendarsOf(members), start, until, null),
      })
  return machines
}

/** Counts the minutes in which any of some calendars works while there is anything of a resource. */
const countedUnion = (
  calendars: readonly SpannedCalendar[],
  start: Instant,
  until: Instant,
  steps: Availability | null,
): ((t: Instant) => number) => {
  const from: number[] = []
  const to: number[] = []
  const before: number[] = [0]
  for (const [a, b] of unionOf(calendars.map((calendar) => jointSpans([calendar], start, until))))
    for (let k = 0; k < (steps?.from.length ?? 1); k++) {
      const s = steps ? Math.max(a, steps.from[k]!) : a
      const e = steps ? Math.min(b, steps.from[k + 1] ?? Infinity) : b
      if (e <= s || steps?.amount[k] === 0) continue
      from.push(s)
      to.push(e)
      before.push(before.at(-1)! + e - s)
    }
  return (t) => {
    let [low, high] = [0, from.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (from[middle]! < t) low = middle + 1
      else high = middle
    }
    return low === 0 ? 0 : before[low - 1]! + Math.min(t, to[low - 1]!) - from[low - 1]!
  }
}

/**
 * Sets of work of which no two can be done at once: one waits for the other's finish, or together they need more of something than there
 * ever is. From each activity on the longest that still fits is added.
 */
const exclusions = (
  network: Network,
  jobs: readonly number[],
  demands: Demands,
  available: readonly Availability[],
): number[][] => {
  const excludes = exclusionOf(network, jobs, demands, available)
  const byLength = [...jobs].sort((a, b) => network.remaining[b]! - network.remaining[a]! || a - b)
  const found = new Map<string, number[]>()
  for (const first of jobs) {
    const members = [first]
    for (const i of byLength) if (i !== first && members.every((other) => excludes(i, other))) members.push(i)
    members.sort((a, b) => a - b)
    if (members.length > 1) found.set(members.join(), members)
  }
  return [...found.values()]
}

const exclusionOf = (
  network: Network,
  jobs: readonly number[],
  demands: Demands,
  available: readonly Availability[],
): ((i: number, j: number) => boolean) => {
  const n = network.order.length
  const most = available.map(mostAvailable)
  const after = new Map(jobs.map((i) => [i, finishedBefore(network, i)]))
  const amounts = new Map(
    jobs.map((i) => {
      const own = new Map<number, number>()
      for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++)
        own.set(demands.resource[d]!, demands.amount[d]!)
      return [i, own]
    }),
  )
  const known = new Uint8Array(n * n)
  for (const i of jobs)
    for (const j of jobs) {
      const isTooMuch = [...amounts.get(i)!].some(
        ([r, amount]) => amount + (amounts.get(j)!.get(r) ?? -Infinity) > most[r]! + 1e-6,
      )
      known[i * n + j] = i !== j && (isTooMuch || after.get(i)![j] === 1 || after.get(j)![i] === 1) ? 1 : 0
    }
  return (i, j) => known[i * n + j] === 1
}

/** Marks what begins only when an activity has finished: over links from finish to start without a lead. */
const finishedBefore = (network: Network, from: number): Uint8Array => {
  const marked = new Uint8Array(network.order.length)
  const open = [from]
  for (let i = open.pop(); i !== undefined; i = open.pop())
    for (let o = network.outStart[i]!; o < network.outStart[i + 1]!; o++) {
      const k = network.outLink[o]!
      const to = network.linkTo[k]!
      if (network.linkCode[k] !== LinkCode.FS || network.linkLag[k]! < 0 || marked[to] === 1) continue
      // What stands where it is does not heed its links.
      if (standsWhereItIs(network, to)) continue
      marked[to] = 1
      open.push(to)
    }
  return marked
}

/** Times that any of some lists of spans has, joined. */
export const unionOf = (spans: readonly Int32Array[]): (readonly [number, number])[] => {
  if (spans.length === 1) return pairsOf(spans[0]!)
  const all = spans.flatMap(pairsOf).sort((a, b) => a[0] - b[0])
  const union: [number, number][] = []
  for (const [from, to] of all) {
    const last = union.at(-1)
    if (last && from <= last[1]) last[1] = Math.max(last[1], to)
    else union.push([from, to])
  }
  return union
}
const pairsOf = (spans: Int32Array): (readonly [number, number])[] =>
  Array.from({ length: spans.length / 2 }, (_, k) => [spans[2 * k]!, spans[2 * k + 1]!] as const)
