import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatInstant, instantOf } from '../time/instant.ts'
import { readPlan, type Plan } from '../plan/index.ts'
import { chainReport } from './chainReport.ts'
import { drumOf, stagger, type Staggered } from './stagger.ts'

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
const planOf = (file: Record<string, unknown>): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', week: WEEK }],
    project: { start: '2027-03-01', calendar: 'day' },
    ...file,
  }).plan

interface Step {
  readonly days: number
  readonly welders: number
}
/** Activities one after the other, of so many focused days, each asking for so many welders. */
const chainOf = (steps: readonly Step[], more: Record<string, unknown> = {}): Plan =>
  planOf({
    activities: steps.map(({ days }, k) => ({ id: `a${k}`, duration: `${2 * days}d` })),
    links: steps.slice(1).map((_, k) => ({ from: `a${k}`, to: `a${k + 1}` })),
    resources: [{ id: 'w', code: 'WELD', kind: 'people', available: [{ from: null, amount: 2 }] }],
    assignments: steps.flatMap(({ welders }, k) =>
      welders > 0 ? [{ activity: `a${k}`, resource: 'w', amount: welders }] : [],
    ),
    ...more,
  })
const named = (...plans: readonly Plan[]) => plans.map((plan, k) => ({ id: 'PQRS'[k]!, plan }))
const beginnings = (found: readonly Staggered[]) =>
  found.map(({ id, days, start }) => [id, days, start.slice(0, 10)])
const BOTH = { days: 2, welders: 2 }
const NONE = { days: 2, welders: 0 }

