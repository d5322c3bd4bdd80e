import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { applyChange, parseJson, readPlan, type Change, type Plan } from '../plan/index.ts'
import { review } from '../review/index.ts'
import { formatInstant } from '../time/index.ts'
import { explanationWords } from '../words/index.ts'
import { NONE } from '../network/network.ts'
import { explain, reschedule, schedule, scheduleReport, type Schedule } from './index.ts'

/** Tides that end, and a finish that no tide allows: early dates stand, late dates there are none. */
const tidal = (more: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T00:00', calendar: 'clock', requiredFinish: '2027-03-09T00:00', ...more },
    calendars: [
      {
        id: 'tide',
        name: 'Tides',
        windows: [
          ['2027-03-10T06:00', '2027-03-10T08:00'],
          ['2027-03-20T06:00', '2027-03-20T08:00'],
        ],
      },
    ],
    activities: [
      { id: 'a', code: 'A10', name: 'Lay blocks', duration: '1d' },
      { id: 'b', code: 'B10', name: 'Dock', duration: '1h', calendar: 'tide' },
      { id: 'c', code: 'C10', name: 'Wash', duration: '1d' },
      { id: 'd', code: 'D10', name: 'Order paint', duration: '1d' },
    ],
    links: [
      { id: 'ab', from: 'a', to: 'b' },
      { id: 'bc', from: 'b', to: 'c' },
    ],
  }).plan
const floats = ({ network, float }: Schedule): Record<string, number | null> =>
  Object.fromEntries(
    network.activities.map(({ code }, i) => [code, float.total[i] === NONE ? null : float.total[i]!]),
  )

describe('where a calendar has no work so early that a limit would be kept', () => {
  const made = schedule(tidal())

  it('early dates stand, and float is none for that work and what comes before it; what comes after it is short', () => {
    expect(made.network.activities.map((_, i) => formatInstant(made.start[i]!))).toEqual([
      '2027-03-01T00:00',
      '2027-03-10T06:00',
      '2027-03-10T07:00',
      '2027-03-01T00:00',
    ])
    expect(floats(made)).toEqual({ A10: null, B10: null, C10: -(2 * 1440 + 7 * 60), D10: 7 * 1440 })
    expect(made.warnings).toEqual([
      {
        code: 'no-late-dates',
        activity: 'b',
        message:
          'B10 has no late dates and no float: “Tides” has no working time so early that its limits would be kept',
      },
    ])
  })

  it('the report, Review and the explanation say so', () => {
    const report = scheduleReport(made)
    expect(report.activities.b).toMatchObject({ lateStart: null, lateFinish: null, totalFloat: null })
    const found = review(made.network.plan, made).findings.filter((f) => f.check === 'calendar-without-work')
    expect(found.map(({ message }) => message)).toContain(made.warnings[0]!.message)
    const { float } = explanationWords(made.network.plan, explain(made, 'b'))
    expect(float.sentence.join('')).toMatch(/^It has no late dates, and so no float: a calendar/)
    for (const { id } of made.network.activities) expect(() => explain(made, id)).not.toThrow()
  })

  it('is left as soon as the limit allows it, by edits as by scheduling anew', () => {
    const later: Change = { kind: 'project', set: { requiredFinish: '2027-03-13T00:00' } }
    const longer: Change = { kind: 'set', list: 'activities', key: 'b', set: { duration: 150 } }
    const sooner: Change = { kind: 'project', set: { requiredFinish: '2027-03-09T00:00' } }
    let now = schedule(tidal({ requiredFinish: '2027-03-25T00:00' }))
    for (const change of [later, longer, sooner, later]) {
      const { plan } = applyChange(now.network.plan, change)
      const next = reschedule(now, plan, change)
      const anew = schedule(plan)
      expect(floats(next)).toEqual(floats(anew))
      expect([...next.lateFinishShown]).toEqual([...anew.lateFinishShown])
      expect(next.warnings).toEqual(anew.warnings)
      now = next
    }
    expect(floats(schedule(applyChange(tidal(), later).plan))).toEqual({
      A10: 9 * 1440 - 1440 + 6 * 60 + 60,
      B10: 60,
      C10: 1440 * 2 - 7 * 60,
      D10: 11 * 1440,
    })
  })

  it('a lag on that calendar, and work placed late, have none either', () => {
    const plan = readPlan({
      ...JSON.parse(JSON.stringify(tidal())),
      activities: [
        { id: 'a', duration: 60, place: 'late' },
        { id: 'c', duration: 60 },
      ],
      links: [{ id: 'l', from: 'a', to: 'c', lag: 60, lagOn: 'calendar:tide' }],
    }).plan
    const lagged = schedule(plan)
    expect(lagged.float.total[0]).toBe(NONE)
    expect(formatInstant(lagged.start[0]!)).toBe('2027-03-01T00:00')
  })
})

it('the demo keeps its early dates when its last work grows, or when it is to finish before the tides', () => {
  const plan = readPlan(
    parseJson(readFileSync(new URL('../../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')),
  ).plan
  const before = schedule(plan)
  const last = plan.activities.find((a) => a.code === 'U80')!
  for (const change of [
    { kind: 'project', set: { requiredFinish: '2027-06-05' } },
    { kind: 'set', list: 'activities', key: last.id, set: { duration: 28 * 480 } },
  ] satisfies Change[]) {
    const changed = applyChange(plan, change).plan
    const after = reschedule(before, changed, change)
    expect([...after.start].every((at) => Number.isInteger(at) && at !== NONE)).toBe(true)
    const anew = schedule(changed)
    expect([...after.float.total]).toEqual([...anew.float.total])
    expect(after.warnings).toEqual(anew.warnings)
    expect(() => review(changed, after)).not.toThrow()
    for (const { id } of changed.activities) expect(() => explain(after, id)).not.toThrow()
  }
})
