import type { Instant } from '../time/instant.ts'
import type { Availability } from './availability.ts'
import { GRAIN, type Steps } from './loadSteps.ts'

/** A longest time in which more is asked for than there is, joined over the breaks in which none of the activities works. */
export interface Overload {
  readonly from: Instant
  readonly to: Instant
  /** Where the excess is largest. */
  readonly load: number
  readonly available: number
  /** Minutes in which too much is asked for, and the excess in them: units × minutes. */
  readonly minutes: number
  readonly excess: number
}
/**
 * Walks load and availability together.
 * @param askBusy - where the resource has hours of its own: what is asked for at any hour, which is asked once there is an overload
 */
export const overloadsOf = (
  { from, load }: Pick<Steps, 'from' | 'load'>,
  availability: Availability,
  askBusy: (() => Pick<Steps, 'from' | 'load'>) | null,
): Overload[] => {
  const found: Overload[] = []
  let busy: Pick<Steps, 'from' | 'load'> | null = null
  const isBusy = (start: Instant, end: Instant): boolean =>
    askBusy !== null && isBusyBetween((busy ??= askBusy()), start, end)
  // The overload that is open, in parts: as an object, it would be written to with every step.
  let isOpen = false
  let [first, last, most, there, minutes, units] = [0, 0, 0, 0, 0, 0]
  /** The step in which it was last. */
  let lastStep = 0
  const { from: changes, amount } = availability
  const least = Math.min(...amount)
  let step = 0
  let [available, change] = [amount[0]!, changes[1] ?? Infinity]
  const steps = from.length
  for (let k = 0; k < steps; k++) {
    const asked = load[k]!
    if (asked <= least) continue
    const begin = from[k]!
    const end = k + 1 < steps ? from[k + 1]! : begin
    for (let t = begin; t < end;) {
      for (; change <= t; change = changes[step + 1] ?? Infinity) available = amount[++step]!
      const until = change < end ? change : end
      const excess = asked - available
      if (excess > GRAIN) {
        const isRest = t === begin && last === from[lastStep + 1] && areAtRest(load, lastStep + 1, k)
        if (isOpen && (t === last || (isRest && !isBusy(last, t)))) {
          if (excess > most - there + GRAIN) {
            most = asked
            there = available
          }
          minutes += until - t
          units += excess * (until - t)
        } else {
          if (isOpen) found.push(overload(first, last, most, there, minutes, units))
          isOpen = true
          first = t
          most = asked
          there = available
          minutes = until - t
          units = excess * minutes
        }
        last = until
        lastStep = k
      }
      t = until
    }
  }
  if (isOpen) found.push(overload(first, last, most, there, minutes, units))
  return found
}

/** Whether nothing is asked for in steps from one on and before another. */
const areAtRest = (load: Float64Array, step: number, end: number): boolean => {
  for (let s = step; s < end; s++) if (load[s]! > GRAIN) return false
  return true
}

const overload = (
  from: Instant,
  to: Instant,
  load: number,
  available: number,
  minutes: number,
  excess: number,
): Overload => ({ from, to, load, available, minutes, excess })

/** Whether a step function is above 0 anywhere in [start, end). */
const isBusyBetween = (
  { from, load }: Pick<Steps, 'from' | 'load'>,
  start: Instant,
  end: Instant,
): boolean => {
  if (end <= start) return false
  let [low, high] = [0, from.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (from[middle]! <= start) low = middle
    else high = middle - 1
  }
  for (let k = low; k < from.length && from[k]! < end; k++)
    if (load[k]! > GRAIN && (from[k + 1] ?? Infinity) > start) return true
  return false
}
