import type { LookAnswer, LookKind, LookQuestion } from '../../wire/index.ts'
import { contingencyOf } from './contingency.ts'
import type { IterationTable } from './iterationTable.ts'
import { jointPicture } from './joint.ts'
import { lookAtReplay } from './lookAtReplay.ts'
import { lookAtTarget } from './lookAtTarget.ts'
import { mergeBias } from './mergeBias.ts'
import type { SimulationModel } from './model.ts'

type Looks = {
  readonly [K in LookKind]: (
    model: SimulationModel,
    table: IterationTable,
    question: LookQuestion<K>,
  ) => LookAnswer<K>
}

const ANSWERS: Looks = {
  target: lookAtTarget,
  contingency: (model, table, { percent }) => contingencyOf(model, table, percent),
  replay: lookAtReplay,
  merges: mergeBias,
  joint: (model, table, { percent }) => jointPicture(model, table, percent),
}

/**
 * What is asked of a run that is there: no question needs another run to be kept.
 * @param table - with every iteration of the model's run
 * @throws RangeError for what the run does not have
 */
export const lookAtRun = <K extends LookKind>(
  model: SimulationModel,
  table: IterationTable,
  kind: K,
  question: LookQuestion<K>,
): LookAnswer<K> => ANSWERS[kind](model, table, question)
