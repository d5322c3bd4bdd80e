/**
 * Finishes of activities by iteration, activity × iterations + iteration, in three bytes each: minutes from a base of the activity's own.
 * Most of the memory of a run is this; four bytes each would hold a quarter fewer iterations.
 */
export interface PackedFinishes {
  readonly iterations: number
  /** The earliest finish that can be held, by activity. */
  readonly base: Int32Array
  /** The lower two bytes, and the third. */
  readonly low: Uint16Array
  readonly high: Uint8Array
}

/** Bytes that a finish takes. */
export const BYTES_EACH = 3
const MOST = 2 ** 24 - 1
/** Some eight years: an activity may finish so much earlier than planned, and some 23 years later. */
const BEFORE_PLANNED = 2 ** 22

/** @param planned - finishes of the activities in the plan */
export const packedFinishes = (
  planned: Int32Array,
  iterations: number,
  memory: (bytes: number) => ArrayBufferLike,
): PackedFinishes => ({
  iterations,
  base: planned.map((at) => at - BEFORE_PLANNED),
  low: new Uint16Array(memory(2 * planned.length * iterations)),
  high: new Uint8Array(memory(planned.length * iterations)),
})

/**
 * Keeps finishes of an activity in iterations one behind the other.
 * @param from - where in `finish` they begin, and how many they are
 * @throws RangeError for one that is too far from its plan
 */
export const keepFinishes = (
  { iterations, base, low, high }: PackedFinishes,
  activity: number,
  first: number,
  finish: Int32Array,
  from: number,
  count: number,
): void => {
  const begin = base[activity]!
  const to = activity * iterations + first
  let all = 0
  for (let k = 0; k < count; k++) {
    const minutes = finish[from + k]! - begin
    all |= minutes
    low[to + k] = minutes
    high[to + k] = minutes >> 16
  }
  // Negative ones have the highest bit.
  if (all >>> 0 > MOST)
    throw new RangeError(
      'in an iteration an activity finishes more than 23 years later, or eight earlier, than planned; check its estimates, its spread and its calendar',
    )
}

/** Finishes of an activity by iteration, a copy. */
export const finishesOfActivity = (
  { iterations, base, low, high }: PackedFinishes,
  activity: number,
): Int32Array => {
  const finishes = new Int32Array(iterations)
  const begin = base[activity]!
  const from = activity * iterations
  for (let k = 0; k < iterations; k++) finishes[k] = begin + low[from + k]! + (high[from + k]! << 16)
  return finishes
}
