import { readFileSync } from 'node:fs'
import { XMLValidator } from 'fast-xml-parser'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { planCalendar } from '../formats/iCalendar.ts'
import { NONE } from '../network/network.ts'
import { parseJson, readPlan } from '../plan/readPlan.ts'
import { schedule } from '../schedule/schedule.ts'
import { instantWords } from '../words/dates.ts'
import { isShown, sharedPage, sharedView, type SharedChoice } from './index.ts'

const kittiwake = (): ReturnType<typeof readPlan>['plan'] =>
  readPlan(
    parseJson(readFileSync(new URL('../../../demo/kittiwake-may.geodrome.json', import.meta.url), 'utf8')),
  ).plan
/** A plan in which every text says where it stands: what leaks is seen. */
const marked = (): ReturnType<typeof kittiwake> => {
  const plan = kittiwake()
  return {
    ...plan,
    project: { ...plan.project, code: 'qCode', name: 'qName', notes: 'qNotes', responsible: 'qResponsible' },
    groups: plan.groups.map((group, k) => ({ ...group, name: `qGroup${k}z` })),
    calendars: plan.calendars.map((calendar, k) => ({ ...calendar, name: `qCalendar${k}z` })),
    resources: plan.resources.map((resource, k) => ({
      ...resource,
      name: `qResource${k}z`,
      code: `qr${k}z`,
    })),
    risks: plan.risks.map((risk, k) => ({ ...risk, name: `qRisk${k}z` })),
    activities: plan.activities.map((activity, k) => ({
      ...activity,
      code: `qC${k}z`,
      name: `qA${k}z`,
      notes: `qNote${k}z`,
      ...(activity.promise && { promise: { ...activity.promise, by: 'qPromiser' } }),
    })),
  }
}
const CHOICES: readonly SharedChoice[] = [
  { shows: 'party', owner: 'Hull crew' },
  { shows: 'milestones', owner: null },
  { shows: 'all', owner: null },
]

describe.each(CHOICES)('a link that shows $shows', (choice) => {
  const plan = marked()
  const made = schedule(plan)
  const page = sharedPage(made, choice, '', 'x/dates.ics')
  const calendar = planCalendar(made, (activity) => isShown(activity, choice))
  const expected = plan.activities.flatMap((activity, k) => {
    const isIn =
      activity.kind !== 'hammock' &&
      (choice.shows === 'all' ||
        (choice.shows === 'party'
          ? activity.owner === 'Hull crew'
          : activity.kind === 'milestone' || activity.payment !== null))
    return isIn ? [k] : []
  })

  it('sends what was chosen, each once in its table, and nothing else that stands in the plan', () => {
    const allowed = new Set([
      'qName',
      ...expected.flatMap((k) => [`qA${k}z`, `qC${k}z`]),
      ...(choice.shows === 'all' ? plan.groups.map((_, k) => `qGroup${k}z`) : []),
    ])
    const told = page.match(/q[A-Z]\w*/g)!
    expect([...new Set(told)].filter((word) => !allowed.has(word))).toEqual([])
    for (const k of expected) expect(page.split(`<td>qA${k}z</td>`)).toHaveLength(2)
    expect(page.match(/<tr class=/g)).toHaveLength(expected.length)
    expect(page).not.toMatch(/<script|<form|https?:\/\/(?!www\.w3\.org\/2000\/svg)/)
    expect(XMLValidator.validate(page.replace(/<!doctype html>|<meta [^>]*>/g, ''))).toBe(true)
  })
  it('as a calendar, to another reader, has the same with its dates, without notes and days off', () => {
    const events = new ICAL.Component(ICAL.parse(calendar)).getAllSubcomponents('vevent')
    expect(events.map((event) => event.getFirstPropertyValue('summary'))).toEqual(
      expected.map((k) => `qC${k}z qA${k}z`),
    )
    expect(calendar).not.toMatch(/qNote|qCalendar|DESCRIPTION/)
  })
  it('says the latest finish that costs nothing as the schedule has it, and none of what is done', () => {
    const { rows } = sharedView(made, choice)
    expect(rows.map(({ index }) => index).sort((a, b) => a - b)).toEqual(expected)
    for (const { index, latest, isLate, state } of rows) {
      const late = made.lateFinishShown[index]!
      if (state === 'done' || late === NONE) expect(latest).toBe('')
      else {
        expect(latest).toBe(instantWords(late, 'finish', { time: false }))
        expect(isLate).toBe(made.float.total[index]! < 0 || late < made.finish[index]!)
      }
    }
  })
})

it('tells payments with milestones and with all, and not to one party', () => {
  const made = schedule(kittiwake())
  const paid = (choice: SharedChoice): number =>
    sharedView(made, choice).rows.filter(({ payment }) => payment !== '').length
  expect(CHOICES.map(paid)).toEqual([0, 4, 4])
})

it('of a party without work, and of a plan without any, is a page that says so', () => {
  const page = (plan: ReturnType<typeof kittiwake>, choice: SharedChoice): string =>
    sharedPage(schedule(plan), choice, '', 'x')
  expect(page(kittiwake(), { shows: 'party', owner: 'Nobody' })).toContain('no work for this party')
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'clock' },
  })
  expect(page(plan, { shows: 'all', owner: null })).toContain('There is nothing to show yet')
})
