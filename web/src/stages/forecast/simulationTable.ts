import { DATE_SCALE, roundMoneyWords, type JointLook, type ScaleValue, type ValueScale } from '@geodrome/core'
import type { Bar } from './barsFigure.ts'
import { perHundred } from './simulationWords.ts'

/** A drawing as a table: what it shows, in words and figures. */
export interface DrawnTable {
  readonly heads: readonly string[]
  readonly rows: readonly (readonly string[])[]
}
type Percentiles = Readonly<Record<string, ScaleValue>>

export const jointTable = (look: JointLook | null, percent: number, currency: string): DrawnTable => ({
  heads: [`Both kept in ${percent} of 100: by`, 'with', 'kept in'],
  rows: (look?.curve ?? []).map(({ finish, cost, probability }) => [
    DATE_SCALE.words(finish),
    roundMoneyWords(cost, currency),
    perHundred(probability),
  ]),
})

export const barsTable = (bars: readonly Bar[], scale: ValueScale): DrawnTable => ({
  heads: ['From', 'In 100', 'Up to here'],
  rows: bars.map(({ from, share, upTo }) => [
    // A minute into the day: the midnight before it belongs to the day that it ends.
    scale.words(scale.place(from + (scale.isDate ? 60_000 : 0))),
    (share * 100).toFixed(1),
    (upTo * 100).toFixed(1),
  ]),
})

/** @param besides - runs laid over it, each with its mark */
export const ladderTable = (
  percentiles: Percentiles,
  scale: ValueScale,
  besides: readonly { readonly mark: string; readonly name: string; readonly percentiles: Percentiles }[],
): DrawnTable => {
  const words = (value: ScaleValue | undefined): string => (value === undefined ? '' : scale.words(value))
  return {
    heads: ['In 100', scale.isDate ? 'by' : 'within', ...besides.map(({ mark, name }) => `${mark} ${name}`)],
    rows: Object.keys(percentiles)
      .map(Number)
      .sort((a, b) => a - b)
      .map((p) => [
        String(p),
        words(percentiles[String(p)]),
        ...besides.map((beside) => words(beside.percentiles[String(p)])),
      ]),
  }
}
