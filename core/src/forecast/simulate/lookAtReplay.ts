import type { LookQuestion, ReplayLook } from '../../wire/index.ts'
import { percentileSorted } from '../percentile.ts'
import type { IterationTable } from './iterationTable.ts'
import type { SimulationModel } from './model.ts'
import { replay } from './replay.ts'

/**
 * One iteration of a run, by its number or as that which stands at a percentile of the finish, with those beside it in the order of
 * finish. Iterations are counted from 1.
 * @throws RangeError for an iteration that the run does not have
 */
export const lookAtReplay = (
  model: SimulationModel,
  { finish, iterations }: IterationTable,
  question: LookQuestion<'replay'>,
): ReplayLook => {
  const order = Uint32Array.from({ length: iterations }, (_, k) => k).sort(
    (a, b) => finish[a]! - finish[b]! || a - b,
  )
  const at =
    'iteration' in question
      ? order.indexOf(question.iteration - 1)
      : order.findIndex((k) => finish[k] === percentileSorted(finish.slice().sort(), question.percent))
  if (at < 0) throw new RangeError(`this run has ${iterations} iterations`)
  const numberAt = (rank: number): number | null => (order[rank] === undefined ? null : order[rank] + 1)
  return {
    iteration: order[at]! + 1,
    rank: at + 1,
    of: iterations,
    before: numberAt(at - 1),
    after: numberAt(at + 1),
    ...replay(model, order[at]!),
  }
}
