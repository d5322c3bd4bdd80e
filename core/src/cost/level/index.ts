export {
  level,
  levelPass,
  levelSteps,
  type Levelled,
  type LevelOptions,
  type LevelProgress,
} from './level.ts'
export { LevelError } from './problem.ts'
export { exceededBy, levelReport, movedDays, type Exceeded, type LevelReport } from './levelReport.ts'
export { LEVEL_RULES, type LevelRule } from './rules.ts'
