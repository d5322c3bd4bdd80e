/** Iterations of two runs on the same draws, paired one by one. */
export interface Pairing {
  readonly pairs: number
  readonly earlier: number
  readonly equal: number
}

/** @param base64 - little-endian int32 instants, one an iteration */
const decode = (base64: string): Int32Array => {
  const binary = atob(base64)
  const bytes = Uint8Array.from(binary, (c) => c.charCodeAt(0))
  return new Int32Array(bytes.buffer)
}

/** How often the second run finishes earlier than the first, iteration by iteration. */
export const pairRuns = (first: string, second: string): Pairing => {
  const [a, b] = [decode(first), decode(second)]
  const pairs = Math.min(a.length, b.length)
  let earlier = 0
  let equal = 0
  for (let k = 0; k < pairs; k++) {
    if (b[k]! < a[k]!) earlier++
    else if (b[k] === a[k]) equal++
  }
  return { pairs, earlier, equal }
}
