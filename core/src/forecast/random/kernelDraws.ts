import { POINTS } from './betaQuantile.ts'
import { kernelIsUsed, KernelMemory, type KernelFunctions } from '../../kernel/kernel.ts'

/** What the kernel needs of a permutation of 0 … n − 1. */
interface PermutationParts {
  readonly key: number
  readonly n: number
  readonly mask: number
  readonly far: number
  readonly near: number
}

/** Table of a quantile function. */
interface ShapeTable {
  readonly shares: Float64Array
  readonly guide: Uint16Array
}

/** Draws at once: of fewer, calling the kernel takes longer than drawing them. */
const FEWEST = 8
const MOST = 1024
/** The kernel looks at eight at once, and leaves a place for nobody. */
const ROOM = MOST + 8

interface KernelDraws {
  readonly functions: KernelFunctions
  readonly drawn: Float64Array
  readonly minutes: Int32Array
  /** So many of them as were asked for the last time: mostly it is the same number again. */
  someMinutes: Int32Array
  readonly shares: Float64Array
  readonly guide: Uint16Array
  /** The table that lies in its memory. */
  shape: ShapeTable | null
}

const made = (): KernelDraws | null => {
  const memory = new KernelMemory()
  memory.words('roundKeys', 8)
  memory.words('strataRow', ROOM)
  memory.words('hashRow', ROOM)
  memory.halves('openRow', ROOM + 8)
  const drawn = memory.numbers('drawRow', ROOM)
  const minutes = memory.words('minuteRow', ROOM)
  const shares = memory.numbers('shapeShares', POINTS.length)
  const values = memory.numbers('shapeValues', POINTS.length)
  const guide = memory.halves('shapeGuide', POINTS.length)
  const kernel = memory.open()
  if (!kernel) return null
  values(kernel).set(POINTS)
  return {
    functions: kernel.functions,
    drawn: drawn(kernel),
    minutes: minutes(kernel),
    someMinutes: minutes(kernel),
    shares: shares(kernel),
    guide: guide(kernel),
    shape: null,
  }
}
let kernel: KernelDraws | null | undefined

/** @returns null where there is none, or nothing gained by it */
const kernelFor = (width: number): KernelDraws | null => {
  if (width < FEWEST || width > MOST || !kernelIsUsed()) return null
  return (kernel ??= made()) ?? null
}

/**
 * Stratified draws of iterations first … first + width − 1 by the kernel, the same to the bit.
 * @param from - place of the first in its batch
 * @param into - filled from `at` on
 * @returns whether it did: false where there is no kernel, or nothing gained by it
 */
export const kernelStratified = (
  strata: PermutationParts,
  jitter: number,
  first: number,
  from: number,
  width: number,
  into: Float64Array,
  at: number,
): boolean => {
  const kernel = kernelFor(width)
  if (!kernel) return false
  const { key, n, mask, far, near } = strata
  kernel.functions.stratified(first, from, width, key, n, mask, far, near, jitter)
  into.set(kernel.drawn.subarray(0, width), at)
  return true
}

/**
 * In place of each of the first numbers, all in (0, 1): low + span × the value of a shape there, by the kernel, the same to the bit.
 * @returns as {@link kernelStratified}
 */
export const kernelShaped = (
  table: ShapeTable,
  low: number,
  span: number,
  values: Float64Array,
  width: number,
): boolean => {
  const kernel = kernelFor(width)
  if (!kernel) return false
  holdShape(kernel, table)
  kernel.drawn.set(width === values.length ? values : values.subarray(0, width))
  kernel.functions.readShape(width, low, span)
  values.set(kernel.drawn.subarray(0, width))
  return true
}

/** A share of low + span × what a shape is at draws; not below 0, to the nearest whole minute, halves up. */
export interface ShapedMinutes {
  readonly table: ShapeTable
  readonly low: number
  readonly span: number
  readonly share: number
}

/**
 * Minutes of the stratified draws that {@link kernelStratified} makes.
 * @param into - filled from `at` on
 * @returns as there
 */
export const kernelStratifiedMinutes = (
  strata: PermutationParts,
  jitter: number,
  first: number,
  from: number,
  width: number,
  { table, low, span, share }: ShapedMinutes,
  into: Int32Array,
  at: number,
): boolean => {
  const kernel = kernelFor(width)
  if (!kernel) return false
  holdShape(kernel, table)
  const { key, n, mask, far, near } = strata
  kernel.functions.stratifiedMinutes(first, from, width, key, n, mask, far, near, jitter, low, span, share)
  into.set(minutesOf(kernel, width), at)
  return true
}

/** Minutes of the plain draws of the stream of a key. @returns as {@link kernelStratifiedMinutes} */
export const kernelPlainMinutes = (
  key: number,
  first: number,
  width: number,
  { table, low, span, share }: ShapedMinutes,
  into: Int32Array,
  at: number,
): boolean => {
  const kernel = kernelFor(width)
  if (!kernel) return false
  holdShape(kernel, table)
  kernel.functions.plainMinutes(first, width, key, low, span, share)
  into.set(minutesOf(kernel, width), at)
  return true
}

const minutesOf = (kernel: KernelDraws, width: number): Int32Array => {
  if (kernel.someMinutes.length !== width) kernel.someMinutes = kernel.minutes.subarray(0, width)
  return kernel.someMinutes
}

const holdShape = (kernel: KernelDraws, table: ShapeTable): void => {
  if (kernel.shape === table) return
  kernel.shares.set(table.shares)
  kernel.guide.set(table.guide)
  kernel.shape = table
}
