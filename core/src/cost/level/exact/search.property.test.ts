import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Plan } from '../../../plan/index.ts'
import { earliestOfAllOrders, problemOrNull } from '../../testing/allOrders.ts'
import { SCARCE_PLANS } from '../../testing/randomResources.ts'
import { busyPlans, tightPlans } from '../../testing/tightPlans.ts'
import { Placing } from '../placing.ts'
import type { Problem } from '../problem.ts'
import { rankingBy, rankingOf } from '../rules.ts'
import { searchSteps, type Searched } from './search.ts'

const TIGHT = tightPlans(['FS'])
const ALL_TYPES = tightPlans(['FS', 'FF', 'SS', 'SF'])

/** Null where a calendar ends, or it takes longer than is asked for. */
const searched = (problem: Problem, reached: number, mostDeadEnds = Infinity): Searched | null => {
  const steps = searchSteps(problem, problem.joint.projectFinish, reached)
  for (;;) {
    const { done, value } = steps.next()
    if (done) return value
    if (value.deadEnds >= mostDeadEnds) return null
  }
}
const small = (plan: Plan): Problem | null => (plan.activities.length > 9 ? null : problemOrNull(plan))

describe('the search for the earliest finish', () => {
  it('proves no finish beyond the earliest that any order gives, whatever is in the plan', () => {
    let [tried, waiting] = [0, 0]
    fc.assert(
      fc.property(fc.oneof(SCARCE_PLANS, ALL_TYPES), fc.boolean(), (plan, mayPause) => {
        const given = mayPause
          ? { ...plan, activities: plan.activities.map((a) => ({ ...a, split: true })) }
          : plan
        const problem = small(given)
        if (problem === null) return
        const earliest = earliestOfAllOrders(problem)
        if (earliest === Infinity) return
        tried++
        if (earliest > problem.joint.projectFinish) waiting++
        expect(searched(problem, earliest + 1)!.finish).toBeLessThanOrEqual(earliest)
      }),
      { numRuns: 300 },
    )
    expect([tried > 100, waiting > 30]).toEqual([true, true])
  })

  it('finds the earliest of all orders where work follows work, and proves it', () => {
    let found = 0
    fc.assert(
      fc.property(TIGHT, (plan) => {
        const problem = small(plan)!
        const earliest = earliestOfAllOrders(problem)
        const { finish, start } = searched(problem, earliest + 1)!
        expect(finish).toBe(earliest)
        if (start === null) return
        found++
        const { network, demands, available, options } = problem
        const { rank, byRank } = rankingBy(network, start)
        expect(new Placing(network, demands, available, options).run(rank, byRank, false).finish).toBe(finish)
        // What is known to be the earliest is proven, and nothing is found.
        expect(searched(problem, earliest)).toEqual({ finish: earliest, earliest, start: null })
      }),
      { numRuns: 200 },
    )
    expect(found).toBeGreaterThan(50)
  })

  it('finds plans that settle where they were found', () => {
    let found = 0
    fc.assert(
      fc.property(ALL_TYPES, (plan) => {
        const problem = small(plan)!
        const earliest = earliestOfAllOrders(problem)
        const { finish, start } = searched(problem, earliest + 1)!
        if (start === null) return
        const { network, demands, available, options } = problem
        const { byRank } = rankingBy(network, start)
        const settled = new Placing(network, demands, available, options).settle(start, byRank)!
        expect(settled.finish).toBe(finish)
        expect(settled.unresolved).toEqual([])
        found++
        // Where all would start by its links alone it does not stand.
        if (finish > problem.joint.projectFinish)
          expect(
            new Placing(network, demands, available, options).settle(problem.joint.early.begin, byRank),
          ).toBeNull()
      }),
      { numRuns: 400 },
    )
    expect(found).toBeGreaterThan(100)
  })

  it('comes to the same finish whatever order the rows stand in, and to none later than a levelled plan', () => {
    let compared = 0
    fc.assert(
      fc.property(busyPlans, fc.nat(), (plan, turn) => {
        const problem = problemOrNull(plan)!
        const { network, demands, available, options, joint } = problem
        const { rank, byRank } = rankingOf('least-float', joint)
        const reached = new Placing(network, demands, available, options).run(rank, byRank, false).finish
        if (reached === joint.projectFinish) return
        const first = searched(problem, reached + 1, 400)
        if (first === null) return
        expect(first.start).not.toBeNull()
        expect(first.finish).toBeLessThanOrEqual(reached)
        const at = turn % plan.activities.length
        const turned = [...plan.activities.slice(at), ...plan.activities.slice(0, at)].reverse()
        const links = [...plan.links].reverse()
        const second = searched(problemOrNull({ ...plan, activities: turned, links })!, reached + 1, 400)
        if (second === null) return
        expect(second.finish).toBe(first.finish)
        compared++
      }),
      { numRuns: 100 },
    )
    expect(compared).toBeGreaterThan(25)
  })
})
