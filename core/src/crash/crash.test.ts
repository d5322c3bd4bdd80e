import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { readPlan, PlanError, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import {
  crash,
  crashChange,
  crashedSchedule,
  crashReport,
  loadSolver,
  type CrashAsk,
  type Solver,
} from './index.ts'
import { applyChange } from '../plan/applyChange.ts'
import { activityCosts } from '../cost/activityCosts.ts'

let solver: Solver
beforeAll(async () => {
  solver = await loadSolver()
})

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
const planOf = (file: Record<string, unknown>, project: Record<string, unknown> = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', week: WEEK }],
    project: { start: '2027-03-01', calendar: 'day', ...project },
    ...file,
  }).plan
const DAY = 480
const days = (n: number): CrashAsk => ({ deadline: { minutes: n * DAY } })
const report = (plan: Plan, ask: CrashAsk) => crashReport(crash(plan, ask, solver), ask)

/** A → B beside C, then D; by hand: A 4→2 at 100 a day, B 4→3 at 300, C 8→4 at 50, D cannot be crashed. */
const worked = planOf({
  activities: [
    { id: 'a', duration: '4d', crash: { duration: '2d', normalCost: 1000, cost: 1200 } },
    { id: 'b', duration: '4d', crash: { duration: '3d', normalCost: 500, cost: 800 } },
    { id: 'c', duration: '7d', crash: { duration: '4d', normalCost: 700, cost: 850 } },
    { id: 'd', duration: '2d' },
  ],
  links: [
    { from: 'a', to: 'b' },
    { from: 'b', to: 'd' },
    { from: 'c', to: 'd' },
  ],
})

describe('a network worked by hand', () => {
  it('gives its curve: first A alone, then A with C, then B with C', () => {
    expect(report(worked, {}).curve).toEqual([
      { duration: 10, crashCost: 0, totalCost: 2200 },
      { duration: 9, crashCost: 100, totalCost: 2300 },
      { duration: 8, crashCost: 250, totalCost: 2450 },
      { duration: 7, crashCost: 600, totalCost: 2800 },
    ])
  })
  it('gives a deadline its cheapest way, on the calendar', () => {
    expect(report(worked, days(8))).toEqual({
      feasible: true,
      finish: '2027-03-10T16:00',
      duration: 8,
      crashCost: 250,
      totalCost: 2450,
      crashed: { a: 2, c: 1 },
      shortest: 7,
    })
    expect(report(worked, { deadline: { date: '2027-03-09' } })).toMatchObject({
      duration: 7,
      crashCost: 600,
    })
    expect(report(worked, days(30))).toMatchObject({ duration: 10, crashCost: 0, crashed: {} })
  })
  it('says what blocks a deadline that cannot be kept', () => {
    const { feasible, shortest, blocking } = report(worked, days(6.5))
    expect([feasible, shortest, blocking]).toEqual([false, 7, ['a', 'b', 'd']])
  })
  it('finishes as early as a budget lets it, fractions of days included', () => {
    expect(report(worked, { budget: 0 })).toMatchObject({ duration: 10, crashCost: 0 })
    expect(report(worked, { budget: 175 })).toMatchObject({ duration: 8.5, crashCost: 175 })
    expect(report(worked, { budget: 1e9 })).toMatchObject({ duration: 7, crashCost: 600 })
    // Whole days: 175 buys one.
    expect(report(worked, { budget: 175, whole: 1 })).toMatchObject({ duration: 9, crashCost: 100 })
  })
  it('takes one of several options, or normal, and nothing between', () => {
    const plan = planOf({
      activities: [
        {
          id: 'a',
          duration: '6d',
          crash: {
            duration: '3d',
            normalCost: 100,
            cost: 0,
            options: [
              { name: 'second shift', duration: '4d', cost: 600 },
              { name: 'round the clock', duration: '3d', cost: 1500 },
            ],
          },
        },
      ],
    })
    expect(report(plan, days(5))).toMatchObject({ duration: 4, crashCost: 500, crashed: { a: 2 } })
    expect(report(plan, { curve: true }).curve).toEqual([
      { duration: 6, crashCost: 0, totalCost: 100 },
      { duration: 4, crashCost: 500, totalCost: 600 },
      { duration: 3, crashCost: 1400, totalCost: 1500 },
    ])
    const made = crash(plan, days(5), solver)
    expect(applyChange(plan, crashChange(made, made.point)).plan.activities[0]).toMatchObject({
      duration: 4 * DAY,
      cost: { fixed: 500 },
    })
  })
  it('asks for a milestone, not for what comes after it', () => {
    expect(report(worked, { to: 'c', deadline: { minutes: 5 * DAY } })).toMatchObject({
      duration: 5,
      crashed: { c: 2 },
      finish: '2027-03-05T16:00',
    })
  })
  it('shortens what is left of work under way, and leaves finished work and the limit alone', () => {
    const plan = planOf(
      {
        activities: [
          {
            id: 'f',
            duration: '2d',
            crash: { duration: '1d', cost: 10 },
            progress: { actualStart: '2027-03-01', actualFinish: '2027-03-02' },
          },
          {
            id: 'a',
            duration: '8d',
            crash: { duration: '4d', cost: 400 },
            progress: { actualStart: '2027-03-01', remaining: '4d' },
          },
          { id: 'b', duration: '4d', crash: { duration: '1d', cost: 900, limit: '1d' } },
        ],
        links: [{ from: 'a', to: 'b' }],
      },
      { statusDate: '2027-03-03' },
    )
    const made = report(plan, {})
    expect(made.curve).toEqual([
      { duration: 10, crashCost: 0, totalCost: 0 },
      { duration: 8, crashCost: 200, totalCost: 200 },
      { duration: 7, crashCost: 500, totalCost: 500 },
    ])
    const result = crash(plan, days(7))
    expect(crashedSchedule(result, result.point).finish[2]).toBe(schedule(plan).projectFinish - 3 * 1440)
  })
  it('keeps the duration of work that a finish link holds', () => {
    // B ends with A: crashing B alone saves nothing, A is what counts.
    const plan = planOf({
      activities: [
        { id: 'a', duration: '5d', crash: { duration: '3d', cost: 200 } },
        { id: 'b', duration: '3d', crash: { duration: '1d', cost: 2 } },
      ],
      links: [{ from: 'a', to: 'b', type: 'FF' }],
    })
    expect(report(plan, days(3))).toMatchObject({ crashed: { a: 2 }, crashCost: 200 })
    expect(report(plan, {}).shortest).toBe(3)
  })
  it('is a point where nothing can be crashed, and for an empty plan', () => {
    const plain = planOf({ activities: [{ id: 'a', duration: '2d' }] })
    expect(report(plain, {})).toMatchObject({
      feasible: true,
      shortest: 2,
      curve: [{ duration: 2, crashCost: 0, totalCost: 0 }],
    })
    expect(report(plain, days(1))).toMatchObject({ feasible: false, blocking: ['a'] })
    expect(report(planOf({ activities: [] }), {})).toMatchObject({ duration: 0, shortest: 0 })
  })
})

