import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { describe, expect, it } from 'vitest'
import { readPlan } from '../plan/readPlan.ts'
import type { Plan } from '../plan/schema.ts'
import { iterationTable, runIterations } from '../forecast/simulate/iterationTable.ts'
import { simulationModel } from '../forecast/simulate/model.ts'
import { summarise } from '../forecast/simulate/summary.ts'
import { review } from '../review/review.ts'
import { schedule } from '../schedule/schedule.ts'
import { instantOf } from '../time/instant.ts'
import { instantWords } from '../words/dates.ts'
import { reportOf, reportPage, REPORT_PART_NAMES, type Report, type ReportPartName } from './index.ts'

const at = instantOf('2027-05-10T09:30', 'start')
const planOf = (more: Record<string, unknown> = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: {
      code: 'SLIP',
      name: 'Slipway',
      start: '2027-03-01T07:00',
      requiredFinish: '2027-03-12',
      calendar: 'day',
    },
    calendars: [
      {
        id: 'day',
        name: 'Day',
        dayMinutes: 480,
        week: {
          mon: ['07:00-15:00'],
          tue: ['07:00-15:00'],
          wed: ['07:00-15:00'],
          thu: ['07:00-15:00'],
          fri: ['07:00-15:00'],
        },
      },
    ],
    groups: [{ id: 'g', code: 'G', name: 'Ground works' }],
    activities: [
      { id: 'a', code: 'A10', name: 'Dig', duration: '3d', group: 'g', cost: { fixed: 1000 } },
      { id: 'b', code: 'A20', name: 'Pour', duration: '5d', group: 'g' },
      { id: 'm', code: 'M10', name: 'Poured', kind: 'milestone', edge: 'finish' },
    ],
    links: [
      { from: 'a', to: 'b' },
      { from: 'b', to: 'm' },
    ],
    ...more,
  }).plan
const spread = { spreads: [{ id: 's', name: 'All', scope: { all: true }, low: 0.8, likely: 1, high: 1.6 }] }
const made = (plan: Plan, parts?: readonly ReportPartName[], scenario: string | null = null): Report =>
  reportOf(plan, { ...(parts && { parts }), scenario, iterations: 400, seed: 5, at })
const textOf = (report: Report, part?: ReportPartName): string =>
  JSON.stringify(part === undefined ? report : report.parts.find(({ name }) => name === part))

describe('a report', () => {
  it('holds what was chosen, in its own order, and tells who listens how far it is', () => {
    const heard: unknown[] = []
    const { parts } = reportOf(
      planOf(),
      { parts: ['money', 'summary'], iterations: 100, seed: 1, at },
      { begins: (...said) => heard.push(said), made: ({ name }) => heard.push(name) },
    )
    expect(parts.map(({ name }) => name)).toEqual(['summary', 'money'])
    expect(heard).toEqual([['The answer', 0, 2], 'summary', ['Money', 1, 2], 'money'])
    expect(made(planOf()).parts.map(({ name }) => name)).toEqual([...REPORT_PART_NAMES])
    // What the plan says that its report holds; names of other programs mean nothing here.
    const plan = planOf()
    const own = { ...plan, project: { ...plan.project, report: { parts: ['money', 'weather', 'summary'] } } }
    expect(made(own).parts.map(({ name }) => name)).toEqual(['summary', 'money'])
    expect(made(own, ['review']).parts.map(({ name }) => name)).toEqual(['review'])
  })
  it('says the planned finish, the distance and what is open as schedule and review find them', () => {
    const plan = planOf(spread)
    const schedule_ = schedule(plan)
    const open = review(plan, schedule_).findings
    const text = textOf(made(plan), 'summary')
    expect(text).toContain(`Planned to finish on ${instantWords(schedule_.projectFinish, 'finish')}`)
    expect(text).toContain('2 d before the required Fri 12 Mar')
    expect(text).toContain(`${open.length} findings open`)
    expect(text).toContain('A10 → A20 → M10')
  })
  it('forecasts on the draws it was asked for: the dates are those of that run', () => {
    const plan = planOf(spread)
    const options = { iterations: 400, seed: 5, sampling: 'lhs', risks: true } as const
    const model = simulationModel(plan, options)
    const table = iterationTable(model)
    runIterations(model, table)
    const { percentiles } = summarise(model, table)
    const day = (p: number): string =>
      instantWords(instantOf(percentiles[String(p)]!, 'finish'), 'finish', { time: false })
    const { blocks } = made(plan, ['forecast']).parts[0]!
    const rungs = blocks.find((block) => block.kind === 'table')!
    expect(rungs.kind === 'table' && rungs.rows.map(({ cells }) => cells.slice(0, 2))).toEqual(
      [10, 50, 80, 90, 95].map((p) => [String(p), day(p)]),
    )
    expect(blocks.filter(({ kind }) => kind === 'drawing')).toHaveLength(1)
  })
  it('of what is not there says that, and never that it is clean or nothing', () => {
    const report = made(planOf())
    expect(textOf(report, 'forecast')).toContain('Not simulated: no duration has an estimate')
    expect(textOf(report, 'variance')).toContain('No baseline was frozen')
    expect(textOf(report, 'scenarios')).toContain('no scenarios')
    expect(textOf(report, 'review')).toMatch(/Not tested.*no baseline/)
    expect(textOf(report, 'summary')).not.toContain('80 %')
    expect(textOf(made(planOf({ activities: [], links: [] })), 'summary')).toContain(
      'no activity in this plan yet',
    )
    expect(textOf(made(planOf({ activities: [{ id: 'a', duration: '1d' }], links: [] })), 'money')).toContain(
      'Nothing in this plan costs anything',
    )
  })
  it('sees the plan as a scenario does, compares scenarios with the plan, and says which change is left out', () => {
    const plan = planOf({
      scenarios: [
        {
          id: 's1',
          name: 'Two crews',
          why: 'The pour holds all',
          changes: [
            { kind: 'set', list: 'activities', key: 'b', set: { duration: 960 } },
            { kind: 'set', list: 'activities', key: 'gone', set: { duration: 60 } },
          ],
        },
      ],
    })
    const whole = made(plan)
    expect(textOf(whole, 'scenarios')).toContain(
      'Two crews brings the planned finish from Wed 10 Mar to Fri 5 Mar',
    )
    expect(textOf(whole, 'scenarios')).toMatch(/Two crews: a change is left out/)
    const seen = made(plan, ['summary', 'scenarios'], 's1')
    expect(seen.subtitle).toContain('scenario Two crews, 1 change left out')
    expect(textOf(seen, 'summary')).toContain('Planned to finish on Fri 5 Mar')
    expect(textOf(seen, 'scenarios')).toContain('from Wed 10 Mar')
  })
  it('of a plan longer than a year says the year of every date', () => {
    const long = planOf({ activities: [{ id: 'a', code: 'A', duration: '400d' }], links: [] })
    expect(textOf(made(long), 'activities')).toMatch(/Mon 1 Mar ’27 07:00/)
    expect(textOf(made(planOf()), 'activities')).not.toContain('’27')
  })
})

