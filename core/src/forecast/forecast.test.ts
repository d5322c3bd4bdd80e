import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChange, parseJson, readPlan, type ThreePoint } from '../plan/index.ts'
import { formatInstant, instantOf } from '../time/index.ts'
import { schedule } from '../schedule/index.ts'
import {
  estimateQuantile,
  iterationTable,
  percentileSorted,
  runIterations,
  shareAtOrBelow,
  simulationModel,
  summarise,
  type SimulationOptions,
} from './index.ts'
import { durationIn } from './simulate/model.ts'
import { betaQuantile } from './random/betaQuantile.ts'
import { exp, ln } from './random/exactMath.ts'
import { normalQuantile } from './random/normalQuantile.ts'
import { Permutation, stream, streamKey, uniform } from './random/draws.ts'
import { finishesOfActivity } from './simulate/packedFinishes.ts'
import { percentileOf } from './percentile.ts'
import { averageRanks, correlation } from './rankCorrelation.ts'

const { plan } = readPlan(
  parseJson(readFileSync(new URL('../../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')),
)
const options: SimulationOptions = { iterations: 400, seed: 7, sampling: 'lhs', risks: true }
const runAll = (p = plan, o = options) => {
  const model = simulationModel(p, o)
  const all = iterationTable(model)
  runIterations(model, all)
  /** Remaining duration of an activity by iteration. */
  const durations = (i: number) => {
    const varies = model.varying.find(({ activity }) => activity === i)
    return Int32Array.from({ length: o.iterations }, (_, k) =>
      varies ? durationIn(varies, k) : model.network.remaining[i]!,
    )
  }
  return { model, all, durations }
}

describe('ranks and percentiles', () => {
  const values = fc.array(
    fc.oneof(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -2147483648, max: 2147483647 })),
    { minLength: 1, maxLength: 60 },
  )
  it('give each value the mean of the places it would have, counted or sorted alike', () => {
    fc.assert(
      fc.property(values, fc.boolean(), (given, isNarrow) => {
        const of = Int32Array.from(given, (value) => (isNarrow ? value % 100 : value))
        const expected = [...of].map((value) => {
          const below = of.filter((other) => other < value).length
          return below + (1 + of.filter((other) => other === value).length) / 2
        })
        expect([...averageRanks(of)]).toEqual(expected)
      }),
    )
  })
  it('are found without sorting where sorting finds them', () => {
    fc.assert(
      fc.property(values, fc.integer({ min: 1, max: 100 }), (given, percent) => {
        const sorted = Int32Array.from(given).sort()
        expect(percentileOf(Int32Array.from(given), percent)).toBe(percentileSorted(sorted, percent))
      }),
      { numRuns: 500 },
    )
  })
})

describe('the arithmetic under the draws', () => {
  it('has logarithm and exponential to 1e-15', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-12, max: 1e12, noNaN: true }),
        fc.double({ min: -50, max: 50, noNaN: true }),
        (x, y) => {
          expect(Math.abs(ln(x) - Math.log(x))).toBeLessThan(1e-14 * Math.max(1, Math.abs(Math.log(x))))
          expect(Math.abs(exp(y) / Math.exp(y) - 1)).toBeLessThan(1e-14)
        },
      ),
    )
  })
  it('has the published percentage points of the normal distribution', () => {
    for (const [p, z] of [
      [0.975, 1.959963984540054],
      [0.999, 3.090232306167813],
      [1e-6, -4.753424308822899],
      [0.5, 0],
    ] as const)
      expect(normalQuantile(p)).toBeCloseTo(z, 12)
  })
  it('has the beta quantile of the closed form for alpha = beta = 3, to 2e-6', () => {
    const { at: quantile } = betaQuantile(3, 3)
    const cdf = (x: number): number => x ** 3 * (10 - 15 * x + 6 * x * x)
    for (let k = 1; k < 200; k++) expect(Math.abs(cdf(quantile(k / 200)) - k / 200)).toBeLessThan(2e-6)
  })
})

