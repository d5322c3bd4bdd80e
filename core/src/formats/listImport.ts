import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import { readListLinks } from './listCells.ts'
import type { Cells } from './listMapping.ts'
import {
  ListReader,
  type ListOptions,
  type ListReading,
  type ListSheet,
  type LooseRows,
  type SheetsReading,
} from './listReader.ts'

/** A table of links beside a list of activities: which column holds what. */
export interface LinkMapping {
  readonly headRow: number
  readonly from: number
  readonly to: number
  readonly type: number
  readonly lag: number
}

/**
 * Reads somebody else's list into a plan: rows whose code is known change that activity, the others are added. What cannot be
 * understood is listed with its row and the reason, never dropped in silence; links that would close a loop among them.
 * Pure: the plan is only read. O(rows + links).
 */
export const readList = (plan: Plan, sheet: Omit<ListSheet, 'name'>, options: ListOptions): ListReading => {
  const { change, sheets } = readSheets(plan, [{ ...sheet, name: '' }], options)
  return { change, ...sheets[0]! }
}

/** {@link readList} of a list that stands on several sheets: a code is one activity on all of them, and links lead from any to any. */
export const readSheets = (plan: Plan, sheets: readonly ListSheet[], options: ListOptions): SheetsReading => {
  const read = (loose?: LooseRows): ListReader => {
    const reader = new ListReader(plan, options, loose)
    for (const sheet of sheets) {
      reader.turnTo(sheet)
      for (let r = sheet.mapping.headRow + 1; r < sheet.cells.length; r++) reader.takeRow(r)
    }
    return reader
  }
  const first = read()
  const loose = first.looseRows()
  const reader = loose.size === 0 ? first : read(loose)
  reader.connectLinks()
  return reader.reading()
}

/** A table of assignments: which column holds what; -1 for what no column does. */
export interface AssignmentMapping {
  readonly headRow: number
  readonly activity: number
  readonly resource: number
  readonly amount: number
}

/**
 * Reads a table of assignments, a row for each, into a plan that has the activities. What an activity of the table had before is
 * replaced by what the table says.
 */
export const readAssignmentTable = (
  plan: Plan,
  cells: Cells,
  mapping: AssignmentMapping,
  options: ListOptions,
): ListReading => {
  const reader = new ListReader(plan, options)
  reader.turnTo({
    name: '',
    cells,
    mapping: { headRow: mapping.headRow, fields: [], unit: 'day', dayFirst: true },
    badRows: 'leave-out',
  })
  for (let r = mapping.headRow + 1; r < cells.length; r++) {
    const text = (c: number): string => (c < 0 ? '' : (cells[r]![c] ?? '').trim())
    if (cells[r]!.every((cell) => cell.trim() === '')) continue
    const activity = reader.find(text(mapping.activity))
    const amount = text(mapping.amount)
    if (!activity)
      reader.complain(
        r,
        mapping.activity,
        text(mapping.activity),
        `there is no activity ${text(mapping.activity) || 'named here'}`,
      )
    else if (text(mapping.resource) === '') reader.complain(r, mapping.resource, '', 'it names no resource')
    else if (amount !== '' && !/^\d+([.,]\d+)?\s*%?$/.test(amount))
      reader.complain(r, mapping.amount, amount, `“${amount}” is no amount; write for example 2, 0.5 or 50 %`)
    else {
      const needs = reader.readNeeds(`${amount} ${text(mapping.resource)}`)
      const why = needs.ok ? reader.takeNeeds(activity, needs) : needs.why
      if (why !== null) reader.complain(r, mapping.resource, text(mapping.resource), why)
    }
  }
  const { change, sheets } = reader.reading()
  return { change, ...sheets[0]! }
}

