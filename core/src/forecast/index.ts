// Estimates
export { estimateQuantile } from './estimate.ts'
export { percentileSorted, shareAtOrBelow } from './percentile.ts'
// Monte Carlo
export { simulationModel, type SimulationModel, type SimulationOptions } from './simulate/model.ts'
export {
  iterationTable,
  runIterations,
  tableNumbers,
  type IterationTable,
} from './simulate/iterationTable.ts'
export { fiftyDots, summarise, type ActivityForecast, type SimulationSummary } from './simulate/summary.ts'
export type { Sampling } from './random/draws.ts'
