import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { randomPlanWithResources } from '../../cost/testing/randomResources.ts'
import { withoutKernel } from '../../kernel/kernel.ts'
import { readPlan, writePlan, type Plan } from '../../plan/index.ts'
import { KernelRows } from '../../schedule/kernelRows.ts'
import { daysOwed, driversByRank, iterationTable, runIterations, simulationModel } from '../index.ts'
import { finishesAlone } from './finishes.ts'
import { drawAgain } from './iterate.ts'
import type { IterationTable } from './iterationTable.ts'
import type { SimulationOptions } from './model.ts'

/** The plan with everything that iterations draw: spreads, a factor, risks with delays, work and costs, weather, damages, a hammock. */
const withDraws = (plan: Plan, seed: number): Plan => {
  const file = JSON.parse(writePlan(plan)) as Record<string, unknown[]>
  const works = plan.activities.filter(({ kind }) => kind === 'work').map(({ id }) => id)
  // A risk may bring work to what has none.
  const points = plan.activities.filter(({ kind }) => kind !== 'work').map(({ id }) => id)
  const [first, last] = [plan.activities[0]!.id, plan.activities.at(-1)!.id]
  const shapes = ['pert', 'triangular', 'uniform', 'lognormal']
  return readPlan({
    ...file,
    activities: [
      ...file.activities!,
      { id: 'site', kind: 'hammock', calendar: 'watch', cost: { perDay: 40 } },
    ],
    links: [
      ...file.links!,
      { id: 'h1', from: first, to: 'site', type: 'SS', lag: 30, lagOn: 'calendar:day' },
      { id: 'h2', from: last, to: 'site', type: 'FF', lag: 0 },
    ],
    spreads: shapes.map((shape, k) => ({
      id: `s${k}`,
      scope: { activities: works.filter((_, i) => i % shapes.length === k) },
      low: 0.4,
      likely: 1,
      high: 2.5,
      shape,
    })),
    factors: [{ id: 'f', scope: { activities: works.slice(0, 3) }, low: 0.8, likely: 1, high: 1.6 }],
    risks: [
      {
        id: 'k',
        probability: 0.4,
        impacts: [...works.slice(0, 2), ...points.slice(0, 2)].map((activity) => ({
          activity,
          delay: { low: 60, likely: 300, high: 900, shape: 'triangular' },
          share: seed % 2 === 0,
        })),
        cost: { low: 10, likely: 20, high: 90, shape: 'pert' },
        ...(first === last
          ? {}
          : {
              work: [
                { after: first, before: last, duration: { low: 60, likely: 90, high: 500, shape: 'pert' } },
              ],
            }),
      },
    ],
    weather:
      seed % 3 === 0
        ? []
        : [
            { id: 'w', calendar: 'day', months: { 3: 0.3, 4: 0.2 } },
            { id: 'x', calendar: seed % 5 === 0 ? 'clock' : 'crew', months: { 3: 0.25 } },
          ],
    damages: [{ id: 'd', calendar: 'day', due: '2027-03-05', steps: [{ from: 1, amount: 500 }] }],
  }).plan
}

const OPTIONS = { iterations: 150, seed: 3, risks: true } as const
const table = (plan: Plan, options: SimulationOptions): IterationTable => {
  const model = simulationModel(plan, options)
  const made = iterationTable(model)
  // In two ranges, as workers take them, neither of whole rows.
  runIterations(model, made, 0, 70)
  runIterations(model, made, 70)
  return made
}

describe('a run with the kernel', () => {
  it('is to the bit the run without: dates, path, hammocks, money, days owed, dates looked at again', () => {
    let scheduledInRows = 0
    fc.assert(
      fc.property(
        randomPlanWithResources({ constraints: true, progress: true, overrides: true }),
        fc.nat(30),
        fc.constantFrom('lhs' as const, 'random' as const),
        (random, seed, sampling) => {
          const plan = withDraws(random, seed)
          const options = { ...OPTIONS, seed, sampling }
          const model = simulationModel(plan, options)
          const { network, mayBeAbsent } = model
          if (KernelRows.of(network, { mayBeAbsent })) scheduledInRows++
          const all = (): unknown => {
            const made = table(plan, options)
            const drivers = driversByRank(model, made)
            const seen: number[] = []
            drawAgain(model, 20, 60, (_, remaining, { start, finish, projectFinish, early }) =>
              seen.push(...remaining, ...start, ...finish, projectFinish, ...early.beginCount),
            )
            return {
              made,
              seen,
              owed: daysOwed(model, 80, drivers.slice(0, 5)),
              finishes: finishesAlone(model),
              ofLast: finishesAlone(model, plan.activities.length - 2),
            }
          }
          expect(all()).toEqual(withoutKernel(all))
        },
      ),
      { numRuns: 60 },
    )
    expect(scheduledInRows).toBeGreaterThan(20)
  })
  it('goes on where another is run in the middle of it, and its memory is given on only then', () => {
    const [plan] = fc.sample(randomPlanWithResources({ constraints: true, progress: false }), {
      numRuns: 1,
      seed: 7,
    })
    const one = simulationModel(withDraws(plan!, 1), { ...OPTIONS, sampling: 'lhs' })
    const other = simulationModel(withDraws(plan!, 2), { ...OPTIONS, seed: 9, sampling: 'lhs' })
    const alone = [finishesAlone(one), finishesAlone(other), finishesAlone(one)]
    const seen = new Int32Array(one.iterations)
    let between: Int32Array | null = null
    drawAgain(one, 0, one.iterations, (iteration, _, { projectFinish }) => {
      seen[iteration] = projectFinish
      if (iteration === 40) between = finishesAlone(other)
    })
    expect([seen, between, finishesAlone(one)]).toEqual(alone)
  })
})
