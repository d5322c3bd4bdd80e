import { describe, expect, it } from 'vitest'
import { applyChange, readPlan, type Plan } from '../plan/index.ts'
import { readListDate, readListDuration, readListLinks } from './listCells.ts'
import {
  afterReading,
  guessAssignmentMapping,
  guessLinkMapping,
  isAssignmentTable,
  readAssignmentTable,
  readLinkTable,
  readList,
  readSheets,
} from './listImport.ts'
import { guessMapping } from './listMapping.ts'
import type { ListOptions, ListSheet } from './listReader.ts'

const day = {
  id: 'day',
  name: 'Day shift',
  dayMinutes: 480,
  weekMinutes: 2400,
  week: {
    mon: ['08:00-16:00'],
    tue: ['08:00-16:00'],
    wed: ['08:00-16:00'],
    thu: ['08:00-16:00'],
    fri: ['08:00-16:00'],
  },
}
const empty = (activities: object[] = []): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'day' },
    calendars: [day],
    activities,
  }).plan
const options = (): ListOptions => {
  let n = 1
  return { group: null, random: () => (n = (n * 16807) % 2147483647) / 2147483647 }
}
const cells = (text: string): string[][] => text.split('\n').map((line) => line.split('\t'))
const sheet = (name: string, text: string, badRows: ListSheet['badRows'] = 'leave-out'): ListSheet => {
  const table = cells(text)
  return { name, cells: table, mapping: guessMapping(table), badRows }
}
const take = (plan: Plan, text: string, badRows?: ListSheet['badRows']) => {
  const reading = readList(plan, sheet('', text, badRows), options())
  return { reading, plan: applyChange(plan, reading.change).plan }
}
const linkWords = (plan: Plan): string[] => {
  const code = new Map(plan.activities.map((a) => [a.id, a.code]))
  return plan.links.map(
    (l) => `${code.get(l.from)} ${l.type}${l.lag === 0 ? '' : ` ${l.lag}`} ${code.get(l.to)}`,
  )
}

describe('cells of a list', () => {
  it.each([
    ['5', 2400],
    ['5 days', 2400],
    ['5,5 d', 2640],
    ['40 hrs', 2400],
    ['2w?', 4800],
  ])('%s is a duration', (text, value) =>
    expect(readListDuration(text, day, 'day')).toEqual({ ok: true, value }),
  )
  it('a bare number counts the unit of its head; elapsed time is refused', () => {
    expect(readListDuration('16', day, 'hour')).toEqual({ ok: true, value: 960 })
    expect(readListDuration('3 ed', day, 'day')).toMatchObject({ ok: false })
  })
  it.each([
    ['12/04/2027', '2027-04-12'],
    ['12.04.27 07:30', '2027-04-12T07:30'],
    ['46489', '2027-04-12'],
    ['46489.5', '2027-04-12T12:00'],
    ['2027-04-12', '2027-04-12'],
    ['12 apr 2027', '2027-04-12'],
    ['12/04/2027 3:15 pm', '2027-04-12T15:15'],
  ])('%s is a date', (text, value) => expect(readListDate(text, true, 0)).toEqual({ ok: true, value }))
  it('one that is none is refused, and month first is read when it is said', () => {
    expect(readListDate('31/02/2027', true, 0)).toMatchObject({ ok: false })
    expect(readListDate('04/12/2027', false, 0)).toEqual({ ok: true, value: '2027-04-12' })
  })
  it('links in every notation, mixed', () => {
    const { links, problems } = readListLinks(
      'K10; K20SS+2d, K30 FF -1 day; after K40, 2 d later; with the start of K50; 12FS; K70 FS 2 days; K80 (SS+1,5 d); K60 FS+50%',
    )
    expect(links.map(({ ref, type, lag }) => [ref, type, lag])).toEqual([
      ['K10', 'FS', ''],
      ['K20', 'SS', '2d'],
      ['K30', 'FF', '-1 day'],
      ['K40', 'FS', '2 d'],
      ['K50', 'SS', ''],
      ['12', 'FS', ''],
      ['K70', 'FS', '2 days'],
      ['K80', 'SS', '1.5 d'],
    ])
    expect(problems).toEqual([expect.stringContaining('K60 FS+50%')])
  })
})

