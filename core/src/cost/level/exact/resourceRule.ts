import type { Instant } from '../../../time/instant.ts'
import { NONE } from '../../../network/network.ts'
import { stepAt, type Availability } from '../../availability.ts'
import { GRAIN } from '../../loadSteps.ts'
import type { Bounds, Reason, SlowRule } from './bounds.ts'
import type { Timing } from './timing.ts'

/** Atoms that were found when they forced something. */
class Found implements Reason {
  private readonly atoms: readonly number[]
  constructor(atoms: readonly number[]) {
    this.atoms = atoms
  }
  because(_side: number, _value: number, atoms: number[]): void {
    for (const one of this.atoms) atoms.push(one)
  }
}

/**
 * What there is of a resource, against the minutes in which work is certain to hold it: none may start where it would not find enough.
 * @see Schutt, Feydy, Stuckey & Wallace 2011, "Explaining the cumulative propagator", Constraints 16(3)
 */
export class ResourceRule implements SlowRule {
  isDue = true
  private readonly bounds: Bounds
  private readonly timings: readonly Timing[]
  /** Of each variable that of its finish, which may be held open beyond its work; itself: it is not. */
  private readonly ends: ArrayLike<number>
  /** The most of it first. */
  private readonly members: readonly number[]
  private readonly amount: readonly number[]
  private readonly there: Availability
  /** Of each member: it starts from `soonest` to `latest`, and so finishes from `soonestEnd` to `latestEnd`. */
  private readonly soonest: Int32Array
  private readonly soonestEnd: Int32Array
  private readonly latest: Int32Array
  private readonly latestEnd: Int32Array
  /** When each is certain to hold it, as far as was known when the sweep began. */
  private readonly certainFrom: Int32Array
  private readonly certainTo: Int32Array
  /** Instants at which it may change how much is certain to be held or there is, in order. */
  private readonly edges: Float64Array

  constructor(
    bounds: Bounds,
    timings: readonly Timing[],
    ends: ArrayLike<number>,
    needs: readonly (readonly [number, number])[],
    there: Availability,
  ) {
    const most = [...needs].sort((a, b) => b[1] - a[1] || a[0] - b[0])
    this.bounds = bounds
    this.timings = timings
    this.ends = ends
    this.members = most.map(([v]) => v)
    this.amount = most.map(([, amount]) => amount)
    this.there = there
    this.soonest = new Int32Array(most.length)
    this.soonestEnd = new Int32Array(most.length)
    this.latest = new Int32Array(most.length)
    this.latestEnd = new Int32Array(most.length)
    this.certainFrom = new Int32Array(most.length)
    this.certainTo = new Int32Array(most.length)
    this.edges = new Float64Array(2 * most.length + there.from.length + 1)
  }

  conclude(): boolean {
    const { members, soonest, soonestEnd, latest, certainFrom, certainTo, edges, there, amount } = this
    let count = 0
    for (let m = 0; m < members.length; m++) {
      this.look(m)
      certainFrom[m] = latest[m]!
      certainTo[m] = soonestEnd[m]!
      if (certainFrom[m]! >= certainTo[m]!) continue
      edges[count++] = certainFrom[m]!
      edges[count++] = certainTo[m]!
    }
    for (const from of there.from) edges[count++] = from
    edges[count++] = Infinity
    edges.subarray(0, count).sort()
    for (let e = 0; e + 1 < count; e++) {
      const [from, to] = [edges[e]!, edges[e + 1]!]
      if (from === to) continue
      const capacity = this.there.amount[stepAt(this.there, from)]!
      let used = 0
      for (let m = 0; m < members.length; m++)
        if (certainFrom[m]! <= from && certainTo[m]! > from) used += amount[m]!
      if (used > capacity + GRAIN) return this.bounds.refuse(this.certainAt(from, -1, capacity))
      for (let m = 0; m < members.length && amount[m]! + used > capacity + GRAIN; m++) {
        // What is certain to be there is counted already.
        if (certainFrom[m]! <= from && certainTo[m]! > from) continue
        if (soonest[m]! < to && soonestEnd[m]! > from && !this.startsLater(m, from, to, capacity))
          return false
        if (latest[m]! < to && this.latestEnd[m]! > from && !this.endsSooner(m, from, to, capacity))
          return false
      }
    }
    return true
  }

  private look(m: number): void {
    const v = this.members[m]!
    const timing = this.timings[v]!
    const { bound } = this.bounds
    this.soonest[m] = timing.startAt(bound[2 * v]!)
    // What a rise makes of the finish may not have been drawn yet.
    this.soonestEnd[m] = Math.max(timing.finishAt(bound[2 * v]!), this.heldOpenTo(v))
    this.latest[m] = timing.startAt(-bound[2 * v + 1]!)
    this.latestEnd[m] = timing.finishAt(-bound[2 * v + 1]!)
  }

  /** Moves the earliest start of work behind a time in which others leave it too little. */
  private startsLater(m: number, from: Instant, to: Instant, capacity: number): boolean {
    const { bounds, soonest, soonestEnd } = this
    const v = this.members[m]!
    const timing = this.timings[v]!
    while (soonest[m]! < to && soonestEnd[m]! > from) {
      // Any minute that it holds in both will do: the last, which moves it farthest.
      const at = Math.min(to, soonestEnd[m]!) - 1
      const atoms = this.certainAt(at, m, capacity)
      this.notDoneAt(v, at, atoms)
      if (!bounds.raise(2 * v, timing.firstFrom(at + 1), new Found(atoms))) return false
      this.look(m)
    }
    return true
  }

  /** The same of its latest start. */
  private endsSooner(m: number, from: Instant, to: Instant, capacity: number): boolean {
    const { bounds, latest, latestEnd } = this
    const v = this.members[m]!
    const timing = this.timings[v]!
    while (latest[m]! < to && latestEnd[m]! > from) {
      const at = Math.max(from, latest[m]!)
      const atoms = this.certainAt(at, m, capacity)
      atoms.push(2 * v + 1, -timing.lastUntil(at))
      if (!bounds.raise(2 * v + 1, -timing.lastDoneBy(at), new Found(atoms))) return false
      this.look(m)
    }
    return true
  }

  /** As many of the members as it takes that are certain to hold it at an instant, beside one. */
  private certainAt(at: Instant, beside: number, capacity: number): number[] {
    const { members, amount, timings, certainFrom, certainTo } = this
    const atoms: number[] = []
    let left = capacity + GRAIN - (beside < 0 ? 0 : amount[beside]!)
    for (let m = 0; m < members.length && left >= 0; m++) {
      if (m === beside || certainFrom[m]! > at || certainTo[m]! <= at) continue
      const v = members[m]!
      left -= amount[m]!
      this.notDoneAt(v, at, atoms)
      atoms.push(2 * v + 1, -timings[v]!.lastUntil(at))
    }
    return atoms
  }

  private heldOpenTo(v: number): Instant {
    const end = this.ends[v]!
    return end === v ? NONE : this.bounds.bound[2 * end]!
  }

  private notDoneAt(v: number, at: Instant, atoms: number[]): void {
    if (this.heldOpenTo(v) > at) atoms.push(2 * this.ends[v]!, at + 1)
    else atoms.push(2 * v, this.timings[v]!.firstDoneFrom(at + 1))
  }
}
