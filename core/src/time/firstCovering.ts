/** A range of whole numbers, both ends in it. */
export interface WholeRange {
  readonly first: number
  readonly last: number
}

/** From so many ranges on an index costs less than a look at each. */
const MANY = 12

/**
 * Which of the ranges that hold a number comes first in the list; -1 where none does. After O(n log n) to make ready, O(log n) a
 * question, so that twenty thousand named days cost no more than a few.
 * @param ranges - the position of each is what is answered; of a pair with the same `of` the same
 */
export const firstCovering = (
  ranges: readonly (WholeRange & { readonly of: number })[],
): ((at: number) => number) => {
  if (ranges.length < MANY)
    return (at) => {
      for (const { first, last, of } of ranges) if (at >= first && at <= last) return of
      return -1
    }
  const bounds = [...new Set(ranges.flatMap(({ first, last }) => [first, last + 1]))].sort((a, b) => a - b)
  const place = new Map(bounds.map((at, k) => [at, k]))
  /** Between bound k and the next: the first range that holds it. */
  const owner = new Int32Array(bounds.length).fill(-1)
  /** The next stretch from here on that has no owner yet. */
  const free = Int32Array.from({ length: bounds.length + 1 }, (_, k) => k)
  const freeFrom = (k: number): number => {
    let root = k
    while (free[root]! !== root) root = free[root]!
    while (free[k]! !== root) [k, free[k]] = [free[k]!, root]
    return root
  }
  for (const { first, last, of } of ranges) {
    const end = last < first ? 0 : place.get(last + 1)!
    for (let k = freeFrom(place.get(first)!); k < end; k = freeFrom(k)) {
      owner[k] = of
      free[k] = k + 1
    }
  }
  return (at) => {
    let low = 0
    let high = bounds.length
    while (low < high) {
      const middle = (low + high) >>> 1
      if (bounds[middle]! <= at) low = middle + 1
      else high = middle
    }
    return low === 0 ? -1 : owner[low - 1]!
  }
}
