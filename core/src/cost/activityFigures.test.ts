import { expect, it } from 'vitest'
import { applyChange, readPlan, writePlan, type Change } from '../plan/index.ts'
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

it('after each edit of what sets a price, costs are those of the plan read anew', () => {
  let plan = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'day' },
    calendars: [
      { id: 'day', week: { mon: ['08:00-16:00'] } },
      {
        id: 'long',
        name: 'Long days',
        week: { mon: ['06:00-18:00'], tue: ['06:00-18:00'] },
        dayMinutes: 720,
      },
    ],
    activities: [
      { id: 'a', duration: '4d', cost: { perDay: 120 } },
      { id: 'b', duration: '2d' },
    ],
    resources: [{ id: 'r', code: 'R', price: 90, per: 'day' }],
    assignments: [{ id: 'x', activity: 'b', resource: 'r', amount: 2 }],
  }).plan
  const edits: Change[] = [
    { kind: 'set', list: 'activities', key: 'b', set: { duration: 600 } },
    { kind: 'set', list: 'activities', key: 'b', set: { calendar: 'long' } },
    { kind: 'set', list: 'calendars', key: 'long', set: { dayMinutes: 360 } },
    { kind: 'set', list: 'resources', key: 'r', set: { price: 70 } },
    { kind: 'set', list: 'assignments', key: 'x', set: { amount: 3 } },
    { kind: 'project', set: { calendar: 'long' } },
    { kind: 'set', list: 'activities', key: 'a', set: { cost: { ...plan.activities[0]!.cost, perDay: 0 } } },
  ]
  const plans = [plan, ...edits.map((edit) => (plan = applyChange(plan, edit).plan))]
  // First all as they follow each other, as what is kept of one may be wrong for the next.
  const costs = plans.map((one) => [...activityCosts(schedule(one)).atCompletion])
  const anew = plans.map((one) => {
    const read = readPlan(JSON.parse(writePlan(one))).plan
    return [...activityCosts(schedule(read)).atCompletion]
  })
  expect(costs).toEqual(anew)
  expect(new Set(costs.map(String)).size).toBe(plans.length)
})
