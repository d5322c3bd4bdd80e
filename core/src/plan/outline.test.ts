import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChange } from './applyChange.ts'
import { nextCode, recode } from './codes.ts'
import { groupEnds, linkGroup } from './groupLinkEnds.ts'
import { linkInSeries, newActivity, removeActivities } from './edits.ts'
import {
  dissolveGroup,
  groupAround,
  indent,
  moveRows,
  outdent,
  outlineNumbers,
  selectedRows,
  shiftRows,
  type OutlineRow,
} from './outline.ts'
import { makeHeadings, whyNoHeading } from './headings.ts'
import { readPlan } from './readPlan.ts'
import type { Plan } from './schema.ts'

const plan = (): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01' },
    groups: [
      { id: 'k', code: 'K', name: 'Kiln' },
      { id: 'b', code: 'B', name: 'Burner' },
      { id: 'bb', code: 'BB', parent: 'b' },
    ],
    activities: [
      { id: 'k1', code: 'K10', group: 'k', duration: 60 },
      { id: 'k2', code: 'K20', group: 'k', duration: 60 },
      { id: 'b1', code: 'B10', group: 'b', duration: 60 },
      { id: 'c1', code: 'C10', group: 'bb', duration: 60 },
      { id: 'z', code: 'Z10', duration: 60 },
    ],
  }).plan
const activity = (id: string): OutlineRow => ({ kind: 'activity', id })
const group = (id: string): OutlineRow => ({ kind: 'group', id })
const groupsOf = (p: Plan): Record<string, string | null> =>
  Object.fromEntries(p.activities.map((a) => [a.id, a.group]))
const seeded = (): (() => number) => {
  let n = 0
  return () => ((n += 7919) % 104729) / 104729
}

describe('codes', () => {
  it('go on by the step of their neighbours, and squeeze in between two', () => {
    expect(nextCode(new Set(['K10', 'K20']), 'K20', ['K10', 'K20'])).toBe('K30')
    expect(nextCode(new Set(['K10', 'K20']), 'K10', ['K10', 'K20'])).toBe('K15')
    expect(nextCode(new Set(['K10', 'K15', 'K20']), 'K10', ['K10', 'K15', 'K20'])).toBe('K11')
    expect(nextCode(new Set(['T001', 'T002']), 'T002', ['T001', 'T002'])).toBe('T003')
    expect(nextCode(new Set(), null, [])).toBe('A10')
  })
  it('are given anew by a rule; a code of somebody else is refused', () => {
    const next = applyChange(plan(), recode(plan(), ['b1', 'c1'], { prefix: 'N', step: 5, digits: 3 })).plan
    expect(next.activities.map((a) => a.code)).toEqual(['K10', 'K20', 'N005', 'N010', 'Z10'])
    expect(() => recode(plan(), ['b1'], { prefix: 'K', step: 10, digits: 2 })).toThrow(
      'K10 is the code of another activity',
    )
  })
})

