import ExcelJS from 'exceljs'
import { XMLParser, XMLValidator } from 'fast-xml-parser'
import ICAL from 'ical.js'
import { fromDot } from 'ts-graphviz'
import { describe, expect, it } from 'vitest'
import { readPlan, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { networkDot, networkGraphMl, planCalendar, planSheets, writeWorkbook } from './index.ts'

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
/** Names that a stranger would write: signs of every format, control letters, other scripts, formulas. */
const NAMES = [
  'Plain',
  'Say "go"; then, wait\\n',
  'A < B & C > D',
  'Käse & 船 🚢\u0007',
  '=1+2',
  'two\nlines',
  `${'long '.repeat(40)}end`,
]
const planOf = (file: Record<string, unknown> = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [
      {
        id: 'day',
        week: WEEK,
        exceptions: [
          { from: '2027-03-05', to: '2027-03-08', name: 'Keel, Day' },
          { from: '12-24', to: '01-02', yearly: true },
          { from: '2027-03-10', to: '2027-03-10', shifts: ['08:00-12:00'] },
        ],
      },
    ],
    project: { code: 'T', name: 'Try "it"', start: '2027-03-01T08:00', calendar: 'day' },
    groups: [
      { id: 'g', name: 'Hull "A"' },
      { id: 'h', parent: 'g', name: 'Paint' },
    ],
    activities: [
      ...NAMES.map((name, k) => ({
        id: `a${k}`,
        code: `C${k}`,
        name,
        duration: `${k + 1}d`,
        group: [null, 'g', 'h'][k % 3],
      })),
      { id: 'm"1', code: 'M', name: 'Done', kind: 'milestone', edge: 'finish' },
    ],
    links: [
      { id: 'l1', from: 'a0', to: 'a1', type: 'SS', lag: '1d' },
      { id: 'l2', from: 'a1', to: 'm"1' },
    ],
    ...file,
  }).plan
const plan = planOf()
const made = schedule(plan)

describe('iCalendar, read by another program', () => {
  const events = (text: string) =>
    new ICAL.Component(ICAL.parse(text) as unknown[])
      .getAllSubcomponents('vevent')
      .map((event) => new ICAL.Event(event))
  const text = planCalendar(made)
  it('has each activity at its local time, a milestone as a point, and what was typed as its name', () => {
    const all = events(text)
    const first = all.find(({ uid }) => uid.startsWith('activity-a0@'))!
    expect([first.summary, first.startDate.toString(), first.endDate.toString()]).toEqual([
      'C0 Plain',
      '2027-03-01T08:00:00',
      '2027-03-01T16:00:00',
    ])
    expect(first.startDate.zone.tzid).toBe('floating')
    const said = plan.activities.map(
      ({ id }) => all.find(({ uid }) => uid.startsWith(`activity-${id}@`))?.summary,
    )
    expect(said).toEqual([...NAMES.map((name, k) => `C${k} ${name.replace('\u0007', '')}`), 'M Done'])
    const point = all.find(({ uid }) => uid.startsWith('activity-m"1@'))!
    expect(point.endDate.toString()).toBe(point.startDate.toString())
  })
  it('has days off as whole days, those that come back once a year, and none for a shorter day', () => {
    const off = events(text)
      .filter(({ uid }) => uid.startsWith('off-'))
      .map(({ summary, startDate, endDate }) => [summary, startDate.toString(), endDate.toString()])
    expect(off).toEqual([
      ['Keel, Day', '2027-03-05', '2027-03-09'],
      ['Day off', '2027-12-24', '2028-01-03'],
    ])
  })
  it('is the same file for the same plan, in lines of at most 75 bytes', () => {
    expect(planCalendar(schedule(planOf()))).toBe(text)
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
  })
})

describe('GraphML, read by another program', () => {
  const text = networkGraphMl(made)
  it('is XML with every activity, every link and their facts', () => {
    expect(XMLValidator.validate(text)).toBe(true)
    const { graphml } = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(text) as {
      graphml: {
        key: { id: string }[]
        graph: {
          node: { id: string; data: { key: string; '#text': unknown }[] }[]
          edge: { source: string; target: string; data: { key: string; '#text': unknown }[] }[]
        }
      }
    }
    const { node, edge } = graphml.graph
    expect(node.map(({ id }) => id)).toEqual(plan.activities.map(({ id }) => id))
    const of = (data: { key: string; '#text': unknown }[], key: string): unknown =>
      data.find((one) => one.key === key)?.['#text']
    expect(node.slice(0, 3).map(({ data }) => of(data, 'n.name'))).toEqual(
      NAMES.slice(0, 3).map((name) => name),
    )
    expect(
      edge.map(({ source, target, data }) => [source, target, of(data, 'e.type'), of(data, 'e.lag')]),
    ).toEqual([
      ['a0', 'a1', 'SS', 480],
      ['a1', 'm"1', 'FS', 0],
    ])
    // No fact without its key: readers refuse one that is not declared.
    const declared = new Set(graphml.key.map(({ id }) => id))
    for (const { data } of [...node, ...edge]) for (const { key } of data) expect(declared).toContain(key)
  })
})

describe('DOT, read by another program', () => {
  it('has every activity once, in its group, and every link', () => {
    const graph = fromDot(networkDot(made))
    const nodes = (of: typeof graph): string[] => [
      ...of.nodes.map(({ id }) => id),
      ...of.subgraphs.flatMap((inner) => nodes(inner as unknown as typeof graph)),
    ]
    expect(nodes(graph).sort()).toEqual(plan.activities.map(({ id }) => id).sort())
    expect(graph.edges).toHaveLength(2)
    expect(graph.subgraphs[0]!.subgraphs).toHaveLength(1)
  })
  it('of an empty plan is an empty graph', () => {
    const graph = fromDot(networkDot(schedule(planOf({ activities: [], links: [] }))))
    expect([graph.nodes.length, graph.edges.length]).toEqual([0, 0])
  })
})

describe('a workbook, read by another program', () => {
  it('has activities and links as tables, formulas as texts', async () => {
    const book = new ExcelJS.Workbook()
    await book.xlsx.load((await writeWorkbook(planSheets(made))).buffer as ArrayBuffer)
    expect(book.worksheets.map(({ name }) => name)).toEqual(['Activities', 'Links'])
    const names = book.getWorksheet('Activities')!.getColumn(3).values.slice(2)
    expect(names.slice(0, 3)).toEqual(NAMES.slice(0, 3))
    const formula = book.getWorksheet('Activities')!.getCell('C6')
    expect([formula.value, formula.formula]).toEqual(['=1+2', undefined])
    expect(book.getWorksheet('Links')!.getRow(2).values).toEqual(
      expect.arrayContaining(['C0', 'C1', 'SS', '1 d', 480]),
    )
  })
})
