import { NONE } from '../../network/network.ts'
import type { Availability } from '../availability.ts'
import { GRAIN } from '../loadSteps.ts'

const FEW = 20

/**
 * What is free of a resource over time, while work is placed: a step function in two arrays that grow in place. Most work is placed
 * near the end, where little has to be moved.
 */
export class Profile {
  private readonly first: Availability
  private at: Int32Array
  private free: Float64Array
  private size = 0
  /** The steps at the beginning and the end of where work was found to fit last: it is taken there next. */
  private near = 0
  private nearEnd = 0

  /** @param most - how many uses there can be at once in the arrays before they grow */
  constructor(available: Availability, most: number) {
    this.first = available
    const room = available.from.length + 2 * most + 2
    this.at = new Int32Array(room)
    this.free = new Float64Array(room)
    this.reset()
  }

  reset(): void {
    const { from, amount } = this.first
    this.size = from.length
    for (let k = 0; k < from.length; k++) {
      this.at[k] = from[k]!
      this.free[k] = amount[k]!
    }
  }

  /** What is free now. */
  steps(): Availability {
    return { from: [...this.at.subarray(0, this.size)], amount: [...this.free.subarray(0, this.size)] }
  }

  /** Position of the step that holds at `t`. @param near - one that may be it */
  private stepAt(t: number, near = this.near): number {
    const { at } = this
    if (near < this.size && at[near]! <= t && t < this.endOf(near)) return near
    let low = 0
    let high = this.size - 1
    if (at[high]! <= t) return high
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (at[middle]! <= t) low = middle
      else high = middle - 1
    }
    return low
  }

  private endOf(k: number): number {
    return k + 1 < this.size ? this.at[k + 1]! : Infinity
  }

  /** Where the last step with a shortage in [from, to) begins and ends; the end is Infinity where it never does. @returns whether there is one */
  lastShortage(from: number, to: number, amount: number, found: Shortage): boolean {
    if (to <= from) return false
    const { at, free } = this
    const enough = amount - GRAIN
    const last = this.stepAt(to - 1)
    for (let k = last; k >= 0; k--) {
      if (free[k]! < enough) {
        found.from = Math.max(at[k]!, from)
        found.to = this.endOf(k)
        return true
      }
      if (at[k]! <= from) {
        this.near = k
        this.nearEnd = last
        return false
      }
    }
    return false
  }

  /** The first instant from `from` on at which there is too little; Infinity where there always is enough. */
  firstShortage(from: number, amount: number): number {
    for (let k = this.stepAt(from); k < this.size; k++)
      if (this.free[k]! < amount - GRAIN) return Math.max(from, this.at[k]!)
    return Infinity
  }

  /** The first instant from `from` on at which there is enough; Infinity where there never is. */
  firstEnough(from: number, amount: number): number {
    for (let k = this.stepAt(from); k < this.size; k++)
      if (this.free[k]! >= amount - GRAIN) return Math.max(from, this.at[k]!)
    return Infinity
  }

  /** Takes an amount for a time; a negative one gives it back. O(log steps + steps in the time and after it) */
  take(from: number, to: number, amount: number): void {
    if (to <= from || amount === 0) return
    const first = this.stepAt(from)
    const last = this.stepAt(to - 1, this.nearEnd)
    const isNewStart = this.at[first]! !== from
    const isNewEnd = last + 1 === this.size || this.at[last + 1]! !== to
    const made = (isNewStart ? 1 : 0) + (isNewEnd ? 1 : 0)
    if (this.size + made > this.at.length) this.grow()
    const { at, free } = this
    if (made > 0) this.moveUp(last + 1, made)
    if (isNewEnd) {
      at[last + made] = to
      free[last + made] = free[last]!
    }
    if (!isNewStart) {
      for (let k = first; k <= last; k++) free[k]! -= amount
      return
    }
    for (let k = last; k >= first; k--) {
      at[k + 1] = at[k]!
      free[k + 1] = free[k]! - amount
    }
    at[first + 1] = from
  }

  /** Makes room for steps. Few are moved one by one: asking for a block to be moved takes as long as moving some twenty. */
  private moveUp(k: number, by: number): void {
    const { at, free, size } = this
    this.size += by
    if (size - k > FEW) {
      at.copyWithin(k + by, k, size)
      free.copyWithin(k + by, k, size)
      return
    }
    for (let s = size - 1; s >= k; s--) {
      at[s + by] = at[s]!
      free[s + by] = free[s]!
    }
  }

  private grow(): void {
    const at = new Int32Array(this.at.length * 2)
    const free = new Float64Array(this.free.length * 2)
    at.set(this.at)
    free.set(this.free)
    this.at = at
    this.free = free
  }
}

/** Filled by {@link Profile.lastShortage}. */
export interface Shortage {
  from: number
  to: number
}
export const noShortage = (): Shortage => ({ from: NONE, to: NONE })

/** What there is, in the mirror of time: the step of the end becomes the first. */
export const mirrorAvailability = ({ from, amount }: Availability): Availability => {
  const mirroredFrom = [from[0]!]
  for (let k = from.length - 1; k > 0; k--) mirroredFrom.push(-from[k]!)
  return { from: mirroredFrom, amount: [...amount].reverse() }
}
