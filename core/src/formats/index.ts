// Files of other programs
export { scheduleCsv } from './csv.ts'