describe('crash data that cannot be', () => {
  const refused = (data: Record<string, unknown>): string => {
    try {
      crash(planOf({ activities: [{ id: 'a', code: 'A10', duration: '4d', crash: data }] }), {})
      return ''
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      return error.message
    }
  }
  it('is named with its place and how to mend it', () => {
    expect(refused({ duration: '5d', cost: 10 })).toContain(
      '/activities/0/crash/duration: A10: its crash duration is longer',
    )
    expect(refused({ duration: '3d', normalCost: 20, cost: 10 })).toContain('slope is negative')
    expect(refused({ duration: '3d', options: [{ name: 'x', duration: '5d', cost: 1 }] })).toContain(
      'option "x" takes longer',
    )
    expect(refused({ duration: '3d', normalCost: 5, options: [{ duration: '2d', cost: 1 }] })).toContain(
      'option "1" costs less',
    )
    expect(refused({ duration: '4d', normalCost: 20, cost: 10 })).toBe('')
  })
  it('refuses deadlines and budgets below zero', () => {
    expect(() => crash(worked, { budget: -1 })).toThrow(RangeError)
    expect(() => crash(worked, { deadline: { minutes: -1 } })).toThrow(RangeError)
    expect(() => crash(worked, { whole: 0 })).toThrow(RangeError)
  })
})

const ids = ['a', 'b', 'c', 'd', 'e', 'f']
const random = fc
  .record({
    activities: fc.array(
      fc.tuple(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: 0, max: 9 }),
      ),
      {
        minLength: ids.length,
        maxLength: ids.length,
      },
    ),
    links: fc.array(
      fc.tuple(
        fc.nat(ids.length - 2),
        fc.nat(ids.length - 2),
        fc.constantFrom('FS', 'FS', 'SS', 'FF', 'SF'),
        fc.integer({ min: -1, max: 3 }),
      ),
      { maxLength: 9 },
    ),
  })
  .map(({ activities, links }) => {
    const kept = new Map(
      links.map(([one, other, type, lag]) => {
        const [from, to] = [Math.min(one, other), Math.max(one, other) + 1]
        return [`${from} ${to}`, { from: ids[from], to: ids[to], type, lag: `${lag}d` }] as const
      }),
    )
    return planOf({
      activities: activities.map(([duration, limit, slope], i) => {
        const saves = Math.min(limit, duration - 1)
        return {
          id: ids[i],
          duration: `${duration}d`,
          crash: { duration: `${duration - saves}d`, normalCost: 10, cost: 10 + saves * slope },
        }
      }),
      links: [...kept.values()],
    })
  })

