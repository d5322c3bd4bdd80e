import fc from 'fast-check'
import { expect, it } from 'vitest'
import { randomPlan } from '../schedule/testing/randomPlans.ts'
import { randomPlanWithResources } from '../cost/testing/randomResources.ts'
import { applyChange } from './applyChange.ts'
import { changesBetween } from './changesBetween.ts'
import { readPlan } from './readPlan.ts'
import type { Plan } from './schema.ts'
import { addsItem, planWhenAdded } from './whenAdded.ts'
import type { Change } from './change.ts'

const ALL = { constraints: true, progress: true, overrides: true, places: true }
const made = (from: Plan, changes: readonly Change[]): Plan =>
  changes.reduce((at, change) => applyChange(at, change).plan, from)
/** What a plan is made of, whatever the order in which it says it. */
const makings = (plan: Plan): unknown => {
  const byKey = (items: readonly object[]): unknown[] =>
    items
      .map((item) => JSON.parse(JSON.stringify(item)) as unknown)
      .sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1))
  const { calendars, groups, activities, links, resources, assignments, risks, damages } = plan
  return {
    project: { ...plan.project, baseline: null },
    lists: [calendars, groups, activities, links, resources, assignments, risks, damages].map(byKey),
  }
}

it('makes any plan out of any other', () => {
  const any = fc.oneof(randomPlan(ALL), randomPlanWithResources(ALL))
  fc.assert(
    fc.property(any, any, (from, to) => {
      expect(makings(made(from, changesBetween(from, to)))).toEqual(makings(to))
      expect(changesBetween(to, to)).toEqual([])
    }),
    { numRuns: 25 },
  )
})

const week = { mon: ['07:00-15:00'] }
const PLAN = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'c' },
  calendars: [{ id: 'c', name: 'Day', week }],
  activities: [
    { id: 'a', code: 'A', duration: '1d', owner: 'Ana' },
    { id: 'b', code: 'B', duration: '1d' },
  ],
  links: [{ id: '1', from: 'a', to: 'b' }],
}).plan

it('names each thing that differs alone, and gives back what a field did not say', () => {
  const to = made(PLAN, [
    { kind: 'remove', list: 'links', key: '1' },
    { kind: 'set', list: 'activities', key: 'a', set: { note: 'x', duration: 60 } },
    { kind: 'add', list: 'calendars', item: { id: 'n', name: 'Night', week, parent: 'c' }, before: null },
    {
      kind: 'add',
      list: 'activities',
      item: { id: 'm', code: 'M', duration: 5, calendar: 'n' },
      before: 'b',
    },
    { kind: 'add', list: 'links', item: { id: '2', from: 'b', to: 'a' }, before: null },
  ])
  const changes = changesBetween(PLAN, to)
  expect(changes.map(({ kind }) => kind)).toEqual(['remove', 'add', 'add', 'add', 'set'])
  expect(made(PLAN, changes).activities.map(({ id }) => id)).toEqual(['a', 'm', 'b'])
  expect(made(to, changesBetween(to, PLAN))).toEqual(PLAN)
})

it('finds the plan as it was when an item was added, however much the same change did', () => {
  const freeze: Change = { kind: 'add', list: 'baselines', item: { id: 'b1' }, before: null }
  const set = (duration: number): Change => ({ kind: 'set', list: 'activities', key: 'a', set: { duration } })
  const change: Change = { kind: 'all', changes: [set(60), { kind: 'all', changes: [freeze, set(120)] }] }
  expect([addsItem(change, 'baselines', 'b1'), addsItem(change, 'baselines', 'b2')]).toEqual([true, false])
  expect(addsItem(change, 'periods', 'b1')).toBe(false)
  const then = planWhenAdded(PLAN, change, 'baselines', 'b1')
  expect(then.activities[0]!.duration).toBe(60)
  expect(then.baselines).toHaveLength(1)
})
