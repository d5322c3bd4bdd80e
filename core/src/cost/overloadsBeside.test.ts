import { expect, it } from 'vitest'
import { applyChange, readPlan, type Change } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { overloadsBeside } from './overloadsBeside.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T00:00', calendar: 'clock' },
  activities: [
    { id: 'a', code: 'A', duration: 600 },
    { id: 'b', code: 'B', duration: 600 },
    { id: 'c', code: 'C', duration: 300 },
  ],
  links: [{ id: '1', from: 'a', to: 'b' }],
  resources: [
    { id: 'w', code: 'W', name: 'Welders', available: [{ amount: 2 }] },
    { id: 'k', code: 'K', kind: 'plant', available: [{ amount: 1 }] },
    { id: 'm', code: 'M', kind: 'material', available: [{ amount: 1 }] },
  ],
  assignments: [
    { activity: 'a', resource: 'w', amount: 2 },
    { activity: 'b', resource: 'w', amount: 1 },
    { activity: 'c', resource: 'w', amount: 1 },
    { activity: 'b', resource: 'k', amount: 1 },
    { activity: 'c', resource: 'm', amount: 9 },
  ],
})
const by = (change: Change) => {
  const [before, after] = [plan, applyChange(plan, change).plan].map((one) => schedule(one))
  return overloadsBeside(before!, after!).map((one) => [one.resource.id, one.before, one.after])
}
const set = (list: 'activities' | 'links', key: string, fields: Record<string, unknown>): Change => ({
  kind: 'set',
  list,
  key,
  set: fields,
})

it('names whom a change asks for more than there is, beyond what was so before; who is freed is not named', () => {
  // A and C ask for three of two welders for 300 minutes as it is.
  expect(by(set('activities', 'a', { duration: 600 }))).toEqual([])
  expect(by(set('activities', 'c', { duration: 500 }))).toEqual([['w', 300, 500]])
  expect(by(set('activities', 'c', { duration: 60 }))).toEqual([])
  // Beside each other A and B ask for three, and the crane is still asked for once.
  expect(by(set('links', '1', { type: 'SS' }))).toEqual([['w', 300, 600]])
  expect(
    by({ kind: 'add', list: 'assignments', item: { activity: 'c', resource: 'k', amount: 1 }, before: null }),
  ).toEqual([])
})
