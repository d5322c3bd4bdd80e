import { describe, expect, it } from 'vitest'
import { readPlan, type Plan } from '../../plan/index.ts'
import { instantOf } from '../../time/instant.ts'
import type { LookCondition, LookTarget } from '../../wire/index.ts'
import { iterationTable, lookAtRun, runIterations, simulationModel, summarise } from '../index.ts'

const week = Object.fromEntries(
  ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((day) => [day, ['08:00-16:00']]),
)
const planOf = (file: object, project: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', week }],
    project: { start: '2027-03-01', calendar: 'day', currency: 'EUR', ...project },
    ...file,
  }).plan
const ran = (plan: Plan, iterations = 4000) => {
  const model = simulationModel(plan, { iterations, seed: 3, sampling: 'lhs', risks: true })
  const table = iterationTable(model)
  runIterations(model, table)
  return { model, table }
}
const uniform = (low: string, likely: string, high: string) => ({ low, likely, high, shape: 'uniform' })
const fixed = (value: string | number) => ({ low: value, likely: value, high: value, shape: 'fixed' })
const target = (
  of: LookTarget,
  given: LookCondition | null = null,
  asked: string | number | null = null,
) => ({
  target: of,
  given,
  asked,
})
const FINISH: LookTarget = { what: 'finish', of: 'project', id: null }
const COST: LookTarget = { what: 'cost', of: 'project', id: null }

/** Two ways of 5 to 15 days into a milestone, a hammock over the first, a risk that adds 40 days to it in 3 of 10. */
const YARD = planOf({
  groups: [{ id: 'g', name: 'Hull' }],
  activities: [
    {
      id: 'a',
      code: 'A',
      group: 'g',
      duration: '10d',
      estimate: uniform('5d', '10d', '15d'),
      cost: { perDay: 100 },
    },
    { id: 'b', code: 'B', duration: '10d', estimate: uniform('5d', '10d', '15d'), cost: { fixed: 70 } },
    { id: 'm', code: 'M', kind: 'milestone', group: 'g', payment: { amount: 500 } },
    { id: 'h', code: 'H', kind: 'hammock', cost: { perDay: 1000 } },
  ],
  links: [
    { from: 'a', to: 'm' },
    { from: 'b', to: 'm' },
    { id: 'hs', from: 'a', to: 'h', type: 'SS' },
    { id: 'hf', from: 'm', to: 'h', type: 'FF' },
  ],
  risks: [
    {
      id: 'k',
      code: 'R1',
      probability: 0.3,
      impacts: [{ activity: 'a', delay: fixed('40d') }],
      cost: fixed(900),
    },
  ],
  damages: [
    {
      id: 'late',
      name: 'Late',
      target: null,
      calendar: 'clock',
      due: '2027-03-15',
      steps: [{ from: 1, amount: 2000 }],
    },
  ],
})

