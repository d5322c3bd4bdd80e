import { expect, it } from 'vitest'
import { readPlan } from '@geodrome/core'
import { useRows, type Row } from './useRows.ts'

const { plan } = readPlan({
  format: 'geodrome-plan', version: 1, project: { start: '2027-03-01', calendar: 'clock' },
  groups: [{ id: 'h' }, { id: 'p' }, { id: 'h1', parent: 'h' }],
  activities: [{ id: 'a', group: 'p' }, { id: 'b', group: 'h1' }, { id: 'c' }, { id: 'd', group: 'h' }],
})
const seen = (collapsed: string[] = [], keeps: ((i: number) => boolean) | null = null) => useRows(() => plan, () => new Set(collapsed), () => keeps).value
const text = (rows: readonly Row[]): string[] => rows.map((r) => '·'.repeat(r.depth) + r.id)

it('stands activities under their groups, subgroups indented, those without a group first', () => {
  const model = seen()
  expect(text(model.rows)).toEqual(['c', 'h', '·d', '·h1', '··b', 'p', '·a'])
  expect(model.position.get('b')).toBe(4)
})
it('folds a group with all that is in it, and still knows its members', () => {
  const model = seen(['h'])
  expect(text(model.rows)).toEqual(['c', 'h', 'p', '·a'])
  expect(model.rows[1]).toMatchObject({ isCollapsed: true, members: [3, 1] })
})
it('keeps the groups of what a filter shows, and counts both', () => {
  const model = seen([], (i) => i === 1)
  expect(text(model.rows)).toEqual(['h', '·h1', '··b'])
  expect([model.shown, model.total]).toEqual([1, 4])
})
