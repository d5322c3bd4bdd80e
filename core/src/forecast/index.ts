// Estimates
export { estimateMoments, estimateQuantile, type Moments } from './estimate.ts'
export { estimatesOf, type HeldEstimate } from './whichEstimate.ts'
export { estimateCurve, type CurvePoint } from './estimateCurve.ts'
export { saidAndDone, type SaidAndDone } from './saidAndDone.ts'
// PERT
export { pert, type PertOptions, type PertPath, type PertReport } from './pert.ts'
export { percentileSorted, shareAtOrBelow } from './percentile.ts'
// Words that stand for figures of risks
export {
  chanceStep,
  delayMinutes,
  delayStep,
  namedStep,
  riskScaleOf,
  setChanceStep,
  setDelayStep,
  type ChanceStep,
  type DelayStep,
  type RiskScale,
  type ScaleChange,
} from './riskScale.ts'
// Monte Carlo
export {
  chanceOf,
  simulationModel,
  type Driver,
  type SimulationModel,
  type SimulationOptions,
} from './simulate/model.ts'
export {
  iterationTable,
  rowNumbers,
  runIterations,
  tableNumbers,
  type IterationTable,
} from './simulate/iterationTable.ts'
export { fiftyDots, summarise, type ActivityForecast, type SimulationSummary } from './simulate/summary.ts'
export type { Amounts } from './simulate/amounts.ts'
export { jointCurve, type JointPoint } from './simulate/joint.ts'
export {
  daysOwed,
  driversByRank,
  DRIVERS_ASKED,
  owedOf,
  owedRun,
  owedNumbers,
  runOwed,
  type Owed,
  type OwedRun,
} from './simulate/owed.ts'
export { sensitivities } from './simulate/sensitivities.ts'
export { riskWorths, type RiskWorth, type Saving } from './simulate/riskWorth.ts'
export { BATCH, settledOf, type Settled } from './simulate/settled.ts'
export { isSettled, nextSeek, seekModel, seekRange, seekSettled, type Until } from './simulate/seek.ts'
export { lookAtRun } from './simulate/lookAtRun.ts'
export { finishesOf } from './simulate/finishes.ts'
export { replay, type Replay } from './simulate/replay.ts'
export type { Sampling } from './random/draws.ts'
export { ROW as ITERATIONS_TOGETHER } from '../schedule/kernelRows.ts'
