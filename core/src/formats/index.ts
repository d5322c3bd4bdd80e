// Files of other programs
export { scheduleCsv } from './csv.ts'
export { writePlanFile } from './writePlanFile.ts'
export { isPlanFile, PLAN_FILES, type PlanFileFormat, type PlanFileName } from './planFiles.ts'
export { planSheets } from './planSheets.ts'
export { writeWorkbook } from './workbook.ts'
export { planCalendar } from './iCalendar.ts'
export { networkGraphMl } from './graphMl.ts'
export { networkDot } from './dot.ts'
export { cellText } from './writeCsv.ts'
export { sheetCsv, reviewRecord, type RecordSheet } from './reviewRecord.ts'
// Somebody else's list: columns recognised, cells read, what is not understood listed
export {
  cellsOf,
  FIELD_WORDS,
  guessMapping,
  headsOf,
  type Cells,
  type ListField,
  type ListMapping,
} from './listMapping.ts'
export { readListDate, readListDuration, readListLinks, type NumberUnit } from './listCells.ts'
export {
  afterReading,
  guessAssignmentMapping,
  guessLinkMapping,
  isAssignmentTable,
  isLinkTable,
  readAssignmentTable,
  readLinkTable,
  readList,
  readSheets,
  type AssignmentMapping,
  type LinkMapping,
} from './listImport.ts'
export type {
  ListOptions,
  ListProblem,
  ListReading,
  ListSheet,
  SheetReading,
  SheetsReading,
} from './listReader.ts'
export {
  guessCalendarMapping,
  isCalendarTable,
  readCalendarTable,
  type CalendarMapping,
  type TableCalendar,
} from './calendarTable.ts'
export { holidaysCsv } from './holidaysCsv.ts'
export { resourceRecord } from './resourceRecord.ts'
export { isResourceTable, readResourceTable, type ReadResource, type ResourceTable } from './resourceTable.ts'
export { blockWords, progressRecord } from './progressRecord.ts'
export {
  readReturned,
  UPDATE_HEADS,
  updateSheets,
  type ReturnedLine,
  type ReturnedSheets,
} from './updateSheets.ts'