/** Every choice of whole days, scheduled: the least cost of each length. */
const enumerated = (plan: Plan): Map<number, number> => {
  const least = new Map<number, number>()
  const choose = (i: number, activities: Plan['activities'], cost: number): void => {
    if (i === plan.activities.length) {
      const made = schedule({ ...plan, activities })
      const calendar = made.network.calendars.get('day')
      const length =
        (calendar.countBefore(made.projectFinish) - calendar.countBefore(made.network.projectStart)) / DAY
      least.set(length, Math.min(cost, least.get(length) ?? Infinity))
      return
    }
    const { crash: data, duration } = plan.activities[i]!
    const saves = (duration - data!.duration) / DAY
    const slope = saves === 0 ? 0 : (data!.cost - data!.normalCost) / saves
    for (let k = 0; k <= saves; k++) {
      const shorter = activities.slice()
      shorter[i] = { ...activities[i]!, duration: duration - k * DAY }
      choose(i + 1, shorter, cost + k * slope)
    }
  }
  choose(0, plan.activities, 0)
  return least
}

describe('against other ways to the optimum', () => {
  it('every choice of whole days, tried on the calendar: the same least cost for each length', () => {
    fc.assert(
      fc.property(random, (plan) => {
        const least = enumerated(plan)
        const shortest = Math.min(...least.keys())
        const made = report(plan, {})
        expect(made.shortest).toBe(shortest)
        for (let length = shortest; length <= made.duration; length++) {
          const cheapest = Math.min(...[...least].filter(([d]) => d <= length).map(([, cost]) => cost))
          const answer = report(plan, days(length))
          expect(answer.crashCost).toBeCloseTo(cheapest, 6)
          expect(
            crashedSchedule(crash(plan, days(length)), crash(plan, days(length)).point).projectFinish,
          ).toBeLessThanOrEqual(schedule(plan).projectFinish)
        }
      }),
      { numRuns: 25 },
    )
  })
  it('the solver agrees with the flow at every corner and between, in fractions and in minutes', () => {
    fc.assert(
      fc.property(random, fc.double({ min: 0, max: 1, noNaN: true }), (plan, share) => {
        const flow = crash(plan, { curve: true })
        const length = Math.round(
          flow.shortest.minutes + share * (flow.normal.minutes - flow.shortest.minutes),
        )
        // Whole minutes are fractions of a day: the same programme, solved by the other.
        const minute = 1 / DAY
        const asked = { deadline: { minutes: length } }
        expect(crash(plan, { ...asked, whole: minute }, solver).point.crashCost).toBeCloseTo(
          crash(plan, asked).point.crashCost,
          5,
        )
        const { curve } = flow
        for (let k = 1; k < curve!.length; k++) {
          const [before, here] = [curve![k - 1]!, curve![k]!]
          expect(here.minutes).toBeLessThan(before.minutes)
          // Convex: each further minute costs no less.
          const next = curve![k + 1]
          if (next)
            expect((next.crashCost - here.crashCost) / (here.minutes - next.minutes)).toBeGreaterThanOrEqual(
              (here.crashCost - before.crashCost) / (before.minutes - here.minutes) - 1e-9,
            )
        }
      }),
      { numRuns: 40 },
    )
  })
  it('a budget buys the date for which it is the price', () => {
    fc.assert(
      fc.property(random, fc.integer({ min: 0, max: 60 }), (plan, budget) => {
        for (const whole of [null, 1]) {
          const { point } = crash(plan, { budget, whole }, solver)
          expect(point.crashCost).toBeLessThanOrEqual(budget + 1e-6)
          const oneLess = point.minutes - (whole === null ? 1 : DAY)
          const shorter = crash(plan, { deadline: { minutes: Math.max(0, oneLess) }, whole }, solver)
          if (shorter.feasible) expect(shorter.point.crashCost).toBeGreaterThan(budget - 1e-6)
        }
      }),
      { numRuns: 30 },
    )
  })
  it('what it changes in the plan is what it says, in days and in money', () => {
    fc.assert(
      fc.property(random, (plan) => {
        const result = crash(plan, {})
        const point = result.shortest
        const before = activityCosts(schedule(plan)).planned.reduce((sum, cost) => sum + cost, 0)
        const made = crashedSchedule(result, point)
        const after = activityCosts(made).planned.reduce((sum, cost) => sum + cost, 0)
        expect(after - before).toBeCloseTo(point.crashCost, 1)
        const calendar = made.network.calendars.get('day')
        expect(
          calendar.countBefore(made.projectFinish) - calendar.countBefore(made.network.projectStart),
        ).toBe(point.minutes)
      }),
      { numRuns: 60 },
    )
  })
})
