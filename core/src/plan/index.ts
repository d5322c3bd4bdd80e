// The plan document and its file
export * from './schema.ts'
export { planFileJsonSchema } from './jsonSchema.ts'
export { writePlan } from './writePlan.ts'
export { readPlan, parseJson, type PlanRead } from './readPlan.ts'
export { PlanError, pointer, type IssueCode, type PlanIssue } from './issue.ts'
export { validatePlan } from './validatePlan.ts'
export { findLoop } from './findLoop.ts'
// Changes: the one way a plan is edited
export { changeSchema, keyOf, LIST_NAMES, type Change, type Item, type ListName } from './change.ts'
export { applyChange, applyUnchecked, type Applied } from './applyChange.ts'
export type { LoggedChange, PlanSummary } from './loggedChange.ts'
export { factsOf, sharedFacts } from './facts.ts'
export { freshId, linkInSeries, newActivity, removeActivities, removeActivity, setDuration, unlinkAmong } from './edits.ts'
export { codeRuleNear, nextCode, recode, type CodeRule } from './codes.ts'
export { dissolveGroup, groupAround, indent, isWithin, moveRows, outdent, outlineNumbers, shiftRows, type OutlineRow } from './outline.ts'
// Durations and calendars of activities and lags
export { CLOCK_LENGTHS, durationMinutes, lengthsOf, type DayLengths } from './durations.ts'
export { calendarOf, lagCalendarOf } from './lagCalendar.ts'
