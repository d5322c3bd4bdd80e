import {
  afterReading,
  guessMapping,
  isAssignmentTable,
  isCalendarTable,
  isLinkTable,
  isResourceTable,
  readAssignmentTable,
  readCalendarTable,
  readLinkTable,
  readPlan,
  readResourceTable,
  weekLengths,
  type AssignmentMapping,
  type CalendarMapping,
  type Cells,
  type LinkMapping,
  type SheetsReading,
  type Plan,
  type TableCalendar,
  type Week,
} from '@geodrome/core'

/** What a sheet of a workbook is taken for. */
export type Role = 'activities' | 'links' | 'resources' | 'assignments' | 'calendars' | 'leave out'

export interface Sheet {
  readonly name: string
  readonly cells: Cells
  role: Role
}

/** Which columns of the sheets hold what. */
export interface SheetMappings {
  readonly links: (sheet: Sheet) => LinkMapping
  readonly assignments: (sheet: Sheet) => AssignmentMapping
  readonly calendars: (sheet: Sheet) => CalendarMapping
}

const isEmpty = (cells: Cells): boolean => cells.every((row) => row.every((cell) => cell.trim() === ''))

/** What a sheet is by the heads of its columns; null where only what the others are tells. */
const roleOf = (cells: Cells): Role | null => {
  if (isLinkTable(cells)) return 'links'
  if (isCalendarTable(cells)) return 'calendars'
  if (isAssignmentTable(cells)) return 'assignments'
  if (isResourceTable(cells)) return 'resources'
  const { fields } = guessMapping(cells)
  return fields.includes('name') && fields.includes('duration') ? 'activities' : null
}

/**
 * Sheets with their roles, those without anything in them left out. Where none has names and durations, the activities are on the first
 * with names, or else on the first in which anything is understood.
 */
export const sheetsIn = (tables: readonly { readonly name: string; readonly rows: Cells }[]): Sheet[] => {
  const filled = tables.filter(({ rows }) => !isEmpty(rows))
  const roles = filled.map(({ rows }) => roleOf(rows))
  if (!roles.includes('activities')) {
    const known = filled.map(({ rows }, k) => (roles[k] === null ? guessMapping(rows).fields : []))
    const named = known.findIndex((fields) => fields.includes('name'))
    const at = named >= 0 ? named : known.findIndex((fields) => fields.length > 0)
    if (at >= 0) roles[at] = 'activities'
  }
  return filled.map(({ name, rows }, k) => ({ name, cells: rows, role: roles[k] ?? 'leave out' }))
}

interface CalendarSheet {
  readonly sheet: Sheet
  readonly calendars: readonly TableCalendar[]
  readonly problems: readonly { readonly row: number; readonly why: string }[]
}
/** @param around - the instant near which days without a year lie */
export const calendarSheetsIn = (
  sheets: readonly Sheet[],
  mappings: SheetMappings,
  around: number,
): CalendarSheet[] =>
  sheets
    .filter(({ role }) => role === 'calendars')
    .map((sheet) => ({ sheet, ...readCalendarTable(sheet.cells, mappings.calendars(sheet), around) }))

/** A plan that is read from sheets, and what is not understood, each said with its sheet and row. */
export interface SheetPlan<P extends Plan | null = Plan> {
  readonly plan: P
  readonly problems: readonly string[]
}

const rowProblems = (
  { name }: Sheet,
  problems: readonly { readonly row: number; readonly why: string }[],
): string[] => problems.map(({ row, why }) => `${name}, row ${row}: ${why}`)

/** The plan without activities that a list is read into: project, its calendar, the calendars and resources of other sheets. */
export const groundOf = (
  project: { readonly name: string; readonly start: string; readonly week: Week },
  sheets: readonly Sheet[],
  calendarSheets: readonly CalendarSheet[],
  random: () => number,
): SheetPlan<Plan | null> => {
  const problems: string[] = []
  const calendarOf = (id: string, { name, week, off }: TableCalendar) => ({
    id,
    name,
    ...weekLengths(week),
    week,
    exceptions: off.map((days) => ({ ...days, name: 'day off', shifts: [] })),
  })
  const calendars = [calendarOf('main', { name: 'Working week', week: project.week, off: [] })]
  for (const { sheet, calendars: made, problems: bad } of calendarSheets) {
    problems.push(...rowProblems(sheet, bad))
    for (const calendar of made) calendars.push(calendarOf(`c${calendars.length}`, calendar))
  }
  try {
    let { plan } = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { name: project.name, code: '', start: project.start, calendar: 'main' },
      calendars,
    })
    for (const sheet of sheets.filter(({ role }) => role === 'resources')) {
      const read = readResourceTable(plan, sheet.cells, random)
      problems.push(...rowProblems(sheet, read.problems))
      plan = afterReading(plan, read)
    }
    return { plan, problems }
  } catch (error) {
    return { plan: null, problems: [...problems, (error as Error).message] }
  }
}

/** The ground with the activities that were read, then the links and the assignments of other sheets. */
export const wholeOf = (
  ground: Plan,
  reading: SheetsReading,
  sheets: readonly Sheet[],
  mappings: SheetMappings,
  random: () => number,
): SheetPlan & { readonly links: number } => {
  let plan = afterReading(ground, reading)
  let links = reading.sheets.reduce((sum, sheet) => sum + sheet.links, 0)
  const problems: string[] = []
  for (const sheet of sheets.filter(({ role }) => role === 'links')) {
    const mapping = mappings.links(sheet)
    if (mapping.from < 0 || mapping.to < 0) {
      problems.push(`${sheet.name}: say which two columns hold the ends of a link`)
      continue
    }
    const read = readLinkTable(plan, sheet.cells, mapping, { group: null, random })
    problems.push(...rowProblems(sheet, read.problems))
    links += read.links
    plan = afterReading(plan, read)
  }
  for (const sheet of sheets.filter(({ role }) => role === 'assignments')) {
    const mapping = mappings.assignments(sheet)
    if (mapping.activity < 0 || mapping.resource < 0) {
      problems.push(`${sheet.name}: say which columns hold the activity and the resource`)
      continue
    }
    const read = readAssignmentTable(plan, sheet.cells, mapping, { group: null, random })
    problems.push(...rowProblems(sheet, read.problems))
    plan = afterReading(plan, read)
  }
  return { plan, links, problems }
}
