import { Kind, State, type Network } from '../network/network.ts'
import type { Floats } from './floats.ts'
import type { EarlyDates } from './forwardPass.ts'

/** Where activities stand: mostly at their early dates, but for those placed late, and for plans scheduled backward. */

/**
 * Moves what is placed late as far as its floats allow, once from the early dates; floats are those before the move.
 * @param start - the early dates; those of moved activities are changed
 */
export const placeLate = (
  network: Network,
  remaining: Int32Array,
  early: EarlyDates,
  float: Floats,
  start: Int32Array,
  finish: Int32Array,
): void => {
  const { kind, state, placedLate } = network
  for (let i = 0; i < placedLate.length; i++) {
    if (placedLate[i] === 0 || kind[i] === Kind.Hammock || state[i] === State.Finished) continue
    const shift = lateShiftOf(float, i)
    if (shift === 0) continue
    const calendar = network.calendar[i]!
    const count = calendar.countBefore(early.begin[i]!) + shift
    const begin =
      remaining[i] === 0 && kind[i] === Kind.AtFinish
        ? calendar.minuteAt(count - 1) + 1
        : calendar.minuteAt(count)
    if (state[i] === State.NotStarted) start[i] = begin
    finish[i] = remaining[i] === 0 ? begin : calendar.minuteAt(count + remaining[i]! - 1) + 1
  }
}

/** Working minutes by which an activity that is placed late stands later than it could. */
export const lateShiftOf = (float: Floats, i: number): number =>
  Math.max(0, Math.min(float.free[i]!, float.total[i]!))

/**
 * Turns the early dates of the mirror into the dates of a plan scheduled backward.
 * @param mirrored - early dates in the mirror of time
 * @param start - filled, but for hammocks
 */
export const placeBackward = (
  network: Network,
  mirrored: EarlyDates,
  start: Int32Array,
  finish: Int32Array,
): void => {
  const { kind, state } = network
  for (let i = 0; i < start.length; i++) {
    if (kind[i] === Kind.Hammock) continue
    start[i] = state[i] === State.NotStarted ? -mirrored.finish[i]! : network.actualStart[i]!
    finish[i] = -mirrored.start[i]!
  }
}