describe('a list', () => {
  it('with heads: groups by path, kinds, calendars, limits, tags left out until asked for', () => {
    const { plan, reading } = take(
      empty(),
      'Activity ID\tActivity name\tDuration (days)\tPredecessors\tPhase\tCalendar\tArea\nK10\tShut down\t0\t\tKiln\t\tNorth\nK20\tRemove lining\t3\tK10\tKiln / Lining\tday shift\tNorth',
    )
    expect(reading).toMatchObject({ added: 2, links: 1, groups: 2, problems: [] })
    expect(plan.activities).toMatchObject([
      { code: 'K10', kind: 'milestone', edge: 'finish' },
      { code: 'K20', duration: 1440, confirmed: true, calendar: 'day' },
    ])
    expect(plan.groups.map((g) => g.name)).toEqual(['Kiln', 'Lining'])
    expect(plan.activities[0]!.tags).toEqual({})
  })
  it('on several sheets: links lead from any to any, numbers count on their own sheet, a code that means two things is said with its sheet', () => {
    const hull = sheet(
      'Hull',
      'No\tCode\tTask\tDuration\tWaits for\n1\tH10\tBlast hull\t6\tP10\n2\tH20\tCoat hull\t4\t1',
    )
    const shaft = sheet(
      'Shaft',
      'No\tCode\tTask\tDuration\tWaits for\n1\tP10\tDraw shaft\t2\t\n2\tP20\tFit shaft\t3\t1, H20\n3\tH20\tCoat hull\t4\tP10\n4\tH10\tClean hull\t1\t',
      'without-cell',
    )
    const reading = readSheets(empty(), [hull, shaft], options())
    const plan = afterReading(empty(), reading)
    expect(reading.sheets.map(({ added, links }) => [added, links])).toEqual([
      [2, 2],
      [3, 3],
    ])
    expect(reading.sheets.map((s) => s.problems)).toEqual([
      [],
      [
        {
          row: 5,
          column: 1,
          text: 'H10',
          why: 'H10 is in row 2 of the sheet “Hull” already, and says something else there; one of them needs another code',
        },
      ],
    ])
    expect(linkWords(plan)).toEqual(['P10 FS H10', 'H10 FS H20', 'P10 FS P20', 'H20 FS P20', 'P10 FS H20'])
  })
  it('under heads in words of their own: the first row is known for heads, a running number is what links go by', () => {
    const { plan, reading } = take(
      empty(),
      'Pos\tWhat we do\tTakes\tFirst\tPlace\n1\tSurvey the slip\t2,5\t\tslip\n2\tGrind rails\t3d\t1\tslip\n3\tWeld rails\t1 wk\t2FS+1d\tslip\n4\tCoat rails\t4h\t3SS\tslip',
    )
    expect(reading.problems).toEqual([])
    expect(plan.activities.map((a) => [a.code, a.name, a.duration])).toEqual([
      ['1', 'Survey the slip', 1200],
      ['2', 'Grind rails', 1440],
      ['3', 'Weld rails', 2400],
      ['4', 'Coat rails', 240],
    ])
    expect(linkWords(plan)).toEqual(['1 FS 2', '2 FS 480 3', '3 SS 4'])
  })
  it('a code that stands in two rows is said, not taken twice; a row for each link of an activity is one activity', () => {
    const twice = take(
      empty(),
      'ID\tActivity Name\tOrig Dur\tPreds\nA1\tLift engine\t3\t\nA2\tStrip engine\t5\tA1\nA2\tStrip gearbox\t2\tA1',
    )
    expect(twice.reading.problems).toEqual([
      {
        row: 4,
        column: 0,
        text: 'A2',
        why: 'A2 is in row 3 already, and says something else there; one of them needs another code',
      },
    ])
    expect(twice.plan.activities.map((a) => [a.code, a.name, a.duration])).toEqual([
      ['A1', 'Lift engine', 1440],
      ['A2', 'Strip engine', 2400],
    ])
    const kept = take(
      empty(),
      'ID\tName\tDuration\tPreds\nA2\tStrip engine\t5\t\nA2\tStrip gearbox\t2\tA2',
      'without-cell',
    ).plan
    expect(kept.activities.map((a) => a.name)).toEqual(['Strip engine', 'Strip gearbox'])
    expect(linkWords(kept)).toEqual([`A2 FS ${kept.activities[1]!.code}`])
    const rows = take(
      empty(),
      'ID\tName\tDuration\tPredecessor\nA1\tLift engine\t3\t\nA2\tOpen hatch\t1\t\nA3\tStrip engine\t5\tA1\nA3\tStrip engine\t5\tA2 SS+1d',
    )
    expect(rows.reading).toMatchObject({ added: 3, links: 2, problems: [] })
    expect(linkWords(rows.plan)).toEqual(['A1 FS A3', 'A2 SS 480 A3'])
    const blanks = take(
      empty(),
      'ID\tName\tDuration\tPredecessor\nA1\tLift engine\t3\t\nA3\tStrip engine\t5\tA1\nA3\t\t\tA1 SS',
    )
    expect(blanks.reading).toMatchObject({ added: 2, links: 2, problems: [] })
  })
  it('without heads: columns recognised by what they hold', () => {
    const { plan } = take(
      empty(),
      'K10\tRemove old lining\t3d\t\nK20\tRepair the shell\t2d\tK10\nK30\tLay new lining\t16h\tK20FS+1d',
    )
    expect(plan.activities.map((a) => [a.code, a.name, a.duration])).toEqual([
      ['K10', 'Remove old lining', 1440],
      ['K20', 'Repair the shell', 960],
      ['K30', 'Lay new lining', 960],
    ])
    expect(linkWords(plan)).toEqual(['K10 FS K20', 'K20 FS 480 K30'])
  })
  it('an outline by numbers: rows with deeper ones under them become groups', () => {
    const { plan } = take(
      empty(),
      'WBS\tName\tDuration\n1\tKiln\t\n1.1\tLining\t\n1.1.1\tRemove\t3\n1.1.2\tLay\t5\n1.2\tFire\t2\n2\tHand over\t1',
    )
    expect(plan.groups.map((g) => g.name)).toEqual(['Kiln', 'Lining'])
    const group = new Map(plan.groups.map((g) => [g.id, g.name]))
    expect(plan.activities.map((a) => [a.name, group.get(a.group ?? '') ?? null])).toEqual([
      ['Remove', 'Lining'],
      ['Lay', 'Lining'],
      ['Fire', 'Kiln'],
      ['Hand over', null],
    ])
  })
  it('known codes are changed, not doubled, and the estimate goes along', () => {
    const before = empty([
      { id: 'a', code: 'K10', name: 'Old', duration: 480, estimate: { low: 240, likely: 480, high: 960 } },
    ])
    const { plan, reading } = take(before, 'Code\tName\tDuration\nK10\tNew\t2\nK20\tAdded\t1')
    expect(reading).toMatchObject({ added: 1, updated: 1 })
    expect(plan.activities[0]).toMatchObject({
      id: 'a',
      name: 'New',
      duration: 960,
      estimate: { low: 480, likely: 960, high: 1920 },
    })
  })
  it('thirty bad rows of five thousand are listed with row and reason; the rest can go in, or the rows without the bad cell', () => {
    const rows = Array.from(
      { length: 5000 },
      (_, k) => `T${k + 1}\tWork ${k + 1}\t${k % 167 === 3 ? 'soon' : '2'}\t${k === 0 ? '' : `T${k}`}`,
    )
    const text = ['Code\tName\tDuration\tPredecessors', ...rows].join('\n')
    const left = take(empty(), text)
    const bad = left.reading.problems.filter((p) => p.text === 'soon')
    expect(bad).toHaveLength(30)
    expect(bad[0]).toMatchObject({
      row: 5,
      column: 2,
      why: expect.stringContaining('“soon” is not a duration'),
    })
    expect(left.reading.added).toBe(4970)
    expect(take(empty(), text, 'without-cell').reading).toMatchObject({ added: 5000, links: 4999 })
  })
  it('a loop is taken apart at its last link and reported; nothing else is lost', () => {
    const { plan, reading } = take(
      empty(),
      'Code\tName\tPredecessors\nA\tOne\tC\nB\tTwo\tA\nC\tThree\tB; nowhere',
      'without-cell',
    )
    expect(linkWords(plan)).toHaveLength(2)
    expect(reading.problems.map((p) => p.why)).toEqual([
      expect.stringContaining('there is no activity nowhere'),
      expect.stringContaining('it would close a loop'),
    ])
  })
  it('a table of links beside it', () => {
    const base = take(empty(), 'Code\tName\tDuration\nK10\tOne\t1\nK20\tTwo\t1').plan
    const table = cells('Predecessor\tSuccessor\tRelationship type\tLag\nK10\tK20\tSS\t2d\nK10\tK99\tFS\t0')
    const reading = readLinkTable(base, table, guessLinkMapping(table), options())
    expect(linkWords(applyChange(base, reading.change).plan)).toEqual(['K10 SS 960 K20'])
    expect(reading.problems).toMatchObject([{ row: 3, why: 'there is no activity K99' }])
    // Heads that say nothing of the ends still tell type and lag; the ends are then chosen by hand.
    expect(guessLinkMapping(cells('Erst\tDann\tType\tLag'))).toEqual({
      headRow: 0,
      from: -1,
      to: -1,
      type: 2,
      lag: 3,
    })
  })
})