describe('draws', () => {
  it('permute 0 … n−1 under every key', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 700 }), fc.integer(), (n, key) => {
        const permuted = new Float64Array(n)
        new Permutation(key, n).fill(0, n, permuted)
        expect([...permuted].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i))
      }),
      { numRuns: 200 },
    )
  })
  it('meet every stratum once, are uniform, and two streams are not correlated', () => {
    const n = 20_000
    const [a, b] = ['a', 'b'].map((id) =>
      Array.from({ length: n }, (_, i) => stream('lhs', streamKey(1, id), n).at(i)),
    ) as [number[], number[]]
    expect(new Set(a.map((u) => Math.floor(u * n))).size).toBe(n)
    const toRanks = (x: number[]) => averageRanks(Int32Array.from(x, (u) => Math.floor(u * 1e9)))
    // Five standard errors of a correlation of independent draws.
    expect(Math.abs(correlation(toRanks(a), toRanks(b)))).toBeLessThan(5 / Math.sqrt(n))
    const plain = Array.from({ length: n }, (_, i) => uniform(streamKey(9, 'c'), i))
    const serial = correlation(toRanks(plain.slice(1)), toRanks(plain.slice(0, -1)))
    expect(Math.abs(serial)).toBeLessThan(5 / Math.sqrt(n))
    const chi = Array.from(
      { length: 20 },
      (_, k) => plain.filter((u) => Math.floor(u * 20) === k).length,
    ).reduce((sum, c) => sum + (c - n / 20) ** 2 / (n / 20), 0)
    expect(chi).toBeLessThan(50) // 19 degrees of freedom: p below 1e-4
  })
})

const estimate = (
  shape: ThreePoint['shape'],
  ends: ThreePoint['ends'],
  low = 100,
  likely = 160,
  high = 400,
): ThreePoint => ({ low, likely, high, shape, ends })

describe('an estimate', () => {
  it('has the mean of its shape', () => {
    const mean = (e: ThreePoint): number => {
      const q = estimateQuantile(e)
      return Array.from({ length: 20_000 }, (_, k) => q((k + 0.5) / 20_000)).reduce(
        (s, x) => s + x / 20_000,
        0,
      )
    }
    expect(mean(estimate('pert', 'extremes'))).toBeCloseTo((100 + 4 * 160 + 400) / 6, 1)
    expect(mean(estimate('triangular', 'extremes'))).toBeCloseTo((100 + 160 + 400) / 3, 1)
    expect(mean(estimate('uniform', 'extremes'))).toBeCloseTo(250, 1)
    expect(mean(estimate('fixed', 'extremes'))).toBeCloseTo(160, 8)
  })
  it.each(['pert', 'triangular', 'uniform', 'lognormal'] as const)(
    'of shape %s keeps its 10th and 90th percentile where they were given',
    (shape) => {
      const q = estimateQuantile(estimate(shape, 'p10p90'))
      expect(q(0.1)).toBeCloseTo(100, 1)
      expect(q(0.9)).toBeCloseTo(400, 1)
      if (shape === 'lognormal') expect(q(0.5)).toBeCloseTo(160, 6)
    },
  )
  it('skewed to the left is the mirror of one skewed to the right', () => {
    const right = estimateQuantile(estimate('lognormal', 'extremes', 100, 160, 400))
    const left = estimateQuantile(estimate('lognormal', 'extremes', 100, 340, 400))
    expect(left(0.3) - 100).toBeCloseTo(400 - right(0.7), 6)
  })
})

