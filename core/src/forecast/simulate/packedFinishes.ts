import { ROW } from '../../schedule/kernelRows.ts'

/**
 * Finishes of activities by iteration, in three bytes each: minutes from a base of the activity's own. Most of the memory of a run is this;
 * four bytes each would hold a quarter fewer iterations. They lie as they are scheduled: in blocks of {@link ROW} iterations, and in a block
 * activity × ROW + column, so that a whole row of iterations is kept at once.
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
): PackedFinishes => {
  const finishes = packedNumbers(planned.length, iterations)
  return {
    iterations,
    base: planned.map((at) => at - BEFORE_PLANNED),
    low: new Uint16Array(memory(2 * finishes)),
    high: new Uint8Array(memory(finishes)),
  }
}

/** Finishes for which there is room: the last block is a whole one, too. */
export const packedNumbers = (activities: number, iterations: number): number =>
  activities * Math.ceil(iterations / ROW) * ROW

/** Where a finish lies. */
const placeOf = ({ base }: PackedFinishes, activity: number, iteration: number): number =>
  base.length * (iteration - (iteration % ROW)) + activity * ROW + (iteration % ROW)

/**
 * Keeps finishes of an activity in iterations one behind the other.
 * @param from - where in `finish` they begin, and how many they are
 * @throws RangeError for one that is too far from its plan
 */
export const keepFinishes = (
  packed: PackedFinishes,
  activity: number,
  first: number,
  finish: Int32Array,
  from: number,
  count: number,
): void => {
  const { base, low, high } = packed
  const begin = base[activity]!
  let all = 0
  for (let k = 0; k < count; k++) {
    const minutes = finish[from + k]! - begin
    const to = placeOf(packed, activity, first + k)
    all |= minutes
    low[to] = minutes
    high[to] = minutes >> 16
  }
  refuseBeyond(all)
}

/**
 * Keeps those of all activities in a block of iterations.
 * @param rows - as they lie in a block, with all their differences from the base in one word, bit by bit
 * @throws RangeError as {@link keepFinishes}
 */
export const keepBlock = ({ base, low, high }: PackedFinishes, first: number, rows: PackedRows): void => {
  refuseBeyond(rows.all)
  low.set(rows.low, base.length * first)
  high.set(rows.high, base.length * first)
}

export interface PackedRows {
  readonly low: Uint16Array
  readonly high: Uint8Array
  readonly all: number
}

/** Negative differences have the highest bit. */
const refuseBeyond = (all: number): void => {
  if (all >>> 0 > MOST)
    throw new RangeError(
      'in an iteration an activity finishes more than 23 years later, or eight earlier, than planned; check its estimates, its spread and its calendar',
    )
}

/** Finishes of an activity by iteration, a copy. */
export const finishesOfActivity = (packed: PackedFinishes, activity: number): Int32Array => {
  const { iterations, base, low, high } = packed
  const finishes = new Int32Array(iterations)
  const begin = base[activity]!
  for (let first = 0; first < iterations; first += ROW) {
    const from = placeOf(packed, activity, first)
    const width = Math.min(ROW, iterations - first)
    for (let k = 0; k < width; k++) finishes[first + k] = begin + low[from + k]! + (high[from + k]! << 16)
  }
  return finishes
}
