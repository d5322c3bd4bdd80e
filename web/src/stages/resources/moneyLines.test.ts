import { expect, it } from 'vitest'
import { moneyView, readPlan, schedule, type Plan } from '@geodrome/core'
import { moneyLines } from './moneyLines.ts'

const planOf = (activities: readonly object[]): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01' },
    groups: [
      { id: 'hull', code: 'H', name: 'Hull' },
      { id: 'stern', code: 'HS', name: 'Stern', parent: 'hull' },
      { id: 'trials', code: 'T', name: 'Trials' },
    ],
    activities,
  }).plan
const work = (id: string, group: string | null, fixed: number): object => ({
  id,
  code: id,
  name: id,
  group,
  duration: '2d',
  cost: { fixed },
})
const linesOf = (plan: Plan, agreed: ReadonlyMap<string, number> | null = null) =>
  moneyLines(plan, {
    ...moneyView(schedule(plan)),
    agreed:
      agreed &&
      ({
        byActivity: Float64Array.from(plan.activities, ({ id }) => agreed.get(id) ?? NaN),
        total: 0,
        curve: { firstDay: 0, early: new Float64Array(0), late: new Float64Array(0) },
      } as never),
  })

it('sums groups at the top with all groups in them, and leaves out those without work', () => {
  const lines = linesOf(planOf([work('a', 'hull', 10), work('b', 'stern', 5.5), work('c', null, 2)]))
  expect(lines.map(({ code, name, sum }) => [code, name, sum.atCompletion])).toEqual([
    ['H', 'Hull', 15.5],
    ['', 'Outside groups', 2],
  ])
})

it('what hammocks cost stands apart from the group they are in', () => {
  const yard = { ...work('yard', 'hull', 3), kind: 'hammock', duration: undefined }
  const lines = linesOf(planOf([work('a', 'hull', 10), yard]))
  expect(lines.map(({ id, isActivity, sum }) => [id, isActivity, sum.planned])).toEqual([
    ['hull', false, 10],
    ['yard', true, 3],
  ])
})

it('what was agreed is summed over the work that the baseline knows, and nothing where it knows none', () => {
  const plan = planOf([work('a', 'hull', 10), work('b', 'stern', 5), work('c', 'trials', 2)])
  const lines = linesOf(plan, new Map([['a', 8]]))
  expect(lines.map(({ id, agreed }) => [id, agreed])).toEqual([
    ['hull', 8],
    ['trials', null],
  ])
  expect(linesOf(plan).every(({ agreed }) => agreed === null)).toBe(true)
})