describe('outline', () => {
  it('numbers groups and activities by their place', () => {
    expect(Object.fromEntries(outlineNumbers(plan()))).toEqual({
      k: '1',
      k1: '1.1',
      k2: '1.2',
      b: '2',
      b1: '2.1',
      bb: '2.2',
      c1: '2.2.1',
      z: '3',
    })
  })
  it('takes rows in and out of groups, a group with what is in it', () => {
    expect(groupsOf(applyChange(plan(), indent(plan(), [activity('z')])!).plan).z).toBe('b')
    expect(groupsOf(applyChange(plan(), outdent(plan(), [activity('c1')])!).plan).c1).toBe('b')
    const nested = applyChange(plan(), indent(plan(), [group('b'), activity('b1')])!).plan
    expect(nested.groups.find((g) => g.id === 'b')!.parent).toBe('k')
    expect(groupsOf(nested).b1).toBe('b')
    expect(indent(plan(), [group('k')])).toBeNull()
    expect(outdent(plan(), [activity('z')])).toBeNull()
  })
  it('moves rows before another, into its group, and refuses a group inside itself', () => {
    const moved = applyChange(plan(), moveRows(plan(), [activity('z'), activity('b1')], activity('k2'))!).plan
    expect(moved.activities.filter((a) => a.group === 'k').map((a) => a.id)).toEqual(['k1', 'z', 'b1', 'k2'])
    expect(moveRows(plan(), [group('b')], group('bb'))).toBeNull()
    const up = applyChange(plan(), shiftRows(plan(), [activity('k2')], -1)!).plan
    expect(up.activities.filter((a) => a.group === 'k').map((a) => a.id)).toEqual(['k2', 'k1'])
    expect(shiftRows(plan(), [activity('k1')], -1)).toBeNull()
  })
  it('an activity becomes a group without losing anything; the group dissolves again', () => {
    const { change, group: id } = groupAround(plan(), [activity('k2')], 'Lining', seeded())
    const grouped = applyChange(plan(), change).plan
    expect(grouped.groups.find((g) => g.id === id)).toMatchObject({ name: 'Lining', parent: 'k' })
    expect(grouped.activities.find((a) => a.id === 'k2')).toEqual({ ...plan().activities[1], group: id })
    expect(groupsOf(applyChange(grouped, dissolveGroup(grouped, id)).plan)).toEqual(groupsOf(plan()))
  })
  it('several whole groups are grouped as they are, where the first of them stood', () => {
    const all = plan().activities.map((a) => a.id)
    expect(selectedRows(plan(), all)).toEqual([
      ...plan()
        .groups.filter((g) => g.parent === null)
        .map((g) => group(g.id)),
      ...plan()
        .activities.filter((a) => a.group === null)
        .map((a) => activity(a.id)),
    ])
    // All of one group may be meant as its work; a part of a second does not make that one whole.
    expect(selectedRows(plan(), ['k1', 'k2'])).toEqual([activity('k1'), activity('k2')])
    expect(selectedRows(plan(), ['k1', 'k2', 'b1'])).toEqual(['k1', 'k2', 'b1'].map(activity))
    const { change, group: id } = groupAround(
      plan(),
      selectedRows(plan(), ['k1', 'k2', 'b1', 'c1']),
      'Both',
      seeded(),
    )
    const grouped = applyChange(plan(), change).plan
    expect(grouped.groups.map((g) => [g.id, g.parent])).toEqual([
      [id, null],
      ['k', id],
      ['b', id],
      ['bb', 'b'],
    ])
    expect(groupsOf(grouped)).toEqual(groupsOf(plan()))
  })
  it('one step up or down changes places with what stands beside it, be it work or a group', () => {
    // An outline of two levels, its work in the order in which it is seen: w is work beside groups, a number a group of so much work.
    const outline = fc.array(fc.oneof(fc.constant('w' as const), fc.integer({ min: 1, max: 3 })), {
      minLength: 2,
    })
    fc.assert(
      fc.property(outline, fc.nat(), fc.constantFrom(-1 as const, 1 as const), (tops, pick, by) => {
        const groups = tops.flatMap((top, k) => (top === 'w' ? [] : [{ id: `r${k}` }]))
        const activities = tops.flatMap((top, k): object[] =>
          top === 'w'
            ? [{ id: `r${k}`, group: null, duration: 1 }]
            : Array.from({ length: top }, (_, n) => ({ id: `r${k}-${n}`, group: `r${k}`, duration: 1 })),
        )
        const flat = readPlan({
          format: 'geodrome-plan',
          version: 1,
          project: { start: '2027-03-01' },
          groups,
          activities,
        }).plan
        const order = (p: Plan): string[] =>
          [...outlineNumbers(p)].filter(([, n]) => !n.includes('.')).map(([id]) => id)
        const before = order(flat)
        expect(before).toEqual(tops.map((_, k) => `r${k}`))
        const at = pick % tops.length
        const change = shiftRows(flat, [{ kind: tops[at] === 'w' ? 'activity' : 'group', id: `r${at}` }], by)
        const wanted = [...before]
        if (wanted[at + by] !== undefined) [wanted[at], wanted[at + by]] = [wanted[at + by]!, wanted[at]!]
        expect(change === null ? before : order(applyChange(flat, change).plan)).toEqual(wanted)
      }),
    )
  })
  it('taken into the group before it, work becomes its last; a group around rows stands where they stood', () => {
    const two = applyChange(
      plan(),
      newActivity(plan(), { after: 'z', group: null }, { name: 'Last' }, seeded()),
    ).plan
    const last = two.activities.at(-1)!.id
    const into = applyChange(two, indent(two, [activity(last)])!).plan
    expect(into.activities.filter((a) => a.group === 'b').map((a) => a.id)).toEqual(['b1', last])
    const { change, group: id } = groupAround(plan(), [activity('z')], 'Papers', seeded())
    expect(outlineNumbers(applyChange(plan(), change).plan).get(id)).toBe('3')
  })
  it('work put into an empty group leaves it where it stands', () => {
    const empty = applyChange(plan(), {
      kind: 'add',
      list: 'groups',
      item: { id: 'e', name: 'Papers' },
      before: 'b',
    }).plan
    expect(outlineNumbers(empty).get('e')).toBe('2')
    const filled = applyChange(empty, newActivity(empty, { after: null, group: 'e' }, {}, seeded())).plan
    expect([...outlineNumbers(filled)].filter(([, n]) => !n.includes('.')).map(([item]) => item)).toEqual([
      'k',
      'e',
      'b',
      'z',
    ])
  })
  it('headings of a flat list take what follows them, each up to the next; one with links is none', () => {
    const flat = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01' },
      activities: ['Note', 'Papers, 1', 'Sort', 'File', 'Hull', 'Blast'].map((name, k) => ({
        id: `a${k}`,
        code: `${k}`,
        name,
        duration: 60,
      })),
      links: [{ id: 'l', from: 'a2', to: 'a3' }],
    }).plan
    expect([whyNoHeading(flat, 'a1'), whyNoHeading(flat, 'a2')]).toEqual([
      '',
      expect.stringMatching(/^2 has links/),
    ])
    const { change, groups, work } = makeHeadings(flat, ['a4', 'a1'], seeded())
    expect([groups.length, work]).toEqual([2, 3])
    const { plan: grouped, inverse } = applyChange(flat, change)
    expect(grouped.groups.map(({ code, name }) => [code, name])).toEqual([
      ['1', 'Papers, 1'],
      ['4', 'Hull'],
    ])
    expect(
      [...outlineNumbers(grouped)].map(([id, n]) => [n, grouped.activities.find((a) => a.id === id)?.name]),
    ).toEqual([
      ['1', 'Note'],
      ['2', undefined],
      ['2.1', 'Sort'],
      ['2.2', 'File'],
      ['3', undefined],
      ['3.1', 'Blast'],
    ])
    expect(applyChange(grouped, inverse).plan).toEqual(flat)
  })
  it('any run of moves keeps every activity and is undone byte for byte', () => {
    const rows = [...plan().activities.map((a) => activity(a.id)), ...plan().groups.map((g) => group(g.id))]
    const step = fc.record({
      what: fc.constantFrom('in', 'out', 'up', 'down', 'move'),
      picks: fc.subarray(rows, { minLength: 1 }),
      to: fc.constantFrom(...rows),
    })
    fc.assert(
      fc.property(fc.array(step, { maxLength: 8 }), (steps) => {
        let at = plan()
        const inverses = []
        for (const { what, picks, to } of steps) {
          const change = {
            in: () => indent(at, picks),
            out: () => outdent(at, picks),
            up: () => shiftRows(at, picks, -1),
            down: () => shiftRows(at, picks, 1),
            move: () => moveRows(at, picks, to),
          }[what]()
          if (!change) continue
          const applied = applyChange(at, change)
          inverses.push(applied.inverse)
          at = applied.plan
        }
        expect(at.activities.map((a) => a.id).sort()).toEqual(
          plan()
            .activities.map((a) => a.id)
            .sort(),
        )
        for (const inverse of inverses.reverse()) at = applyChange(at, inverse).plan
        expect(JSON.stringify(at)).toBe(JSON.stringify(plan()))
      }),
    )
  })
})

