/** Iterations of two runs on the same draws, paired one by one. */
export interface Pairing {
  readonly pairs: number
  readonly earlier: number
  readonly equal: number
}

/** How often the second run finishes earlier than the first, iteration by iteration. @param first, second - instants */
export const pairRuns = (first: Int32Array, second: Int32Array): Pairing => {
  const pairs = Math.min(first.length, second.length)
  let earlier = 0
  let equal = 0
  for (let k = 0; k < pairs; k++) {
    if (second[k]! < first[k]!) earlier++
    else if (second[k] === first[k]) equal++
  }
  return { pairs, earlier, equal }
}
