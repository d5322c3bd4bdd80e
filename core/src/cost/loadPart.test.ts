import { expect, it } from 'vitest'
import { readPlan } from '../plan/index.ts'
import { isOfPart, loadParts, type LoadPart } from './loadPart.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'day' },
  calendars: [{ id: 'day', name: 'Day', week: { mon: ['07:00-15:00'] } }],
  groups: [
    { id: 'hull', name: 'Hull' },
    { id: 'paint', name: 'Paint', parent: 'hull' },
    { id: 'empty', name: 'Nothing yet' },
  ],
  activities: [
    { id: 'a', code: 'A', duration: '1d', owner: 'Welders', group: 'hull', tags: { dock: 1 } },
    { id: 'b', code: 'B', duration: '1d', owner: 'Painters', group: 'paint', tags: { dock: '2' } },
    { id: 'c', code: 'C', duration: '1d', owner: 'Painters', tags: { side: 'port', dock: null } },
    { id: 'd', code: 'D', duration: '1d', owner: 'Idle hands', group: 'empty' },
  ],
  resources: [{ id: 'r', code: 'R', kind: 'people' }],
  assignments: ['a', 'b', 'c'].map((activity) => ({ id: activity, activity, resource: 'r' })),
})
const of = (part: LoadPart): string => {
  const isOf = isOfPart(plan, part)
  return plan.activities.map(({ code }, i) => (isOf(i) ? code : '')).join('')
}

it('has the part of an owner, of a group with those in it, of a tag whatever kind of value it is, and of what is named', () => {
  expect(of({ by: 'owner', owner: 'Painters' })).toBe('BC')
  expect(of({ by: 'group', group: 'hull' })).toBe('AB')
  expect(of({ by: 'group', group: 'paint' })).toBe('B')
  expect(of({ by: 'tag', tag: 'dock', value: '1' })).toBe('A')
  expect(of({ by: 'tag', tag: 'dock', value: '' })).toBe('CD')
  expect(of({ by: 'activities', ids: ['d', 'gone'] })).toBe('D')
  expect(of({ by: 'group', group: 'gone' })).toBe('')
})

it('offers only parts that ask for something', () => {
  expect(loadParts(plan)).toEqual([
    { by: 'owner', owner: 'Painters' },
    { by: 'owner', owner: 'Welders' },
    { by: 'group', group: 'hull' },
    { by: 'group', group: 'paint' },
    { by: 'tag', tag: 'dock', value: '1' },
    { by: 'tag', tag: 'dock', value: '2' },
    { by: 'tag', tag: 'side', value: 'port' },
  ])
})
