/**
 * Random numbers by counting, named "geodrome-1" in docs/random-numbers.md. A draw is a pure function of the seed, the id of
 * what is drawn for, the iteration and (stratified) the number of iterations: any iteration can be replayed alone.
 */
const TWO_32 = 4294967296

/** Finaliser of MurmurHash3 (Appleby, public domain): every bit of the input reaches every bit of the output. */
const mix = (h: number): number => {
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return (h ^ (h >>> 16)) >>> 0
}

/** 32-bit FNV-1a over UTF-16 units, finalised. */
const hashText = (text: string): number => {
  let h = 0x811c9dc5
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193)
  return mix(h)
}

/** Key of the stream of draws for one id under one seed. @param seed - any integer */
export const streamKey = (seed: number, id: string): number => mix(mix(seed | 0) ^ hashText(id))

/** Key of the stream of what is drawn for a part of an item. Ids are unique in their list only, so the kind is part of the key. */
export const drawKey = (seed: number, kind: string, id: string, part = ''): number =>
  streamKey(seed, `${kind}\u0000${id}\u0000${part}`)

const word = (key: number, iteration: number): number => mix(mix(iteration + 0x9e3779b9) ^ key)

/** A uniform number in (0, 1) for an iteration of a stream. */
export const uniform = (key: number, iteration: number): number => (word(key, iteration) + 0.5) / TWO_32

const ROUNDS = 4

/**
 * A keyed permutation of 0 … n−1: mixing steps that are each invertible on the next power of two, walked on while outside.
 * @see Kensler 2013, "Correlated Multi-Jittered Sampling", Pixar technical memo 13-01, for the method
 */
export const permutation = (key: number, n: number): ((index: number) => number) => {
  if (n <= 1) return () => 0
  const bits = 32 - Math.clz32(n - 1)
  const mask = bits === 32 ? 0xffffffff : (1 << bits) - 1
  const far = (bits >> 1) + 1
  const near = far > 1 ? far - 1 : 1
  const add = new Int32Array(ROUNDS)
  const multiply = new Int32Array(ROUNDS)
  for (let round = 0; round < ROUNDS; round++) {
    add[round] = mix(key + Math.imul(round + 1, 0x9e3779b9))
    multiply[round] = ((add[round]! >>> 0) >>> 7) | 1
  }
  return (index) => {
    let i = index
    do {
      for (let round = 0; round < ROUNDS; round++) {
        i = (i + add[round]!) & mask
        i = Math.imul(i, multiply[round]!) & mask
        i ^= i >>> far
        i = Math.imul(i, 0xa3d89a5b) & mask
        i ^= i >>> near
      }
      i = (i >>> 0) & mask
    } while (i >= n)
    return i
  }
}

export type Sampling = 'lhs' | 'random'

/** What sets the strata of a batch apart from those of the batches before it; 0 for the first. */
const batchKey = (key: number, batch: number): number => key ^ (batch === 0 ? 0 : mix(batch))

/**
 * The uniform numbers in (0, 1) of one stream, by iteration. Stratified (Latin hypercube): over each batch of n iterations, each n-th
 * of (0, 1) is met exactly once, in an order of the batch's own.
 */
export const stream = (sampling: Sampling, key: number, n: number): ((iteration: number) => number) => {
  if (sampling === 'random') return (iteration) => uniform(key, iteration)
  const jitter = key ^ 0x5bd1e995
  const strata = [permutation(key, n)]
  return (iteration) => {
    const batch = iteration < n ? 0 : Math.floor(iteration / n)
    const stratum = (strata[batch] ??= permutation(batchKey(key, batch), n))
    return (stratum(iteration - batch * n) + uniform(jitter, iteration)) / n
  }
}
