import { ROW } from '../../schedule/kernelRows.ts'
import { iterate } from './iterate.ts'
import type { SimulationModel } from './model.ts'

/**
 * Finishes of iterations from … to − 1, without anything else that is told of a run.
 * @param activity - position; null: of the project
 * @param finishes - filled, by iteration
 */
export const fillFinishes = (
  model: SimulationModel,
  activity: number | null,
  finishes: Int32Array,
  from: number,
  to: number,
): void =>
  iterate(model, from, to, {
    rows: ({ projectFinish, finish }, first, width) => {
      const at = activity === null ? 0 : activity * ROW
      finishes.set((activity === null ? projectFinish : finish).subarray(at, at + width), first)
    },
    one: (iteration, _, { projectFinish, finish }) => {
      finishes[iteration] = activity === null ? projectFinish : finish[activity]!
    },
  })

/** {@link fillFinishes} of a whole run. */
export const finishesAlone = (model: SimulationModel, activity: number | null = null): Int32Array => {
  const finishes = new Int32Array(model.iterations)
  fillFinishes(model, activity, finishes, 0, model.iterations)
  return finishes
}

/** {@link finishesAlone}, ascending. */
export const finishesOf = (model: SimulationModel, activity: number | null = null): Int32Array =>
  finishesAlone(model, activity).sort()
