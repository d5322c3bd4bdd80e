// The schedule of a plan
export { schedule, scheduleNetwork, type Schedule } from './schedule.ts'
export { reschedule } from './reschedule.ts'
// Scheduling many times with other durations, for forecasts
export { createEngine, type Engine, type PlacedDates } from './engine.ts'
export { ABSENT, emptyEarlyDates, forwardPass, latestFinish, type EarlyDates } from './forwardPass.ts'
export { backwardPass, emptyLateDates, type LateDates } from './backwardPass.ts'
export { linkDrives, longestPath } from './drivingLinks.ts'
// Explanations
export { explain, type Candidate, type CandidateKind, type Explanation } from './explain.ts'
export {
  driversOf,
  inOrderOfStart,
  scheduleReport,
  type ActivityReport,
  type ScheduleReport,
} from './report.ts'
// By experiment, and by rank
export { experiments, type Experiment, type Stop } from './experiments.ts'
export { rankedPaths, type FloatPath } from './rankedPaths.ts'
export { floatCauses, type FloatCause } from './floatCause.ts'
export type { Step, StepOp } from './ladder.ts'