describe('who works on it', () => {
  const needsWords = (plan: Plan): string[] =>
    plan.assignments.map((a) => {
      const resource = plan.resources.find(({ id }) => id === a.resource)!
      const activity = plan.activities.find(({ id }) => id === a.activity)!
      return `${activity.code}: ${a.amount} ${resource.code || resource.name}`
    })

  it('is read from a column of resources, known or not, and the plan gets those that it did not have', () => {
    const { reading, plan } = take(
      empty(),
      [
        'Code\tName\tDays\tResources',
        'A\tCut plates\t2\t2 WELD, CRAN',
        'B\tLift engine\t1\tcran[2]; 50 % ship surveyor',
        'C\tTidy up\t1\t',
        'D\tPaint\t1\t3',
        'E\tPaint again\t1\tWELD, 2 weld',
      ].join('\n'),
    )
    expect(needsWords(plan)).toEqual(['A: 2 WELD', 'A: 1 CRAN', 'B: 2 CRAN', 'B: 0.5 ship surveyor'])
    expect(plan.resources).toMatchObject([
      { code: 'WELD', kind: 'people', price: 0, available: [] },
      { code: 'CRAN' },
      { code: '', name: 'ship surveyor' },
    ])
    expect(reading).toMatchObject({ added: 3, assignments: 4, resources: ['WELD', 'CRAN', 'ship surveyor'] })
    expect(reading.problems.map(({ row, why }) => [row, why.slice(0, 26)])).toEqual([
      [5, 'there is no resource “3”; '],
      [6, '“weld” is there twice; wri'],
    ])
  })

  const shop = empty([
    { id: 'k10', code: 'K10', duration: '2d' },
    { id: 'k20', code: 'K20', duration: '2d' },
  ])
  it('leaves out a row that waits for nothing there is, or takes it without the link', () => {
    const list = 'Code\tName\tDays\tAfter\nX1\tA\t1\tK10\nX2\tB\t1\tX9\nX3\tC\t1\tX2, X1\nX4\tD\t1\tX1'
    const out = take(shop, list)
    expect(out.reading).toMatchObject({ added: 3, links: 3 })
    expect(out.reading.problems).toEqual([
      { row: 3, column: 3, text: 'X9', why: 'there is no activity X9' },
      { row: 4, column: 3, text: 'X2', why: 'X2 is in row 3, which is left out' },
    ])
    expect(out.plan.activities.map(({ code }) => code).slice(-3)).toEqual(['X1', 'X3', 'X4'])
    const without = take(shop, list, 'without-cell')
    expect(without.reading).toMatchObject({ added: 4, links: 4 })
    expect(without.reading.problems).toHaveLength(1)
  })
  it('a known activity whose row waits for nothing is left as it is, and others may wait for it', () => {
    const { reading, plan } = take(shop, 'Code\tDays\tAfter\nK20\t9\tX9\nX1\t1\tK20')
    expect(reading).toMatchObject({ added: 1, updated: 0, links: 1 })
    expect(plan.activities.find(({ code }) => code === 'K20')!.duration).not.toBe(9 * 480)
  })
  it('work that is called like a head is work; numbers of an outline are no durations', () => {
    const rows = ['Clear the shed', 'Sort the crews', 'Shift the crane', 'Note the readings']
    const named = take(shop, rows.map((name, k) => `${name}\t${k + 1}d`).join('\n'))
    expect(named.reading).toMatchObject({ added: 4, problems: [] })
    expect(take(shop, `Sort the crews\n${rows[0]}`).reading).toMatchObject({ added: 2 })
    const outline = take(shop, '1\tYard\t\n1.1\tClear\t2\n1.2\tSweep\t3\n2\tHall\t\n2.1\tPaint\t4')
    expect(outline.reading).toMatchObject({ added: 3, groups: 2, problems: [] })
    expect(outline.plan.activities.slice(-3).map(({ duration }) => duration / 480)).toEqual([2, 3, 4])
    // Half days that grow are durations.
    const halves = take(shop, 'Clear\t0.5\nSweep\t1.5\nPaint\t2.5')
    expect(halves.plan.activities.slice(-3).map(({ duration }) => duration / 480)).toEqual([0.5, 1.5, 2.5])
  })
  it('changes what a known activity has, and leaves alone what the list does not speak of', () => {
    const before = take(
      empty(),
      'Code\tName\tDays\tResources\nA\tCut\t2\t2 WELD, CRAN\nB\tLift\t1\tCRAN',
    ).plan
    const { plan } = take(before, 'Code\tName\tResources\nA\tCut\t3 weld\nB\tLift\t')
    expect(needsWords(plan)).toEqual(['A: 3 WELD', 'B: 1 CRAN'])
    expect(plan.assignments[0]!.id).toBe(before.assignments[0]!.id)
    expect(take(plan, 'Code\tName\tResources\nA\tCut\t3 weld').reading.change).toEqual({
      kind: 'all',
      changes: [],
    })
  })

  it('is read from a sheet of its own, row by row, with what is wrong in it named', () => {
    const { plan } = take(empty(), 'Code\tName\tDays\nA\tCut plates\t2\nB\tLift\t1')
    const table = cells(
      [
        'Code\tActivity\tResource\tAmount',
        'A\tCut plates\tWELD\t2',
        'A\tCut plates\tCRAN\t',
        'B\tLift\tweld\t0,5',
        'X\tGone\tWELD\t1',
        'B\tLift\tCRAN\ta lot',
        'B\tLift\tWELD\t3',
        '\t\t\t',
      ].join('\n'),
    )
    expect(isAssignmentTable(table)).toBe(true)
    const reading = readAssignmentTable(plan, table, guessAssignmentMapping(table), options())
    expect(needsWords(applyChange(plan, reading.change).plan)).toEqual([
      'A: 2 WELD',
      'A: 1 CRAN',
      'B: 0.5 WELD',
    ])
    expect(reading.problems.map(({ row, why }) => `${row}: ${why}`)).toEqual([
      '5: there is no activity X',
      '6: “a lot” is no amount; write for example 2, 0.5 or 50 %',
      '7: B has 0.5 of it already; the first counts',
    ])
  })

  it('does not take a list of activities for one of assignments, nor an owner for a resource', () => {
    expect(isAssignmentTable(cells('Activity\tResource\tDuration\nA\tWELD\t2'))).toBe(false)
    expect(guessMapping(cells('Code\tName\tDuration\tCrew\tResource names')).fields).toEqual([
      'code',
      'name',
      'duration',
      'owner',
      'resources',
    ])
  })
})
