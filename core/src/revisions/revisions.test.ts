import { describe, expect, it } from 'vitest'
import { applyChange, readPlan, type Change, type Plan } from '../plan/index.ts'
import { compareRevisions, matchRevisions } from './index.ts'

const DAY = 1440
const base = (activities: object[] = [], rest: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'clock', statusDate: '2027-03-03T07:00' },
    groups: [{ id: 'g', name: 'Hull' }],
    activities: [
      {
        id: 'a',
        code: 'A10',
        name: 'Blast',
        group: 'g',
        duration: '2d',
        progress: { actualStart: '2027-03-01T07:00', actualFinish: '2027-03-03T07:00' },
      },
      { id: 'b', code: 'A20', name: 'Survey', group: 'g', duration: '3d' },
      { id: 'c', code: 'A30', name: 'Coat', group: 'g', duration: '4d' },
      ...activities,
    ],
    links: [
      { id: '1', from: 'a', to: 'b' },
      { id: '2', from: 'b', to: 'c' },
    ],
    ...rest,
  }).plan
const edited = (...changes: Change[]): Plan => applyChange(base(), { kind: 'all', changes }).plan
const set = (key: string, fields: Record<string, unknown>): Change => ({
  kind: 'set',
  list: 'activities',
  key,
  set: fields,
})

describe('matching', () => {
  it('goes by id, then code, then name in its group; what is ambiguous pairs nothing', () => {
    const other = base([], {
      activities: [
        { id: 'a', code: 'A10', name: 'Blast hull', group: 'g' },
        { id: 'x', code: 'A20', name: 'Look', group: 'g' },
        { id: 'y', code: 'Z9', name: 'Coat', group: 'g' },
        { id: 'z', code: 'N1', name: 'New', group: 'g' },
      ],
      links: [],
    })
    const { matched, added, deleted } = matchRevisions(base(), other)
    expect(matched.map((m) => [m.before.id, m.after.id, m.by])).toEqual([
      ['a', 'a', 'id'],
      ['b', 'x', 'code'],
      ['c', 'y', 'name'],
    ])
    expect(added.map((a) => a.id)).toEqual(['z'])
    expect(deleted).toEqual([])
    const twice = base([], {
      activities: [
        { id: 'x', code: 'A20' },
        { id: 'y', code: 'A20' },
      ],
      links: [],
    })
    expect(matchRevisions(base(), twice).matched).toEqual([])
  })
  it('believes a code rather than an id that was given to something else', () => {
    const swapped = base([], {
      activities: [
        { id: 'a', code: 'A20', name: 'Survey', group: 'g' },
        { id: 'b', code: 'A10', name: 'Blast', group: 'g' },
      ],
      links: [],
    })
    expect(matchRevisions(base(), swapped).matched.map((m) => [m.before.id, m.after.id, m.by])).toEqual([
      ['a', 'b', 'code'],
      ['b', 'a', 'code'],
    ])
  })
})