describe('a simulation', () => {
  it('gives the same answer whatever ranges its iterations are run in, and however rows are ordered', () => {
    const { model, all } = runAll()
    const parts = iterationTable(model, (bytes) => new SharedArrayBuffer(bytes))
    for (const [from, to] of [
      [250, 400],
      [0, 90],
      [90, 250],
    ] as const)
      runIterations(model, parts, from, to)
    for (const rows of ['finish', 'activityFinish', 'onPath'] as const)
      expect(parts[rows], rows).toEqual(all[rows])
    const turned = { ...plan, activities: [...plan.activities].reverse(), links: [...plan.links].reverse() }
    expect(runAll(turned).all.finish).toEqual(all.finish)
    expect(runAll(plan, { ...options, seed: 8 }).all.finish).not.toEqual(all.finish)
  })

  it('replays one iteration as a schedule with the drawn durations', () => {
    // Days lost to the weather and work of risks are no durations: they have tests of their own.
    const still = { ...plan, weather: [], risks: plan.risks.map((risk) => ({ ...risk, work: [] })) }
    const { model, all, durations } = runAll(still)
    const { network } = model
    const column = 123
    const drawn = {
      ...still,
      activities: still.activities.map((a, i) =>
        a.kind === 'work' ? { ...a, duration: durations(i)[column]! } : a,
      ),
    }
    const made = schedule(drawn)
    expect(made.projectFinish).toBe(all.finish[column])
    network.activities.forEach(
      (a, i) =>
        a.kind !== 'hammock' &&
        expect(finishesOfActivity(all.activityFinish, i)[column]).toBe(made.early.finish[i]),
    )
  })

  it('without anything uncertain is the plan, in every iteration', () => {
    const certain = {
      ...plan,
      risks: [],
      spreads: [],
      factors: [],
      weather: [],
      activities: plan.activities.map((a) => ({ ...a, estimate: null })),
    }
    const { model, all } = runAll(certain)
    const summary = summarise(model, all)
    expect(summary).toMatchObject({
      planned: formatInstant(schedule(plan).projectFinish),
      plannedProbability: 1,
      sd: 0,
    })
    const onPath = Object.values(summary.activities).filter((a) => a.criticality > 0)
    expect(onPath.every((a) => a.criticality === 1)).toBe(true)
  })

  it('pairs a scenario with the plan: what is not changed is drawn alike', () => {
    const slower = applyChange(plan, {
      kind: 'set',
      list: 'activities',
      key: plan.activities.at(-3)!.id,
      set: { estimate: null, duration: 9999 },
    }).plan
    const [a, b] = [runAll(), runAll(slower)]
    const last = plan.activities.length - 3
    for (let i = 0; i < plan.activities.length; i++)
      if (i !== last) expect(b.durations(i)).toEqual(a.durations(i))
  })

  it('draws a risk as often as its probability, and adds its delay', () => {
    const risky = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01T07:00', calendar: 'clock' },
      activities: [{ id: 'a', duration: 1000 }],
      risks: [
        {
          id: 'r',
          probability: 0.3,
          impacts: [{ activity: 'a', delay: { low: 500, likely: 500, high: 500 } }],
        },
      ],
    }).plan
    const { all } = runAll(risky, { ...options, iterations: 1000 })
    const origin = instantOf('2027-03-01T07:00', 'start')
    const hit = all.finish.filter((t) => t === origin + 1500).length
    expect(hit).toBe(300)
    expect(all.finish.filter((t) => t === origin + 1000).length).toBe(700)
  })

  it('scales an estimate to what remains, and holds a promise fixed', () => {
    const progressed = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01T00:00', statusDate: '2027-03-02T00:00', calendar: 'clock' },
      activities: [
        {
          id: 'a',
          duration: 2000,
          estimate: { low: 2000, likely: 2000, high: 4000, shape: 'uniform' },
          progress: { actualStart: '2027-03-01T00:00', percent: 50 },
        },
        {
          id: 'b',
          duration: 2000,
          estimate: { low: 2000, likely: 2000, high: 4000 },
          progress: { actualStart: '2027-03-01T00:00', percent: 50 },
          promise: { finish: '2027-03-05T00:00' },
        },
      ],
    }).plan
    const { durations } = runAll(progressed)
    const a = durations(0).slice().sort()
    expect(a[0]).toBeGreaterThanOrEqual(1000)
    expect(a[399]).toBeGreaterThan(1950)
    expect(new Set(durations(1))).toEqual(new Set([3 * 1440]))
  })
})

describe('percentiles', () => {
  it('are the smallest value with at least that share at or below it', () => {
    const sorted = Int32Array.from([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])
    expect([10, 50, 51, 80, 100].map((p) => percentileSorted(sorted, p))).toEqual([1, 5, 6, 8, 10])
    expect(shareAtOrBelow(sorted, 7)).toBe(0.7)
    expect(shareAtOrBelow(sorted, 0)).toBe(0)
  })
})
