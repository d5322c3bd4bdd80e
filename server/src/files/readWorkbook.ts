import ExcelJS from 'exceljs'
import { unzipSync } from 'fflate'
import { BadRequestError } from '../errors.ts'

export interface Sheet {
  readonly name: string
  /** Cells as text; dates as YYYY-MM-DD or YYYY-MM-DDTHH:MM. */
  readonly rows: string[][]
}

const MAX_EXPANDED = 300 * 1024 * 1024
const MAX_ROWS = 200_000
const MAX_COLUMNS = 200

/**
 * Reads a workbook (XLSX) into tables of text. Formulas give their last result; nothing is computed.
 * @throws BadRequestError if it is no workbook, or too large
 */
export const readWorkbook = async (file: Uint8Array): Promise<Sheet[]> => {
  let expanded = 0
  try {
    // Sizes are read off the archive's directory before anything is unpacked.
    unzipSync(file, {
      filter: ({ originalSize }) => {
        expanded += originalSize
        return false
      },
    })
  } catch {
    throw new BadRequestError('this is not a workbook (XLSX); save it as XLSX or CSV and try again')
  }
  if (expanded > MAX_EXPANDED)
    throw new BadRequestError('this workbook unpacks to more than 300 MB; leave out what is not a list')
  const workbook = new ExcelJS.Workbook()
  try {
    await workbook.xlsx.load(file as never)
  } catch {
    throw new BadRequestError('this workbook cannot be read; save it anew as XLSX, or as CSV, and try again')
  }
  return workbook.worksheets.map((sheet): Sheet => {
    if (sheet.rowCount > MAX_ROWS)
      throw new BadRequestError(`sheet “${sheet.name}” has more than ${MAX_ROWS} rows`)
    const rows: string[][] = []
    sheet.eachRow({ includeEmpty: true }, (row) => {
      const cells: string[] = []
      for (let c = 1; c <= Math.min(row.cellCount, MAX_COLUMNS); c++) cells.push(textOf(row.getCell(c).value))
      rows.push(cells)
    })
    return { name: sheet.name, rows }
  })
}

const textOf = (value: ExcelJS.CellValue): string => {
  if (value === null || value === undefined) return ''
  if (value instanceof Date) return value.toISOString().slice(0, 16).replace('T00:00', '')
  if (typeof value !== 'object') return String(value)
  if ('richText' in value) return value.richText.map((part) => part.text).join('')
  if ('text' in value) return textOf(value.text)
  if ('result' in value) return textOf(value.result)
  return ''
}
