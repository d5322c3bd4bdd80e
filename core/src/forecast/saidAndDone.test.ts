import { describe, expect, it } from 'vitest'
import { readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { estimateCurve, estimateQuantile, saidAndDone } from './index.ts'

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
const done = (start: string, finish: string) => ({ actualStart: start, actualFinish: finish })
const three = (low: number, likely: number, high: number) => ({
  low: `${low}d`,
  likely: `${likely}d`,
  high: `${high}d`,
})

describe('what was said and what came of it', () => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', week: WEEK }],
    project: { start: '2027-03-01', calendar: 'day', statusDate: '2027-03-22' },
    groups: [{ id: 'g', name: 'Hull' }],
    spreads: [{ id: 's', scope: { group: 'g' }, low: 0.5, likely: 1, high: 1.5 }],
    activities: [
      // Friday to Tuesday: three working days, the weekend does not count.
      {
        id: 'inside',
        duration: '3d',
        estimate: three(2, 3, 4),
        progress: done('2027-03-05T08:00', '2027-03-09T16:00'),
      },
      {
        id: 'above',
        duration: '3d',
        estimate: three(1, 2, 2),
        progress: done('2027-03-05T08:00', '2027-03-09T16:00'),
      },
      { id: 'spread', duration: '8d', group: 'g', progress: done('2027-03-05T08:00', '2027-03-09T16:00') },
      { id: 'none', duration: '3d', progress: done('2027-03-05T08:00', '2027-03-09T16:00') },
      { id: 'open', duration: '3d', estimate: three(2, 3, 4) },
    ],
  })
  it('counts working time, and finished work with an estimate only', () => {
    const found = saidAndDone(schedule(plan)).map(({ activity, actual, lies, estimate }) => [
      plan.activities[activity]!.id,
      actual / 480,
      lies,
      estimate.low / 480,
    ])
    expect(found).toEqual([
      ['inside', 3, 'inside', 2],
      ['above', 3, 'above', 1],
      ['spread', 3, 'below', 4],
    ])
  })
})

describe('the curve of an estimate', () => {
  const shapes = ['pert', 'triangular', 'uniform', 'lognormal'] as const
  it.each(shapes)('%s is as likely as its quantiles say', (shape) => {
    const estimate = { low: 900, likely: 1100, high: 1900, shape, ends: 'extremes' as const }
    const points = estimateCurve(estimate)
    const quantile = estimateQuantile(estimate)
    // The area of the curve left of a point is its share.
    const area = (until: number): number =>
      points.slice(1).reduce((sum, { at, density }, k) => {
        const before = points[k]!
        return at > until ? sum : sum + ((density + before.density) / 2) * (at - before.at)
      }, 0)
    const all = area(Infinity)
    for (const share of [0.25, 0.5, 0.75]) expect(area(quantile(share)) / all).toBeCloseTo(share, 1)
    expect(Math.max(...points.map(({ density }) => density))).toBe(1)
  })
  it('of what does not vary there is none', () => {
    expect(estimateCurve({ low: 5, likely: 5, high: 5, shape: 'pert', ends: 'extremes' })).toEqual([])
    expect(estimateCurve({ low: 4, likely: 5, high: 9, shape: 'fixed', ends: 'extremes' })).toEqual([])
  })
})
