import { UNLIMITED, type Network } from '../network/network.ts'
import { backwardStep, type Bounds, type LateDates } from './backwardPass.ts'
import { forwardStep, type EarlyDates } from './forwardPass.ts'

/** What a step that fails means; by default its error is thrown. @returns whether to go on without that activity */
type OnFailure = (activity: number, error: unknown) => boolean

/**
 * Schedules again from some activities on, in the order of the network, until nothing moves any more: what an edit, a nudge and the
 * question who shares a float all rest on. Holds its scratch, for many turns on one network.
 */
export class Propagation {
  private readonly network: Network
  /** Place of each activity in the order. */
  private readonly rank: Int32Array
  private readonly dirty: Uint8Array
  private readonly bounds: Bounds = { start: UNLIMITED, finish: UNLIMITED }

  constructor(network: Network) {
    const { order } = network
    this.network = network
    this.dirty = new Uint8Array(order.length)
    this.rank = new Int32Array(order.length)
    for (let at = 0; at < order.length; at++) this.rank[order[at]!] = at
  }

  /**
   * Moves early dates from the seeds on.
   * @param seeds - activities whose own facts or links have changed
   * @returns the activities computed again, in order, moved or not; null where they are more than `most`: where much of the network
   *   moves, going through all of it is quicker, and the dates are then to be thrown away
   */
  early(
    dates: EarlyDates,
    remaining: Int32Array,
    seeds: Iterable<number>,
    { most = Infinity, onFailure }: { most?: number; onFailure?: OnFailure } = {},
  ): number[] | null {
    const { network, rank, dirty } = this
    const { order, outStart, outLink, linkTo } = network
    const done: number[] = []
    let first = order.length
    let last = -1
    for (const i of seeds) {
      dirty[i] = 1
      if (rank[i]! < first) first = rank[i]!
      if (rank[i]! > last) last = rank[i]!
    }
    for (let at = first; at <= last; at++) {
      const i = order[at]!
      if (dirty[i] === 0) continue
      dirty[i] = 0
      if (done.push(i) > most) {
        dirty.fill(0)
        return null
      }
      const start = dates.start[i]
      const finish = dates.finish[i]
      const begin = dates.begin[i]
      try {
        forwardStep(network, remaining[i]!, dates, i)
      } catch (error) {
        if (!onFailure?.(i, error)) throw error
        continue
      }
      if (start === dates.start[i] && finish === dates.finish[i] && begin === dates.begin[i]) continue
      for (let o = outStart[i]!; o < outStart[i + 1]!; o++) {
        const to = linkTo[outLink[o]!]!
        dirty[to] = 1
        if (rank[to]! > last) last = rank[to]!
      }
    }
    return done
  }

  /** Moves late dates from the seeds back. @returns the activities computed again, moved or not */
  late(
    dates: LateDates,
    remaining: Int32Array,
    target: number,
    seeds: Iterable<number>,
    { onFailure }: { onFailure?: OnFailure } = {},
  ): number[] {
    const { network, rank, dirty, bounds } = this
    const { order, inStart, linkFrom } = network
    const done: number[] = []
    let first = -1
    let last = order.length
    for (const i of seeds) {
      dirty[i] = 1
      if (rank[i]! > first) first = rank[i]!
      if (rank[i]! < last) last = rank[i]!
    }
    for (let at = first; at >= last; at--) {
      const i = order[at]!
      if (dirty[i] === 0) continue
      dirty[i] = 0
      done.push(i)
      const startLimit = dates.startLimit[i]
      const finishLimit = dates.finishLimit[i]
      try {
        backwardStep(network, remaining[i]!, target, dates, i, bounds)
      } catch (error) {
        if (!onFailure?.(i, error)) throw error
        continue
      }
      if (startLimit === dates.startLimit[i] && finishLimit === dates.finishLimit[i]) continue
      for (let k = inStart[i]!; k < inStart[i + 1]!; k++) {
        const from = linkFrom[k]!
        dirty[from] = 1
        if (rank[from]! < last) last = rank[from]!
      }
    }
    return done
  }
}
