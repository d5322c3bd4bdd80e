import type { Calendar } from '../../time/calendar.ts'
import type { Instant } from '../../time/instant.ts'
import { addWork, nextWork, workBetween } from '../../time/arithmetic.ts'
import { Kind, limitsFinish, NONE, State, UNLIMITED, type Network } from '../../network/network.ts'
import {
  emptyEarlyDates,
  forwardPass,
  forwardStep,
  latestFinish,
  linkLimit,
  type EarlyDates,
} from '../../schedule/forwardPass.ts'
import type { Availability } from '../availability.ts'
import { noShortage, Profile } from './profile.ts'
import { heldFrom, standsWhereItIs } from './standing.ts'

/** What work needs, as arrays: the demands of activity i are first[i] … first[i+1]. */
export interface Demands {
  readonly first: Int32Array
  /** Position among the resources that there is a limit of. */
  readonly resource: Int32Array
  readonly amount: Float64Array
}

/** Why an activity waited: a resource, from when to when, and who had it. */
export interface Waiting {
  readonly resource: number
  readonly from: Instant
  readonly to: Instant
  readonly heldBy: readonly number[]
}
/** What stands in the way of levelling an activity. */
export type Unresolved = {
  readonly activity: number
  readonly resource: number
  readonly why: 'never-enough' | 'stands' | 'float-used'
}

/** A levelled plan, by position of the activity. */
export interface Placed {
  readonly dates: EarlyDates
  readonly finish: Instant
  /** The instant from which it could start, where it waited: that of the last resource it waited for. */
  readonly releasedAt: Int32Array
  readonly waited: ReadonlyMap<number, readonly Waiting[]>
  /** Parts of work that pauses. */
  readonly pieces: ReadonlyMap<number, readonly (readonly [Instant, Instant])[]>
  readonly unresolved: readonly Unresolved[]
  /** The order in which work was placed. */
  readonly placedAs: Int32Array
  /** Whether that is an order in which all that links lead to comes later. */
  readonly isInOrder: boolean
}

export interface PlacingOptions {
  /** Latest start of each activity where float must be kept; null: none. */
  readonly latestStart: Int32Array | null
  /** 1 for work that may pause; null: none may. */
  readonly mayPause: Uint8Array | null
  /** Working minutes of the shortest piece, by activity. */
  readonly shortestPiece: Int32Array
}

/** Each time that all are moved they only move earlier. */
const MOST_ROUNDS = 100

/** What levelling has to do with an activity. */
const Part = { Nothing: 0, Waits: 1, Stands: 2 } as const

/**
 * Serial schedule generation: one activity after the other, of those whose predecessors stand the one of the lowest rank, at the first
 * instant at which links, limits and calendar let it start and all it needs is free from its start to its finish. So nothing could start
 * a minute earlier with all the others left where they are. Work under way and overriding dates stand, and take what they take first.
 * @see Kelley 1963, "The critical-path method: resources planning and scheduling", for the serial scheme
 */
export class Placing {
  private readonly network: Network
  private readonly demands: Demands
  private readonly profiles: readonly Profile[]
  private readonly options: PlacingOptions
  private readonly dates: EarlyDates
  private readonly logic: EarlyDates
  private readonly waitsFor: Int32Array
  private readonly predecessors: Int32Array
  private readonly releasedAt: Int32Array
  private readonly placedAs: Int32Array
  private readonly part: Uint8Array
  private readonly fixed: readonly number[]
  private readonly heap: Int32Array
  private heapSize = 0
  private readonly shortage = noShortage()

  constructor(
    network: Network,
    demands: Demands,
    available: readonly Availability[],
    options: PlacingOptions,
  ) {
    const n = network.order.length
    this.network = network
    this.demands = demands
    this.options = options
    const uses = new Int32Array(available.length)
    for (const resource of demands.resource) uses[resource]!++
    this.profiles = available.map((steps, r) => new Profile(steps, uses[r]!))
    this.dates = emptyEarlyDates(n)
    this.logic = emptyEarlyDates(n)
    forwardPass(network, network.remaining, this.logic)
    this.waitsFor = new Int32Array(n)
    for (let i = 0; i < n; i++) this.waitsFor[i] = network.inStart[i + 1]! - network.inStart[i]!
    this.predecessors = new Int32Array(n)
    this.releasedAt = new Int32Array(n)
    this.placedAs = new Int32Array(n)
    this.heap = new Int32Array(n)
    this.part = Uint8Array.from(network.order, (_, i) =>
      !this.asksForAny(i) ? Part.Nothing : standsWhereItIs(network, i) ? Part.Stands : Part.Waits,
    )
    this.fixed = [...this.part.keys()].filter((i) => this.part[i] === Part.Stands)
  }

