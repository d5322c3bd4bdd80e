import ExcelJS from 'exceljs'
import { zipSync } from 'fflate'
import { BadRequestError } from '../errors.ts'
import { unpack } from './unpack.ts'

export interface Sheet {
  readonly name: string
  /** Cells as text; dates as YYYY-MM-DD or YYYY-MM-DDTHH:MM. */
  readonly rows: string[][]
}

const MB = 1024 * 1024
/** What a workbook may unpack to: lists of repeated words and numbers pack to a twentieth, hardly to less. */
const mostBytes = (packed: number): number => Math.min(150 * MB, 20 * MB + 60 * packed)
const MOST_ROWS = 200_000
const MOST_COLUMNS = 200

const isSheet = (name: string): boolean => /^xl\/worksheets\/[^/]+\.xml$/.test(name)
/** What cells are read from; pictures, drawings, comments and printer settings are not. */
const isWanted = (name: string): boolean =>
  isSheet(name) ||
  /^(\[Content_Types\]\.xml|_rels\/\.rels|xl\/(workbook|styles|sharedStrings)\.xml|xl\/_rels\/workbook\.xml\.rels|xl\/theme\/[^/]+\.xml)$/.test(
    name,
  )

/** Of a sheet the parts that hold no cell: some of them stand for millions of cells that a reader would lay out one by one. */
const WITHOUT_CELLS = [
  'mergeCells',
  'dataValidations',
  'conditionalFormatting',
  'hyperlinks',
  'tableParts',
  'extLst',
  'autoFilter',
  'sheetProtection',
  'rowBreaks',
  'colBreaks',
  'legacyDrawing',
  'drawing',
  'picture',
]

/** @throws BadRequestError if it has more rows than a list has */
const bareSheet = (name: string, file: Uint8Array): Uint8Array => {
  let xml = Buffer.from(file.buffer, file.byteOffset, file.byteLength).toString('utf8')
  for (const part of WITHOUT_CELLS)
    xml = xml.replace(new RegExp(`<${part}\\b[^>]*/>|<${part}\\b[^>]*>[^]*?</${part}>`, 'g'), '')
  let rows = 0
  for (let at = xml.indexOf('<row'); at >= 0; at = xml.indexOf('<row', at + 4)) rows++
  const last = Number(
    /^<row\b[^>]*\br="(\d+)"/.exec(xml.slice(Math.max(0, xml.lastIndexOf('<row'))))?.[1] ?? 0,
  )
  if (rows > MOST_ROWS || last > MOST_ROWS)
    throw new BadRequestError(
      `${name.replace(/^.*\//, '').replace('.xml', '')} has more than ${MOST_ROWS} rows; leave out what is not a list`,
    )
  return Buffer.from(xml, 'utf8')
}

/**
 * Reads a workbook (XLSX) into tables of text. Formulas give their last result; nothing is computed.
 * @throws BadRequestError if it is no workbook, or too large
 */
export const readWorkbook = async (file: Uint8Array): Promise<Sheet[]> => {
  const bare = bareWorkbook(file)
  const workbook = new ExcelJS.Workbook()
  try {
    await workbook.xlsx.load(bare as never)
  } catch {
    throw new BadRequestError('this workbook cannot be read; save it anew as XLSX, or as CSV, and try again')
  }
  return workbook.worksheets.map((sheet): Sheet => {
    if (sheet.rowCount > MOST_ROWS)
      throw new BadRequestError(`sheet “${sheet.name}” has more than ${MOST_ROWS} rows`)
    const rows: string[][] = []
    sheet.eachRow({ includeEmpty: true }, (row) => {
      const cells: string[] = []
      for (let c = 1; c <= Math.min(row.cellCount, MOST_COLUMNS); c++)
        cells.push(textOf(row.getCell(c).value))
      rows.push(cells)
    })
    return { name: sheet.name, rows }
  })
}

/** The workbook with nothing but its cells. */
const bareWorkbook = (file: Uint8Array): Uint8Array => {
  let parts: Map<string, Uint8Array>
  try {
    parts = unpack(file, mostBytes(file.length), isWanted)
  } catch (error) {
    if (error instanceof BadRequestError) throw error
    parts = new Map()
  }
  if (!parts.has('xl/workbook.xml'))
    throw new BadRequestError('this is not a workbook (XLSX); save it as XLSX or CSV and try again')
  const bare = [...parts].map(([name, part]) => [name, isSheet(name) ? bareSheet(name, part) : part] as const)
  return zipSync(Object.fromEntries(bare), { level: 0 })
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
