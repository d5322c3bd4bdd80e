import type { ScaleValue, ValueScale } from './valueScale.ts'

/** A dot of a distribution: where it stands, how high in its stack (from 1), and for which value. */
export interface StackedDot {
  /** As {@link ValueScale.at} gives it: the middle of its bin. */
  readonly at: number
  readonly level: number
  readonly value: ScaleValue
}

/** Stacks of dots at most. */
const MOST_STACKS = 24

/** Dots stacked over bins as wide as lets the tallest stack stay readable. @param dots - sorted, at least one */
export const dotStacks = (scale: ValueScale, dots: readonly ScaleValue[]): StackedDot[] => {
  const from = scale.binAt(dots[0]!, 1)
  const width = scale.binWidth(Math.max(1e-9, scale.binAt(dots.at(-1)!, 1) - from), MOST_STACKS)
  const first = scale.isDate ? from : scale.binAt(dots[0]!, width)
  const heights = new Map<number, number>()
  return dots.map((value) => {
    const bin = Math.floor((scale.binAt(value, width) - first) / width + 1e-9)
    const level = (heights.get(bin) ?? 0) + 1
    heights.set(bin, level)
    return { at: first + (bin + 0.5) * width, level, value }
  })
}
