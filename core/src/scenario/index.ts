// Scenarios: lists of changes on top of a plan
export {
  changesOfScenario,
  editInScenario,
  promoteScenario,
  removeScenario,
  newScenario,
  scenarioPlan,
  type ScenarioPlan,
} from './scenarioPlan.ts'
export { scheduleDifference, type ScheduleDifference } from './differences.ts'
