import { expect, it } from 'vitest'
import { readPlan } from '@geodrome/core'
import { finishOptions, optionsByCode, optionsByName, optionsOf, WHOLE_PLAN } from './options.ts'

const { activities } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01' },
  activities: [
    { id: '0', code: '10', name: 'Cut, then grind', duration: '1d' },
    { id: 'm', code: 'K60', name: '', kind: 'milestone' },
    { id: 'f', code: '', name: 'Redelivered', kind: 'milestone', at: 'finish' },
    { id: 'h', code: 'H', name: 'Crane', kind: 'hammock' },
  ],
}).plan

it('an activity is offered by its code and name, whatever is left out of them', () => {
  expect(optionsByCode(activities).map(({ value, label }) => [value, label])).toEqual([
    ['0', '10 Cut, then grind'],
    ['m', 'K60'],
    ['f', 'Redelivered'],
    ['h', 'H Crane'],
  ])
})

it('the finish asked about is that of the whole plan, or of a milestone, in the order of the plan', () => {
  expect(finishOptions('the whole plan', activities).map(({ value }) => value)).toEqual([
    WHOLE_PLAN,
    'm',
    'f',
  ])
  expect(finishOptions('all of it', [])).toEqual([{ value: WHOLE_PLAN, label: 'all of it' }])
  // No activity can be taken for the whole plan.
  expect(activities.some(({ id }) => id === WHOLE_PLAN)).toBe(false)
})

it('what has no name goes by its id, and pairs stay in order', () => {
  expect(
    optionsByName([
      { id: 'day', name: '' },
      { id: 'six', name: 'Six days' },
    ]),
  ).toEqual([
    { value: 'day', label: 'day' },
    { value: 'six', label: 'Six days' },
  ])
  expect(
    optionsOf([
      [0, 'none'],
      [1, 'one'],
    ]).map(({ value }) => value),
  ).toEqual([0, 1])
})
