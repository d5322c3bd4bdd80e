import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { activityCosts } from '../../cost/activityCosts.ts'
import { randomPlanWithResources } from '../../cost/testing/randomResources.ts'
import { isWorking } from '../../time/arithmetic.ts'
import { CalendarError } from '../../time/calendar.ts'
import { readPlan, type Plan } from '../../plan/index.ts'
import { dayNumber, formatInstant, instantOf, MINUTES_PER_DAY } from '../../time/instant.ts'
import { schedule } from '../../schedule/index.ts'
import {
  daysOwed,
  iterationTable,
  jointCurve,
  owedNumbers,
  owedOf,
  owedRun,
  replay,
  runIterations,
  runOwed,
  settledOf,
  simulationModel,
  summarise,
  type Driver,
  type SimulationOptions,
} from '../index.ts'
import { durationIn } from './model.ts'
import { stream } from '../random/draws.ts'
import { percentileSorted } from '../percentile.ts'
import { WeatherCalendars } from './weather.ts'

const EVERY_DAY = Object.fromEntries(
  ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((day) => [day, ['08:00-16:00']]),
)
const CALENDARS = [
  { id: 'day', week: EVERY_DAY },
  { id: 'heir', parent: 'day', exceptions: [{ from: '2027-03-05', to: '2027-03-05', shifts: [] }] },
  { id: 'night', week: Object.fromEntries(Object.keys(EVERY_DAY).map((day) => [day, ['22:00-06:00']])) },
  {
    id: 'tide',
    windows: Array.from({ length: 300 }, (_, d) => {
      const at = (dayNumber(2027, 2, 20) + d) * MINUTES_PER_DAY + 600
      return [formatInstant(at), formatInstant(at + 120)]
    }),
  },
]
const planOf = (file: Record<string, unknown>, project: Record<string, unknown> = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: CALENDARS,
    project: { start: '2027-03-01', calendar: 'day', ...project },
    ...file,
  }).plan
const OPTIONS: SimulationOptions = { iterations: 500, seed: 3, sampling: 'lhs', risks: true }
const ran = (plan: Plan, more: Partial<SimulationOptions> = {}) => {
  const model = simulationModel(plan, { ...OPTIONS, ...more })
  const table = iterationTable(model)
  runIterations(model, table)
  return { model, table, summary: summarise(model, table) }
}
const finishes = (plan: Plan, more: Partial<SimulationOptions> = {}) => [...ran(plan, more).table.finish]
const fixed = (value: string | number) => ({ low: value, likely: value, high: value, shape: 'fixed' })
const chain = {
  activities: [
    { id: 'a', duration: '2d' },
    { id: 'b', duration: '3d' },
  ],
  links: [{ from: 'a', to: 'b' }],
}

describe('factors and spreads', () => {
  it('a factor multiplies what is drawn, and what is fixed, in its scope; two of them multiply', () => {
    const plan = planOf({
      ...chain,
      factors: [
        { id: 'f', scope: { activities: ['a'] }, low: 1.5, likely: 1.5, high: 1.5, shape: 'fixed' },
        { id: 'g', low: 2, likely: 2, high: 2, shape: 'fixed' },
      ],
    })
    expect(new Set(finishes(plan))).toEqual(
      new Set([
        schedule(
          planOf({
            ...chain,
            activities: [
              { id: 'a', duration: '6d' },
              { id: 'b', duration: '6d' },
            ],
          }),
        ).projectFinish,
      ]),
    )
    expect(new Set(finishes(plan, { spread: false }))).toEqual(new Set([schedule(plan).projectFinish]))
  })
  it('one factor moves its activities together, where spreads of their own do not', () => {
    const wide = { low: 0.5, likely: 1, high: 2, shape: 'triangular' }
    const together = ran(planOf({ ...chain, factors: [{ id: 'f', ...wide }] }))
    const apart = ran(planOf({ ...chain, spreads: [{ id: 's', ...wide }] }))
    const ratio = ({ model }: typeof together): number[] => {
      const [a, b] = model.varying
      return Array.from({ length: 50 }, (_, k) => durationIn(b!, k) / durationIn(a!, k))
    }
    for (const one of ratio(together)) expect(one).toBeCloseTo(1.5, 2)
    expect(new Set(ratio(apart).map((one) => Math.round(one * 10))).size).toBeGreaterThan(5)
    expect(together.summary.sd).toBeGreaterThan(1.2 * apart.summary.sd)
  })
})

