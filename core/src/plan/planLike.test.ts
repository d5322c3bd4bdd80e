import { expect, it } from 'vitest'
import { planLike } from './planLike.ts'
import { readPlan } from './readPlan.ts'

const FACTS = { name: 'Dock gate', code: 'GATE', start: '2028-02-01', requiredFinish: '2028-05-01' }
const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: {
    start: '2027-03-01',
    calendar: 'day',
    currency: 'NOK',
    statusDate: '2027-03-08',
    criticalFloat: 60,
    weighting: 'cost',
    review: { preset: 'own', limits: { 'long-lag': 3 } },
    naming: { work: 'verb', milestones: 'any', words: [] },
    report: { parts: ['answer', 'risks'] },
    opens: ['a'],
  },
  calendars: [
    { id: 'yard', name: 'Yard' },
    { id: 'day', name: 'Day', parent: 'yard', week: { mon: ['07:00-15:00'] } },
  ],
  groups: [{ id: 'g', code: 'G' }],
  activities: [{ id: 'a', code: 'A', duration: '1d', group: 'g' }],
  resources: [
    {
      id: 'w',
      code: 'W',
      calendar: 'day',
      price: 40,
      available: [
        { from: null, amount: 2 },
        { from: '2027-04-01', amount: 3 },
        { from: '2027-05-01', amount: 0 },
      ],
    },
    { id: 'c', code: 'C', kind: 'plant' },
    { id: 'n', code: 'N', available: [{ from: '2027-04-01', amount: 0 }] },
  ],
  assignments: [{ activity: 'a', resource: 'w', amount: 1 }],
  damages: [{ id: 'd', due: '2027-07-01', steps: [{ from: 1, amount: 5 }] }],
  views: [{ id: 'v', name: 'Ours', columns: ['code'] }],
})

it('takes calendars, groups, resources and limits of an earlier plan, and nothing that was dated or done', () => {
  const made = readPlan(
    planLike({ id: 'p', plan }, { groups: true, resources: true, limits: true }, FACTS),
  ).plan
  expect(made.project).toMatchObject({
    ...FACTS,
    currency: 'NOK',
    criticalFloat: 60,
    weighting: 'cost',
    review: { preset: 'own', limits: { 'long-lag': 3 } },
    naming: { work: 'verb' },
    report: { parts: ['answer', 'risks'] },
    statusDate: null,
    opens: [],
  })
  expect(made.calendars.map(({ id, parent }) => [id, parent])).toEqual([
    ['yard', null],
    ['day', 'yard'],
  ])
  expect(made.groups.map(({ id }) => id)).toEqual(['g'])
  expect(
    made.resources.map(({ id, price, calendar, available }) => [id, price, calendar, available]),
  ).toEqual([
    ['w', 40, 'day', [{ from: null, amount: 3 }]],
    ['c', 0, null, []],
    ['n', 0, null, [{ from: null, amount: 0 }]],
  ])
  expect(made.views).toHaveLength(1)
  for (const list of ['activities', 'assignments', 'damages', 'links', 'baselines'] as const)
    expect(made[list]).toEqual([])
})

it('leaves out what is not wanted', () => {
  const made = readPlan(
    planLike({ id: 'p', plan }, { groups: false, resources: false, limits: false }, FACTS),
  ).plan
  expect([made.groups, made.resources, made.project.review, made.project.criticalFloat]).toEqual([
    [],
    [],
    undefined,
    0,
  ])
})
