import { drawAgain } from './drawAgain.ts'
import type { SimulationModel } from './model.ts'

/**
 * Finishes over all iterations of a run, ascending.
 * @param activity - position; null: of the project
 */
export const finishesOf = (model: SimulationModel, activity: number | null = null): Int32Array => {
  const finishes = new Int32Array(model.iterations)
  drawAgain(model, 0, model.iterations, (iteration, _, placed) => {
    finishes[iteration] = activity === null ? placed.projectFinish : placed.finish[activity]!
  })
  return finishes.sort()
}
