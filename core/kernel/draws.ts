/** Stratified draws, four at a time (src/forecast/random/draws.ts is what they must agree with, to the bit). */

/** Where a row of numbers of 64 bits is left. */
export let drawRow: usize = 0
/** Keys of the rounds of the permutation: four that are added, four that are multiplied. */
export let roundKeys: usize = 0

@inline function mix(h: v128): v128 {
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(0x85ebca6b))
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(0xc2b2ae35))
  return v128.xor(h, i32x4.shr_u(h, 16))
}

/** One pass of the permutation over the numbers below a power of two, for two vectors: each waits while the other is multiplied. */
let first4: v128 = i32x4.splat(0)
let next4: v128 = i32x4.splat(0)
@inline function permute(mask: v128, far: i32, near: i32): void {
  let i = first4
  let j = next4
  const step = i32x4.splat(0xa3d89a5b)
  for (let round: usize = 0; round < 16; round += 4) {
    const add = v128.load32_splat(roundKeys + round)
    const multiply = v128.load32_splat(roundKeys + round, 16)
    i = v128.and(i32x4.mul(v128.and(i32x4.add(i, add), mask), multiply), mask)
    j = v128.and(i32x4.mul(v128.and(i32x4.add(j, add), mask), multiply), mask)
    i = v128.xor(i, i32x4.shr_u(i, far))
    j = v128.xor(j, i32x4.shr_u(j, far))
    i = v128.and(i32x4.mul(i, step), mask)
    j = v128.and(i32x4.mul(j, step), mask)
    i = v128.xor(i, i32x4.shr_u(i, near))
    j = v128.xor(j, i32x4.shr_u(j, near))
  }
  first4 = v128.and(i, mask)
  next4 = v128.and(j, mask)
}

/**
 * Draws of iterations `first` … `first + width − 1` of a batch of n, as numbers in (0, 1).
 * @param from - the first one's place in its batch
 * @param mask - one less than the power of two that n is below; far, near - shifts of the permutation
 * @param jitter - key of where in its stratum each lies
 */
export function stratified(
  first: i32,
  from: i32,
  width: i32,
  n: i32,
  mask: i32,
  far: i32,
  near: i32,
  jitter: i32,
): void {
  const all = i32x4.splat(mask)
  const size = i32x4.splat(n)
  const steps = i32x4(0, 1, 2, 3)
  // Beyond the last one nothing is asked: an index that is none would never come home.
  const last = i32x4.splat(n - 1)
  for (let k = 0; k < width; k += 8) {
    first4 = i32x4.min_s(i32x4.add(i32x4.splat(from + k), steps), last)
    next4 = i32x4.min_s(i32x4.add(i32x4.splat(from + k + 4), steps), last)
    permute(all, far, near)
    for (;;) {
      const i = first4
      const j = next4
      const outside = i32x4.ge_s(i, size)
      const nextOutside = i32x4.ge_s(j, size)
      if (!v128.any_true(v128.or(outside, nextOutside))) break
      permute(all, far, near)
      first4 = v128.bitselect(first4, i, outside)
      next4 = v128.bitselect(next4, j, nextOutside)
    }
    const into = drawRow + ((<usize>k) << 3)
    const iteration = i32x4.add(i32x4.splat(first + k), steps)
    scatter(into, first4, iteration, jitter, n)
    scatter(into + 32, next4, i32x4.add(iteration, i32x4.splat(4)), jitter, n)
  }
}

/** Four draws, each at its place in its stratum. */
@inline function scatter(into: usize, strata: v128, iteration: v128, jitter: i32, n: i32): void {
  const word = mix(v128.xor(mix(i32x4.add(iteration, i32x4.splat(0x9e3779b9))), i32x4.splat(jitter)))
  const all = f64x2.splat(<f64>n)
  v128.store(into, f64x2.div(f64x2.add(f64x2.convert_low_i32x4_s(strata), uniform(word)), all))
  const high = f64x2.convert_low_i32x4_s(upper(strata))
  v128.store(into, f64x2.div(f64x2.add(high, uniform(upper(word))), all), 16)
}

@inline function upper(four: v128): v128 {
  return i8x16.shuffle(four, four, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7)
}

/** (word + 0.5) / 2³²: multiplied by a power of two, which is exact. */
@inline function uniform(word: v128): v128 {
  return f64x2.mul(f64x2.add(f64x2.convert_low_i32x4_u(word), f64x2.splat(0.5)), f64x2.splat(2.3283064365386963e-10))
}

/** Where the table of a shape lies (src/forecast/random/betaQuantile.ts): u and value of each point in turn, and which to look at first. */
export let shapePoints: usize = 0
export let shapeGuide: usize = 0
const CELLS: f64 = 1024

/** The value of the shape at u in (0, 1). */
@inline function shapeAt(u: f64): f64 {
  let point = shapePoints + ((<usize>load<u16>(shapeGuide + ((<usize>(<i32>(u * CELLS))) << 1))) << 3)
  while (load<f64>(point, 16) <= u) point += 16
  const from = load<f64>(point)
  const value = load<f64>(point, 8)
  return value + ((load<f64>(point, 24) - value) * (u - from)) / (load<f64>(point, 16) - from)
}

/** In place of each number of the row of draws, all of them in (0, 1): low + span × the value of the shape there. */
export function readShape(width: i32, low: f64, span: f64): void {
  for (let at = drawRow; at < drawRow + ((<usize>width) << 3); at += 8)
    store<f64>(at, low + span * shapeAt(load<f64>(at)))
}

/** The same times a share, not below 0, to the nearest whole number; halves go up, as Math.round does. */
export function readMinutes(width: i32, low: f64, span: f64, share: f64): void {
  for (let at = drawRow; at < drawRow + ((<usize>width) << 3); at += 8) {
    const value = max<f64>(0, (low + span * shapeAt(load<f64>(at))) * share)
    const above = ceil<f64>(value)
    store<f64>(at, above - <f64>(above - 0.5 > value))
  }
}