describe('edits of many', () => {
  it('a new activity stands after its neighbour with the next code', () => {
    const next = applyChange(
      plan(),
      newActivity(plan(), { after: 'k1', group: null }, { name: 'Cut shell' }, seeded()),
    ).plan
    expect(next.activities[1]).toMatchObject({ code: 'K15', name: 'Cut shell', group: 'k', confirmed: false })
    const first = applyChange(
      plan(),
      newActivity({ ...plan(), activities: [] }, { after: null, group: 'b' }, {}, seeded()),
    ).plan
    expect(first.activities.at(-1)!.code).toBe('B10')
  })
  it('links in series once, and removes many with all that refers to them', () => {
    const linked = applyChange(plan(), linkInSeries(plan(), ['k1', 'k2', 'b1'], 'FS', 0, seeded())).plan
    expect(linked.links.map((l) => [l.from, l.to])).toEqual([
      ['k1', 'k2'],
      ['k2', 'b1'],
    ])
    expect(linkInSeries(linked, ['k1', 'k2'], 'FS', 0, seeded())).toEqual({ kind: 'all', changes: [] })
    const rest = applyChange(linked, removeActivities(linked, ['k1', 'k2'])).plan
    expect([rest.links.length, rest.activities.length]).toEqual([0, 3])
  })
  it('a link on a group is tied at its open ends, once', () => {
    const linked = applyChange(plan(), linkInSeries(plan(), ['b1', 'c1'], 'FS', 0, seeded())).plan
    expect([
      groupEnds(linked, 'b', 'from'),
      groupEnds(linked, 'b', 'to'),
      groupEnds(linked, 'k', 'from'),
    ]).toEqual([['c1'], ['b1'], ['k1', 'k2']])
    const tied = applyChange(
      linked,
      linkGroup(
        linked,
        { from: groupEnds(linked, 'k', 'from'), to: groupEnds(linked, 'b', 'to') },
        'FS',
        0,
        seeded(),
      ),
    ).plan
    expect(tied.links.slice(1).map((l) => [l.from, l.to])).toEqual([
      ['k1', 'b1'],
      ['k2', 'b1'],
    ])
    expect(linkGroup(tied, { from: ['k1'], to: ['b1'] }, 'FS', 0, seeded())).toEqual({
      kind: 'all',
      changes: [],
    })
  })
})
