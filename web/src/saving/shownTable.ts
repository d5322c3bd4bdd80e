import type { RecordSheet } from '@geodrome/core'

/** What is shown of a table, or all of it where a part is shown: a head, rows below it. */
export type TableRows = Pick<RecordSheet, 'head' | 'rows'>

/** A figure as it is written in a cell: thousands with commas, a minus of the trade or a hyphen. "007" is a code. */
const FIGURE = /^[+−-]?(?:[1-9]\d{0,2}(?:,\d{3})+|0|[1-9]\d*)(?:\.\d+)?$/

/** A cell's words as a number where they are nothing but one, else as they are. */
export const figureOf = (words: string): string | number =>
  FIGURE.test(words) ? Number(words.replaceAll(',', '').replace('−', '-')) : words

const isBlock = (element: Element): boolean =>
  /^(?:block|flex|grid|list-item|table)/.test(getComputedStyle(element).display)

/** The words of a cell as they are read: parts that stand below each other apart, what was typed, pictures by their name. */
const wordsIn = (node: Node): string => {
  if (node.nodeType === Node.TEXT_NODE) return node.textContent!.replace(/\s+/g, ' ')
  if (!(node instanceof Element)) return ''
  if (node.getAttribute('aria-hidden') === 'true') return ''
  if (node.matches('.n-input')) return node.querySelector('input')?.value ?? ''
  if (node instanceof SVGElement) return node.getAttribute('aria-label') ?? ''
  if (node instanceof HTMLBRElement) return '\n'
  const words = [...node.childNodes].map(wordsIn).join('')
  return isBlock(node) ? `\n${words}\n` : words
}

const cellWords = (cell: Element): string =>
  [...cell.childNodes]
    .map(wordsIn)
    .join('')
    .split('\n')
    .map((line) => line.replace(/ +/g, ' ').trim())
    .filter((line) => line !== '')
    .join('; ')

/** A cell: the date behind its words where it has one, a figure where they are one, else its words; nothing where a dash says that. */
const cellOf = (cell: Element): string | number => {
  const date = cell.getAttribute('data-iso')
  if (date !== null) return date
  const words = cellWords(cell)
  if (words === '–') return ''
  return cell.classList.contains('code') ? words : figureOf(words)
}

/** Cells over the columns they cover: of one that covers several, the words in the first. */
const cellsOf = (row: HTMLTableRowElement): (HTMLTableCellElement | null)[] =>
  [...row.cells].flatMap((cell) => [cell, ...Array<null>(cell.colSpan - 1).fill(null)])

/** Whether a cell holds nothing but what is pressed. */
const isPressed = (cell: Element): boolean => {
  const buttons = [...cell.querySelectorAll('button')]
  const letters = (words: string): string => words.replace(/[\s;]/g, '')
  return buttons.length > 0 && letters(cellWords(cell)) === letters(buttons.map(cellWords).join(''))
}

/**
 * A table as it stands on the screen, for a file: what is saved is what is seen, in the order in which it is seen. Columns that only hold
 * something to press stay out. A cell with `data-iso` gives that date (ISO 8601), whatever words say it.
 */
export const shownTable = (table: HTMLTableElement): TableRows => {
  const headRow = table.tHead?.rows[0]
  const heads = headRow ? cellsOf(headRow) : []
  const rows = [...table.rows]
    .filter((row) => row !== headRow && row.getAttribute('aria-hidden') !== 'true')
    .map(cellsOf)
  /** Only drawn in, or there to press what stands in it. */
  const isNoFact = (k: number): boolean => {
    const cells = rows.flatMap((row) => row[k] ?? [])
    const told = cells.filter((cell) => cellWords(cell) !== '')
    if (told.length === 0) return cells.some((cell) => cell.querySelector('svg, button') !== null)
    return !!heads[k] && cellWords(heads[k]) === '' && told.every(isPressed)
  }
  const columns = Array.from(
    { length: Math.max(heads.length, ...rows.map((row) => row.length)) },
    (_, k) => k,
  )
  const kept = columns.filter((k) => !isNoFact(k))
  return {
    head: kept.map((k) => (heads[k] ? cellWords(heads[k]) : '')),
    rows: rows.map((row) => kept.map((k) => (row[k] ? cellOf(row[k]) : ''))),
  }
}
