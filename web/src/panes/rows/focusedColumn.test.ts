import { expect, it } from 'vitest'
import { applyChange, readPlan } from '@geodrome/core'
import { columnOf } from './columns.ts'
import { contextOf } from './testing/contextOf.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'day', statusDate: '2027-03-08' },
  calendars: [{ id: 'day', week: { mon: ['08:00-16:00'], tue: ['08:00-16:00'], wed: ['08:00-16:00'] } }],
  chain: { cut: 0.25 },
  activities: [
    { id: 'cut', duration: '8d' },
    { id: 'own', duration: '8d', focused: '3d' },
    {
      id: 'done',
      duration: '2d',
      progress: { actualStart: '2027-03-01T08:00', actualFinish: '2027-03-02T16:00' },
    },
    { id: 'point', kind: 'milestone', edge: 'finish' },
  ],
})
const context = contextOf(plan)
const focused = columnOf('focused')!
const said = (i: number, text: string): string => {
  const read = focused.read!(context, i, text)
  return read.ok ? read.words : read.why
}
/** What stands in the cell after something was typed. */
const after = (i: number, text: string): string => {
  const read = focused.read!(context, i, text)
  if (!read.ok || read.change === null) return 'nothing to keep'
  return focused.text(contextOf(applyChange(plan, read.change).plan), i)
}

it('shows its own focused duration, in brackets what the cut leaves, and nothing where a chain counts nothing', () =>
  expect([0, 1, 2, 3].map((i) => focused.text(context, i))).toEqual(['(6 d)', '3 d', '', '']))

it('is typed as a duration, and emptied goes back to the cut', () => {
  expect([after(0, '4d'), after(0, '12 h'), after(1, '')]).toEqual(['4 d', '1.5 d', '(6 d)'])
  expect(said(1, '')).toBe('6 d, what the cut leaves')
  expect([after(0, ''), after(1, '3d'), after(1, ' 24h ')]).toEqual(Array(3).fill('nothing to keep'))
})

it('says what it cannot be, and what leaves no reserve', () => {
  expect(said(0, '9d')).toBe('9 d, longer than its duration: it leaves no reserve')
  expect(said(0, '0')).toBe('a focused duration takes at least a minute')
  expect(said(0, '-1d')).toBe('a focused duration takes at least a minute')
  expect(said(3, '1d')).toBe('a milestone takes no time of its own')
  expect(said(0, 'soon')).toMatch(/not|write|duration/)
})
