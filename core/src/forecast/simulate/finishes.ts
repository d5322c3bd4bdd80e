import { drawAgain } from './drawAgain.ts'
import type { SimulationModel } from './model.ts'

/**
 * Finishes of a run by iteration, without anything else that is told of a run.
 * @param activity - position; null: of the project
 */
export const finishesAlone = (model: SimulationModel, activity: number | null = null): Int32Array => {
  const finishes = new Int32Array(model.iterations)
  drawAgain(model, 0, model.iterations, (iteration, _, placed) => {
    finishes[iteration] = activity === null ? placed.projectFinish : placed.finish[activity]!
  })
  return finishes
}

/** {@link finishesAlone}, ascending. */
export const finishesOf = (model: SimulationModel, activity: number | null = null): Int32Array =>
  finishesAlone(model, activity).sort()
