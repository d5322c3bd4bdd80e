/**
 * The smallest value with at least `percent` % of the values at or below it.
 * @param sorted - ascending, at least one value
 * @param percent - above 0, up to 100
 */
export const percentileSorted = (sorted: Int32Array, percent: number): number => {
  const rank = Math.ceil((percent / 100) * sorted.length - 1e-9)
  return sorted[Math.min(sorted.length, Math.max(1, rank)) - 1]!
}

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
