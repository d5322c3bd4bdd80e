export { agreedMoney, type AgreedMoney } from './agreedMoney.ts'
export { agreedFinishOf, baselineOf, frozenBy, type Frozen } from './baselines.ts'
export { BASELINE_INKS, basisOf, freeze, nextInk, type BaselineWords } from './freeze.ts'
export { groupVariance, type GroupVariance } from './groupVariance.ts'
export { goneSince, varianceOf, type Variance } from './variance.ts'
export { varianceReport, type VarianceReport } from './varianceReport.ts'
export {
  datesOf,
  driftOf,
  floatIn,
  floatNow,
  inOrder,
  newPeriod,
  realisedBy,
  type FloatCounts,
  type PeriodDates,
  type Realised,
} from './periods.ts'
export { doneOf, doneTogether, type Done } from './done.ts'
export { lightened, SAID_IN, saidBy, type Lightened } from './lightened.ts'
export { percentBySteps, stepsOf } from './steps.ts'
export { accountsOf, type Account } from './roots.ts'
export { lookAhead, type Ahead, type Block } from './lookAhead.ts'
export { promisesOf, type PromiseLine, type PromiseState } from './promises.ts'
