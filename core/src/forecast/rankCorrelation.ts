/** Values and their places that fit one number side by side, exactly. */
const MOST_SIDE_BY_SIDE = 2 ** 53 / 2 ** 32

/** Places of values in ascending order, the earlier of equal ones first. */
const orderOf = (values: Int32Array): Int32Array => {
  const n = values.length
  if (n > MOST_SIDE_BY_SIDE)
    return Int32Array.from({ length: n }, (_, i) => i).sort((a, b) => values[a]! - values[b]!)
  // Numbers sort by themselves several times faster than by a function that compares.
  const keys = new Float64Array(n)
  for (let i = 0; i < n; i++) keys[i] = values[i]! * n + i
  keys.sort()
  const order = new Int32Array(n)
  for (let k = 0; k < n; k++) order[k] = keys[k]! - Math.floor(keys[k]! / n) * n
  return order
}

/** Ranks 1 … n, those of equal values averaged. */
export const averageRanks = (values: Int32Array): Float64Array => {
  const n = values.length
  let low = values[0] ?? 0
  let high = low
  for (let i = 1; i < n; i++) {
    const value = values[i]!
    if (value < low) low = value
    else if (value > high) high = value
  }
  return high - low <= COUNTED + COUNTED_EACH * n ? countedRanks(values, low, high) : sortedRanks(values)
}

/** Up to so many different values, whole numbers are counted instead of sorted. */
const COUNTED = 1 << 16
const COUNTED_EACH = 16

const countedRanks = (values: Int32Array, low: number, high: number): Float64Array => {
  const n = values.length
  const counts = new Int32Array(high - low + 1)
  for (let i = 0; i < n; i++) counts[values[i]! - low]!++
  const rankOf = new Float64Array(counts.length)
  let before = 0
  for (let v = 0; v < counts.length; v++) {
    const count = counts[v]!
    if (count === 0) continue
    rankOf[v] = (2 * before + 1 + count) / 2
    before += count
  }
  const ranks = new Float64Array(n)
  for (let i = 0; i < n; i++) ranks[i] = rankOf[values[i]! - low]!
  return ranks
}

const sortedRanks = (values: Int32Array): Float64Array => {
  const n = values.length
  const order = orderOf(values)
  const ranks = new Float64Array(n)
  for (let from = 0; from < n;) {
    let to = from + 1
    while (to < n && values[order[to]!] === values[order[from]!]) to++
    for (let k = from; k < to; k++) ranks[order[k]!] = (from + 1 + to) / 2
    from = to
  }
  return ranks
}

/** Pearson correlation of two rank vectors, which is Spearman's coefficient; 0 where one of them does not vary. */
export const correlation = (a: Float64Array, b: Float64Array): number => {
  const n = a.length
  let meanA = 0
  let meanB = 0
  for (let i = 0; i < n; i++) {
    meanA += a[i]! / n
    meanB += b[i]! / n
  }
  let cross = 0
  let squareA = 0
  let squareB = 0
  for (let i = 0; i < n; i++) {
    const da = a[i]! - meanA
    const db = b[i]! - meanB
    cross += da * db
    squareA += da * da
    squareB += db * db
  }
  return squareA === 0 || squareB === 0 ? 0 : cross / Math.sqrt(squareA * squareB)
}
