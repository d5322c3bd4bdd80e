import { describe, expect, it } from 'vitest'
import { readSentChange } from '../wire/changes.ts'
import {
  applyChange,
  parseJson,
  PlanError,
  readPlan,
  sharedFacts,
  writePlan,
  type Change,
  type Item,
  type Plan,
} from './index.ts'

/** What anybody may send: files and changes with what no program of ours would write. */

const file = (more: object = {}): object => ({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  activities: [
    { id: 'a', code: 'A10', duration: 60 },
    { id: 'b', code: 'A20', duration: 60 },
  ],
  ...more,
})
const refusals = (work: () => unknown): string[] => {
  try {
    work()
  } catch (error) {
    if (error instanceof PlanError) return error.issues.map(({ pointer, message }) => `${pointer} ${message}`)
    throw error
  }
  return []
}
const chain = (n: number): object[] =>
  Array.from({ length: n }, (_, k) => ({ id: `n${k}`, parent: k === 0 ? null : `n${k - 1}` }))

describe('a file', () => {
  it.each<[what: string, json: unknown, says: string]>([
    ['without anything', {}, '/project "project" is missing; give an object { … }'],
    ['that is a list', [], ' this file must be an object { … }, not a list [ … ]'],
    ['that is null', null, ' this file must be an object { … }, not null'],
    [
      'without project',
      { format: 'geodrome-plan', version: 1 },
      '/project "project" is missing; give an object { … }',
    ],
    ['without a start', file({ project: {} }), '/project/start "start" is missing; give a text'],
    [
      'of another version',
      { ...file(), version: 2 },
      '/version 2 is not accepted: this program reads version 1 of the plan file',
    ],
    [
      'with a number for an id',
      file({ activities: [{ id: 5 }] }),
      '/activities/0/id "id" must be a text, not 5',
    ],
    ['with a hole', file({ activities: [null] }), '/activities/0 item 1 must be an object { … }, not null'],
    [
      'with an object for a list',
      file({ links: {} }),
      '/links "links" must be a list [ … ], not an object { … }',
    ],
    [
      'with a kind of its own',
      file({ activities: [{ id: 'a', kind: 'job' }] }),
      '/activities/0/kind "job" is not one of "work", "milestone", "hammock"',
    ],
    [
      'with text for a number',
      file({ project: { start: '2027-03-01', criticalFloat: '2' } }),
      '/project/criticalFloat "criticalFloat" must be a number, not "2"',
    ],
    [
      'with an overlong name',
      file({ activities: [{ id: 'a', name: 'x'.repeat(20_001) }] }),
      '/activities/0/name "name" is more than 20000 letters',
    ],
    [
      'with half a letter for an id',
      file({ activities: [{ id: '\ud800' }] }),
      '/activities/0/id "\\ud800" is not accepted: holds half a letter (a lone surrogate); choose another id',
    ],
    [
      'with an overlong acceptance',
      file({ acceptances: [{ check: 'c'.repeat(300), fingerprint: 'f'.repeat(300) }] }),
      '/acceptances/0 what names this acceptance is longer than 500 letters; shorten it',
    ],
  ])('%s says what is missing in the file’s own terms', (_, json, says) => {
    expect(refusals(() => readPlan(json))).toContain(says)
  })

  it('nested deeper than anybody nests is refused without a long look', () => {
    expect(refusals(() => readPlan(file({ groups: chain(20_000) })))).toEqual([
      '/groups/201/parent group "n201" is nested 201 levels deep; at most 200 are possible',
    ])
    expect(refusals(() => readPlan(file({ calendars: chain(5000) })))[0]).toMatch(/calendar "n201" is nested/)
    expect(refusals(() => readPlan(file({ groups: chain(201) })))).toEqual([])
    // Upside down it is as deep.
    expect(refusals(() => readPlan(file({ groups: chain(20_000).reverse() })))).toHaveLength(1)
  })

  it('with a loop of parents names it once, however much hangs below it', () => {
    const groups = [
      { id: 'x', parent: 'y' },
      { id: 'y', parent: 'x' },
      ...Array.from({ length: 500 }, (_, k) => ({ id: `g${k}`, parent: k === 0 ? 'x' : `g${k - 1}` })),
    ]
    expect(
      refusals(() => readPlan(file({ groups }))).filter((text) => text.includes('own ancestor')),
    ).toEqual(['/groups/0/parent group "x" is its own ancestor (x → y → x); give it another parent'])
  })

  it('with a link between two large groups is refused; between small ones it becomes their links', () => {
    const groups = (n: number): object =>
      file({
        groups: [{ id: 'g' }, { id: 'h', parent: 'g' }, { id: 'k' }],
        activities: Array.from({ length: 2 * n }, (_, i) => ({
          id: `a${i}`,
          group: i < n ? (i % 2 ? 'g' : 'h') : 'k',
        })),
        links: [{ from: 'g', to: 'k' }],
      })
    expect(refusals(() => readPlan(groups(4000)))).toEqual([
      '/links/0 a link from "g" to "k" means 16,000,000 links between their activities; link their open ends through a milestone instead',
    ])
    const { plan } = readPlan(groups(2))
    expect(plan.links.map(({ from, to }) => from + to)).toEqual(['a0a2', 'a0a3', 'a1a2', 'a1a3'])
  })

  it('with more items than any plan has is refused before they are looked at', () => {
    const many = (n: number): object[] => Array.from({ length: n }, () => ({}))
    expect(refusals(() => readPlan(file({ risks: many(3_000_000) })))).toEqual([
      '/risks more than 20000 risks; leave some out',
    ])
    const calendars = Array.from({ length: 20 }, (_, k) => ({ id: `c${k}`, exceptions: many(11_000) }))
    expect(refusals(() => readPlan(file({ calendars })))[0]).toMatch(
      /^\/calendars more than 200000 named days/,
    )
    // Of very many faults the first are told.
    expect(refusals(() => readPlan(file({ activities: many(5000) })))).toHaveLength(500)
  })
})