  private asksForAny(i: number): boolean {
    return (
      this.demands.first[i + 1]! > this.demands.first[i]! &&
      this.network.remaining[i]! > 0 &&
      this.network.kind[i] === Kind.Work &&
      this.network.state[i] !== State.Finished
    )
  }

  private hold(i: number, from: Instant, to: Instant, sign: 1 | -1): void {
    const { first, resource, amount } = this.demands
    for (let d = first[i]!; d < first[i + 1]!; d++)
      this.profiles[resource[d]!]!.take(from, to, sign * amount[d]!)
  }

  /**
   * @param rank - of each activity, lower first, all different
   * @param byRank - the activity of each rank
   * @param explains - whether to say who was waited for
   * @returns views of arrays that the next run overwrites
   */
  run(rank: Int32Array, byRank: Int32Array, explains: boolean): Placed {
    const { network, dates, profiles } = this
    const { outStart, outLink, linkTo, kind } = network
    const n = rank.length
    for (const profile of profiles) profile.reset()
    this.releasedAt.fill(NONE)
    this.placedAs.fill(-1)
    this.predecessors.set(this.waitsFor)
    const waited = new Map<number, Waiting[]>()
    const pieces = new Map<number, (readonly [Instant, Instant])[]>()
    const unresolved: Unresolved[] = []
    for (const i of this.fixed) this.hold(i, heldFrom(this.network, this.logic, i), this.logic.finish[i]!, 1)
    this.heapSize = 0
    for (let i = 0; i < n; i++)
      if (this.predecessors[i] === 0 && kind[i] !== Kind.Hammock) this.push(rank[i]!)
    for (let count = 0; this.heapSize > 0; count++) {
      const i = byRank[this.pop()]!
      const part = this.part[i]
      if (part === Part.Nothing) forwardStep(network, network.remaining[i]!, dates, i)
      else if (part === Part.Stands) this.placeStanding(i, unresolved)
      else this.placeFree(i, waited, pieces, unresolved, explains)
      this.placedAs[i] = count
      for (let o = outStart[i]!; o < outStart[i + 1]!; o++) {
        const next = linkTo[outLink[o]!]!
        if (--this.predecessors[next]! === 0) this.push(rank[next]!)
      }
    }
    return this.placed(waited, pieces, unresolved, true)
  }

  private placed(
    waited: Placed['waited'],
    pieces: Placed['pieces'],
    unresolved: Placed['unresolved'],
    isInOrder: boolean,
  ): Placed {
    const { network, dates, releasedAt, placedAs } = this
    return {
      dates,
      finish: latestFinish(network, dates),
      releasedAt,
      waited,
      pieces,
      unresolved,
      placedAs,
      isInOrder,
    }
  }

  /**
   * Where a plan is given that keeps every link and has enough of everything: each activity in turn as early as it can be with all the
   * others left where they are, until none moves.
   * @param start - of each activity, by position
   * @param byRank - activities in the order of these starts
   * Work that may pause is placed whole or not at all, so that plans with any are not for this.
   * @returns null where the starts are not such a plan, or work that stands would move; else as {@link run}, explained
   */
  settle(start: ArrayLike<number>, byRank: Int32Array): Placed | null {
    const { network, dates, part } = this
    if (!this.standAt(start)) return null
    byRank.forEach((i, at) => (this.placedAs[i] = at))
    for (let round = 0; round < MOST_ROUNDS; round++) {
      this.releasedAt.fill(NONE)
      const waited = new Map<number, Waiting[]>()
      const pieces = new Map<number, (readonly [Instant, Instant])[]>()
      const unresolved: Unresolved[] = []
      let isMoved = false
      for (const i of byRank) {
        if (network.kind[i] === Kind.Hammock) continue
        const [begin, finish] = [dates.begin[i]!, dates.finish[i]!]
        if (part[i] === Part.Waits) {
          this.hold(i, begin, finish, -1)
          this.placeFree(i, waited, pieces, unresolved, true)
        } else forwardStep(network, network.remaining[i]!, dates, i)
        if (dates.begin[i] === begin && dates.finish[i] === finish) continue
        // Others were placed around where it stood.
        if (part[i] === Part.Stands) return null
        isMoved = true
      }
      if (!isMoved) return this.placed(waited, pieces, unresolved, false)
    }
    return null
  }

