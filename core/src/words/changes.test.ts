import { expect, it } from 'vitest'
import { applyChange, assign, hangBetween, readPlan, type Change, type Plan } from '../plan/index.ts'
import { describeChange } from './changes.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock', currency: 'EUR' },
  activities: [
    { id: 'a', code: 'A10', name: 'Weld', duration: 60 },
    { id: 'b', code: 'A20', name: 'Paint', duration: 60, cost: { fixed: 1200, perDay: 0 } },
    { id: 'p', code: 'P', kind: 'milestone', edge: 'finish' },
  ],
  calendars: [{ id: 'day', name: 'Day shift', week: { mon: ['07:00-15:00'] } }],
  resources: [
    { id: 'r', code: 'WELD', name: 'Welders', price: 52, available: [{ amount: 4 }] },
    { id: 's', code: 'CRAN', name: '' },
  ],
  assignments: [{ id: 'x', activity: 'a', resource: 'r', amount: 3 }],
})
let drawn = 0
/** Always another number: ids are drawn until they are free. */
const random = (): number => (drawn = (drawn + 0.0137) % 1)
const said = (change: Change, on: Plan = plan): string => describeChange(on, change)
const give = (ids: string[], ...wanted: [string, number][]): Change =>
  assign(
    plan,
    ids,
    wanted.map(([resource, amount]) => ({ resource, amount })),
    random,
  )
const set = (list: 'resources' | 'activities' | 'assignments', key: string, fields: object): string =>
  said({ kind: 'set', list, key, set: { ...fields } })

it('says who is given what, and never by an id', () => {
  expect(said(give(['b'], ['r', 2]))).toBe('A20: 2 Welders')
  expect(said(give(['a'], ['r', 1], ['s', 1]))).toBe('A10: Welders, CRAN')
  expect(said(give(['a']))).toBe('A10: without Welders')
  expect(said(give(['a', 'b'], ['s', 0.5]))).toBe('A10: 0.5 CRAN, without Welders; A20: 0.5 CRAN')
  expect(said(give(['a', 'b', 'p'], ['s', 2]))).toBe('resources of 3 activities changed')
  expect(set('assignments', 'x', { drives: false })).toBe(
    'A10: Welders, whether its hours hold the work changed',
  )
})

it('says what of a resource is another, with the value before and after', () => {
  expect(set('resources', 'r', { price: 60.5 })).toBe('WELD Welders, price 52 → 60.50')
  expect(
    set('resources', 'r', {
      available: [
        { from: null, amount: 4 },
        { from: '2027-05-10', amount: 6 },
      ],
    }),
  ).toBe('WELD Welders, 4 → 4, 6 from 10 May')
  expect(set('resources', 'r', { calendar: 'day' })).toBe('WELD Welders, hours none of its own → Day shift')
})

it('says money as money, and progress by no brackets', () => {
  expect(set('activities', 'b', { cost: { fixed: 1500, perDay: 20, accrue: 'even' } })).toBe(
    'A20 Paint, fixed cost 1,200 → 1,500, cost per day 0 → 20',
  )
  expect(set('activities', 'p', { payment: { amount: 40_000, direction: 'in' } })).toBe(
    'P, payment of 40,000 EUR',
  )
  expect(set('activities', 'a', { progress: { percent: 50 } })).toBe('A10 Weld, progress changed')
  expect(set('activities', 'a', { split: true })).toBe('A10 Weld, may pause for a resource')
})

it('a hammock is hung from the start of one to the finish of another, and taken down again', () => {
  const { change, hammock } = hangBetween(plan, ['a', 'b'], random)
  const { plan: after, inverse } = applyChange(plan, change)
  expect(after.activities.find(({ id }) => id === hammock)).toMatchObject({
    kind: 'hammock',
    name: 'Between A10 and A20',
  })
  expect(after.links.map(({ from, to, type }) => [from, to === hammock, type])).toEqual([
    ['a', true, 'SS'],
    ['b', true, 'FF'],
  ])
  expect(applyChange(after, inverse).plan).toEqual(plan)
})
