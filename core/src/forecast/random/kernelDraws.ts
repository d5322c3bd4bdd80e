import { kernelIsUsed, KernelMemory, type KernelFunctions } from '../../kernel/kernel.ts'

/** What the kernel needs of a permutation of 0 … n − 1. */
interface PermutationParts {
  readonly n: number
  readonly mask: number
  readonly far: number
  readonly near: number
  readonly add: Int32Array
  readonly multiply: Int32Array
}

/** Table of a quantile function. */
interface ShapeTable {
  readonly points: Float64Array
  readonly guide: Uint16Array
}

/** Draws at once: of fewer, calling the kernel takes longer than drawing them. */
const FEWEST = 8
const MOST = 1024
/** Numbers of a table: u and value of 1,025 points. */
const SHAPE_POINTS = 2050

interface KernelDraws {
  readonly functions: KernelFunctions
  readonly keys: Int32Array
  readonly drawn: Float64Array
  readonly points: Float64Array
  readonly guide: Uint16Array
  /** The table that lies in its memory. */
  shape: ShapeTable | null
}

const made = (): KernelDraws | null => {
  const memory = new KernelMemory()
  const keys = memory.words('roundKeys', 8)
  const drawn = memory.numbers('drawRow', MOST)
  const points = memory.numbers('shapePoints', SHAPE_POINTS)
  const guide = memory.halves('shapeGuide', SHAPE_POINTS / 2)
  const kernel = memory.open()
  return (
    kernel && {
      functions: kernel.functions,
      keys: keys(kernel),
      drawn: drawn(kernel),
      points: points(kernel),
      guide: guide(kernel),
      shape: null,
    }
  )
}
let kernel: KernelDraws | null | undefined

/**
 * Stratified draws of iterations first … first + width − 1 by the kernel, the same to the bit.
 * @param from - place of the first in its batch
 * @param into - filled from `at` on
 * @returns whether it did: false where there is no kernel, or nothing gained by it
 */
export const kernelStratified = (
  { n, mask, far, near, add, multiply }: PermutationParts,
  jitter: number,
  first: number,
  from: number,
  width: number,
  into: Float64Array,
  at: number,
): boolean => {
  if (width < FEWEST || width > MOST || !kernelIsUsed()) return false
  kernel ??= made()
  if (!kernel) return false
  const { functions, keys, drawn } = kernel
  keys.set(add)
  keys.set(multiply, 4)
  functions.stratified(first, from, width, n, mask, far, near, jitter)
  if (width === MOST) into.set(drawn, at)
  else into.set(drawn.subarray(0, width), at)
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
): boolean => onRow(table, values, width, ({ readShape }) => readShape(width, low, span))

/** As {@link kernelShaped}, times a share, not below 0 and rounded. */
export const kernelMinutes = (
  table: ShapeTable,
  low: number,
  span: number,
  share: number,
  values: Float64Array,
  width: number,
): boolean => onRow(table, values, width, ({ readMinutes }) => readMinutes(width, low, span, share))

const onRow = (
  table: ShapeTable,
  values: Float64Array,
  width: number,
  read: (functions: KernelFunctions) => void,
): boolean => {
  if (width < FEWEST || width > MOST || !kernelIsUsed()) return false
  kernel ??= made()
  if (!kernel) return false
  const { functions, drawn, points, guide } = kernel
  if (kernel.shape !== table) {
    points.set(table.points)
    guide.set(table.guide)
    kernel.shape = table
  }
  drawn.set(width === values.length ? values : values.subarray(0, width))
  read(functions)
  values.set(width === MOST ? drawn : drawn.subarray(0, width))
  return true
}
