export { printReport } from './printReport.ts'
export { webFontRules } from './fonts.ts'
