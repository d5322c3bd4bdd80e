import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../network/compileNetwork.ts'
import { Kind, State } from '../network/network.ts'
import { readPlan, type Plan } from '../plan/index.ts'
import { createEngine } from './engine.ts'
import { KernelRows, ROW } from './kernelRows.ts'
import { randomPlan, type PlanOptions } from './testing/randomPlans.ts'

/** The plan with a hammock that lags behind its first activity and ends with its last. */
const withHammock = (plan: Plan): Plan =>
  readPlan({
    ...plan,
    activities: [...plan.activities, { id: 'site', kind: 'hammock', calendar: 'watch' }],
    links: [
      ...plan.links,
      { id: 'h1', from: plan.activities[0]!.id, to: 'site', type: 'SS', lag: 60 },
      { id: 'h2', from: plan.activities.at(-1)!.id, to: 'site', type: 'FF', lag: 0 },
    ],
  }).plan

/** A column of a row by activity. */
const columnOf = (rows: Int32Array, column: number): number[] =>
  Array.from({ length: rows.length / ROW }, (_, i) => rows[i * ROW + column]!)

/** Remaining minutes by activity and column, none among them. */
const draws = fc.record({
  seed: fc.nat(),
  width: fc.constantFrom(1, 5, 128),
  most: fc.constantFrom(300, 3000),
})
const drawn = ({ seed, most }: { seed: number; most: number }, i: number, column: number): number => {
  const mixed = Math.imul((seed + 31 * i + 977 * column) ^ 0x9e3779b9, 0x85ebca6b) >>> 8
  return mixed % 11 === 0 ? 0 : 1 + (mixed % most)
}

const compare = (
  plan: Plan,
  draw: { seed: number; width: number; most: number },
  allStarts: boolean,
): void => {
  const network = compileNetwork(plan)
  const { width } = draw
  const rows = KernelRows.of(network, { allStarts, again: true })
  expect(rows).not.toBeNull()
  const engine = createEngine(network)
  const durations = Array.from({ length: width }, (_, column) =>
    network.remaining.map((planned, i) =>
      network.kind[i] !== Kind.Work || network.state[i] === State.Finished ? planned : drawn(draw, i, column),
    ),
  )
  const asks = network.activities.map(
    (_, i) =>
      allStarts ||
      network.kind[i] === Kind.Hammock ||
      network.linkFrom.some((from, k) => from === i && (network.linkCode[k]! & 2) === 2),
  )
  // Twice: what the first run left behind makes no difference to the second.
  for (let round = 0; round < 2; round++) {
    const remaining = rows!.remaining!
    durations.forEach((of, column) => of.forEach((minutes, i) => (remaining[i * ROW + column] = minutes)))
    const isDone = rows!.run(width)
    if (!isDone) {
      // The tables of calendars grow when the engine asks beyond them.
      for (const of of durations) engine.run(of)
      continue
    }
    const counts = new Int32Array(network.order.length)
    const wanted = new Int32Array(network.order.length)
    rows!.countLongestPath(width, counts)
    durations.forEach((of, column) => {
      const placed = engine.run(of)
      expect(rows!.projectFinish[column]).toBe(placed.projectFinish)
      expect(columnOf(rows!.finish, column)).toEqual([...placed.finish])
      expect(columnOf(rows!.start, column).filter((_, i) => asks[i])).toEqual(
        [...placed.start].filter((_, i) => asks[i]),
      )
      const works = (_: number, i: number): boolean => network.kind[i] !== Kind.Hammock
      expect(columnOf(rows!.beginCount, column).filter(works)).toEqual(
        [...placed.early.beginCount].filter(works),
      )
      engine.countLongestPath(wanted)
    })
    expect([...counts]).toEqual([...wanted])

    const seeds = [0, 3, 7].filter(
      (i) => network.kind[i] === Kind.Work && network.state[i] !== State.Finished,
    )
    const others = seeds.map((activity) => ({
      activity,
      remaining: Int32Array.from({ length: width }, (_, column) => drawn(draw, activity + 5, column + 1)),
    }))
    const before = rows!.finish.slice()
    if (!rows!.finishesWith(width, others)) return
    durations.forEach((of, column) => {
      engine.run(of)
      const other = of.slice()
      for (const { activity, remaining: minutes } of others) other[activity] = minutes[column]!
      expect(rows!.projectFinish[column]).toBe(engine.finishWith(other, seeds))
    })
    expect(rows!.finish).toEqual(before)
    expect(columnOf(rows!.remaining!, 0)).toEqual([...durations[0]!])
  }
}

const KINDS: readonly (readonly [string, PlanOptions])[] = [
  ['with constraints that override', { constraints: true, progress: false, overrides: true }],
  ['with progress and overrides', { constraints: true, progress: true, overrides: true }],
  ['of one calendar', { constraints: false, progress: false, calendars: false }],
]
describe.each(KINDS)('rows of the kernel, plans %s', (_, options) => {
  it('place every column where the engine does, path and other durations too', () => {
    fc.assert(
      fc.property(randomPlan(options), draws, fc.boolean(), (plan, draw, allStarts) =>
        compare(withHammock(plan), draw, allStarts),
      ),
      { numRuns: 100 },
    )
  })
})

describe('what only the engine can', () => {
  const file = (project: object, activity: object): Plan =>
    readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01', calendar: 'day', ...project },
      calendars: [{ id: 'day', week: { mon: ['08:00-16:00'], tue: ['08:00-16:00'] } }],
      activities: [{ id: 'a', duration: 480, ...activity }],
    }).plan
  it.each([
    ['a plan scheduled backward', { direction: 'backward', finish: '2027-04-01' }, {}],
    ['work placed late', {}, { place: 'late' }],
  ])('%s has no rows', (_, project, activity) => {
    expect(KernelRows.of(compileNetwork(file(project, activity)))).toBeNull()
  })
  it('durations that reach beyond the tables of calendars say so, and stand there once these have grown', () => {
    const network = compileNetwork(file({}, {}))
    const rows = KernelRows.of(network)!
    const years = 480 * 2 * 52 * 9
    rows.remaining!.fill(years)
    expect(rows.run(3)).toBe(false)
    const { projectFinish } = createEngine(network).run(Int32Array.of(years))
    rows.remaining!.fill(years)
    expect(rows.run(3)).toBe(true)
    expect([...rows.projectFinish.subarray(0, 3)]).toEqual([projectFinish, projectFinish, projectFinish])
  })
})
