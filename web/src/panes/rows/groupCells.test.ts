import { describe, expect, it } from 'vitest'
import { applyChange, arrangeRows, formatInstant, readPlan, schedule, type Change } from '@geodrome/core'
import { columnOf } from './columns.ts'
import { copiedRows } from './copiedRows.ts'
import { contextOf } from './testing/contextOf.ts'
import { groupDraft, readGroupCell, type GroupRow } from './groupCells.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01' },
  groups: [{ id: 'hull', code: 'H', name: 'Hull' }],
  activities: [
    { id: 'cut', code: 'H1', name: 'Cut, in one go', duration: '2d', group: 'hull' },
    { id: 'weld', code: 'H2', name: 'Weld', duration: '3d', group: 'hull' },
    { id: 'paint', code: 'P1', name: 'Paint', duration: '1d' },
  ],
  links: [
    { from: 'cut', to: 'weld' },
    { from: 'weld', to: 'paint' },
  ],
})
const context = contextOf(plan)
const model = arrangeRows(plan, {
  collapsed: new Set(),
  keeps: null,
  compare: null,
  across: false,
  heading: null,
})
const hull = model.rows.find((row): row is GroupRow => row.kind === 'group')!

describe('a cell of a group', () => {
  it('takes a name, a code and a start, and nothing that is found from its work', () => {
    expect(groupDraft(context, hull, 'name')).toBe('Hull')
    expect(groupDraft(context, hull, 'start')).toBe('1 Mar')
    expect(groupDraft(context, hull, 'finish')).toBeNull()
    expect(groupDraft(context, { ...hull, isOutline: false }, 'name')).toBeNull()
  })
  it('keeps a name that differs, blanks around it left out', () => {
    expect(readGroupCell(context, hull, 'name', '  Hull, aft ')).toEqual({
      ok: true,
      words: 'Hull, aft',
      change: { kind: 'set', list: 'groups', key: 'hull', set: { name: 'Hull, aft' } },
    })
    expect(readGroupCell(context, hull, 'name', ' Hull ')).toMatchObject({ ok: true, change: null })
  })
  it('holds its open starts, and says which', () => {
    const read = readGroupCell(context, hull, 'start', '8 Mar')
    expect(read).toMatchObject({
      ok: true,
      words: 'constraints on its open starts, H1: not before Mon 8 Mar',
    })
    const after = schedule(applyChange(plan, (read as { change: Change }).change).plan)
    expect(formatInstant(after.start[0]!)).toBe('2027-03-08T00:00')
  })
  it('asks which way where its work could also keep its distances', () => {
    const later = [{ edge: 'start', rule: 'not-before', date: '2027-03-04', overrides: false }] as const
    const { plan: other } = applyChange(plan, {
      kind: 'set',
      list: 'activities',
      key: 'paint',
      set: { group: 'hull', constraints: [...later] },
    })
    const loose = { ...other, links: other.links.filter(({ to }) => to !== 'paint') }
    const row = { ...hull, members: [0, 1, 2] }
    expect(readGroupCell(contextOf(loose), row, 'start', '8 Mar')).toMatchObject({
      ok: true,
      words: expect.stringContaining('or a shift: Enter to choose') as string,
      change: null,
    })
  })
  it('says what is wrong with what is no date', () => {
    expect(readGroupCell(context, hull, 'start', 'soon')).toMatchObject({ ok: false })
  })
  it('refuses a start where nothing in it can be held', () => {
    const { plan: begun } = applyChange(
      { ...plan, project: { ...plan.project, statusDate: '2027-03-20' } },
      {
        kind: 'all',
        changes: ['cut', 'weld'].map((key) => ({
          kind: 'set' as const,
          list: 'activities' as const,
          key,
          set: {
            progress: {
              ...plan.activities[0]!.progress,
              actualStart: '2027-03-01T08:00',
              actualFinish: '2027-03-05T17:00',
            },
          },
        })),
      },
    )
    expect(readGroupCell({ ...context, plan: begun }, hull, 'start', '8 Mar')).toEqual({
      ok: false,
      why: 'nothing in it can be held: its work has begun, or waits for other work',
    })
  })
})

it('copied rows stand in the order of the list under their titles, whatever they were selected in', () => {
  const columns = ['code', 'name', 'start'].map((id) => columnOf(id)!)
  expect(copiedRows(context, columns, model, ['paint', 'gone', 'cut'])).toBe(
    ['Code\tActivity\tStart', 'H1\tCut, in one go\t1 Mar', 'P1\tPaint\t6 Mar'].join('\n'),
  )
})