describe('plans staggered at the welders', () => {
  it('begin one behind the other where each takes all of them first', () => {
    // Two days each, from Monday: Monday, Wednesday, Friday; the weekend is nobody’s.
    const found = stagger(named(chainOf([BOTH]), chainOf([BOTH]), chainOf([BOTH])), 'WELD')
    expect(beginnings(found)).toEqual([
      ['P', 0, '2027-03-01'],
      ['Q', 2, '2027-03-03'],
      ['R', 4, '2027-03-05'],
    ])
    expect(found[2]!.waitsFor).toEqual([{ id: 'Q', until: instantOf('2027-03-04T16:00', 'finish') }])
    expect(found[1]!.finish).toBe('2027-03-04T16:00')
    // Half of the two days that were cut stands behind it.
    expect(found[1]!.promised).toBe('2027-03-05T16:00')
  })
  it('begin together where they need them at different times, or fewer than there are', () => {
    expect(
      beginnings(stagger(named(chainOf([BOTH, NONE]), chainOf([NONE, BOTH])), 'WELD')).map(
        ([, days]) => days,
      ),
    ).toEqual([0, 0])
    const one = { days: 2, welders: 1 }
    expect(
      beginnings(stagger(named(chainOf([one]), chainOf([one])), 'WELD')).map(([, days]) => days),
    ).toEqual([0, 0])
  })
  it('give way by priority, not by name or size', () => {
    const [short, long] = [chainOf([BOTH]), chainOf([{ days: 5, welders: 2 }])]
    expect(stagger(named(long, short), 'WELD').map(({ days }) => days)).toEqual([0, 7])
    expect(stagger(named(short, long), 'WELD').map(({ days }) => days)).toEqual([0, 2])
  })
  it('stay where they are once they are under way, and others wait for what is left of them', () => {
    const begun = chainOf([BOTH], {
      project: { start: '2027-03-01', calendar: 'day', statusDate: '2027-03-02' },
      activities: [
        { id: 'a0', duration: '4d', progress: { actualStart: '2027-03-01T08:00', remaining: '3d' } },
      ],
    })
    const found = stagger(named(chainOf([BOTH]), begun), 'WELD')
    expect(found.map(({ id, state }) => [id, state])).toEqual([
      ['P', 'placed'],
      ['Q', 'under way'],
    ])
    // Tuesday to Thursday it has the welders; it is the one of less priority, and yet first.
    expect(found[0]).toMatchObject({ days: 4, start: '2027-03-05T00:00', waitsFor: [{ id: 'Q' }] })
  })
  it('go by what the first plan says there is, in steps', () => {
    const two = [
      { from: null, amount: 2 },
      { from: '2027-03-08', amount: 4 },
    ]
    const more = { resources: [{ id: 'w', code: 'WELD', kind: 'people', available: two }] }
    const week = { days: 5, welders: 2 }
    const long = { days: 10, welders: 2 }
    expect(stagger(named(chainOf([long], more), chainOf([week])), 'WELD')[1]!.days).toBe(7)
    expect(stagger(named(chainOf([long]), chainOf([week], more)), 'WELD')[1]!.days).toBe(14)
  })
  it('find no room where one asks for more than there is, or where dates hold the work', () => {
    const four = {
      resources: [{ id: 'w', code: 'WELD', kind: 'people', available: [{ from: null, amount: 4 }] }],
    }
    const many = chainOf([{ days: 2, welders: 4 }], four)
    expect(stagger(named(chainOf([BOTH]), many), 'WELD')[1]).toMatchObject({
      state: 'cannot',
      days: 0,
      held: [],
    })
    const held = chainOf([BOTH], {
      activities: [
        {
          id: 'a0',
          duration: '4d',
          constraints: [{ edge: 'start', rule: 'exactly', date: '2027-03-01T08:00', overrides: true }],
        },
      ],
    })
    expect(stagger(named(chainOf([BOTH]), held), 'WELD')[1]).toMatchObject({
      state: 'cannot',
      held: ['a0'],
      waitsFor: [{ id: 'P' }],
    })
  })
  it('leave plans alone that do not use it, and ask nothing where nobody does', () => {
    const without = chainOf([NONE], { resources: [], assignments: [] })
    expect(stagger(named(chainOf([BOTH]), without), 'WELD')[1]).toMatchObject({
      state: 'placed',
      days: 0,
      drum: [],
    })
    expect(stagger(named(without), 'WELD')).toEqual([])
    expect(stagger([], 'WELD')).toEqual([])
  })
  it('take the resource that a plan names as its drum, whatever its code', () => {
    const other = chainOf([BOTH], {
      chain: { drum: 'w' },
      resources: [{ id: 'w', code: 'SOUD', kind: 'people', available: [{ from: null, amount: 2 }] }],
    })
    expect(drumOf(other, 'WELD')?.code).toBe('SOUD')
    expect(stagger(named(chainOf([BOTH]), other), 'WELD')[1]!.days).toBe(2)
    // A drum without a code or a name is nobody’s.
    expect(drumOf(chainOf([BOTH], { resources: [{ id: 'w', kind: 'people' }] }), '')).toBeNull()
  })

  it('begin on the first day on which an hour by hour count finds room', () => {
    const HOUR = 60
    const first = instantOf('2027-03-01', 'start')
    const isWork = (t: number): boolean =>
      Math.floor((t - first) / 1440) % 7 < 5 &&
      (t - first) % 1440 >= 8 * HOUR &&
      (t - first) % 1440 < 16 * HOUR
    /** Welders by the hour, of a plan that begins so many days later. */
    const asked = (plan: Plan, days: number): number[] => {
      const later = { ...plan, project: { ...plan.project, start: formatInstant(first + days * 1440) } }
      const { activities } = chainReport(later)
      const hours: number[] = Array<number>(24 * 120).fill(0)
      for (const { activity, amount } of plan.assignments) {
        const { start, finish } = activities[activity]!
        for (let t = instantOf(start, 'start'); t < instantOf(finish, 'finish'); t += HOUR)
          if (isWork(t)) hours[(t - first) / HOUR]! += amount
      }
      return hours
    }
    const steps = fc.array(
      fc.record({ days: fc.integer({ min: 1, max: 4 }), welders: fc.integer({ min: 0, max: 2 }) }),
      { minLength: 1, maxLength: 4 },
    )
    fc.assert(
      fc.property(steps, steps, steps, (...all) => {
        const plans = all.map((one) => chainOf(one))
        const found = stagger(named(...plans), 'WELD')
        const sum: number[] = Array<number>(24 * 120).fill(0)
        plans.forEach((plan, k) => {
          let days = 0
          while (asked(plan, days).some((amount, hour) => amount > 0 && amount + sum[hour]! > 2)) days++
          // Nobody begins on a Saturday.
          while (days % 7 > 4) days++
          expect(found[k]!.days).toBe(days)
          asked(plan, days).forEach((amount, hour) => (sum[hour]! += amount))
        })
      }),
      { numRuns: 60 },
    )
  })
})
