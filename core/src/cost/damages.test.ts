import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatInstant, instantOf } from '../time/index.ts'
import { PlanError, readPlan, type Damages, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { costReport } from './costReport.ts'
import { chargeFor, firstChargeableDay, measuredFinish } from './damages.ts'
import { roundMoney } from '../plan/money.ts'

const DAY = {
  id: 'day',
  week: Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((d) => [d, ['07:00-15:45']])),
}
const CLAUSE = {
  id: 'd1',
  name: 'Late redelivery',
  due: '2027-07-01',
  steps: [
    { from: 1, amount: 2000 },
    { from: 15, amount: 3500 },
  ],
  cap: 60_000,
}
const planWith = (damages: object, rest: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'day' },
    calendars: [DAY],
    activities: [{ id: 'a', duration: 60 }],
    damages: [{ ...CLAUSE, ...damages }],
    ...rest,
  }).plan

/** What the clause charges for a finish. */
const charged = (finish: string, damages: Partial<Damages> = {}) => {
  const plan = planWith(damages)
  const clause = plan.damages[0]!
  return chargeFor(clause, schedule(plan).network.calendars.get(clause.calendar), instantOf(finish, 'finish'))
}

describe('damages', () => {
  it('begin the day after the date agreed, count a begun day whole, weekends too', () => {
    expect(charged('2027-07-01')).toMatchObject({ counted: 0, amount: 0, firstDay: null })
    expect(charged('2027-07-02T00:01')).toMatchObject({ counted: 1, amount: 2000, firstDay: '2027-07-02' })
    expect(charged('2027-07-05T15:45')).toMatchObject({ counted: 4, amount: 8000, firstDay: '2027-07-02' })
  })
  it('with a time begin on the day itself, if it has work left', () => {
    expect(charged('2027-07-01T13:00', { due: '2027-07-01T12:00' })).toMatchObject({
      counted: 1,
      firstDay: '2027-07-01',
    })
    const day = { due: '2027-07-01T15:45', calendar: 'day' }
    expect(charged('2027-07-02T08:00', day)).toMatchObject({ counted: 1, firstDay: '2027-07-02' })
    // Friday, Monday, Tuesday: Saturday and Sunday do not count.
    expect(charged('2027-07-06T08:00', day).counted).toBe(3)
  })
  it('rise in steps, by begun weeks, up to the most', () => {
    expect(charged('2027-07-16T12:00').amount).toBe(14 * 2000 + 3500)
    expect(charged('2027-09-01T12:00')).toMatchObject({ amount: 60_000, isCapped: true })
    expect(charged('2027-07-09T12:00', { per: 'week' })).toMatchObject({ counted: 8, units: 2, amount: 4000 })
    expect(charged('2027-07-09T12:00', { steps: [{ from: 3, amount: 10 }] }).amount).toBe(60)
    expect(charged('2027-07-09T12:00', { steps: [] }).amount).toBe(0)
  })
  it('never fall when the finish moves later, and are counted like days crossed off one by one', () => {
    const from = instantOf('2027-06-25', 'start')
    fc.assert(
      fc.property(fc.nat(80_000), fc.nat(5000), fc.boolean(), fc.nat(1439), (minute, more, isClock, due) => {
        const damages = {
          calendar: isClock ? 'clock' : 'day',
          due: formatInstant(instantOf('2027-07-01', 'start') + due),
        }
        const one = charged(formatInstant(from + minute), damages)
        expect(charged(formatInstant(from + minute + more), damages).amount).toBeGreaterThanOrEqual(
          one.amount,
        )
        const days = new Set<string>()
        for (let t = instantOf(damages.due, 'finish'); t < from + minute; t++) {
          const date = formatInstant(t)
          const weekend = [0, 6].includes(new Date(`${date.slice(0, 10)}T00:00Z`).getUTCDay())
          const clock = date.slice(11)
          if (isClock || (!weekend && clock >= '07:00' && clock < '15:45')) days.add(date.slice(0, 10))
        }
        // A day is begun by its first minute, though work on it begins later.
        const last = formatInstant(from + minute - 1).slice(0, 10)
        const lastCounts = isClock || ![0, 6].includes(new Date(`${last}T00:00Z`).getUTCDay())
        const isAfter = from + minute > instantOf(damages.due, 'finish')
        const hasWorkLeft = last > damages.due.slice(0, 10) || isClock || damages.due.slice(11) < '15:45'
        if (isAfter && lastCounts && hasWorkLeft) days.add(last)
        expect(one.counted).toBe(days.size)
      }),
      { numRuns: 60 },
    )
  })
  it('measure a finish milestone where its links leave it, before its own calendar moves it', () => {
    const plan = planWith(
      { measures: 'm' },
      {
        activities: [
          { id: 'a', duration: '5d', calendar: 'clock' },
          { id: 'm', kind: 'milestone', edge: 'finish', code: 'M' },
        ],
        links: [{ id: 'l', from: 'a', to: 'm' }],
        project: { start: '2027-03-01T10:00', calendar: 'day' },
      },
    )
    const made = schedule(plan)
    expect(formatInstant(made.finish[1]!)).toBe('2027-03-08T07:00')
    expect(formatInstant(measuredFinish(made, plan.damages[0]!))).toBe('2027-03-06T10:00')
    expect(formatInstant(measuredFinish(made, { measures: null }))).toBe('2027-03-06T10:00')
  })
  it('name the first day that would be charged, or none where no day counts', () => {
    const plan = planWith({ calendar: 'day', due: '2027-07-02' })
    const { calendars } = schedule(plan).network
    expect(firstChargeableDay(plan.damages[0]!, calendars.get('day'))).toBe('2027-07-05')
  })
  it.each([
    [
      {
        steps: [
          { from: 2, amount: 5 },
          { from: 2, amount: 6 },
        ],
      },
      'a step of damages “Late redelivery” is not after',
    ],
    [{ steps: [{ from: 1, amount: -5 }] }, 'below zero'],
    [{ measures: 'nobody' }, 'there is no activity “nobody”'],
    [{ calendar: 'nowhere' }, 'there is no calendar “nowhere”'],
    [{ due: 'soon' }, 'not a date'],
  ])('that cannot be meant are refused: %j', (damages, why) => {
    expect(() => planWith(damages)).toThrow(PlanError)
    expect(() => planWith(damages)).toThrow(why.replaceAll(/[“”]/g, '"'))
  })
})

