/**
 * The smallest value with at least `percent` % of the values at or below it.
 * @param sorted - ascending, at least one value
 * @param percent - above 0, up to 100
 */
export const percentileSorted = (sorted: Int32Array, percent: number): number =>
  sorted[placeOf(percent, sorted.length)]!

/** Where, among n values in order, the one at a percentile stands. */
const placeOf = (percent: number, n: number): number =>
  Math.min(n, Math.max(1, Math.ceil((percent / 100) * n - 1e-9))) - 1

/**
 * The same of values in any order: of few percentiles quicker than sorting.
 * @param values - at least one; put into another order
 * @see Hoare 1961, "Algorithm 65: Find", Comm. ACM 4(7)
 */
export const percentileOf = (values: Int32Array, percent: number): number => {
  const place = placeOf(percent, values.length)
  let from = 0
  let to = values.length - 1
  while (from < to) {
    const pivot = middleOf(values[from]!, values[(from + to) >> 1]!, values[to]!)
    let low = from
    let high = to
    while (low <= high) {
      while (values[low]! < pivot) low++
      while (values[high]! > pivot) high--
      if (low > high) break
      const swapped = values[low]!
      values[low++] = values[high]!
      values[high--] = swapped
    }
    if (place <= high) to = high
    else if (place >= low) from = low
    else break
  }
  return values[place]!
}

const middleOf = (a: number, b: number, c: number): number =>
  a < b ? (b < c ? b : Math.max(a, c)) : a < c ? a : Math.max(b, c)

/** Share of the values at or below `limit`. @param sorted - ascending */
export const shareAtOrBelow = (sorted: Int32Array, limit: number): number => {
  let low = 0
  let high = sorted.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (sorted[middle]! <= limit) low = middle + 1
    else high = middle
  }
  return low / sorted.length
}
