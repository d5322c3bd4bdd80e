// Files of other programs
export { scheduleCsv } from './csv.ts'
export { cellText } from './writeCsv.ts'
export { xmlText } from './xmlText.ts'
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
  guessLinkMapping,
  isLinkTable,
  readLinkTable,
  readList,
  readSheets,
  type LinkMapping,
  type ListOptions,
  type ListProblem,
  type ListReading,
  type ListSheet,
  type SheetReading,
  type SheetsReading,
} from './listImport.ts'
export {
  guessCalendarMapping,
  isCalendarTable,
  readCalendarTable,
  type CalendarMapping,
  type TableCalendar,
} from './calendarTable.ts'
export { holidaysCsv } from './holidaysCsv.ts'
export { resourceRecord } from './resourceRecord.ts'
export { readResourceTable, type ReadResource, type ResourceTable } from './resourceTable.ts'