describe('a target chosen after the run', () => {
  const { model, table } = ran(YARD)
  const summary = summarise(model, table)

  it('gives of the project, a milestone, a hammock and the money what the run itself gives', () => {
    const finish = lookAtRun(model, table, 'target', target(FINISH))
    expect(finish).toMatchObject({ unit: 'date', count: 4000, of: 4000, planned: summary.planned })
    expect(finish.distribution!.percentiles).toEqual(summary.percentiles)
    expect(finish.distribution!.mean).toBe(summary.mean)
    expect(finish.distribution!.sd).toBeCloseTo(summary.sd, 9)
    expect(finish.plannedShare).toBe(summary.plannedProbability)
    expect(finish.distribution!.bars).toEqual(summary.histogram)
    const milestone = lookAtRun(model, table, 'target', target({ what: 'finish', of: 'activity', id: 'm' }))
    expect(milestone.distribution!.percentiles).toEqual(summary.targets.m!.percentiles)
    const group = lookAtRun(model, table, 'target', target({ what: 'finish', of: 'group', id: 'g' }))
    expect(group.distribution!.percentiles).toEqual(summary.targets.g!.percentiles)
    const hammock = lookAtRun(model, table, 'target', target({ what: 'length', of: 'activity', id: 'h' }))
    expect(hammock.distribution!.percentiles).toEqual(summary.targets.h!.percentiles)
    expect(hammock.planned).toBe(10)
    const money = lookAtRun(model, table, 'target', target(COST))
    expect(money.distribution!.percentiles).toEqual(summary.cost!.percentiles)
    expect(money.planned).toBe(summary.cost!.planned)
  })

  it('costs of groups and activities add up to the cost, with risks and damages', () => {
    const mean = (of: LookTarget): number =>
      lookAtRun(model, table, 'target', target(of)).distribution!.mean as number
    const activities = ['a', 'b', 'm', 'h'].map((id) => mean({ what: 'cost', of: 'activity', id }))
    const riskCost = table.riskCost.reduce((sum, one) => sum + one, 0) / 4000
    const damages = mean({ what: 'damages', of: 'project', id: 'late' })
    expect(activities.reduce((sum, one) => sum + one, 0) + riskCost + damages).toBeCloseTo(mean(COST), 1)
    expect(mean({ what: 'cost', of: 'group', id: 'g' })).toBeCloseTo(activities[0]! + activities[2]!, 1)
    expect(mean({ what: 'damages', of: 'project', id: null })).toBe(damages)
    expect(activities[1]).toBe(70)
  })

  it('looks only at the iterations of a condition, and those of it and its opposite are all', () => {
    const happened = lookAtRun(
      model,
      table,
      'target',
      target(FINISH, { by: 'risk', id: 'k', happened: true }),
    )
    const not = lookAtRun(model, table, 'target', target(FINISH, { by: 'risk', id: 'k', happened: false }))
    expect(happened.count / 4000).toBeCloseTo(0.3, 3)
    expect(happened.count + not.count).toBe(4000)
    // 40 days on top of at least 5.
    expect(instantOf(happened.distribution!.best as string, 'finish')).toBeGreaterThanOrEqual(
      instantOf('2027-04-14T16:00', 'finish'),
    )
    expect((not.distribution!.worst as string) <= '2027-03-16T08:00').toBe(true)
    const late = lookAtRun(
      model,
      table,
      'target',
      target(COST, { by: 'finish', date: '2027-03-31', after: true }),
    )
    expect(late.count).toBe(happened.count)
    const never = lookAtRun(
      model,
      table,
      'target',
      target(FINISH, { by: 'finish', date: '2028-01-01', after: true }),
    )
    expect(never).toMatchObject({ count: 0, distribution: null, plannedShare: null, askedShare: null })
  })

  it('tells the share that keeps a date or an amount asked for', () => {
    const asked = lookAtRun(model, table, 'target', target(FINISH, null, '2027-03-31'))
    expect(asked.askedShare).toBeCloseTo(0.7, 3)
    expect(lookAtRun(model, table, 'target', target(COST, null, 0)).askedShare).toBe(0)
    expect(lookAtRun(model, table, 'target', target(COST, null, 1e9)).askedShare).toBe(1)
    expect(() => lookAtRun(model, table, 'target', target(COST, null, '2027-03-31'))).toThrow('an amount')
  })

  it('sees that dates gather in two places and which risk parts them, and does not see it where they do not', () => {
    const { twoPeaks } = lookAtRun(model, table, 'target', target(FINISH)).distribution!
    expect(twoPeaks!.below).toBeCloseTo(0.7, 2)
    expect(twoPeaks!.because).toMatchObject({ risk: 'k', below: 0, above: 1 })
    expect(twoPeaks!.at[0] < twoPeaks!.at[1]).toBe(true)
    const plain = lookAtRun(model, table, 'target', target(FINISH, { by: 'risk', id: 'k', happened: false }))
    expect(plain.distribution!.twoPeaks).toBeNull()
  })

  it('names the work that misses a turn of its calendar where that parts the dates', () => {
    const tide = planOf({
      calendars: [
        { id: 'day', week },
        {
          id: 'tide',
          windows: [
            ['2027-03-15T08:00', '2027-03-15T12:00'],
            ['2027-04-15T08:00', '2027-04-15T12:00'],
          ],
        },
      ],
      activities: [
        { id: 'a', duration: '12d', estimate: uniform('9d', '12d', '19d') },
        { id: 'afloat', duration: 60, calendar: 'tide' },
        { id: 'b', duration: '3d', estimate: uniform('2d', '3d', '4d') },
      ],
      links: [
        { from: 'a', to: 'afloat' },
        { from: 'afloat', to: 'b' },
      ],
    })
    const { model: of, table: kept } = ran(tide, 2000)
    const { twoPeaks } = lookAtRun(of, kept, 'target', target(FINISH)).distribution!
    expect(twoPeaks!.because).toBeNull()
    expect(twoPeaks!.waits.map(({ activity }) => activity)).toEqual(['afloat'])
    // It waits 0 to 6 days before 15 March, and after that 31 less as many as it came too late.
    expect(twoPeaks!.waits[0]!.days).toBeGreaterThan(20)
    expect(twoPeaks!.waits[0]!.days).toBeLessThan(31)
    expect(twoPeaks!.below).toBeCloseTo(0.5, 1)
  })

  it('says what the plan of the run does not have', () => {
    const ask =
      (of: LookTarget, given: LookCondition | null = null) =>
      () =>
        lookAtRun(model, table, 'target', target(of, given))
    expect(ask({ what: 'finish', of: 'activity', id: 'z' })).toThrow('no activity "z"')
    expect(ask({ what: 'cost', of: 'group', id: 'z' })).toThrow('no group "z"')
    expect(ask({ what: 'length', of: 'activity', id: 'a' })).toThrow('only a hammock')
    expect(ask({ what: 'damages', of: 'project', id: 'z' })).toThrow('no damages clause')
    expect(ask(FINISH, { by: 'risk', id: 'z', happened: true })).toThrow('no risk "z"')
  })
})

