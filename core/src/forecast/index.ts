// Estimates
export { estimateQuantile } from './estimate.ts'
export { percentileSorted, shareAtOrBelow } from './percentile.ts'
// Monte Carlo
export { simulationModel, type SimulationModel, type SimulationOptions } from './simulate/model.ts'
export { runIterations, type IterationRange } from './simulate/runIterations.ts'
export {
  fiftyDots,
  joinRanges,
  summarise,
  type ActivityForecast,
  type SimulationSummary,
} from './simulate/summary.ts'
export type { Sampling } from './random/draws.ts'
