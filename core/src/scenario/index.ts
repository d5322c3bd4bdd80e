// Scenarios: lists of changes on top of a plan
export {
  changesOfScenario,
  lineageOf,
  editInScenario,
  promoteScenario,
  removeScenario,
  newScenario,
  scenarioPlan,
  type ScenarioPlan,
} from './scenarioPlan.ts'
export { behindIn, keepThough, type BehindChange } from './behind.ts'
export { scenarioAlone, scenariosOffered, type OfferedScenario } from './scenarioFile.ts'
export { floatGain, scheduleDifference, type ScheduleDifference } from './differences.ts'