describe('contingency', () => {
  it('adds up, its days to the percentile and its money to the cost, from parts that each have their cause', () => {
    const { model, table } = ran(YARD)
    const summary = summarise(model, table)
    const { days, money, finish, both } = lookAtRun(model, table, 'contingency', { percent: 80 })
    expect(finish).toBe(summary.percentiles['80'])
    expect(days.spread + days.risks).toBeCloseTo(days.all, 9)
    // Without the risk, the later of two uniforms on 5 … 15: 80 % below √0.8.
    expect(days.spread).toBeCloseTo(-5 + 10 * Math.sqrt(0.8), 1)
    expect(money!.overhead + money!.damages + money!.risks + money!.work).toBeCloseTo(money!.all, 6)
    expect(money!.cost).toBe(summary.cost!.percentiles['80'])
    expect(money!.planned + money!.all).toBeCloseTo(money!.cost, 6)
    // At 80 % the risk has happened in all iterations nearby: its own 900, and 1,000 a day of the hammock.
    expect(money!.risks).toBe(900)
    const late = money!.overhead / 1000
    expect(late).toBeGreaterThan(34)
    expect(late).toBeLessThan(46)
    expect(both).toBeGreaterThan(0.7)
    expect(both).toBeLessThanOrEqual(0.8)
  })
  it('has no money where nothing costs anything, and no days where nothing varies', () => {
    const plain = ran(planOf({ activities: [{ id: 'a', duration: '2d' }] }), 100)
    const found = lookAtRun(plain.model, plain.table, 'contingency', { percent: 50 })
    expect(found).toMatchObject({ days: { all: 0, spread: 0, risks: 0 }, money: null, both: null })
  })
})

describe('replay', () => {
  it('finds the iteration at a percentile, and steps through all of them in the order of finish', () => {
    const { model, table } = ran(YARD, 50)
    const summary = summarise(model, table)
    expect(lookAtRun(model, table, 'replay', { percent: 80 }).finish).toBe(summary.percentiles['80'])
    let at = lookAtRun(model, table, 'replay', { percent: 1e-9 })
    expect(at).toMatchObject({ rank: 1, of: 50, before: null, finish: summary.best })
    const met = [at.iteration]
    while (at.after !== null) {
      const next = lookAtRun(model, table, 'replay', { iteration: at.after })
      expect(next.before).toBe(at.iteration)
      expect(next.finish >= at.finish).toBe(true)
      at = next
      met.push(at.iteration)
    }
    expect(at.finish).toBe(summary.worst)
    expect(new Set(met).size).toBe(50)
    expect(() => lookAtRun(model, table, 'replay', { iteration: 51 })).toThrow('50 iterations')
  })
})

describe('merge bias', () => {
  const merging = (count: number): Plan =>
    planOf({
      activities: [
        ...Array.from({ length: count }, (_, k) => ({
          id: `w${k}`,
          duration: '10d',
          estimate: uniform('5d', '10d', '15d'),
        })),
        { id: 'm', duration: '1d' },
      ],
      links: Array.from({ length: count }, (_, k) => ({ from: `w${k}`, to: 'm' })),
    })

  it.each([2, 4])(
    'of %i equal ways is the mean of the latest of so many uniforms less their own',
    (count) => {
      const { model, table } = ran(merging(count), 20_000)
      const [bias, ...others] = lookAtRun(model, table, 'merges', {})
      expect(others).toEqual([])
      // On [5, 15] days: E max = 5 + 10 n / (n + 1), each alone 10.
      expect(bias!.days).toBeCloseTo(5 + (10 * count) / (count + 1) - 10, 1)
      expect(bias!.activity).toBe('m')
      expect(bias!.expected).toBe('2027-03-11T08:00')
      for (const { share } of bias!.decides) expect(share).toBeCloseTo(1 / count, 1)
    },
  )
  it('is none where one way always decides, or there is only one', () => {
    const one = ran(merging(1), 500)
    expect(lookAtRun(one.model, one.table, 'merges', {})).toEqual([])
    const plan = planOf({
      activities: [
        { id: 'long', duration: '20d', estimate: uniform('18d', '20d', '22d') },
        { id: 'short', duration: '2d', estimate: uniform('1d', '2d', '3d') },
        { id: 'm', duration: '1d' },
      ],
      links: [
        { from: 'long', to: 'm' },
        { from: 'short', to: 'm' },
      ],
    })
    const two = ran(plan, 500)
    expect(lookAtRun(two.model, two.table, 'merges', {})).toEqual([])
  })
})

describe('date and money together', () => {
  it('draws pairs of the run and a curve on which both are kept as asked', () => {
    const { model, table } = ran(YARD)
    const { dots, curve, planned } = lookAtRun(model, table, 'joint', { percent: 80 })
    expect(dots).toHaveLength(400)
    for (const { finish, cost, probability } of curve) {
      let kept = 0
      for (let k = 0; k < 4000; k++)
        if (table.finish[k]! <= instantOf(finish, 'finish') && table.cost[k]! <= cost) kept++
      expect(probability).toBe(kept / 4000)
      expect(probability).toBeGreaterThanOrEqual(0.8)
    }
    expect(planned).toMatchObject({ finish: '2027-03-11T08:00', cost: 11_070 })
  })
})
