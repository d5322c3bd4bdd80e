import { expect, it } from 'vitest'
import { applyChange, readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { activityCosts } from './activityCosts.ts'
import { activityFigures } from './activityFigures.ts'

const planOf = (costs: readonly object[]) =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01' },
    activities: costs.map((cost, i) => ({ id: `a${i}`, duration: '2d', cost })),
  }).plan

it('an edit changes the figures of what it touches, and undoing it brings them back', () => {
  const before = planOf([{ fixed: 100 }, { perDay: 50, accrue: 'finish' }, {}])
  const first = activityCosts(schedule(before)).atCompletion
  const edited = applyChange(before, {
    kind: 'set',
    list: 'activities',
    key: 'a2',
    set: { cost: { ...before.activities[2]!.cost, fixed: 7 } },
  })
  expect([...activityCosts(schedule(edited.plan)).atCompletion]).toEqual([100, 100, 7])
  const back = applyChange(edited.plan, edited.inverse).plan
  expect(activityCosts(schedule(back)).atCompletion).toEqual(first)
})

it('plans of the same length are not mixed up, whichever was asked about before', () => {
  const [one, other] = [
    planOf([{ fixed: 1 }, { fixed: 2 }]),
    planOf([{ fixed: 3, accrue: 'start' }, { perDay: 4 }]),
  ]
  for (const plan of [one, other, one])
    expect([...activityFigures(plan.activities).fixed]).toEqual(plan.activities.map(({ cost }) => cost.fixed))
  expect([...activityFigures(other.activities).accrual]).toEqual([1, 0])
})
