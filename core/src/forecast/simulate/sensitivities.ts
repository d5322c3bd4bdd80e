import { averageRanks, correlation } from '../rankCorrelation.ts'
import type { IterationTable } from './iterationTable.ts'
import type { SimulationModel } from './model.ts'

/** How what is drawn goes with the finish of a run: rank correlation (Spearman) of any value by iteration. */
export const rankWithFinish = ({
  finish,
  iterations,
}: IterationTable): ((at: (iteration: number) => number) => number) => {
  const finishRanks = averageRanks(finish)
  const values = new Int32Array(iterations)
  return (at) => {
    // Drawn once more: to keep every duration of every iteration would double what a run holds.
    for (let k = 0; k < iterations; k++) values[k] = at(k)
    return correlation(averageRanks(values), finishRanks)
  }
}

/** Of each activity whose duration is drawn, by position: the rank correlation of its duration with the finish. */
export const sensitivities = (model: SimulationModel, table: IterationTable): Map<number, number> => {
  const rank = rankWithFinish(table)
  return new Map(model.varying.map(({ activity, at }) => [activity, rank(at)]))
}