  /** Puts everything at given starts. @returns whether links and resources let it stand there */
  private standAt(start: ArrayLike<number>): boolean {
    const { network, dates, part } = this
    const { startFloor } = network
    for (const profile of this.profiles) profile.reset()
    for (const i of network.order) {
      if (network.kind[i] === Kind.Hammock) continue
      const floor = startFloor[i]!
      startFloor[i] = Math.max(floor, start[i]!)
      forwardStep(network, network.remaining[i]!, dates, i)
      startFloor[i] = floor
      if (part[i] === Part.Nothing) continue
      const from = heldFrom(network, dates, i)
      if (this.shortOf(i, from, dates.finish[i]!) >= 0) return false
      this.hold(i, from, dates.finish[i]!, 1)
    }
    return true
  }

  private placeStanding(i: number, unresolved: Unresolved[]): void {
    const { network, dates, logic } = this
    forwardStep(network, network.remaining[i]!, dates, i)
    // Its links may have brought it to another place than the one it was held at.
    this.hold(i, heldFrom(this.network, logic, i), logic.finish[i]!, -1)
    const from = heldFrom(this.network, dates, i)
    const short = this.shortOf(i, from, dates.finish[i]!)
    if (short >= 0) unresolved.push({ activity: i, resource: short, why: 'stands' })
    this.hold(i, from, dates.finish[i]!, 1)
  }

  /** The first resource that there is too little of for an activity in [from, to); -1 where there is enough of all. */
  private shortOf(i: number, from: Instant, to: Instant): number {
    const { first, resource, amount } = this.demands
    for (let d = first[i]!; d < first[i + 1]!; d++)
      if (this.profiles[resource[d]!]!.lastShortage(from, to, amount[d]!, this.shortage)) return resource[d]!
    return -1
  }

