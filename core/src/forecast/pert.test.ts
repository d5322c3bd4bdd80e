import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readPlan, type Plan, type ThreePoint } from '../plan/index.ts'
import { instantOf } from '../time/index.ts'
import { schedule } from '../schedule/index.ts'
import { estimateMoments, estimateQuantile, estimatesOf, pert } from './index.ts'
import { normalProbability } from './random/normalProbability.ts'
import { normalQuantile } from './random/normalQuantile.ts'

const DAY = {
  id: 'day',
  week: {
    mon: ['08:00-16:00'],
    tue: ['08:00-16:00'],
    wed: ['08:00-16:00'],
    thu: ['08:00-16:00'],
    fri: ['08:00-16:00'],
  },
}
const point = (low: string | number, likely: string | number, high: string | number, more = {}) => ({
  low,
  likely,
  high,
  ...more,
})
const planOf = (file: Record<string, unknown>, project: Record<string, unknown> = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [DAY],
    project: { start: '2027-03-01', calendar: 'day', ...project },
    ...file,
  }).plan

describe('moments', () => {
  it('of every shape but the pert formula are those of its own quantiles', () => {
    const shapes: ThreePoint[] = [
      { low: 10, likely: 12, high: 30, shape: 'triangular', ends: 'extremes' },
      { low: 10, likely: 12, high: 30, shape: 'uniform', ends: 'extremes' },
      { low: 10, likely: 12, high: 30, shape: 'triangular', ends: 'p10p90' },
      { low: 10, likely: 14, high: 20, shape: 'lognormal', ends: 'extremes' },
      { low: 10, likely: 16, high: 20, shape: 'lognormal', ends: 'extremes' },
      { low: 10, likely: 20, high: 30, shape: 'lognormal', ends: 'extremes' },
      { low: 20, likely: 20, high: 30, shape: 'lognormal', ends: 'extremes' },
      { low: 10, likely: 12, high: 30, shape: 'fixed', ends: 'extremes' },
    ]
    const n = 400_000
    for (const estimate of shapes) {
      const at = estimateQuantile(estimate)
      let [sum, squares] = [0, 0]
      for (let k = 0; k < n; k++) {
        const value = at((k + 0.5) / n)
        sum += value
        squares += value ** 2
      }
      const { mean, variance } = estimateMoments(estimate)
      expect(mean / (sum / n)).toBeCloseTo(1, 3)
      expect(Math.sqrt(variance)).toBeCloseTo(Math.sqrt(Math.max(0, squares / n - (sum / n) ** 2)), 1)
    }
  })
  it('of pert are (low + 4 likely + high) / 6 and a sixth of the span, squared', () => {
    expect(estimateMoments({ low: 6, likely: 9, high: 18, shape: 'pert', ends: 'extremes' })).toEqual({
      mean: 10,
      variance: 4,
    })
  })
  it('the normal probability undoes its quantile, also far out', () => {
    for (const p of [1e-12, 1e-5, 0.02, 0.31, 0.5, 0.8, 0.975, 1 - 1e-9])
      expect(normalProbability(normalQuantile(p)) / p).toBeCloseTo(1, 8)
    expect([normalProbability(-40), normalProbability(40)]).toEqual([0, 1])
  })
})

