import type { RecordSheet } from './reviewRecord.ts'
import { cellText } from './writeCsv.ts'

const WIDEST = 80

/**
 * Tables as a workbook (XLSX): heads in bold and in view, columns as wide as what they hold. Texts stay texts: nothing is a formula. The
 * library is loaded when it is first needed: a page that writes no workbook does not carry it.
 */
export const writeWorkbook = async (sheets: readonly RecordSheet[]): Promise<Uint8Array> => {
  const { default: ExcelJS } = await import('exceljs')
  const workbook = new ExcelJS.Workbook()
  for (const { name, head, rows } of sheets) {
    const sheet = workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] })
    sheet.addRow([...head]).font = { bold: true }
    for (const row of rows)
      sheet.addRow(row.map((cell) => (typeof cell === 'string' ? cellText(cell) : cell)))
    head.forEach((title, k) => {
      const longest = rows.reduce((most, row) => Math.max(most, String(row[k] ?? '').length), title.length)
      sheet.getColumn(k + 1).width = Math.min(WIDEST, longest + 2)
    })
  }
  return new Uint8Array(await workbook.xlsx.writeBuffer())
}
