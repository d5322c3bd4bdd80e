import { expect, it } from 'vitest'
import { readPlan } from '../plan/readPlan.ts'
import { arrangeRows, type Row, type RowArrangement } from './rows.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  groups: [{ id: 'h' }, { id: 'p' }, { id: 'h1', parent: 'h' }],
  activities: [
    { id: 'a', group: 'p', owner: 'Mason', duration: 30 },
    { id: 'b', group: 'h1', duration: 20 },
    { id: 'c', duration: 10 },
    { id: 'd', group: 'h', owner: 'Fitter', duration: 5 },
    { id: 'e', group: 'h', owner: 'Mason', duration: 40 },
  ],
})
const seen = (given: Partial<RowArrangement> = {}) =>
  arrangeRows(plan, {
    collapsed: new Set(),
    keeps: null,
    compare: null,
    across: false,
    heading: null,
    ...given,
  })
const text = (rows: readonly Row[]): string[] => rows.map((r) => '·'.repeat(r.depth) + r.id)
const longestFirst = (a: number, b: number): number =>
  plan.activities[b]!.duration - plan.activities[a]!.duration

it('stands activities under their groups, subgroups indented, work beside groups where it stands in the plan', () => {
  const model = seen()
  expect(text(model.rows)).toEqual(['h', '·h1', '··b', '·d', '·e', 'p', '·a', 'c'])
  expect(model.position.get('b')).toBe(2)
})
it('work before the first of a group stands before it, an empty group before the one that follows, or last', () => {
  const { plan: flat } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'clock' },
    groups: [{ id: 'empty' }, { id: 'g' }, { id: 'later' }],
    activities: ['x', 'y', 'in', 'z'].map((id) => ({ id, group: id === 'in' ? 'g' : null, duration: 1 })),
  })
  const all = { collapsed: new Set<string>(), keeps: null, compare: null, across: false, heading: null }
  expect(text(arrangeRows(flat, all).rows)).toEqual(['x', 'y', 'empty', 'g', '·in', 'z', 'later'])
  expect(text(arrangeRows(flat, { ...all, keeps: (i) => i !== 1 }).rows)).toEqual(['x', 'g', '·in', 'z'])
})
it('folds a group with all that is in it, and still knows its members', () => {
  const model = seen({ collapsed: new Set(['h']) })
  expect(text(model.rows)).toEqual(['h', 'p', '·a', 'c'])
  expect(model.rows[0]).toMatchObject({ isCollapsed: true, members: [1, 3, 4] })
})
it('keeps the groups of what a filter shows, and counts both', () => {
  const model = seen({ keeps: (i) => i === 1 })
  expect(text(model.rows)).toEqual(['h', '·h1', '··b'])
  expect([model.shown, model.total]).toEqual([1, 5])
  // What a group spans is what is in it, whatever is shown of it.
  expect(model.rows[0]).toMatchObject({ id: 'h', members: [1, 3, 4] })
})
it('sorts inside the groups, which stay; across them only when asked', () => {
  expect(text(seen({ compare: longestFirst }).rows)).toEqual(['c', 'h', '·e', '·d', '·h1', '··b', 'p', '·a'])
  expect(text(seen({ compare: longestFirst, across: true }).rows)).toEqual(['e', 'a', 'b', 'c', 'd'])
})
it('groups by any value, those without it last', () => {
  const model = seen({ heading: (i) => plan.activities[i]!.owner ?? '', compare: longestFirst })
  expect(text(model.rows)).toEqual([
    'heading:Fitter',
    '·d',
    'heading:Mason',
    '·e',
    '·a',
    'heading:',
    '·b',
    '·c',
  ])
})