describe('PERT', () => {
  // A 2/4/12 d → C; B 4/5/6 d → C 3/3/3 d. Expected 5, 5, 3; deviations 10/6, 2/6, 0: the path through A has the greater one.
  const worked = planOf({
    activities: [
      { id: 'a', duration: '4d', estimate: point('2d', '4d', '12d') },
      { id: 'b', duration: '5d', estimate: point('4d', '5d', '6d') },
      { id: 'c', duration: '3d' },
    ],
    links: [
      { from: 'a', to: 'c' },
      { from: 'b', to: 'c' },
    ],
  })
  it('gives a network worked by hand its length, deviation, probability and date', () => {
    const report = pert(worked, { by: '2027-03-11' })
    expect([report.mean, report.finish]).toEqual([8, '2027-03-10T16:00'])
    expect(report.sd).toBeCloseTo(10 / 6, 12)
    expect(report.paths.map(({ activities, mean }) => [activities.join(), mean])).toEqual([
      ['a,c', 8],
      ['b,c', 8],
    ])
    // Nine days are available: one day is 0.6 deviations.
    expect(report.probability).toBeCloseTo(0.7257, 4)
    expect(report.paths[1]!.probability).toBeCloseTo(normalProbability(3), 12)
    // 8 + 0.8416 × 1.667 = 9.403 days: the tenth day from its fourth hour on.
    expect(report.dateAtConfidence.slice(0, 13)).toBe('2027-03-12T11')
  })
  it('without a date asked and without a required finish has no probability, and is sure of what cannot vary', () => {
    expect(pert(worked).probability).toBeNull()
    const fixed = planOf({ activities: [{ id: 'a', duration: '4d' }] }, { requiredFinish: '2027-03-04' })
    expect(pert(fixed)).toMatchObject({ mean: 4, sd: 0, probability: 1 })
    expect(pert(fixed, { by: '2027-03-03' }).probability).toBe(0)
    expect(pert(planOf({ activities: [] })).paths).toEqual([])
  })
  it('counts an activity that waits for a date from that date, beside the path that comes to it', () => {
    const held = planOf({
      activities: [
        { id: 'a', duration: '2d', estimate: point('1d', '2d', '9d') },
        { id: 'b', duration: '1d', constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-08' }] },
      ],
      links: [{ from: 'a', to: 'b' }],
    })
    const { paths, mean, sd } = pert(held)
    expect([mean, sd]).toEqual([6, 0])
    expect(paths.map(({ activities, mean: length }) => [activities.join(), length])).toEqual([
      ['b', 6],
      ['a,b', 4],
    ])
  })
  it('takes what is left of work under way, nothing of finished work, and a milestone on request', () => {
    const running = planOf(
      {
        activities: [
          {
            id: 'a',
            duration: '4d',
            estimate: point('2d', '4d', '12d'),
            progress: { actualStart: '2027-03-01', actualFinish: '2027-03-02' },
          },
          {
            id: 'b',
            duration: '4d',
            estimate: point('2d', '4d', '12d'),
            progress: { actualStart: '2027-03-01', remaining: '2d' },
          },
          { id: 'm', kind: 'milestone', edge: 'finish' },
          { id: 'c', duration: '10d' },
        ],
        links: [{ from: 'b', to: 'm' }],
      },
      { statusDate: '2027-03-03' },
    )
    // Half is left: 2.5 d from day 2, and half the deviation.
    const report = pert(running, { to: 'm' })
    expect(report.mean).toBe(4.5)
    expect(report.sd).toBeCloseTo(5 / 6, 12)
    expect(pert(running).paths[0]!.activities).toEqual(['c'])
  })
  it('names the turn of a calendar that expected durations miss', () => {
    const ferry = {
      id: 'ferry',
      windows: [3, 17].map((day) => [
        `2027-03-${day}T08:00`.replace('-3T', '-03T'),
        `2027-03-${day}T16:00`.replace('-3T', '-03T'),
      ]),
    }
    const plan = (high: string) =>
      planOf({
        calendars: [DAY, ferry],
        activities: [
          { id: 'a', duration: '2d', estimate: point('2d', '2d', high) },
          { id: 'b', duration: '8h', calendar: 'ferry' },
        ],
        links: [{ from: 'a', to: 'b' }],
      })
    expect(pert(plan('2d')).missed).toBeNull()
    expect(pert(plan('11d')).missed).toEqual({
      activity: 'b',
      planned: '2027-03-03T08:00',
      expected: '2027-03-17T08:00',
    })
  })
  it('measures a plan scheduled backward by the same lengths', () => {
    const backward = planOf(
      { activities: worked.activities, links: worked.links },
      { direction: 'backward', finish: '2027-03-31' },
    )
    const [one, other] = [pert(worked), pert(backward)]
    expect([other.mean, other.sd]).toEqual([one.mean, one.sd])
    expect(other.paths.map(({ activities }) => activities)).toEqual(
      one.paths.map(({ activities }) => activities),
    )
    expect(other.finish).toBe('2027-03-31T16:00')
  })

  const ids = ['a', 'b', 'c', 'd', 'e', 'f', 'g']
  const network = fc
    .record({
      days: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: ids.length, maxLength: ids.length }),
      links: fc.array(
        fc.tuple(
          fc.nat(ids.length - 2),
          fc.nat(ids.length - 2),
          fc.constantFrom('FS', 'SS', 'FF'),
          fc.integer({ min: 0, max: 3 }),
        ),
        { maxLength: 12 },
      ),
    })
    .map(({ days, links }) => {
      const kept = new Map(
        links.map(([a, b, type, lag]) => {
          const [from, to] = [Math.min(a, b), Math.max(a, b) + 1]
          return [`${from} ${to}`, { from: ids[from], to: ids[to], type, lag: `${lag}d` }] as const
        }),
      )
      return planOf({
        activities: ids.map((id, i) => ({
          id,
          duration: `${days[i]}d`,
          estimate: point(`${days[i]! - 0.5}d`, `${days[i]}d`, `${days[i]! + 3}d`),
        })),
        links: [...kept.values()],
      })
    })
  /** Every path of an FS network, followed one by one. */
  const enumerated = (plan: Plan): string[] => {
    const next = (id: string) => plan.links.filter(({ from }) => from === id)
    const follow = (id: string): { path: string; minutes: number }[] => {
      const { mean } = estimateMoments(plan.activities.find((a) => a.id === id)!.estimate!)
      const on = next(id)
      if (on.length === 0) return [{ path: id, minutes: Math.round(mean) }]
      return on.flatMap(({ to, lag }) =>
        follow(to).map((rest) => ({
          path: `${id},${rest.path}`,
          minutes: Math.round(mean) + lag + rest.minutes,
        })),
      )
    }
    const begins = ids.filter((id) => !plan.links.some(({ to }) => to === id))
    return begins.flatMap(follow).map(({ path, minutes }) => `${(minutes / 480).toFixed(4)} ${path}`)
  }
  it('lists the paths that following every link finds, the longest first', () => {
    fc.assert(
      fc.property(network, (plan) => {
        const plain = { ...plan, links: plan.links.map((link) => ({ ...link, type: 'FS' as const })) }
        const all = enumerated(plain)
        const { paths } = pert(plain, { paths: 1000 })
        expect(paths.map(({ mean, activities }) => `${mean.toFixed(4)} ${activities.join()}`).sort()).toEqual(
          all.sort(),
        )
        const few = pert(plain, { paths: 3 }).paths
        expect(few.map(({ mean }) => mean)).toEqual(paths.slice(0, 3).map(({ mean }) => mean))
      }),
      { numRuns: 60 },
    )
  })
  it('finishes where the plan with expected durations does, over links of all types', () => {
    fc.assert(
      fc.property(network, (plan) => {
        const held = estimatesOf(plan)
        const expected = {
          ...plan,
          activities: plan.activities.map((activity) => {
            const estimate = held(activity)
            if (estimate.from === 'none') throw new Error('all have one')
            return { ...activity, duration: Math.round(estimateMoments(estimate.estimate).mean) }
          }),
        }
        expect(instantOf(pert(plan).finish, 'finish')).toBe(schedule(expected).projectFinish)
      }),
      { numRuns: 100 },
    )
  })
})

