import { averageRanks, correlation } from '../rankCorrelation.ts'
import type { IterationTable } from './iterationTable.ts'
import { MOST_DRAWN, type SimulationModel, type Varying } from './model.ts'

/** How what is drawn goes with the finish of a run: rank correlation (Spearman) of any value by iteration. @returns given what fills those values in */
export const rankWithFinish = ({
  finish,
  iterations,
}: IterationTable): ((fill: (values: Int32Array) => void) => number) => {
  const finishRanks = averageRanks(finish)
  const values = new Int32Array(iterations)
  return (fill) => {
    fill(values)
    return correlation(averageRanks(values), finishRanks)
  }
}

/** Of each activity whose duration is drawn, by position: the rank correlation of its duration with the finish. */
export const sensitivities = (model: SimulationModel, table: IterationTable): Map<number, number> => {
  const rank = rankWithFinish(table)
  const drawn = new Float64Array(MOST_DRAWN)
  // Drawn once more: to keep every duration of every iteration would double what a run holds.
  const again =
    ({ fill }: Varying) =>
    (values: Int32Array): void => {
      for (let first = 0; first < values.length; first += MOST_DRAWN) {
        const width = Math.min(MOST_DRAWN, values.length - first)
        fill(first, width, drawn)
        values.set(drawn.subarray(0, width), first)
      }
    }
  return new Map(model.varying.map((one) => [one.activity, rank(again(one))]))
}
