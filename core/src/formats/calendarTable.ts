import type { Week } from '../time/workingDays.ts'
import { instantOf, parseDate, type Instant } from '../time/instant.ts'
import { readWeek } from '../words/weekWords.ts'
import { readListDate } from './listCells.ts'
import type { ListProblem } from './listReader.ts'
import type { Cells } from './listMapping.ts'

/** A table of calendars: which column holds what; -1 for what no column does. */
export interface CalendarMapping {
  readonly headRow: number
  readonly name: number
  readonly hours: number
  readonly off: number
  readonly dayFirst: boolean
}

/** A calendar of a table: its hours, and the days on which it does not work, first and last of each stretch. */
export interface TableCalendar {
  readonly name: string
  readonly week: Week
  readonly off: readonly { readonly from: string; readonly to: string }[]
}

const NAME = /^(calendar( name)?|name|shift|crew)$/i
const HOURS = /hours|week|working time/i
const OFF = /holiday|off|exception|closed|not worked|date/i
const find = (row: readonly string[], test: RegExp): number => row.findIndex((cell) => test.test(cell.trim()))

/** Which columns of a table of calendars hold what, by their heads. */
export const guessCalendarMapping = (cells: Cells): CalendarMapping => {
  const headRow = Math.max(
    0,
    cells
      .slice(0, 5)
      .findIndex((row) => find(row, NAME) >= 0 && (find(row, HOURS) >= 0 || find(row, OFF) >= 0)),
  )
  const head = cells[headRow] ?? []
  const dates = cells
    .slice(headRow + 1, headRow + 200)
    .flatMap((row) => row.flatMap((cell) => [...cell.matchAll(/\b(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}/g)]))
  return {
    headRow,
    name: find(head, NAME),
    hours: find(head, HOURS),
    off: find(head, OFF),
    dayFirst: !dates.some((m) => Number(m[2]) > 12),
  }
}
/** Whether a table is one of calendars, as far as its heads say. */
export const isCalendarTable = (cells: Cells): boolean => {
  const { headRow, name, hours, off } = guessCalendarMapping(cells)
  const called = (cells[headRow]?.[name] ?? '').trim()
  return name >= 0 && (hours >= 0 || (off >= 0 && /calendar|shift/i.test(called)))
}

/**
 * Reads a table of calendars: a row for each, or several with days off for one. Days off are dates or stretches ("26 Jul 2027 to
 * 8 Aug 2027"), several with commas between. What is not understood is listed with its row.
 * @param around - years that are left out are looked for from here on
 */
export const readCalendarTable = (
  cells: Cells,
  mapping: CalendarMapping,
  around: Instant,
): { calendars: readonly TableCalendar[]; problems: readonly ListProblem[] } => {
  const problems: ListProblem[] = []
  const found = new Map<
    string,
    { name: string; week: Week | null; off: { from: string; to: string }[]; row: number; complained: boolean }
  >()
  for (let r = mapping.headRow + 1; r < cells.length; r++) {
    const row = cells[r]!
    const text = (c: number): string => (c < 0 ? '' : (row[c] ?? '').trim())
    const complain = (column: number, why: string): void =>
      void problems.push({ row: r + 1, column, text: text(column), why })
    const name = text(mapping.name)
    if (row.every((cell) => cell.trim() === '')) continue
    if (name === '') {
      complain(mapping.name, 'the row names no calendar')
      continue
    }
    const key = name.toLowerCase()
    const calendar = found.get(key) ?? { name, week: null, off: [], row: r, complained: false }
    found.set(key, calendar)
    if (text(mapping.hours) !== '') {
      const read = readWeek(text(mapping.hours))
      if (read.ok) calendar.week ??= read.week
      else {
        calendar.complained = true
        complain(mapping.hours, read.why)
      }
    }
    for (const part of text(mapping.off)
      .split(/[;,\n]/)
      .map((d) => d.trim())
      .filter(Boolean)) {
      const read = readStretch(part, mapping.dayFirst, around)
      if (typeof read === 'string') complain(mapping.off, read)
      else calendar.off.push(read)
    }
  }
  const calendars: TableCalendar[] = []
  for (const { name, week, off, row, complained } of found.values())
    if (week) calendars.push({ name, week, off })
    else if (!complained)
      problems.push({
        row: row + 1,
        column: mapping.hours,
        text: name,
        why: `${name} has no hours; write them in words, for example mon-fri 7-12 13-16`,
      })
  return { calendars, problems: problems.sort((a, b) => a.row - b.row) }
}

/** A day or a stretch of days; a reason where it is neither. */
const readStretch = (
  text: string,
  dayFirst: boolean,
  around: Instant,
): { from: string; to: string } | string => {
  const [first, last] = text.split(/\s+(?:to|until|through|[-–])\s+|\s*(?:\.\.|–)\s*/i)
  const from = readListDate(first!, dayFirst, around)
  if (!from.ok) return from.why
  const to = last === undefined ? from : readListDate(last, dayFirst, instantOf(from.value, 'start'))
  if (!to.ok) return to.why
  const day = (value: string): string => value.slice(0, 10)
  return parseDate(day(to.value))!.at < parseDate(day(from.value))!.at
    ? `“${text}” ends before it begins`
    : { from: day(from.value), to: day(to.value) }
}
