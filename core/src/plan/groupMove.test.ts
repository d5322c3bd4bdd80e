import { describe, expect, it } from 'vitest'
import { schedule } from '../schedule/index.ts'
import { formatInstant } from '../time/index.ts'
import { applyChange } from './applyChange.ts'
import { groupMoves } from './groupMove.ts'
import { readPlan } from './readPlan.ts'
import type { Plan } from './schema.ts'

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((d) => [d, ['08:00-16:00']]))
const plan = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'day' },
  calendars: [{ id: 'day', week }],
  groups: [{ id: 'g', name: 'Deck' }],
  activities: [
    { id: 'x', duration: 480 },
    { id: 'a', duration: 480, group: 'g' },
    {
      id: 'b',
      duration: 480,
      group: 'g',
      constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-03' }],
    },
    { id: 'c', duration: 480, group: 'g' },
    { id: 'd', duration: 480, group: 'g', progress: {} },
  ],
  links: [
    { id: '1', from: 'a', to: 'c' },
    { id: '2', from: 'x', to: 'd' },
  ],
}).plan
const startsOf = (of: Plan): string[] => [...schedule(of).start].map((at) => formatInstant(at).slice(0, 10))

describe('a group moved to another start', () => {
  it('by limits: all of its open starts, also those that wait for work outside, are not before the date', () => {
    const [limit] = groupMoves(plan, 'g', '2027-03-08', schedule(plan).start)
    expect(limit).toMatchObject({ kind: 'limit', starts: [{ id: 'a' }, { id: 'b' }, { id: 'd' }] })
    expect(startsOf(applyChange(plan, limit!.change).plan)).toEqual([
      '2027-03-01',
      '2027-03-08',
      '2027-03-08',
      '2027-03-09',
      '2027-03-08',
    ])
  })
  it('by a shift: work that waits for nothing keeps its distances, over a weekend in working time; what links hold stays', () => {
    const shift = groupMoves(plan, 'g', '2027-03-05', schedule(plan).start)[1]!
    // Four days later: Monday 1 to Friday 5; Wednesday 3 to Sunday 7, which is worked on Monday.
    expect(shift).toMatchObject({
      kind: 'shift',
      starts: [
        { id: 'a', date: '2027-03-05T08:00' },
        { id: 'b', date: '2027-03-08T08:00' },
      ],
    })
    expect(startsOf(applyChange(plan, shift.change).plan)).toEqual([
      '2027-03-01',
      '2027-03-05',
      '2027-03-08',
      '2027-03-08',
      '2027-03-02',
    ])
  })
  it('earlier: only what has a limit can come; what has begun is left alone; one way where both would be the same', () => {
    const later = applyChange(plan, groupMoves(plan, 'g', '2027-03-08', schedule(plan).start)[0]!.change).plan
    const back = groupMoves(later, 'g', '2027-03-04', schedule(later).start)
    expect(back.map((way) => way.starts.map((s) => s.id))).toEqual([
      ['a', 'b', 'd'],
      ['a', 'b'],
    ])
    const begun = applyChange(plan, {
      kind: 'all',
      changes: [
        { kind: 'project' as const, set: { statusDate: '2027-03-01T12:00' } },
        ...['a', 'b', 'd'].map((key) => ({
          kind: 'set' as const,
          list: 'activities' as const,
          key,
          set: {
            progress: { actualStart: '2027-03-01T08:00', actualFinish: null, remaining: null, percent: 0 },
          },
        })),
      ],
    }).plan
    expect(groupMoves(begun, 'g', '2027-03-08', schedule(begun).start)).toEqual([])
    const single = applyChange(plan, {
      kind: 'all',
      changes: [
        { kind: 'remove', list: 'activities', key: 'b' },
        { kind: 'remove', list: 'links', key: '2' },
        { kind: 'remove', list: 'activities', key: 'd' },
      ],
    }).plan
    expect(groupMoves(single, 'g', '2027-03-08', schedule(single).start).map((way) => way.kind)).toEqual([
      'limit',
    ])
  })
})
