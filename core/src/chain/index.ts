export { chainReport, type ChainReport } from './chainReport.ts'
export { chainSettings, focusedDuration } from './focused.ts'
