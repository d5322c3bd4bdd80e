/** Draws, four and eight at a time (src/forecast/random/draws.ts is what they must agree with, to the bit). */

/** Where a row of numbers of 64 bits is left. */
export let drawRow: usize = 0
/** Keys of the rounds of the permutation: four that are added, four that are multiplied. */
export let roundKeys: usize = 0

@inline function mix(h: v128): v128 {
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 16)), i32x4.splat(0x85ebca6b))
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(0xc2b2ae35))
  return v128.xor(h, i32x4.shr_u(h, 16))
}

function mixOne(h: i32): i32 {
  h = (h ^ (h >>> 16)) * 0x85ebca6b
  h = (h ^ (h >>> 13)) * 0xc2b2ae35
  return h ^ (h >>> 16)
}
function setRounds(key: i32): void {
  for (let round = 0; round < 4; round++) {
    const add = mixOne(key + (round + 1) * 0x9e3779b9)
    const at = roundKeys + ((<usize>round) << 2)
    store<i32>(at, add)
    store<i32>(at, (add >>> 7) | 1, 16)
  }
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

/** Rows with room for eight more: of 32 bits, the strata of draws and the hashes of iterations; of 16 bits, places that are still open. */
export let strataRow: usize = 0
export let hashRow: usize = 0
export let openRow: usize = 0
/** Place in a row that is nobody's. */
const NOBODY: u16 = 1024

/** Lists a place as open if the lowest bit says so. @returns how many are listed then */
@inline function list(open: usize, place: i32, bit: i32): usize {
  store<u16>(openRow + (open << 1), <u16>place)
  return open + <usize>(bit & 1)
}

/** Which of the eight numbers in hand are n or more, as bits. */
@inline function outside(n: v128): i32 {
  return i32x4.bitmask(i32x4.ge_s(first4, n)) | (i32x4.bitmask(i32x4.ge_s(next4, n)) << 4)
}

@inline function stratumAt(open: usize): usize {
  return strataRow + ((<usize>load<u16>(open)) << 2)
}
@inline function gather(open: usize): v128 {
  let four = v128.load32_zero(stratumAt(open))
  four = v128.load_lane<u32>(stratumAt(open + 2), four, 1)
  four = v128.load_lane<u32>(stratumAt(open + 4), four, 2)
  return v128.load_lane<u32>(stratumAt(open + 6), four, 3)
}
@inline function scatter(open: usize, four: v128): void {
  v128.store_lane<u32>(stratumAt(open), four, 0)
  v128.store_lane<u32>(stratumAt(open + 2), four, 1)
  v128.store_lane<u32>(stratumAt(open + 4), four, 2)
  v128.store_lane<u32>(stratumAt(open + 6), four, 3)
}

/**
 * Where the places from … from + width − 1 of a batch of n go, into the row of strata. Those that come out at n or beyond go on among
 * themselves, so that no draw waits for its neighbours.
 * @param mask - one less than the power of two that n is below; far, near - shifts of the permutation
 */
function findStrata(from: i32, width: i32, key: i32, n: i32, mask: i32, far: i32, near: i32): void {
  const all = i32x4.splat(mask)
  const size = i32x4.splat(n)
  const steps = i32x4(0, 1, 2, 3)
  // Beyond the last one nothing is asked: a place that is none would never come home.
  const last = i32x4.splat(n - 1)
  setRounds(key)
  let open: usize = 0
  for (let k = 0; k < width; k += 8) {
    first4 = i32x4.min_s(i32x4.add(i32x4.splat(from + k), steps), last)
    next4 = i32x4.min_s(i32x4.add(i32x4.splat(from + k + 4), steps), last)
    permute(all, far, near)
    const into = strataRow + ((<usize>k) << 2)
    v128.store(into, first4)
    v128.store(into, next4, 16)
    const bits = outside(size)
    open = list(open, k, bits)
    open = list(open, k + 1, bits >> 1)
    open = list(open, k + 2, bits >> 2)
    open = list(open, k + 3, bits >> 3)
    open = list(open, k + 4, bits >> 4)
    open = list(open, k + 5, bits >> 5)
    open = list(open, k + 6, bits >> 6)
    open = list(open, k + 7, bits >> 7)
  }
  while (open > 0) {
    const end = openRow + (open << 1)
    v128.store(end, i16x8.splat(NOBODY))
    open = 0
    for (let at = openRow; at < end; at += 16) {
      first4 = gather(at)
      next4 = gather(at + 8)
      permute(all, far, near)
      scatter(at, first4)
      scatter(at + 8, next4)
      const left = (end - at) >> 1
      const bits = left < 8 ? outside(size) & ((1 << <i32>left) - 1) : outside(size)
      const places = v128.load(at)
      open = list(open, i16x8.extract_lane_u(places, 0), bits)
      open = list(open, i16x8.extract_lane_u(places, 1), bits >> 1)
      open = list(open, i16x8.extract_lane_u(places, 2), bits >> 2)
      open = list(open, i16x8.extract_lane_u(places, 3), bits >> 3)
      open = list(open, i16x8.extract_lane_u(places, 4), bits >> 4)
      open = list(open, i16x8.extract_lane_u(places, 5), bits >> 5)
      open = list(open, i16x8.extract_lane_u(places, 6), bits >> 6)
      open = list(open, i16x8.extract_lane_u(places, 7), bits >> 7)
    }
  }
}

/** Iterations whose hashes stand in their row: all draws of them go by the same. */
let hashedFrom: i32 = 0
let hashed: i32 = 0
function hashIterations(first: i32, width: i32): void {
  if (first == hashedFrom && width <= hashed) return
  const ids = i32x4.add(i32x4(0, 1, 2, 3), i32x4.splat(0x9e3779b9))
  for (let k = 0; k < width; k += 4)
    v128.store(hashRow + ((<usize>k) << 2), mix(i32x4.add(i32x4.splat(first + k), ids)))
  hashedFrom = first
  hashed = width
}

/** Four words of the stream of a key. @param k - place of the first in the row */
@inline function words(k: i32, key: v128): v128 {
  return mix(v128.xor(v128.load(hashRow + ((<usize>k) << 2)), key))
}

@inline function upper(four: v128): v128 {
  return i8x16.shuffle(four, four, 8, 9, 10, 11, 12, 13, 14, 15, 0, 1, 2, 3, 4, 5, 6, 7)
}

/** (word + 0.5) / 2³² of the lower two words: multiplied by a power of two, which is exact. */
@inline function uniform(word: v128): v128 {
  return f64x2.mul(f64x2.add(f64x2.convert_low_i32x4_u(word), f64x2.splat(0.5)), f64x2.splat(2.3283064365386963e-10))
}

/** The lower two draws, each at its place in its stratum. */
@inline function inStratum(stratum: v128, word: v128, n: v128): v128 {
  return f64x2.div(f64x2.add(f64x2.convert_low_i32x4_s(stratum), uniform(word)), n)
}

/**
 * Draws of iterations `first` … `first + width − 1` of a batch of n, as numbers in (0, 1).
 * @param from - the first one's place in its batch
 * @param key, mask, far, near - of the permutation
 * @param jitter - key of where in its stratum each lies
 */
export function stratified(
  first: i32,
  from: i32,
  width: i32,
  key: i32,
  n: i32,
  mask: i32,
  far: i32,
  near: i32,
  jitter: i32,
): void {
  findStrata(from, width, key, n, mask, far, near)
  hashIterations(first, width)
  const within = i32x4.splat(jitter)
  const size = f64x2.splat(<f64>n)
  for (let k = 0; k < width; k += 4) {
    const strata = v128.load(strataRow + ((<usize>k) << 2))
    const word = words(k, within)
    const into = drawRow + ((<usize>k) << 3)
    v128.store(into, inStratum(strata, word, size))
    v128.store(into, inStratum(upper(strata), upper(word), size), 16)
  }
}

/**
 * Where the table of a shape lies (src/forecast/random/betaQuantile.ts): u of each point, the values that the points of all tables have, and
 * which point to look at first.
 */
export let shapeShares: usize = 0
export let shapeValues: usize = 0
export let shapeGuide: usize = 0
const CELLS: f64 = 1024
/** What is added to this comes to the nearest whole number, which stands in the lower word: faster than to convert it. */
const WHOLE: f64 = 6755399441055744 // 1.5 · 2⁵²

/** How far into the table, in bytes, the last point at or before u in (0, 1) lies. One step is rarely too few, and costs less than a wrong guess. */
@inline function pointAt(u: f64, cell: i32): usize {
  let point = (<usize>load<u16>(shapeGuide + ((<usize>cell) << 1))) << 3
  point += (<usize>(load<f64>(shapeShares + point, 8) <= u)) << 3
  while (load<f64>(shapeShares + point, 8) <= u) point += 8
  return point
}

@inline function lowers(a: v128, b: v128): v128 {
  return i8x16.shuffle(a, b, 0, 1, 2, 3, 4, 5, 6, 7, 16, 17, 18, 19, 20, 21, 22, 23)
}
@inline function uppers(a: v128, b: v128): v128 {
  return i8x16.shuffle(a, b, 8, 9, 10, 11, 12, 13, 14, 15, 24, 25, 26, 27, 28, 29, 30, 31)
}

@inline function lowerWords(a: v128, b: v128): v128 {
  return i8x16.shuffle(a, b, 0, 1, 2, 3, 8, 9, 10, 11, 16, 17, 18, 19, 24, 25, 26, 27)
}

/** The values of the shape at two u in (0, 1). */
@inline function shapeAt(u: v128): v128 {
  // On the border of two cells either will do.
  const cells = f64x2.add(f64x2.sub(f64x2.mul(u, f64x2.splat(CELLS)), f64x2.splat(0.5)), f64x2.splat(WHOLE))
  const one = pointAt(f64x2.extract_lane(u, 0), i32x4.extract_lane(cells, 0))
  const other = pointAt(f64x2.extract_lane(u, 1), i32x4.extract_lane(cells, 2))
  const oneShares = v128.load(shapeShares + one)
  const otherShares = v128.load(shapeShares + other)
  const oneValues = v128.load(shapeValues + one)
  const otherValues = v128.load(shapeValues + other)
  const from = lowers(oneShares, otherShares)
  const value = lowers(oneValues, otherValues)
  const rise = f64x2.mul(f64x2.sub(uppers(oneValues, otherValues), value), f64x2.sub(u, from))
  return f64x2.add(value, f64x2.div(rise, f64x2.sub(uppers(oneShares, otherShares), from)))
}

/** In place of each number of the row of draws, all of them in (0, 1): low + span × the value of the shape there. */
export function readShape(width: i32, low: f64, span: f64): void {
  // Two at a time: where one is left over, it has a neighbour that lies in the table, too.
  store<f64>(drawRow + ((<usize>width) << 3), 0.5)
  for (let at = drawRow; at < drawRow + ((<usize>width) << 3); at += 16) {
    const value = f64x2.mul(f64x2.splat(span), shapeAt(v128.load(at)))
    v128.store(at, f64x2.add(f64x2.splat(low), value))
  }
}

/** Minutes that are drawn, in words. */
export let minuteRow: usize = 0

/** A share of low + span × the values of the shape at two u, not below 0, to the nearest whole number, in the lower word; halves go up. */
@inline function minutesAt(u: v128, low: v128, span: v128, share: v128): v128 {
  const value = f64x2.pmax(f64x2.splat(0), f64x2.mul(f64x2.add(low, f64x2.mul(span, shapeAt(u))), share))
  const above = f64x2.ceil(value)
  const isTooFar = f64x2.gt(f64x2.sub(above, f64x2.splat(0.5)), value)
  return f64x2.add(f64x2.sub(above, v128.and(isTooFar, f64x2.splat(1))), f64x2.splat(WHOLE))
}

/** Minutes of stratified draws, into their row. */
export function stratifiedMinutes(
  first: i32,
  from: i32,
  width: i32,
  key: i32,
  n: i32,
  mask: i32,
  far: i32,
  near: i32,
  jitter: i32,
  low: f64,
  span: f64,
  share: f64,
): void {
  findStrata(from, width, key, n, mask, far, near)
  hashIterations(first, width)
  const within = i32x4.splat(jitter)
  const size = f64x2.splat(<f64>n)
  const lows = f64x2.splat(low)
  const spans = f64x2.splat(span)
  const shares = f64x2.splat(share)
  for (let k = 0; k < width; k += 4) {
    const strata = v128.load(strataRow + ((<usize>k) << 2))
    const word = words(k, within)
    const two = minutesAt(inStratum(strata, word, size), lows, spans, shares)
    const next = minutesAt(inStratum(upper(strata), upper(word), size), lows, spans, shares)
    v128.store(minuteRow + ((<usize>k) << 2), lowerWords(two, next))
  }
}

/** Minutes of plain draws of the stream of a key, into their row. */
export function plainMinutes(first: i32, width: i32, stream: i32, low: f64, span: f64, share: f64): void {
  hashIterations(first, width)
  const key = i32x4.splat(stream)
  const lows = f64x2.splat(low)
  const spans = f64x2.splat(span)
  const shares = f64x2.splat(share)
  for (let k = 0; k < width; k += 4) {
    const word = words(k, key)
    const two = minutesAt(uniform(word), lows, spans, shares)
    const next = minutesAt(uniform(upper(word)), lows, spans, shares)
    v128.store(minuteRow + ((<usize>k) << 2), lowerWords(two, next))
  }
}