it('of thousands names the ends of the longest path and the first of the findings, and how many there are', () => {
  const activities = Array.from({ length: 300 }, (_, k) => ({ id: `a${k}`, code: `C${k}`, duration: '1d' }))
  const chain = activities.slice(1, 100).map(({ id }, k) => ({ from: `a${k}`, to: id }))
  const report = made(planOf({ activities, links: chain }))
  expect(textOf(report, 'summary')).toContain('C0 → C1 →')
  expect(textOf(report, 'summary')).toContain('C19 → 60 more → C80')
  const open = review(
    planOf({ activities, links: chain }),
    schedule(planOf({ activities, links: chain })),
  ).findings
  const lists = report.parts
    .find(({ name }) => name === 'review')!
    .blocks.filter((block) => block.kind === 'table' && block.columns[0]!.title === 'Finding')
  for (const list of lists) if (list.kind === 'table') expect(list.rows.length).toBeLessThanOrEqual(150)
  expect(open.length).toBeGreaterThan(150)
  expect(textOf(report, 'review')).toMatch(/The first 150 of \d+, by their effect/)
})

describe('as a page', () => {
  const hostile = planOf({
    activities: [
      { id: 'a', code: '<i>', name: '</td><script>alert(1)</script>', duration: '1d', group: 'g' },
      { id: 'b', code: '&amp;', name: '"quoted" \u0007 ’&’ =1+1', duration: '1d' },
    ],
    links: [{ from: 'a', to: 'b' }],
  })
  const page = reportPage(made(hostile), '')
  it('is well formed, whatever stands in names', () => {
    expect(XMLValidator.validate(page.replace(/<!doctype html>|<meta [^>]*>/g, ''))).toBe(true)
    expect(page).not.toContain('<script')
    expect(page).toContain('&lt;/td&gt;&lt;script&gt;')
    expect(page).not.toContain('\u0007')
  })
  it('has a row for each activity under its group, with as many cells as there are heads', () => {
    const section = /<section data-part="activities">.*?<\/section>/s.exec(page)![0]
    const table = (new XMLParser().parse(section) as { section: { table: never } }).section.table as {
      thead: { tr: { th: string[] } }
      tbody: { tr: { th?: string; td?: string[] }[] }
    }
    const { tr } = table.tbody
    expect(tr.map(({ td }) => td?.length ?? 0)).toEqual(expect.arrayContaining([0, 6, 6]))
    expect(table.thead.tr.th).toHaveLength(6)
    expect(tr.find(({ th }) => th)!.th).toBe('G Ground works')
  })
})