describe('risks', () => {
  const withRisk = (risk: Record<string, unknown>, more: Record<string, unknown> = {}) =>
    planOf({ ...chain, ...more, risks: [{ id: 'k', probability: 0.3, ...risk }] })
  it('bring their work between two activities where they happen, and nothing where they do not', () => {
    const work = [{ after: 'a', before: 'b', duration: fixed('2d') }]
    const apart = schedule(planOf(chain)).projectFinish
    const after = schedule(
      planOf({
        activities: [...chain.activities, { id: 'w', duration: '2d' }],
        links: [
          { from: 'a', to: 'w' },
          { from: 'w', to: 'b' },
        ],
      }),
    ).projectFinish
    const { table, summary } = ran(withRisk({ work }))
    expect(new Set(table.finish)).toEqual(new Set([apart, after]))
    expect(table.finish.filter((at) => at === after)).toHaveLength(150)
    expect(summary.happened).toEqual({ k: 0.3 })
    expect(Object.keys(summary.activities)).toEqual(['a', 'b'])
    expect(new Set(finishes(withRisk({ work, probability: 1 })))).toEqual(new Set([after]))
    expect(new Set(finishes(withRisk({ work }), { risks: false }))).toEqual(new Set([apart]))
  })
  it('whose work is not there hold nothing up: neither work placed late nor a plan scheduled backward', () => {
    const file = {
      activities: [
        { id: 'a', duration: '2d', place: 'late' },
        { id: 'b', duration: '3d' },
        { id: 'c', duration: '9d' },
      ],
      links: [{ from: 'a', to: 'b' }],
      risks: [{ id: 'k', probability: 0, work: [{ after: 'a', before: 'b', duration: fixed('2d') }] }],
    }
    for (const project of [{}, { direction: 'backward', finish: '2027-04-01' }]) {
      const plan = planOf(file, project)
      const { model } = ran(plan, { iterations: 1 })
      const { activities } = replay(model, 0)
      const { start, finish } = schedule(plan)
      for (const [i, { id }] of plan.activities.entries())
        expect([activities[id]!.start, activities[id]!.finish]).toEqual([
          formatInstant(start[i]!),
          formatInstant(finish[i]!),
        ])
    }
  })
  it('that share draw one quantile for all their impacts, others one for each', () => {
    const delay = { low: '1d', likely: '2d', high: '9d', shape: 'triangular' }
    const impacts = (share: boolean) => ['a', 'b'].map((activity) => ({ activity, delay, share }))
    const added = (share: boolean): boolean[] => {
      const { model } = ran(withRisk({ probability: 1, impacts: impacts(share) }))
      const [a, b] = model.varying
      return Array.from({ length: 40 }, (_, k) => durationIn(a!, k) - 960 === durationIn(b!, k) - 1440)
    }
    expect(new Set(added(true))).toEqual(new Set([true]))
    expect(added(false)).toContain(false)
  })
  it('mitigated ones happen with their new chance, scaled, at the price of the mitigation in every iteration', () => {
    const risk = {
      impacts: [{ activity: 'a', delay: fixed('4d') }],
      cost: { low: 100, likely: 100, high: 100, shape: 'fixed' },
      mitigation: { cost: 30, probability: 0.1, scale: 0.5, done: true },
    }
    const { table, summary } = ran(withRisk(risk))
    expect(summary.happened).toEqual({ k: 0.1 })
    const planned = schedule(planOf(chain)).projectFinish
    expect(new Set([...table.finish].map((at) => (at - planned) / MINUTES_PER_DAY))).toEqual(new Set([0, 2]))
    expect(new Set(table.cost)).toEqual(new Set([30, 130]))
    expect(new Set(ran(withRisk(risk), { risks: false }).table.cost)).toEqual(new Set([30]))
    expect(summary.cost!.planned).toBe(30)
  })
  it('an opportunity takes no duration below nothing, and finished work is not touched', () => {
    const plan = planOf(
      {
        activities: [
          { id: 'a', duration: '2d', progress: { actualStart: '2027-03-01', actualFinish: '2027-03-02' } },
          { id: 'b', duration: '3d' },
        ],
        risks: [
          { id: 'k', probability: 1, sign: 'opportunity', impacts: [{ activity: 'b', delay: fixed('9d') }] },
          { id: 'l', probability: 1, impacts: [{ activity: 'a', delay: fixed('9d') }] },
        ],
      },
      { statusDate: '2027-03-03' },
    )
    expect(replay(ran(plan).model, 0).activities).toMatchObject({
      a: { finish: '2027-03-03T00:00' },
      b: { duration: 0 },
    })
  })
  it('whose work would close a loop, or hang on a hammock, are refused with their name', () => {
    const refused = (file: Record<string, unknown>): string => {
      try {
        planOf(file)
        return ''
      } catch (error) {
        return (error as Error).message
      }
    }
    const work = (after: string, before: string) => [
      { id: 'k', code: 'R1', work: [{ after, before, duration: fixed('1d') }] },
    ]
    expect(refused({ ...chain, risks: work('b', 'a') })).toContain('wait for each other')
    expect(
      refused({ activities: [...chain.activities, { id: 'h', kind: 'hammock' }], risks: work('h', 'a') }),
    ).toContain('risk R1')
    expect(refused({ ...chain, risks: work('a', 'nobody') })).toContain(
      '/risks/0/work/0/before: there is no activity "nobody"',
    )
    expect(refused({ ...chain, risks: [{ id: 'k', probability: 1.2 }] })).toContain('/risks/0/probability')
    expect(refused({ ...chain, spreads: [{ id: 's', low: 1.2, high: 1.1 }] })).toContain('/spreads/0')
    expect(refused({ ...chain, spreads: [{ id: 's', low: -1, high: 1.1 }] })).toContain('below zero')
    expect(refused({ ...chain, weather: [{ id: 'w', calendar: 'day', months: { 3: 1 } }] })).toContain(
      'always lost',
    )
    expect(refused({ ...chain, weather: [{ id: 'w', calendar: 'day', months: { 13: 0.1 } }] })).toContain(
      'not a month',
    )
    expect(refused({ ...chain, factors: [{ id: 'f', scope: { group: 'g' }, low: 1, high: 1 }] })).toContain(
      '/factors/0/scope/group',
    )
  })
})