describe('which estimate holds', () => {
  const plan = planOf({
    groups: [{ id: 'g' }, { id: 'h', parent: 'g' }],
    spreads: [
      { id: 'all', low: 1, high: 1.1 },
      { id: 'outer', scope: { group: 'g' }, low: 1, high: 1.2 },
      { id: 'inner', scope: { group: 'h' }, low: 1, high: 1.3 },
      { id: 'tagged', scope: { tag: ['trade', 'paint'] }, low: 1, high: 1.4 },
      { id: 'named', scope: { activities: ['n'] }, low: 0.5, high: 1.5 },
      { id: 'named later', scope: { activities: ['n'] }, low: 0.6, high: 1.6 },
    ],
    activities: [
      { id: 'own', duration: '2d', group: 'h', estimate: point('1d', '2d', '3d') },
      { id: 'n', duration: '2d', group: 'h', tags: { trade: 'paint' } },
      { id: 't', duration: '2d', group: 'h', tags: { trade: 'paint' } },
      { id: 'i', duration: '2d', group: 'h' },
      { id: 'o', duration: '2d', group: 'g' },
      { id: 'x', duration: '2d' },
      { id: 'm', kind: 'milestone' },
    ],
  })
  it('is its own, else the narrowest spread, the later of equal ones, and none of a milestone', () => {
    const held = estimatesOf(plan)
    const names = plan.activities.map((activity) => {
      const one = held(activity)
      return one.from === 'spread' ? one.spread.id : one.from
    })
    expect(names).toEqual(['own', 'named later', 'tagged', 'inner', 'outer', 'all', 'none'])
    const named = held(plan.activities[1]!)
    expect(named.alsoInScope.map(({ id }) => id)).toEqual(['named', 'tagged', 'inner', 'outer', 'all'])
    expect(
      named.from === 'spread' && [named.estimate.low, named.estimate.likely, named.estimate.high],
    ).toEqual([576, 960, 1536])
  })
})
