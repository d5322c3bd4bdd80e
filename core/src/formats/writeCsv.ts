import Papa from 'papaparse'

/** Letters that a cell of a spreadsheet holds. */
const MOST_IN_CELL = 32_767

/** A text that fits a cell; of a longer one the beginning. */
export const cellText = (text: string): string =>
  text.length <= MOST_IN_CELL ? text : `${text.slice(0, MOST_IN_CELL - 1)}…`

/**
 * What a spreadsheet takes for a formula at the beginning of a cell, in full width too; or behind a sign that another country's
 * spreadsheet takes for the end of a cell.
 */
const FORMULA = /(^|[;\t\r\n|])([=+@＝＋－＠]|-(?!\d+(?:\.\d+)?$))/g

/** Numbers are left as numbers, negative ones among them; only texts could be formulas. */
const safe = (value: string | number): string | number =>
  typeof value === 'number' ? value : cellText(value.replace(FORMULA, "$1'$2"))

/** Rows as CSV (RFC 4180, CRLF). No cell is a formula, whatever separates cells where it is read. */
export const writeCsv = (rows: readonly (readonly (string | number)[])[]): string =>
  Papa.unparse(
    rows.map((row) => row.map(safe)),
    { newline: '\r\n', quotes: (value: unknown) => typeof value === 'string' && /[;\t|]/.test(value) },
  ) + '\r\n'
