import {
  kernelPlainMinutes,
  kernelStratified,
  kernelStratifiedMinutes,
  type ShapedMinutes,
} from './kernelDraws.ts'

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
/** What each round adds, and multiplies by. */
interface Rounds {
  readonly add: Int32Array
  readonly multiply: Int32Array
}
const roundsOf = (key: number): Rounds => {
  const add = Int32Array.from({ length: ROUNDS }, (_, round) => mix(key + Math.imul(round + 1, 0x9e3779b9)))
  return { add, multiply: add.map((by) => (by >>> 7) | 1) }
}

/**
 * A keyed permutation of 0 … n−1: mixing steps that are each invertible on the next power of two, walked on while outside.
 * @see Kensler 2013, "Correlated Multi-Jittered Sampling", Pixar technical memo 13-01, for the method
 */
export class Permutation {
  /** Parts of the steps: the kernel goes by the same. */
  readonly key: number
  readonly n: number
  readonly mask: number
  readonly far: number
  readonly near: number
  private rounds: Rounds | null = null

  constructor(key: number, n: number) {
    const bits = n <= 1 ? 0 : 32 - Math.clz32(n - 1)
    this.key = key | 0
    this.n = n
    this.mask = bits === 32 ? 0xffffffff : (1 << bits) - 1
    this.far = (bits >> 1) + 1
    this.near = this.far > 1 ? this.far - 1 : 1
  }

  /** Where indexes from … from + width − 1 go. @param into - filled from `at` on */
  fill(from: number, width: number, into: Float64Array, at = 0): void {
    // All in variables of its own: the loop is most of what drawing takes.
    const { n, mask, far, near } = this
    const { add, multiply } = (this.rounds ??= roundsOf(this.key))
    const [a0, a1, a2, a3] = [add[0]!, add[1]!, add[2]!, add[3]!]
    const [m0, m1, m2, m3] = [multiply[0]!, multiply[1]!, multiply[2]!, multiply[3]!]
    for (let k = 0; k < width; k++) {
      let i = from + k
      do {
        i = Math.imul((i + a0) & mask, m0) & mask
        i = Math.imul(i ^ (i >>> far), 0xa3d89a5b) & mask
        i = ((i ^ (i >>> near)) + a1) & mask
        i = Math.imul(i, m1) & mask
        i = Math.imul(i ^ (i >>> far), 0xa3d89a5b) & mask
        i = ((i ^ (i >>> near)) + a2) & mask
        i = Math.imul(i, m2) & mask
        i = Math.imul(i ^ (i >>> far), 0xa3d89a5b) & mask
        i = ((i ^ (i >>> near)) + a3) & mask
        i = Math.imul(i, m3) & mask
        i = Math.imul(i ^ (i >>> far), 0xa3d89a5b) & mask
        i = ((i ^ (i >>> near)) >>> 0) & mask
      } while (i >= n)
      into[at + k] = i
    }
  }
}

export type Sampling = 'lhs' | 'random'

/** The uniform numbers in (0, 1) of one stream, by iteration. */
export interface Stream {
  at(iteration: number): number
  /** Those of iterations first … first + width − 1. @param into - filled from its beginning */
  fill(first: number, width: number, into: Float64Array): void
  /**
   * Minutes that a shape gives at those of iterations first … first + width − 1, read where they are drawn.
   * @param into - filled from `at` on
   * @returns false where they have to be read one by one
   */
  fillMinutes(first: number, width: number, shape: ShapedMinutes, into: Int32Array, at: number): boolean
}

/** What sets the strata of a batch apart from those of the batches before it; 0 for the first. */
const batchKey = (key: number, batch: number): number => key ^ (batch === 0 ? 0 : mix(batch))

class PlainStream implements Stream {
  private readonly key: number
  constructor(key: number) {
    this.key = key | 0
  }
  at(iteration: number): number {
    return uniform(this.key, iteration)
  }
  fill(first: number, width: number, into: Float64Array): void {
    for (let k = 0; k < width; k++) into[k] = uniform(this.key, first + k)
  }
  fillMinutes(first: number, width: number, shape: ShapedMinutes, into: Int32Array, at: number): boolean {
    return kernelPlainMinutes(this.key, first, width, shape, into, at)
  }
}

/**
 * Stratified (Latin hypercube): over each batch of n iterations, each n-th of (0, 1) is met exactly once, in an order of the batch's own.
 */
class StratifiedStream implements Stream {
  private readonly key: number
  private readonly jitter: number
  private readonly n: number
  private readonly strata: Permutation[]
  private readonly one = new Float64Array(1)

  constructor(key: number, n: number) {
    this.key = key | 0
    this.jitter = key ^ 0x5bd1e995
    this.n = n
    this.strata = [new Permutation(key, n)]
  }

  at(iteration: number): number {
    this.fill(iteration, 1, this.one)
    return this.one[0]!
  }

  fill(first: number, width: number, into: Float64Array): void {
    const { n, jitter } = this
    for (let done = 0; done < width;) {
      const batch = Math.floor((first + done) / n)
      const from = first + done - batch * n
      const count = Math.min(width - done, n - from)
      const strata = this.strataOf(batch)
      if (!kernelStratified(strata, jitter, first + done, from, count, into, done)) {
        strata.fill(from, count, into, done)
        for (let k = done; k < done + count; k++) into[k] = (into[k]! + uniform(jitter, first + k)) / n
      }
      done += count
    }
  }

  fillMinutes(first: number, width: number, shape: ShapedMinutes, into: Int32Array, at: number): boolean {
    const { n, jitter } = this
    const batch = Math.floor(first / n)
    const from = first - batch * n
    if (from + width > n) return false
    return kernelStratifiedMinutes(this.strataOf(batch), jitter, first, from, width, shape, into, at)
  }

  private strataOf(batch: number): Permutation {
    return (this.strata[batch] ??= new Permutation(batchKey(this.key, batch), this.n))
  }
}

/** The stream of a key. @param n - iterations of a batch, for the stratified one */
export const stream = (sampling: Sampling, key: number, n: number): Stream =>
  sampling === 'random' ? new PlainStream(key) : new StratifiedStream(key, n)
