export {
  crash,
  crashChange,
  crashedSchedule,
  crashReport,
  needsSolver,
  priceOf,
  type CrashAsk,
  type CrashPoint,
  type CrashReport,
  type CrashResult,
} from './crash.ts'
export { crashSteps, dependentCost, type CrashStep, type DependentCost, type NotUsed } from './onCalendars.ts'
export { crashableOf, type Crashable } from './crashData.ts'
export { eventNetwork, type EventNetwork } from './eventNetwork.ts'
export { loadSolver, type Solver } from './solver.ts'