/** Which columns of a table of assignments hold what, by their heads; -1 for what no head says. */
export const guessAssignmentMapping = (cells: Cells): AssignmentMapping => {
  const headRow = Math.max(
    0,
    cells.slice(0, 5).findIndex((row) => find(row, ACTIVITY) >= 0 && find(row, RESOURCE) >= 0),
  )
  const head = cells[headRow] ?? []
  // Where both stand there, the code finds the activity, not its name.
  const code = find(head, /^(activity |task )?(code|id|ref)$/i)
  return {
    headRow,
    activity: code >= 0 ? code : find(head, ACTIVITY),
    resource: find(head, RESOURCE),
    amount: find(head, /^(amount|units?|quantity|qty|number|how many|max)$/i),
  }
}
/** Whether a table is one of assignments, as far as its heads say: who works on what, and nothing of how long. */
export const isAssignmentTable = (cells: Cells): boolean => {
  const { activity, resource, headRow } = guessAssignmentMapping(cells)
  return activity >= 0 && resource >= 0 && find(cells[headRow]!, /duration|days/i) < 0
}
const ACTIVITY = /^(activity|task|activity (code|id)|task (code|id)|code)$/i
const RESOURCE = /^(resource|resource (code|id|name)|assigned( to)?)$/i

/** Reads a table of links (from, to, type, lag) into a plan that has the activities. */
export const readLinkTable = (
  plan: Plan,
  cells: Cells,
  mapping: LinkMapping,
  options: ListOptions,
): ListReading => {
  const reader = new ListReader(plan, options)
  reader.turnTo({
    name: '',
    cells,
    mapping: { headRow: mapping.headRow, fields: [], unit: 'day', dayFirst: true },
    badRows: 'leave-out',
  })
  for (let r = mapping.headRow + 1; r < cells.length; r++) {
    const row = cells[r]!
    const text = (c: number): string => (c < 0 ? '' : (row[c] ?? '').trim())
    if (row.every((cell) => cell.trim() === '')) continue
    const lag = text(mapping.lag)
    const read = readListLinks(
      `${text(mapping.from)} ${text(mapping.type) || 'FS'}${lag === '' || lag === '0' ? '' : /^[+-]/.test(lag) ? lag : `+${lag}`}`,
    )
    const to = reader.find(text(mapping.to))
    if (read.links.length !== 1)
      reader.complain(r, mapping.from, text(mapping.from), read.problems[0] ?? 'not a link')
    else if (!to)
      reader.complain(
        r,
        mapping.to,
        text(mapping.to),
        `there is no activity ${text(mapping.to) || 'named here'}`,
      )
    else reader.ask(read.links[0]!, to, 'in', r, mapping.from)
  }
  reader.connectLinks()
  const { change, sheets } = reader.reading()
  return { change, ...sheets[0]! }
}

/** Which columns of a table of links hold what, by their heads; -1 for what no head says. */
export const guessLinkMapping = (cells: Cells): LinkMapping => {
  const headRow = Math.max(
    0,
    cells.slice(0, 5).findIndex((row) => find(row, FROM) >= 0 && find(row, TO) >= 0),
  )
  const head = cells[headRow] ?? []
  return {
    headRow,
    from: find(head, FROM),
    to: find(head, TO),
    type: find(head, /^(link |relation(ship)? )?(type|kind)$/i),
    lag: find(head, /lag|lead|offset/i),
  }
}
/** Whether a table is one of links, as far as its heads say. */
export const isLinkTable = (cells: Cells): boolean => {
  const { from, to } = guessLinkMapping(cells)
  return from >= 0 && to >= 0
}
const FROM = /^(from|predecessor|before|source)( (activity|code|id))?$/i
const TO = /^(to|successor|after|target)( (activity|code|id))?$/i
const find = (row: readonly string[], test: RegExp): number => row.findIndex((cell) => test.test(cell.trim()))

/** The plan after a reading; for the preview of what taking it would do. */
export const afterReading = (plan: Plan, reading: { readonly change: Change }): Plan =>
  applyUnchecked(plan, reading.change).plan
