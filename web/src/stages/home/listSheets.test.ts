import { describe, expect, it } from 'vitest'
import {
  cellsOf,
  guessAssignmentMapping,
  guessCalendarMapping,
  guessLinkMapping,
  guessMapping,
  readSheets,
  readWeek,
  type Plan,
} from '@geodrome/core'
import {
  calendarSheetsIn,
  groundOf,
  sheetsIn,
  wholeOf,
  type Sheet,
  type SheetMappings,
} from './listSheets.ts'

const guessed: SheetMappings = {
  links: ({ cells }) => guessLinkMapping(cells),
  assignments: ({ cells }) => guessAssignmentMapping(cells),
  calendars: ({ cells }) => guessCalendarMapping(cells),
}
let drawn = 0
const random = (): number => (drawn += 0.001) % 1

const ACTIVITIES = `Code;Name;Duration;Calendar
A10;"Keel; lay it";5d;Yard
A20;Frames, first half;0;
A30;Shell;1,5d;Night`
const LINKS = `Predecessor;Successor;Type;Lag
A10;A20;FS;1d
A20;A30;;
A20;A99;FS;`
const RESOURCES = `Code;Name;Kind;Price;Per;Available
W;Welder;people;45,50;hour;2
;;;;;
C;Crane;plant;0;day;1`
const ASSIGNMENTS = `Activity;Resource;Amount
A10;W;2
A30;C;`
const CALENDARS = `Calendar;Hours;Days off
Yard;mon-fri 7-12 13-16;
Night;not at all;`

const workbook = (tables: Readonly<Record<string, string>>): Sheet[] =>
  sheetsIn(Object.entries(tables).map(([name, text]) => ({ name, rows: cellsOf(text) })))
const WEEK = readWeek('mon-fri 8-12 13-17')

const made = (sheets: readonly Sheet[], mappings = guessed) => {
  if (!WEEK.ok) throw new Error(WEEK.why)
  const project = { name: 'Sluice', start: '2027-04-12', week: WEEK.week }
  const ground = groundOf(project, sheets, calendarSheetsIn(sheets, mappings, 0), random)
  const read = readSheets(
    ground.plan!,
    sheets
      .filter(({ role }) => role === 'activities')
      .map(({ name, cells }) => ({
        name,
        cells,
        mapping: guessMapping(cells),
        badRows: 'without-cell' as const,
      })),
    { group: null, random },
  )
  return { ground, read, whole: wholeOf(ground.plan!, read, sheets, mappings, random) }
}
const codes = (plan: Plan): string[] => plan.activities.map(({ code }) => code)

describe('the sheets of a workbook', () => {
  it('are taken for what their columns say, empty ones left out', () => {
    const sheets = workbook({
      Notes: 'Written by the yard\n\nCall before Friday',
      Links: LINKS,
      Who: ASSIGNMENTS,
      Tasks: ACTIVITIES,
      People: RESOURCES,
      Hours: CALENDARS,
    })
    expect(sheets.map(({ name, role }) => [name, role])).toEqual([
      ['Notes', 'leave out'],
      ['Links', 'links'],
      ['Who', 'assignments'],
      ['Tasks', 'activities'],
      ['People', 'resources'],
      ['Hours', 'calendars'],
    ])
    expect(
      sheetsIn([
        { name: 'Nothing', rows: [] },
        { name: 'Blank', rows: [[], ['', ' '], [' ']] },
      ]),
    ).toEqual([])
  })
  it('without durations are activities on the first that says anything, unless another has durations', () => {
    const names = 'Name\nKeel\nShell'
    const roles = (tables: Record<string, string>): string[] => workbook(tables).map(({ role }) => role)
    expect(roles({ Names: names, More: names })).toEqual(['activities', 'leave out'])
    expect(roles({ Names: names, Tasks: ACTIVITIES })).toEqual(['leave out', 'activities'])
    expect(roles({ Ties: LINKS, Rest: 'Duration\n5d' })).toEqual(['links', 'activities'])
    expect(roles({ Ties: LINKS })).toEqual(['links'])
  })
})

describe('a plan of several sheets', () => {
  it('has the activities of one, the links of another, who works on them, and says what it could not take', () => {
    const { whole, ground } = made(
      workbook({ Tasks: ACTIVITIES, Links: LINKS, People: RESOURCES, Who: ASSIGNMENTS, Hours: CALENDARS }),
    )
    const { plan } = whole
    expect(codes(plan)).toEqual(['A10', 'A20', 'A30'])
    expect(plan.activities.map(({ name }) => name)).toEqual(['Keel; lay it', 'Frames, first half', 'Shell'])
    const codeOf = new Map(plan.activities.map(({ id, code }) => [id, code]))
    expect(plan.links.map(({ from, to, type }) => [codeOf.get(from), codeOf.get(to), type])).toEqual([
      ['A10', 'A20', 'FS'],
      ['A20', 'A30', 'FS'],
    ])
    expect(whole.links).toBe(2)
    expect(plan.resources.map(({ code }) => code)).toEqual(['W', 'C'])
    expect(plan.assignments.map(({ activity, amount }) => [codeOf.get(activity), amount])).toEqual([
      ['A10', 2],
      ['A30', 1],
    ])
    // A calendar without hours is named with its row, and the other is there.
    expect(plan.calendars.map(({ name }) => name)).toEqual(['Working week', 'Yard'])
    expect(ground.problems.filter((problem) => problem.startsWith('Hours, row 3'))).toHaveLength(1)
    expect(whole.problems.filter((problem) => problem.startsWith('Links, row 4'))).toHaveLength(1)
    expect(whole.problems.join()).toContain('A99')
  })
  it('asks for the columns that nobody has named, and takes the other sheets', () => {
    const mappings: SheetMappings = {
      ...guessed,
      links: (sheet) => ({ ...guessed.links(sheet), to: -1 }),
      assignments: (sheet) => ({ ...guessed.assignments(sheet), resource: -1 }),
    }
    const { whole } = made(workbook({ Tasks: ACTIVITIES, Ties: LINKS, Who: ASSIGNMENTS }), mappings)
    expect(whole.problems).toEqual([
      'Ties: say which two columns hold the ends of a link',
      'Who: say which columns hold the activity and the resource',
    ])
    expect([codes(whole.plan).length, whole.plan.links.length, whole.links]).toEqual([3, 0, 0])
  })
  it('reads activities of two sheets as one list, linked over both', () => {
    const { whole } = made(
      workbook({
        North: 'Code;Name;Duration;Predecessors\nN1;Dig;3d;\nN2;Pour;2d;S1',
        South: 'Code;Name;Duration;Predecessors\nS1;Dig;3d;N1',
      }),
    )
    expect(codes(whole.plan).sort()).toEqual(['N1', 'N2', 'S1'])
    expect([whole.links, whole.problems]).toEqual([2, []])
  })
  it('that cannot be begun says why, and there is none', () => {
    const project = { name: 'Sluice', start: '2400-01-01', week: {} }
    const { plan, problems } = groundOf(project, [], [], random)
    expect(plan).toBe(null)
    expect(problems).toHaveLength(1)
    expect(problems[0]).toMatch(/start/)
  })
})