describe('two revisions', () => {
  it('that are the same have no differences', () => {
    expect(compareRevisions(base(), base())).toMatchObject({ differences: [], moves: 0, matched: { id: 3 } })
  })
  it('differ in durations, logic and limits, each with its own effect', () => {
    const later = edited(
      set('b', { duration: 5 * DAY }),
      { kind: 'set', list: 'links', key: '2', set: { lag: DAY } },
      set('c', { constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-01' }] }),
    )
    const { differences, moves } = compareRevisions(base(), later)
    expect(differences.map((d) => [d.kind, d.moves])).toEqual([
      ['durations', 2 * DAY],
      ['logic', DAY],
      ['limits', 0],
    ])
    expect(differences[0]).toMatchObject({ activities: ['b'], before: '3 d', after: '5 d' })
    expect(moves).toBe(3 * DAY)
  })
  it('name calendars as people do', () => {
    const calendars = [{ id: 'x1', name: 'Long shift', week: { mon: ['06:00-18:00'] } }]
    const before = base([], { calendars })
    const after = applyChange(before, set('c', { calendar: 'x1' })).plan
    expect(compareRevisions(before, after).differences).toMatchObject([
      { kind: 'calendars', before: 'the project’s calendar', after: 'Long shift' },
    ])
  })
  it('name work that was added and deleted, with what it is linked to as one', () => {
    const added = edited(
      {
        kind: 'add',
        list: 'activities',
        item: { id: 'n', code: 'N', name: 'Wait', kind: 'work', duration: DAY, confirmed: true },
        before: null,
      },
      {
        kind: 'add',
        list: 'activities',
        item: { id: 'o', code: 'O', name: 'Wait on', kind: 'work', duration: DAY, confirmed: true },
        before: null,
      },
      ...[
        ['b', 'n'],
        ['n', 'o'],
        ['o', 'c'],
      ].map(([from, to]): Change => ({
        kind: 'add',
        list: 'links',
        item: { id: `${from}${to}`, from, to, type: 'FS', lag: 0 },
        before: null,
      })),
    )
    expect(compareRevisions(base(), added).differences).toMatchObject([
      { kind: 'added', activities: ['n', 'o'], moves: 2 * DAY, after: '3 links' },
    ])
    expect(compareRevisions(added, base()).differences).toMatchObject([
      { kind: 'deleted', activities: ['n', 'o'], moves: -2 * DAY },
    ])
  })
  it('report actual dates that were altered after the fact before anything else', () => {
    const later = edited(
      { kind: 'project', set: { statusDate: '2027-03-05T07:00' } },
      set('b', {
        duration: 9 * DAY,
        progress: { actualStart: '2027-03-04T07:00', actualFinish: null, remaining: null, percent: 0 },
      }),
      set('a', {
        progress: {
          actualStart: '2027-03-01T07:00',
          actualFinish: '2027-03-02T07:00',
          remaining: null,
          percent: 0,
        },
      }),
    )
    const { differences } = compareRevisions(base(), later)
    expect(differences[0]).toMatchObject({
      kind: 'actuals',
      isAfterTheFact: true,
      what: 'A10 actual finish altered',
    })
    // A start between the two status dates is news, not a correction.
    expect(differences.filter((d) => d.isAfterTheFact)).toHaveLength(1)
    expect(differences.find((d) => d.kind === 'progress')).toMatchObject({ activities: ['b'] })
  })
  it('measure an update as a whole, then its reports in order, and last what nobody reported', () => {
    // A20 began a day late and ends as long after; nothing is said of A30, which waits for it anyway.
    const later = edited(
      { kind: 'project', set: { statusDate: '2027-03-05T07:00' } },
      set('b', {
        progress: { actualStart: '2027-03-04T07:00', actualFinish: null, remaining: 2 * DAY, percent: 0 },
      }),
    )
    const [update, ...none] = compareRevisions(base(), later).differences
    expect(none).toEqual([])
    expect(update).toMatchObject({
      kind: 'progress',
      what: expect.stringContaining('Update to') as string,
      moves: DAY,
    })
    expect(update!.parts!.map(({ what, moves }) => [what, moves])).toEqual([
      ['A20 progress', DAY],
      ['Status date', 0],
    ])
    // Nothing reported at all: the whole of it is time that passed.
    const silent = edited({ kind: 'project', set: { statusDate: '2027-03-05T07:00' } })
    expect(compareRevisions(base(), silent).differences).toMatchObject([
      { kind: 'project', what: 'Status date', moves: 2 * DAY },
    ])
  })
  it('say of calendars what they say, fact by fact', () => {
    const week = (hours: string) =>
      Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, [hours]]))
    const yard = (fields: object): Plan =>
      base([], {
        calendars: [
          { id: 'h', name: 'Holidays' },
          { id: 'y', name: 'Yard', week: week('07:00-15:00'), ...fields },
        ],
      })
    const words = (a: Plan, b: Plan) =>
      compareRevisions(a, b).differences.map(({ what, before, after }) => [what, before, after])
    expect(words(yard({}), yard({ week: week('07:00-14:00'), dayMinutes: 420, parent: 'h' }))).toEqual([
      ['Calendar Yard: hours', 'mon–fri 7–15; sat sun off', 'mon–fri 7–14; sat sun off'],
      ['Calendar Yard: takes its days off from', 'none', 'Holidays'],
      ['Calendar Yard: a day counts as', '8 h', '7 h'],
    ])
    const keel = { name: 'Keel Day', from: '2027-05-06', to: '2027-05-06', yearly: true }
    expect(
      words(yard({ exceptions: [keel] }), yard({ rota: { from: '2027-03-01', on: 7, off: 7 } })),
    ).toEqual([
      ['Calendar Yard: rota', 'none', '7 days on, 7 off'],
      ['Calendar Yard: days of its own', 'Keel Day 6 May, every year', 'none of these'],
    ])
  })
  it('say of a change that cannot stand alone that it was not measured', () => {
    // c before a only goes once b no longer follows a.
    const turned = edited(
      { kind: 'remove', list: 'links', key: '1' },
      { kind: 'add', list: 'links', item: { id: '3', from: 'c', to: 'a', type: 'FS', lag: 0 }, before: null },
    )
    const { differences, unmeasured } = compareRevisions(base(), turned)
    expect(unmeasured).toBe(1)
    expect(differences.find((d) => d.moves === null)).toMatchObject({ kind: 'logic', what: 'A10 link added' })
  })
})