describe('weather', () => {
  const months = { 3: 0.3, 4: 0.3, 5: 0.3, 6: 0.3 }
  it('takes as many days as the negative binomial says', () => {
    const days = 10
    const plan = planOf({
      activities: [{ id: 'a', duration: `${days}d` }],
      weather: [{ id: 'w', calendar: 'day', months }],
    })
    const { table } = ran(plan, { iterations: 4000, sampling: 'random' })
    const took = [...table.finish].map(
      (at) => (at - instantOf('2027-03-01', 'start') - 16 * 60) / MINUTES_PER_DAY + 1,
    )
    const mean = took.reduce((sum, d) => sum + d, 0) / took.length
    // n / (1 − p) days in the mean, deviation √(n p) / (1 − p): four deviations of the mean either way.
    const sd = Math.sqrt(days * 0.3) / 0.7
    expect(Math.abs(mean - days / 0.7)).toBeLessThan((4 * sd) / Math.sqrt(4000))
    const variance = took.reduce((sum, d) => sum + (d - mean) ** 2, 0) / took.length
    expect(Math.sqrt(variance) / sd).toBeCloseTo(1, 1)
  })
  it('is the same for calendars that take their hours, counts for lags, and begins at the status date', () => {
    const plan = planOf(
      {
        activities: [
          { id: 'a', duration: '6d' },
          { id: 'b', duration: '6d', calendar: 'heir' },
          { id: 'n', duration: '6d', calendar: 'night' },
        ],
        weather: [{ id: 'w', calendar: 'day', months }],
      },
      { statusDate: '2027-03-09' },
    )
    const { model } = ran(plan)
    const planned = schedule(plan)
    for (let k = 0; k < 20; k++) {
      const { activities } = replay(model, k)
      expect(activities.a!.finish).toBe(activities.b!.finish)
      expect(activities.n!.finish).toBe(formatInstant(planned.finish[2]!))
      expect(activities.a!.start >= '2027-03-09').toBe(true)
    }
    const lagged = planOf({
      ...chain,
      links: [{ from: 'a', to: 'b', lag: '5d' }],
      weather: [{ id: 'w', calendar: 'day', months }],
    })
    const { table } = ran(lagged)
    expect(Math.max(...table.finish)).toBeGreaterThan(schedule(lagged).projectFinish + 4 * MINUTES_PER_DAY)
  })
  it('loses whole days, a night as one, a tide with its day, in both primitives alike', () => {
    const plan = planOf({
      weather: ['day', 'night', 'tide', 'clock'].map((calendar) => ({ id: calendar, calendar, months })),
    })
    const start = instantOf('2027-03-01', 'start')
    let lost = 0
    for (const id of ['day', 'heir', 'night', 'tide', 'clock']) {
      const weather = new WeatherCalendars(plan, { seed: 5, sampling: 'lhs', batch: 20 }, start, null)
      const [calendar, base] = [weather.get(id), planCalendar(plan, id)]
      for (let k = 0; k < 5; k++) {
        weather.hold(k)
        let count = calendar.countBefore(start)
        // Minute by minute over forty days: a shift is lost as a whole or not at all.
        let shift: boolean | null = null
        for (let t = start; t < start + 40 * MINUTES_PER_DAY; t++) {
          const works = calendar.countBefore(t + 1) > calendar.countBefore(t)
          const isNewDay = id === 'clock' && t % MINUTES_PER_DAY === 0
          if (!isWorking(base, t)) {
            if (works)
              throw new Error(`${id}, iteration ${k}: works at ${formatInstant(t)}, when the plan does not`)
            shift = null
            continue
          }
          if (shift === null || isNewDay) shift = works
          if (works !== shift)
            throw new Error(`${id}, iteration ${k}: a part of a shift is lost at ${formatInstant(t)}`)
          if (!works) lost++
          else if (t % 7 === 0 && calendar.minuteAt(count) !== t)
            throw new Error(`${id}: minute ${count} is not at ${formatInstant(t)}`)
          if (works) count++
        }
      }
    }
    expect(lost).toBeGreaterThan(200)
  })
  it('is paid for', () => {
    const plan = planOf({
      activities: [{ id: 'a', duration: '10d', cost: { perDay: 100 } }],
      weather: [{ id: 'w', calendar: 'day', months }],
    })
    const { model } = ran(plan)
    let lost = 0
    for (let k = 0; k < 30; k++) {
      const { start, finish, cost } = replay(model, k).activities.a!
      const days = (instantOf(finish, 'finish') - instantOf(start, 'start') - 480) / MINUTES_PER_DAY + 1
      expect(cost).toBeCloseTo(100 * days, 6)
      lost += days - 10
    }
    expect(lost).toBeGreaterThan(30)
  })
})
const planCalendar = (plan: Plan, id: string) => schedule(plan).network.calendars.get(id)

