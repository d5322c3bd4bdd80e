// The plan document and its file
export * from './schema.ts'
export { outsideDates, outsideTaken, type OutsideDate } from './outside.ts'
export { planFileJsonSchema } from './jsonSchema.ts'
export { writePlan } from './writePlan.ts'
export { readPlan, parseJson, type PlanRead } from './readPlan.ts'
export { PlanError, pointer, type IssueCode, type PlanIssue } from './issue.ts'
export { validatePlan } from './validatePlan.ts'
export { findLoop } from './findLoop.ts'
// Changes: the one way a plan is edited
export { changeSchema, keyOf, type Change, type Item } from './change.ts'
export { changesBetween } from './changesBetween.ts'
export { addsItem, planWhenAdded } from './whenAdded.ts'
export { LIST_NAMES, type ListName } from './fields.ts'
export { applyChange, applyUnchecked, type Applied } from './applyChange.ts'
export { affectsForecast, isForecastPast, type Since } from './affects.ts'
export { factsOf, sharedFacts } from './facts.ts'
export {
  freshId,
  keepingDays,
  hangBetween,
  linkInSeries,
  newActivity,
  relinkInSeries,
  removeActivities,
  removeActivity,
  setDuration,
  unlinkAmong,
  withStartLimit,
} from './edits.ts'
export { fromEdge, linkTypeOf, newLink, toEdge } from './links.ts'
export { groupMoves, type GroupMove } from './groupMove.ts'
export { groupEnds, linkGroup } from './groupLinkEnds.ts'
export { codeRuleNear, nextCode, recode, type CodeRule } from './codes.ts'
export { breakDown, handedOn, whyWhole, type BreakDown, type Handed, type WorkPart } from './breakDown.ts'
export {
  dissolveGroup,
  groupAround,
  indent,
  isWithin,
  moveRows,
  outdent,
  groupAfter,
  groupToIndentInto,
  outlineNumbers,
  selectedRows,
  shiftRows,
  type OutlineRow,
} from './outline.ts'
export { makeHeadings, whyNoHeading } from './headings.ts'
export {
  CALENDAR_TEMPLATES,
  removeCalendar,
  setCalendar,
  setProjectCalendar,
  usesOfCalendar,
  type CalendarUse,
  type Stays,
} from './calendarEdits.ts'
export {
  copiesOfCalendars,
  copyOfCalendar,
  hoursAlone,
  originNow,
  originOf,
  takeOrigin,
  type CalendarHours,
  type CalendarOrigin,
  type CalendarsOfPlan,
} from './calendarCopies.ts'
export { planLike, type NewPlanFacts, type TakenFromPlan } from './planLike.ts'
export { calendarLibrary, type LibraryCalendar } from './calendarLibrary.ts'
// Resources and money
export { assign, assignEach, assignmentsOf, newResource, removeResource, type Wanted } from './assignments.ts'
export { roundMoney } from './money.ts'
// Durations and calendars of activities and lags
export { CLOCK_LENGTHS, durationMinutes, lengthsOf, type DayLengths } from './durations.ts'
export { paintedLengths, shiftMinutes, weekLengths } from './weekLengths.ts'
export { calendarOf, lagCalendarOf } from './lagCalendar.ts'
export { positionsOf, type Positions } from './positions.ts'
export { groupsAround, scopeWidth } from './scope.ts'