describe('money and what it is for', () => {
  it('is rounded to cents half away from zero, and shown so only', () => {
    expect([1.005, -1.005, 0.125, 2.675, -0.001, 1e9 + 0.005].map(roundMoney)).toEqual([
      1.01,
      -1.01,
      0.13,
      2.68,
      0,
      1e9 + 0.01,
    ])
  })
  it('of a hammock follows what it hangs between; payments stand at their milestones, groups hold their groups', () => {
    const plan = planWith(
      {},
      {
        groups: [
          { id: 'g', name: 'All' },
          { id: 'h', name: 'Part', parent: 'g' },
        ],
        activities: [
          { id: 'a', duration: 525, group: 'h', cost: { fixed: 100.004 } },
          { id: 'b', duration: 1050, cost: { fixed: 0, perDay: 525 }, group: 'g' },
          { id: 'dock', kind: 'hammock', calendar: 'clock', cost: { perDay: 1440 } },
          { id: 'paid', kind: 'milestone', edge: 'finish', payment: { amount: 4000, direction: 'in' } },
          { id: 'bought', kind: 'milestone', edge: 'start', payment: { amount: 250, direction: 'out' } },
        ],
        links: [
          { id: '1', from: 'a', to: 'b' },
          { id: '2', from: 'b', to: 'paid' },
          { id: '3', from: 'a', to: 'dock', type: 'SS' },
          { id: '4', from: 'b', to: 'dock', type: 'FF' },
        ],
      },
    )
    const report = costReport(schedule(plan))
    // Monday 07:00 to Wednesday 15:45: 3,405 minutes on the clock.
    expect(report.hammocks.dock).toEqual({ length: 3405 / 1440, cost: 3405 })
    // A day of the calendar is 8 h as its default says: 525 minutes are more than one.
    expect(report.activities.b!.planned).toBe(roundMoney((525 * 1050) / 480))
    expect(report.groups.h!.planned).toBe(100)
    expect(report.groups.g!.planned).toBe(roundMoney(100.004 + (525 * 1050) / 480))
    expect(report.total).toBe(roundMoney(100.004 + (525 * 1050) / 480 + 3405))
    expect(report.payments).toEqual([
      { id: 'bought', date: '2027-03-01T07:00', amount: 250, direction: 'out' },
      { id: 'paid', date: '2027-03-03T15:45', amount: 4000, direction: 'in' },
    ])
    expect(report.curve.map(({ date }) => date)).toEqual(['2027-03-01', '2027-03-02', '2027-03-03'])
    expect(report.curve.at(-1)).toEqual({ date: '2027-03-03', early: report.total, late: report.total })
    const byMonth = costReport(schedule(plan), 'month')
    expect(byMonth.curve).toEqual([report.curve.at(-1)])
  })
})
