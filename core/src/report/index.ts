// A plan on paper
export { planFacts } from './planFacts.ts'
export { reportOf, type ReportListener, type ReportOptions } from './reportOf.ts'
export { chosenParts, REPORT_PARTS, REPORT_PART_NAMES, type ReportPartName } from './reportParts.ts'
export type { ReportBlock, Report, ReportColumn, ReportPart, ReportTable } from './report.ts'
export { partHtml, reportPage, REPORT_CSS } from './reportHtml.ts'