  private placeFree(
    i: number,
    waited: Map<number, Waiting[]>,
    pieces: Map<number, (readonly [Instant, Instant])[]>,
    unresolved: Unresolved[],
    explains: boolean,
  ): void {
    const { network, dates, demands, options } = this
    const { startFloor } = network
    const remaining = network.remaining[i]!
    const floor = startFloor[i]!
    const latest = options.latestStart === null ? UNLIMITED : options.latestStart[i]!
    const waits: Waiting[] = []
    forwardStep(network, remaining, dates, i)
    const byLogic = dates.begin[i]!
    if (options.mayPause?.[i] === 1 && this.placeInPieces(i, latest, pieces, waits, explains)) {
      if (waits.length > 0) waited.set(i, waits)
      return
    }
    for (;;) {
      const [begin, finish] = [dates.begin[i]!, dates.finish[i]!]
      let [freeAt, from, short] = [NONE, NONE, -1]
      for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++) {
        const r = demands.resource[d]!
        if (!this.profiles[r]!.lastShortage(begin, finish, demands.amount[d]!, this.shortage)) continue
        if (this.shortage.to <= freeAt) continue
        freeAt = this.shortage.to
        from = this.shortage.from
        short = r
      }
      if (short < 0) break
      const isOver = freeAt === Infinity || freeAt > latest
      if (!isOver) {
        startFloor[i] = freeAt
        forwardStep(network, remaining, dates, i)
      }
      if (isOver || dates.begin[i]! > latest) {
        // Placed by its links and limits alone, and said.
        startFloor[i] = floor
        forwardStep(network, remaining, dates, i)
        unresolved.push({
          activity: i,
          resource: short,
          why: freeAt === Infinity ? 'never-enough' : 'float-used',
        })
        this.releasedAt[i] = NONE
        waits.length = 0
        break
      }
      this.releasedAt[i] = freeAt
      if (explains)
        waits.push({
          resource: short,
          from: Math.max(byLogic, Math.min(begin, from)),
          to: freeAt,
          heldBy: this.holdersOf(short, from, freeAt),
        })
    }
    startFloor[i] = floor
    this.hold(i, dates.begin[i]!, dates.finish[i]!, 1)
    if (waits.length > 0) waited.set(i, joined(waits))
  }

  /**
   * Puts work that may pause wherever it is free for a day or for what is left. A finish that is held by another has no pieces.
   * @returns false where it has to be placed whole
   */
  private placeInPieces(
    i: number,
    latest: number,
    pieces: Map<number, (readonly [Instant, Instant])[]>,
    waits: Waiting[],
    explains: boolean,
  ): boolean {
    const { network, dates, demands, options } = this
    const calendar: Calendar = network.calendar[i]!
    let left = network.remaining[i]!
    if (dates.finish[i] !== addWork(calendar, dates.begin[i]!, left) || this.isHeldByFinish(i)) return false
    const shortest = options.shortestPiece[i]!
    const found: (readonly [Instant, Instant])[] = []
    let at = dates.begin[i]!
    /** A free time was too short for a piece: what ends it is what is waited for, also where it lies in a night. */
    let isTooShort = false
    while (left > 0) {
      if (!isTooShort) at = nextWork(calendar, at)
      let until = Infinity
      let [enoughAt, short] = [at, -1]
      for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++) {
        const profile = this.profiles[demands.resource[d]!]!
        const enough = profile.firstEnough(at, demands.amount[d]!)
        if (enough > enoughAt) {
          enoughAt = enough
          short = demands.resource[d]!
        }
        until = Math.min(until, profile.firstShortage(at, demands.amount[d]!))
      }
      if (enoughAt === Infinity || (found.length === 0 && enoughAt > latest)) return false
      if (short >= 0) {
        if (explains)
          waits.push({ resource: short, from: at, to: enoughAt, heldBy: this.holdersOf(short, at, enoughAt) })
        if (found.length === 0) this.releasedAt[i] = enoughAt
        at = enoughAt
        isTooShort = false
        continue
      }
      const free = until === Infinity ? left : workBetween(calendar, at, until)
      const worked = Math.min(left, free)
      isTooShort = worked < left && worked < shortest
      if (!isTooShort) {
        found.push([at, addWork(calendar, at, worked)])
        left -= worked
      }
      at = until
    }
    // What is kept to its float keeps its finish too: pieces that end too late are no way out.
    if (latest !== UNLIMITED && found.at(-1)![1] > addWork(calendar, latest, network.remaining[i]!)) {
      this.releasedAt[i] = NONE
      waits.length = 0
      return false
    }
    for (const [from, to] of found) this.hold(i, from, to, 1)
    dates.start[i] = dates.begin[i] = found[0]![0]
    dates.finish[i] = found.at(-1)![1]
    dates.beginCount[i] = calendar.countBefore(dates.finish[i]) - network.remaining[i]!
    if (found.length > 1) pieces.set(i, found)
    return true
  }

  /** Whether a limit or link of its finish decides where the activity stands: its start would move with every pause. */
  private isHeldByFinish(i: number): boolean {
    const { network, dates } = this
    if (network.finishFloor[i] !== NONE) return true
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
      if (!limitsFinish(network.linkCode[k]!)) continue
      const limit = linkLimit(network, dates, k)
      if (network.calendar[i]!.countBefore(limit) - network.remaining[i]! >= dates.beginCount[i]!) return true
    }
    return false
  }

  /** Who holds a resource in [from, to), of those that stand already. */
  private holdersOf(r: number, from: Instant, to: Instant): number[] {
    const { first, resource } = this.demands
    const found: number[] = []
    for (let j = 0; j + 1 < first.length; j++) {
      if (this.part[j] === Part.Nothing) continue
      const isPlaced = this.placedAs[j]! >= 0
      if (!isPlaced && this.part[j] !== Part.Stands) continue
      const dates = isPlaced ? this.dates : this.logic
      if (!(heldFrom(this.network, dates, j) < to && dates.finish[j]! > from)) continue
      for (let d = first[j]!; d < first[j + 1]!; d++)
        if (resource[d] === r) {
          found.push(j)
          break
        }
    }
    return found
  }

  private push(rank: number): void {
    const { heap } = this
    let k = this.heapSize++
    while (k > 0) {
      const up = (k - 1) >> 1
      if (heap[up]! <= rank) break
      heap[k] = heap[up]!
      k = up
    }
    heap[k] = rank
  }

  private pop(): number {
    const { heap } = this
    const top = heap[0]!
    const last = heap[--this.heapSize]!
    let k = 0
    for (;;) {
      let down = 2 * k + 1
      if (down >= this.heapSize) break
      if (down + 1 < this.heapSize && heap[down + 1]! < heap[down]!) down++
      if (heap[down]! >= last) break
      heap[k] = heap[down]!
      k = down
    }
    heap[k] = last
    return top
  }
}

/** Waits for one resource in a row as one. */
const joined = (waits: readonly Waiting[]): Waiting[] => {
  const out: Waiting[] = []
  for (const wait of waits) {
    const last = out.at(-1)
    if (last && last.resource === wait.resource)
      out[out.length - 1] = {
        resource: last.resource,
        from: Math.min(last.from, wait.from),
        to: wait.to,
        heldBy: [...new Set([...last.heldBy, ...wait.heldBy])].sort((a, b) => a - b),
      }
    else out.push(wait)
  }
  return out
}