describe('money', () => {
  it('of an iteration in which nothing varies is the cost of the plan with its damages, for any plan', () => {
    let compared = 0
    fc.assert(
      fc.property(
        randomPlanWithResources({ constraints: false, progress: true, calendars: true, leads: true }),
        (random) => {
          const plan: Plan = {
            ...random,
            damages: [
              {
                id: 'd',
                name: '',
                measures: null,
                due: '2027-03-02',
                calendar: 'clock',
                per: 'day',
                steps: [{ from: 1, amount: 7 }],
                cap: 90,
              },
            ],
          }
          try {
            const { table, model, summary } = ran(plan, { iterations: 2 })
            const total = activityCosts(model.planned).atCompletion.reduce((sum, cost) => sum + cost, 0)
            for (const cost of table.cost) expect(cost).toBeCloseTo(total + table.damages[0]!, 6)
            expect(summary.cost?.planned ?? 0).toBeCloseTo(Number(table.cost[0]!.toFixed(2)), 1)
            const { activities, cost } = replay(model, 0)
            const byActivity = Object.values(activities).reduce((sum, one) => sum + one.cost, 0)
            expect(byActivity + table.damages[0]!).toBeCloseTo(cost, 0)
            compared++
          } catch (error) {
            if (!(error instanceof CalendarError)) throw error
          }
        },
      ),
      { numRuns: 80 },
    )
    expect(compared).toBeGreaterThan(20)
  })
  it('follows the price that one draw gives a resource', () => {
    const plan = planOf({
      activities: [
        { id: 'a', duration: '1d' },
        { id: 'b', duration: '1d' },
      ],
      resources: [
        { id: 'r', price: 10, per: 'hour', priceSpread: { low: 1, likely: 2, high: 3, shape: 'triangular' } },
      ],
      assignments: [
        { activity: 'a', resource: 'r' },
        { activity: 'b', resource: 'r', amount: 2 },
      ],
    })
    const { table, summary } = ran(plan)
    expect([Math.min(...table.cost) > 240, Math.max(...table.cost) < 720]).toEqual([true, true])
    expect(summary.cost!.mean).toBeCloseTo(480, 0)
    const { activities } = replay(ran(plan).model, 9)
    expect(activities.b!.cost / activities.a!.cost).toBeCloseTo(2, 3)
    expect(new Set(ran(plan, { spread: false }).table.cost)).toEqual(new Set([240]))
  })
  it('and date are kept together as often as the curve says, and not for a cent less', () => {
    const plan = planOf({
      activities: [
        {
          id: 'a',
          duration: '10d',
          cost: { perDay: 100 },
          estimate: { low: '5d', likely: '9d', high: '30d' },
        },
      ],
      risks: [{ id: 'k', probability: 0.4, cost: { low: 0, likely: 500, high: 3000, shape: 'triangular' } }],
    })
    const { table } = ran(plan)
    const both = (finish: string, cost: number): number =>
      [...table.finish].filter((at, k) => at <= instantOf(finish, 'finish') && table.cost[k]! <= cost)
        .length / 500
    const curve = jointCurve(table, 0.8)
    expect(curve.length).toBeGreaterThan(5)
    for (const { finish, cost, probability } of curve) {
      expect(probability).toBeCloseTo(both(finish, cost), 9)
      expect(probability).toBeGreaterThanOrEqual(0.8)
      expect(both(finish, cost - 0.02)).toBeLessThan(0.8)
    }
    for (let k = 1; k < curve.length; k++) expect(curve[k]!.cost).toBeLessThan(curve[k - 1]!.cost)
  })
})

