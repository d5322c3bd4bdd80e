import { finishRows, rowOf, WIDTH, wordAt } from './layout'

/** Of each activity what its finishes are told from; their lower two bytes, and the third, by activity and column. */
export let packedBase: usize = 0
export let packedLow: usize = 0
export let packedHigh: usize = 0

/**
 * Packs the finishes of the first activities in all columns (src/forecast/simulate/packedFinishes.ts says how they are kept).
 * @returns what is set in any of them, bit by bit
 */
export function packFinishes(activities: i32): i32 {
  let all: v128 = i32x4.splat(0)
  let low = packedLow
  let high = packedHigh
  for (let i = 0; i < activities; i++) {
    const base = i32x4.splat(wordAt(packedBase, i))
    const finish = rowOf(finishRows, i)
    for (let at: usize = 0; at < <usize>(WIDTH * 4); at += 64) {
      const a = i32x4.sub(v128.load(finish + at), base)
      const b = i32x4.sub(v128.load(finish + at, 16), base)
      const c = i32x4.sub(v128.load(finish + at, 32), base)
      const d = i32x4.sub(v128.load(finish + at, 48), base)
      all = v128.or(all, v128.or(v128.or(a, b), v128.or(c, d)))
      v128.store(low, lowHalves(a, b))
      v128.store(low, lowHalves(c, d), 16)
      v128.store(high, i8x16.narrow_i16x8_u(thirdBytes(a, b), thirdBytes(c, d)))
      low += 32
      high += 16
    }
  }
  all = v128.or(all, i8x16.shuffle(all, all, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7))
  return i32x4.extract_lane(all, 0) | i32x4.extract_lane(all, 1)
}

@inline function lowHalves(a: v128, b: v128): v128 {
  return i8x16.shuffle(a, b, 0, 1, 4, 5, 8, 9, 12, 13, 16, 17, 20, 21, 24, 25, 28, 29)
}
/** As halves; those of numbers that fit into three bytes. */
@inline function thirdBytes(a: v128, b: v128): v128 {
  return i16x8.narrow_i32x4_s(i32x4.shr_u(a, 16), i32x4.shr_u(b, 16))
}
