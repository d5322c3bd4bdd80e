import ExcelJS from 'exceljs'
import { cellText, type RecordSheet } from '@geodrome/core'

const WIDEST = 80

/** Tables as a workbook (XLSX): heads in bold and in view, columns as wide as what they hold. Texts stay texts: nothing is a formula. */
export const writeWorkbook = async (sheets: readonly RecordSheet[]): Promise<Buffer> => {
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
  return Buffer.from(await workbook.xlsx.writeBuffer())
}
