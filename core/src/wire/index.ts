// What browsers and servers say to each other: parsed on both ends
export {
  askedUidsSchema,
  loggedChangeSchema,
  readSentChange,
  type LoggedChange,
  type SentChange,
} from './changes.ts'
export {
  calendarsOfPlanSchema,
  importedPlanSchema,
  openedPlanSchema,
  planAtSchema,
  planSummarySchema,
  sheetMappingSchema,
  sheetSchema,
  type OpenedPlan,
  type PlanSummary,
  type Sheet,
  type SheetMapping,
} from './plans.ts'
export {
  RUN_KINDS,
  runInFullSchema,
  runNameSchema,
  runProgressSchema,
  runRequestSchema,
  runSchema,
  simulationInputSchema,
  type Run,
  type RunInFull,
  type RunInput,
  type RunKind,
  type RunPartial,
  type RunProgress,
  type RunResult,
  type SimulationInput,
  type SimulationPartial,
  type SimulationRequest,
  type SimulationResult,
} from './runs.ts'
export {
  LOOKS,
  lookRequestSchema,
  type Contingency,
  type Distribution,
  type JointLook,
  type LookAnswer,
  type LookCondition,
  type LookKind,
  type LookQuestion,
  type LookRequest,
  type LookTarget,
  type MergeBias,
  type ReplayLook,
  type TargetLook,
} from './looks.ts'
export { reportLineSchema, reportQuerySchema, type ReportLine, type ReportQuery } from './reports.ts'
export { errorBodySchema, type ErrorBody } from './errors.ts'