describe('a run', () => {
  const varied = planOf({
    activities: [
      { id: 'a', duration: '10d', estimate: { low: '5d', likely: '9d', high: '30d' } },
      { id: 'b', duration: '1d' },
    ],
    links: [{ from: 'a', to: 'b' }],
    risks: [{ id: 'k', probability: 0.5, impacts: [{ activity: 'b', delay: fixed('3d') }] }],
  })
  it('owes to each driver of any kind what a run of its own without it says, in any ranges', () => {
    const plan = planOf({
      ...chain,
      activities: [
        { id: 'a', duration: '10d', estimate: { low: '5d', likely: '10d', high: '19d' } },
        { id: 'b', duration: '8d', calendar: 'heir', estimate: { low: '6d', likely: '8d', high: '15d' } },
        { id: 'c', duration: '4d' },
      ],
      links: [
        { from: 'a', to: 'b' },
        { from: 'a', to: 'c' },
      ],
      factors: [{ id: 'f', scope: { activities: ['b', 'c'] }, low: 0.9, likely: 1.1, high: 1.6 }],
      weather: [{ id: 'w', calendar: 'day', months: { 3: 0.2 } }],
      risks: [
        { id: 'k', probability: 0.4, impacts: [{ activity: 'b', delay: fixed('6d') }] },
        { id: 'g', probability: 0.5, work: [{ after: 'a', before: 'c', duration: fixed('9d') }] },
      ],
    })
    const options = { ...OPTIONS, iterations: 130 }
    const drivers: Driver[] = [
      { kind: 'spread', id: 'a' },
      { kind: 'spread', id: 'b' },
      { kind: 'factor', id: 'f' },
      { kind: 'weather', id: 'w' },
      { kind: 'risk', id: 'k' },
      { kind: 'risk', id: 'g' },
    ]
    const run = owedRun(plan, options, drivers)
    const finish = new Int32Array(owedNumbers(drivers.length, 130))
    for (const [from, to] of [
      [77, 130],
      [0, 5],
      [5, 77],
    ] as const)
      runOwed(run, finish, from, to)
    const own = [null, ...drivers].map((without) => finishes(plan, { ...options, without }))
    expect(own.map((_, slot) => [...finish.slice(slot * 130, (slot + 1) * 130)])).toEqual(own)
    // None of them is without effect here: the test would not see it.
    for (const one of own.slice(1)) expect(one).not.toEqual(own[0])
    const part = owedOf(run, finish, 80, [{ from: 5, to: 77 }])
    const p80 = (of: readonly number[]): number =>
      percentileSorted(Int32Array.from(of.slice(5, 77)).sort(), 80)
    const calendar = run.model.planned.network.calendars.get('day')
    for (const { days, ...driver } of part) {
      const slot = drivers.findIndex(({ kind, id }) => kind === driver.kind && id === driver.id) + 1
      expect(days).toBe((calendar.countBefore(p80(own[0]!)) - calendar.countBefore(p80(own[slot]!))) / 480)
    }
  })
  it('owes to what alone varies what the percentile has over the plan, and nothing to what moves nothing', () => {
    const { model, table } = ran(varied, { risks: false })
    const sorted = table.finish.slice().sort()
    const calendar = model.planned.network.calendars.get('day')
    const over =
      (calendar.countBefore(percentileSorted(sorted, 80)) -
        calendar.countBefore(model.planned.projectFinish)) /
      480
    const [owed, none] = daysOwed(model, 80, [
      { kind: 'spread', id: 'a' },
      { kind: 'spread', id: 'b' },
    ])
    expect(owed).toEqual({ kind: 'spread', id: 'a', days: over })
    expect(none!.days).toBe(0)
  })
  it('in batches covers each of them whole, in another order, and settles like its batches', () => {
    const draw = stream('lhs', 77, 100)
    const strata = (batch: number) =>
      Array.from({ length: 100 }, (_, k) => Math.floor(draw.at(batch * 100 + k) * 100))
    for (const batch of [0, 1, 5]) expect(new Set(strata(batch)).size).toBe(100)
    expect(strata(0)).not.toEqual(strata(1))
    const { model, table } = ran(varied, { iterations: 8000, batch: 1000 })
    expect(table.finish).toHaveLength(8000)
    const calendar = model.planned.network.calendars.get('day')
    const five = settledOf(table.finish.slice(0, 5000), 80, calendar, 480)
    const eight = settledOf(table.finish, 80, calendar, 480)
    expect([five.iterations, eight.iterations]).toEqual([5000, 8000])
    expect(eight.halfWidth).toBeGreaterThan(0)
    expect(eight.halfWidth).toBeLessThan(0.5)
    expect(settledOf(table.finish.slice(0, 1000), 80, calendar, 480).halfWidth).toBe(Infinity)
  })
  it('is the same to the bit in whatever ranges it is made', () => {
    const model = simulationModel(varied, OPTIONS)
    const [whole, parts] = [iterationTable(model), iterationTable(model)]
    runIterations(model, whole)
    for (const [from, to] of [
      [333, 500],
      [0, 7],
      [7, 333],
    ] as const)
      runIterations(model, parts, from, to)
    expect(parts).toEqual(whole)
  })
  it('tells milestones, groups and hammocks', () => {
    const plan = planOf({
      groups: [{ id: 'g' }, { id: 'empty' }],
      activities: [
        { id: 'a', duration: '4d', group: 'g', estimate: fixed('6d') },
        { id: 'm', kind: 'milestone', edge: 'finish' },
        { id: 'h', kind: 'hammock', calendar: 'night' },
      ],
      links: [
        { from: 'a', to: 'm' },
        { from: 'a', to: 'h', type: 'SS' },
        { from: 'a', to: 'h', type: 'FF' },
      ],
    })
    const { summary } = ran(plan)
    const finish = '2027-03-06T16:00'
    expect(Object.keys(summary.targets).sort()).toEqual(['g', 'h', 'm'])
    expect([summary.targets.g!.mean, summary.targets.m!.percentiles['80']]).toEqual([finish, finish])
    // From 08:00 of the first to 16:00 of the sixth are five nights of eight hours.
    expect(summary.targets.h!.mean).toBe(5)
    expect(summary.cost).toBeNull()
  })
})
