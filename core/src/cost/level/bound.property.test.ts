import fc from 'fast-check'
import { expect, it } from 'vitest'
import { CalendarError } from '../../time/index.ts'
import { readPlan, type Plan } from '../../plan/index.ts'
import { randomPlanWithResources } from '../testing/randomResources.ts'
import { lowerBound } from './bound.ts'
import { Placing } from './placing.ts'
import { problemOf, type Problem } from './problem.ts'
import { rankingBy } from './rules.ts'
import { Windows } from './windows.ts'

const SOME = randomPlanWithResources({
  constraints: true,
  progress: true,
  calendars: true,
  leads: true,
  scarce: true,
})
/** Little work on few links and much of what there is: who excludes whom decides. */
const TIGHT = fc
  .record({
    days: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 4, maxLength: 6 }),
    links: fc.array(fc.tuple(fc.nat(5), fc.nat(5)), { maxLength: 4 }),
    demands: fc.array(fc.tuple(fc.nat(5), fc.nat(2), fc.integer({ min: 1, max: 3 })), { maxLength: 10 }),
    there: fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: 3, max: 4 }))),
  })
  .map(
    ({ days, links, demands, there }) =>
      readPlan({
        format: 'geodrome-plan',
        version: 1,
        project: { start: '2027-03-01' },
        resources: there.map((amount, r) => ({ id: `r${r}`, available: [{ from: null, amount }] })),
        activities: days.map((duration, i) => ({ id: `a${i}`, duration: `${duration}d` })),
        links: links
          .filter(([from, to]) => from < to && to < days.length)
          .map(([from, to], k) => ({ id: `l${k}`, from: `a${from}`, to: `a${to}` })),
        assignments: [
          ...new Map(
            demands
              .filter(([i]) => i < days.length)
              .map(([i, r, amount]) => [
                `${i} ${r}`,
                { id: `${i} ${r}`, activity: `a${i}`, resource: `r${r}`, amount },
              ]),
          ).values(),
        ],
      }).plan,
  )
const MOST_ORDERS = 720

function* permutations(of: readonly number[]): Generator<number[]> {
  if (of.length === 0) return yield []
  for (const [k, first] of of.entries())
    for (const rest of permutations([...of.slice(0, k), ...of.slice(k + 1)])) yield [first, ...rest]
}

/** The earliest finish over all orders in which work can be placed, of those that leave nothing unresolved; Infinity where none does. */
const earliestOfAllOrders = ({ network, demands, available, options }: Problem): number => {
  const placing = new Placing(network, demands, available, options)
  const needing = network.activities.flatMap((_, i) => (demands.first[i + 1]! > demands.first[i]! ? [i] : []))
  let [earliest, orders] = [Infinity, 0]
  const values = new Float64Array(network.order.length)
  for (const order of permutations(needing)) {
    if (++orders > MOST_ORDERS) return Infinity
    values.fill(-1)
    order.forEach((i, at) => (values[i] = at))
    const { rank, byRank } = rankingBy(network, values)
    const { finish, unresolved } = placing.run(rank, byRank, false)
    if (unresolved.length === 0) earliest = Math.min(earliest, finish)
  }
  return earliest
}
const problemOrNull = (plan: Plan): Problem | null => {
  try {
    return problemOf(plan, false)
  } catch (error) {
    if (error instanceof CalendarError) return null
    throw error
  }
}

it('no bound is beyond the earliest finish that any order gives', () => {
  let [tried, seen, proven] = [0, 0, 0]
  fc.assert(
    fc.property(fc.oneof(SOME, TIGHT), fc.boolean(), (plan, mayPause) => {
      if (plan.activities.length > 9) return
      const problem = problemOrNull(
        mayPause ? { ...plan, activities: plan.activities.map((a) => ({ ...a, split: true })) } : plan,
      )
      if (problem === null) return
      const earliest = earliestOfAllOrders(problem)
      if (earliest === Infinity) return
      tried++
      const { joint, demands, available, options } = problem
      const bound = lowerBound(joint, demands, available, new Set())
      expect(bound.finish).toBeLessThanOrEqual(earliest)
      const windows = new Windows(joint, demands, available, options.mayPause, new Set(), earliest + 1)
      expect(windows.earliest(earliest, earliest + 1)).toEqual({ finish: earliest, because: null })
      const { finish, because } = windows.earliest(bound.finish, earliest)
      if (because !== null) {
        seen++
        expect(because.needed).toBeGreaterThan(because.there)
        expect(because.activities.length).toBeGreaterThan(0)
      }
      if (finish === earliest) proven++
    }),
    { numRuns: 300 },
  )
  // Most small plans are proven, some only by their windows.
  expect(tried).toBeGreaterThan(60)
  expect(seen).toBeGreaterThan(2)
  expect(proven / tried).toBeGreaterThan(0.8)
})
