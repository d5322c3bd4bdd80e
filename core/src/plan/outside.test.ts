import { expect, it } from 'vitest'
import { constraintPhrase } from '../words/index.ts'
import { applyChange, outsideDates, outsideTaken, readPlan, writePlan } from './index.ts'

const source = {
  plan: 'p1',
  name: 'Kiln rebuild',
  activity: 'k6',
  code: 'K60 Kiln handed over',
  edge: 'finish',
  taken: '2027-02-01T09:00',
} as const
const limit = (date: string, more: object = {}) => ({ edge: 'start', rule: 'not-before', date, ...more })
const plan = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  activities: [
    {
      id: 'a',
      code: 'A10',
      duration: '1d',
      constraints: [limit('2027-03-02'), limit('2027-03-04', { source })],
    },
    {
      id: 'b',
      code: 'A20',
      duration: '1d',
      constraints: [limit('2027-03-05', { source: { ...source, activity: 'k7' } })],
    },
    { id: 'c', code: 'A30', duration: '1d' },
  ],
}).plan

it('a limit says where its date was taken from, and the file keeps it', () => {
  expect(
    outsideDates(plan).map(({ activity, at, source: from }) => [activity.id, at, from.activity]),
  ).toEqual([
    ['a', 1, 'k6'],
    ['b', 0, 'k7'],
  ])
  expect(plan.activities[0]!.constraints.map(constraintPhrase)).toEqual([
    'start not before Tue 2 Mar',
    'start not before Thu 4 Mar, as “Kiln rebuild” has the finish of K60 Kiln handed over',
  ])
  expect(readPlan(JSON.parse(writePlan(plan))).plan).toEqual(plan)
})

it('taking dates anew moves what was found, notes when, leaves other limits, and is taken back whole', () => {
  const change = outsideTaken(
    plan,
    ({ source: { activity } }) => (activity === 'k6' ? '2027-03-09T16:00' : null),
    '2027-02-20T08:00',
  )
  const { plan: after, inverse } = applyChange(plan, change)
  const [a, b] = after.activities
  expect(a!.constraints.map(({ date, source: from }) => [date, from?.taken])).toEqual([
    ['2027-03-02', undefined],
    ['2027-03-09T16:00', '2027-02-20T08:00'],
  ])
  expect(b).toBe(plan.activities[1])
  expect(writePlan(applyChange(after, inverse).plan)).toBe(writePlan(plan))
})

it('several limits of one activity are taken in one go, and nothing found is nothing changed', () => {
  const both = readPlan({
    ...(JSON.parse(writePlan(plan)) as object),
    activities: [
      {
        id: 'a',
        duration: '1d',
        constraints: [limit('2027-03-02', { source }), limit('2027-03-04', { source })],
      },
    ],
  }).plan
  const taken = applyChange(
    both,
    outsideTaken(both, () => '2027-03-20', '2027-03-01T00:00'),
  ).plan
  expect(taken.activities[0]!.constraints.map(({ date }) => date)).toEqual(['2027-03-20', '2027-03-20'])
  expect(outsideTaken(both, () => null, '2027-03-01T00:00')).toEqual({ kind: 'all', changes: [] })
})

it('a source that says too little is refused where it stands', () => {
  const wrong = { ...(JSON.parse(writePlan(plan)) as { activities: { constraints: object[] }[] }) }
  wrong.activities[0]!.constraints[1] = limit('2027-03-04', { source: { plan: 'p1', name: 'Kiln' } })
  expect(() => readPlan(wrong)).toThrow(/source/)
})
