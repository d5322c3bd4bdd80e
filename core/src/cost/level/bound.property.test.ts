import fc from 'fast-check'
import { expect, it } from 'vitest'
import { earliestOfAllOrders, problemOrNull } from '../testing/allOrders.ts'
import { SCARCE_PLANS } from '../testing/randomResources.ts'
import { tightPlans } from '../testing/tightPlans.ts'
import { lowerBound } from './bound.ts'
import { Windows } from './windows.ts'

const TIGHT = tightPlans(['FS'])

it('no bound is beyond the earliest finish that any order gives', () => {
  let [tried, seen, proven] = [0, 0, 0]
  fc.assert(
    fc.property(fc.oneof(SCARCE_PLANS, TIGHT), fc.boolean(), (plan, mayPause) => {
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
