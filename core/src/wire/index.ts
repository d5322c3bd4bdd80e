// What browsers and servers say to each other: parsed on both ends
export {
  askedUidsSchema,
  loggedChangeSchema,
  sentChangeSchema,
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
  jobProgressSchema,
  partialResultSchema,
  runInputSchema,
  runResultSchema,
  runSchema,
  type JobProgress,
  type PartialResult,
  type Run,
  type RunInput,
  type RunRequest,
  type RunResult,
} from './runs.ts'
export { errorBodySchema, type ErrorBody } from './errors.ts'
