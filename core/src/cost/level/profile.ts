import { NONE } from '../../network/network.ts'
import type { Availability } from '../availability.ts'

/** Sums of fractions: what differs by less is equal. */
const GRAIN = 1e-6
const FEW = 40

/**
 * What is free of a resource over time, while work is placed: a step function in two arrays that grow in place. Most work is placed
 * near the end, where little has to be moved.
 */
export class Profile {
  private readonly first: Availability
  private at: Int32Array
  private free: Float64Array
  private size = 0

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

  /** Position of the step that holds at `t`. */
  private stepAt(t: number): number {
    const { at } = this
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

  /** Where the last shortage in [from, to) begins and ends; the end is Infinity where it never does. @returns whether there is one */
  lastShortage(from: number, to: number, amount: number, found: Shortage): boolean {
    if (to <= from) return false
    for (let k = this.stepAt(to - 1); k >= 0; k--) {
      if (this.free[k]! < amount - GRAIN) {
        found.from = Math.max(this.at[k]!, from)
        found.to = this.endOf(k)
        return true
      }
      if (this.at[k]! <= from) return false
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

  /** Takes an amount for a time; a negative one gives it back. */
  take(from: number, to: number, amount: number): void {
    if (to <= from || amount === 0) return
    const last = this.cutAt(to)
    const first = this.cutAt(from)
    const moved = first.isNew ? 1 : 0
    for (let k = first.at; k < last.at + moved; k++) this.free[k]! -= amount
  }

  /** Makes a step begin at `t`. @returns its position, and whether it was made */
  private cutAt(t: number): { at: number; isNew: boolean } {
    const k = this.stepAt(t)
    if (this.at[k] === t) return { at: k, isNew: false }
    if (this.size === this.at.length) this.grow()
    this.moveUp(k + 1)
    this.at[k + 1] = t
    this.free[k + 1] = this.free[k]!
    this.size++
    return { at: k + 1, isNew: true }
  }

  /** Makes room for a step. Few are moved one by one: asking for a block to be moved takes as long as moving some forty. */
  private moveUp(k: number): void {
    const { at, free, size } = this
    if (size - k > FEW) {
      at.copyWithin(k + 1, k, size)
      free.copyWithin(k + 1, k, size)
      return
    }
    for (let s = size; s > k; s--) {
      at[s] = at[s - 1]!
      free[s] = free[s - 1]!
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
