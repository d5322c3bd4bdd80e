import { describe, expect, it } from 'vitest'
import { readPlan } from '@geodrome/core'
import { columnOf } from './columns.ts'
import { contextOf } from './testing/contextOf.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-04-01', calendar: 'clock' },
  activities: [
    { id: 'work', duration: '5d' },
    { id: 'done', kind: 'milestone', edge: 'finish' },
    { id: 'go', kind: 'milestone', edge: 'start' },
  ],
  links: [
    { from: 'work', to: 'done' },
    { from: 'work', to: 'go' },
  ],
})
const context = contextOf(plan)
const cells = (i: number): string[] => ['start', 'finish'].map((id) => columnOf(id)!.text(context, i))
const drafts = (i: number): string[] => ['start', 'finish'].map((id) => columnOf(id)!.draft!(context, i))

describe('the dates of a row', () => {
  it('work round the clock ends with the day and what follows begins with the next', () =>
    expect(cells(0)).toEqual(['1 Apr', '5 Apr']))
  it('a milestone at midnight has one date, that of the edge which it marks', () => {
    expect(cells(1)).toEqual(['5 Apr', '5 Apr'])
    expect(cells(2)).toEqual(['6 Apr', '6 Apr'])
    expect(drafts(1)).toEqual(['5 Apr 24:00', '5 Apr 24:00'])
    expect(drafts(2)).toEqual(['6 Apr 00:00', '6 Apr 00:00'])
  })
})

describe('what is typed into a row', () => {
  const read = (i: number, column: string, text: string) => {
    const understood = columnOf(column)!.read!(context, i, text)
    return understood.ok ? understood.words : understood.why
  }
  const changeOf = (i: number, column: string, text: string) => {
    const understood = columnOf(column)!.read!(context, i, text)
    return understood.ok ? understood.change : null
  }
  it('a date that logic holds later anyway says so; a later one does not', () => {
    expect(read(2, 'start', '3 apr')).toBe(
      'start not before Sat 3 Apr 00:00; its links hold it until Tue 6 Apr 00:00',
    )
    expect(read(2, 'start', '9 apr')).toBe('start not before Fri 9 Apr 00:00')
  })
  it('a bare 0 is a milestone, 0 h is work that takes no time, less is nothing', () => {
    expect(changeOf(0, 'duration', '0')).toMatchObject({
      set: { kind: 'milestone', edge: 'start', duration: 0 },
    })
    expect(changeOf(0, 'duration', ' 000 ')).toMatchObject({ set: { kind: 'milestone' } })
    expect(changeOf(0, 'duration', '0h')).toMatchObject({ set: { duration: 0 } })
    expect(changeOf(0, 'duration', '0h')).not.toMatchObject({ set: { kind: 'milestone' } })
    expect(read(0, 'duration', '-1d')).toContain('negative')
  })
})