describe('a change', () => {
  const plan = readPlan(file({ links: [{ id: 'l', from: 'a', to: 'b' }] })).plan
  const set = (fields: Item): Change => ({ kind: 'set', list: 'activities', key: 'a', set: fields })
  const add = (list: 'activities' | 'links' | 'acceptances', item: Item): Change => ({
    kind: 'add',
    list,
    item,
    before: null,
  })

  it.each<[what: string, change: Change, says: RegExp]>([
    ['that takes a duration out', set({ duration: '\u0000absent' }), /"duration" cannot be left out/],
    ['that takes a code out', set({ code: '\u0000absent' }), /"code" cannot be left out/],
    [
      'that takes the project’s calendar out',
      { kind: 'project', set: { calendar: '\u0000absent' } },
      /"calendar" cannot be left out/,
    ],
    ['with a link without an id', add('links', { from: 'b', to: 'a' }), /"id" cannot be left out/],
    [
      'with a milestone that takes time',
      set({ kind: 'milestone' }),
      /is a milestone, which takes no duration/,
    ],
    [
      'with a key that there is no room for',
      add('acceptances', { check: 'c'.repeat(300), fingerprint: 'f'.repeat(300) }),
      /longer than 500 letters/,
    ],
  ])('%s is refused', (_, change, says) => expect(() => applyChange(plan, change)).toThrow(says))

  it('adds an item with what files may leave out filled in', () => {
    const added = (item: Item): Item =>
      applyChange(plan, add('activities', item)).plan.activities.at(-1) as Item
    expect(added({ id: 'n' })).toMatchObject({ code: 'n', duration: 0, confirmed: false })
    expect(added({ id: 'n', duration: 30 })).toMatchObject({ confirmed: true })
    expect(added({ id: 'n', kind: 'milestone' })).toMatchObject({ edge: 'start', confirmed: true })
    const linked = applyChange(plan, add('links', { id: 'm', from: 'a', to: 'b', type: 'SS' })).plan
    expect(linked.links.at(-1)).toMatchObject({ lag: 0, type: 'SS' })
  })

  const sent = (change: unknown): object => ({ uid: '12345678', client: 'c', author: 'Ana', base: 1, change })
  const nested = (depth: number): unknown => JSON.parse(`${'['.repeat(depth)}${']'.repeat(depth)}`)
  it('with names or depth that no file may have is refused as it comes in', () => {
    expect(refusals(() => readSentChange(sent(set({ tags: parseJson('{"constructor":1}') }))))[0]).toMatch(
      /the name "constructor" is not allowed/,
    )
    expect(
      refusals(() =>
        readSentChange(
          sent(parseJson('{"kind":"set","list":"activities","key":"a","set":{"__proto__":{}}}')),
        ),
      )[0],
    ).toMatch(/"__proto__" is not allowed/)
    expect(refusals(() => readSentChange(sent(set({ tags: { deep: nested(4000) } }))))[0]).toMatch(
      /nested deeper than 55 levels/,
    )
    let all: Change = set({ name: 'x' })
    for (let k = 0; k < 1000; k++) all = { kind: 'all', changes: [all] }
    expect(refusals(() => readSentChange(sent(all)))[0]).toMatch(/nested deeper than 55 levels/)
  })
  it('as deep as may be sent can be exported and read again', () => {
    const deepest = Array.from({ length: 60 }, (_, k) => k).findLast(
      (k) => refusals(() => readSentChange(sent(set({ tags: { deep: nested(k) } })))).length === 0,
    )!
    expect(deepest).toBeGreaterThan(40)
    const { change } = readSentChange(sent(set({ tags: { deep: nested(deepest) } })))
    const left: Plan = applyChange(plan, change!).plan
    expect(readPlan(parseJson(writePlan(left))).plan).toEqual(left)
    const inScenario = readSentChange(
      sent({
        kind: 'add',
        list: 'scenarioChanges',
        item: { id: '1', scenario: 's', change: set({ tags: nested(deepest - 4) }) },
        before: null,
      }),
    )
    const withScenario = readPlan(file({ scenarios: [{ id: 's' }] })).plan
    const kept = applyChange(withScenario, inScenario.change!).plan
    expect(readPlan(parseJson(writePlan(kept))).plan).toEqual(kept)
  })

  it('shares a fact with another that writes it, a part of it, or what it is a part of', () => {
    const remove: Change = { kind: 'remove', list: 'activities', key: 'a' }
    expect(sharedFacts(set({ duration: 1, name: 'x' }), set({ duration: 2 }))).toEqual([
      'activities/a/duration',
    ])
    expect(sharedFacts(set({ name: 'x' }), remove)).toEqual(['activities/a/name'])
    expect(sharedFacts(remove, set({ name: 'x' }))).toEqual(['activities/a'])
    expect(sharedFacts(set({ name: 'x' }), { kind: 'remove', list: 'activities', key: 'ab' })).toEqual([])
  })
})
