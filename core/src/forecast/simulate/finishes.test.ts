import { expect, it } from 'vitest'
import { readPlan } from '../../plan/index.ts'
import { schedule } from '../../schedule/index.ts'
import { percentileSorted } from '../percentile.ts'
import { finishesOf } from './finishes.ts'
import { simulationModel } from './model.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  activities: [
    {
      id: 'a',
      code: 'A',
      duration: 1000,
      estimate: { low: 500, likely: 1000, high: 2500, shape: 'triangular' },
    },
    {
      id: 'b',
      code: 'B',
      duration: 1000,
      estimate: { low: 500, likely: 1000, high: 2500, shape: 'triangular' },
    },
    { id: 'm', code: 'M', kind: 'milestone', edge: 'finish' },
  ],
  links: [
    { id: '1', from: 'a', to: 'm' },
    { id: '2', from: 'b', to: 'm' },
  ],
})
const OPTIONS = { iterations: 4000, seed: 3, sampling: 'lhs', risks: true } as const

it('is the finish of every iteration in order, of the project or of one activity; of two the later', () => {
  const model = simulationModel(plan, OPTIONS)
  const [all, a] = [finishesOf(model), finishesOf(model, 0)]
  expect(all).toHaveLength(4000)
  expect([...all].every((at, k) => k === 0 || at >= all[k - 1]!)).toBe(true)
  expect([...finishesOf(model, 2)]).toEqual([...all])
  // Triangular, 500 / 1000 / 2500: F(x) = 1 − (2500 − x)² / 3,000,000 above the mode. Of two, F².
  const start = schedule(plan).projectStart
  const quantile = (p: number): number => 2500 - Math.sqrt(3_000_000 * (1 - p))
  expect(Math.abs(percentileSorted(a, 80) - start - quantile(0.8))).toBeLessThan(3)
  expect(Math.abs(percentileSorted(all, 80) - start - quantile(Math.sqrt(0.8)))).toBeLessThan(30)
})
