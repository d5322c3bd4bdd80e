import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../network/compileNetwork.ts'
import { Kind, State } from '../network/network.ts'
import { readPlan, type Plan } from '../plan/index.ts'
import { createEngine } from './engine.ts'
import { schedule } from './schedule.ts'
import { randomPlan } from './testing/randomPlans.ts'

/** The plan with a hammock over its first and last activity, and one that hangs from nothing. */
const withHammocks = (plan: Plan): Plan =>
  readPlan({
    ...plan,
    activities: [
      ...plan.activities,
      { id: 'site', kind: 'hammock' },
      { id: 'whole', kind: 'hammock', calendar: 'watch' },
    ],
    links: [
      ...plan.links,
      { id: 'h1', from: plan.activities[0]!.id, to: 'site', type: 'SS', lag: 60 },
      { id: 'h2', from: plan.activities.at(-1)!.id, to: 'site', type: 'FF', lag: 0 },
    ],
  }).plan
const backward = (plan: Plan): Plan => ({
  ...plan,
  project: { ...plan.project, direction: 'backward', finish: '2027-03-20' },
})

/** The plan in which as much work is left of each activity as an iteration has drawn. */
const withRemaining = (plan: Plan, remaining: Int32Array): Plan => {
  const { kind, state } = compileNetwork(plan)
  return {
    ...plan,
    activities: plan.activities.map((activity, i) => {
      if (kind[i] !== Kind.Work || state[i] === State.Finished) return activity
      const progress = { ...activity.progress, remaining: remaining[i]! }
      return { ...activity, promise: null, progress }
    }),
  }
}

describe.each([
  ['forward', { constraints: true, progress: false, overrides: true, places: true }, false],
  ['forward with progress', { constraints: true, progress: true, places: true }, false],
  ['backward', { constraints: true, progress: false, places: true }, true],
] as const)('an engine that has run before, %s', (_, options, isBackward) => {
  it('places every activity and hammock where scheduling the plan with those durations does', () => {
    let compared = 0
    fc.assert(
      fc.property(
        randomPlan(options),
        fc.array(fc.array(fc.integer({ min: 1, max: 2000 }), { minLength: 12, maxLength: 12 }), {
          minLength: 2,
          maxLength: 4,
        }),
        (random, draws) => {
          const plan = isBackward ? backward(withHammocks(random)) : withHammocks(random)
          const network = compileNetwork(plan)
          const engine = createEngine(network)
          for (const draw of draws) {
            const remaining = network.remaining.map((planned, i) => (planned === 0 ? 0 : draw[i]!))
            const wanted = schedule(withRemaining(plan, remaining))
            const placed = engine.run(remaining)
            expect([...placed.start]).toEqual([...wanted.start])
            expect([...placed.finish]).toEqual([...wanted.finish])
            expect(placed.projectFinish).toBe(wanted.projectFinish)
            const counts = new Int32Array(network.order.length)
            engine.countLongestPath(counts)
            expect([...counts]).toEqual([...wanted.onLongestPath])
            // Some of them otherwise: the same finish as scheduling with those, and what was placed stays.
            const seeds = [0, 3, 7].filter((i) => remaining[i]! > 0)
            const before = [...placed.start, ...placed.finish]
            const other = remaining.map((minutes, i) =>
              seeds.includes(i) ? (minutes * 7 + 480) % 2500 || 1 : minutes,
            )
            expect(engine.finishWith(other, seeds)).toBe(schedule(withRemaining(plan, other)).projectFinish)
            expect([...placed.start, ...placed.finish]).toEqual(before)
            compared++
          }
        },
      ),
      { numRuns: 400 },
    )
    expect(compared).toBeGreaterThan(800)
  })
})
