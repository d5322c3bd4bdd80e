import { describe, expect, it } from 'vitest'
import { NONE, readPlan } from '@geodrome/core'
import type { CellContext } from './cellContext.ts'
import { columnOf } from './columns.ts'
import { tightestOf } from './floatDays.ts'
import { groupSpan } from './groupSpan.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'day' },
  calendars: [
    { id: 'day', week: { mon: ['08:00-16:00'] }, dayMinutes: 480, weekMinutes: 480 },
    { id: 'tide', week: { mon: ['08:00-10:00'] }, dayMinutes: 120, weekMinutes: 120 },
  ],
  activities: ['day', 'tide', 'clock', 'day'].map((calendar, k) => ({ id: `a${k}`, calendar, duration: 60 })),
})
/** Seven days of the day shift, eight tides, two round the clock, none at all. */
const context = {
  plan,
  view: {
    totalFloat: Int32Array.of(-7 * 480, -8 * 120, -2 * 1440, NONE),
    start: Int32Array.of(0, 0, 0, 0),
    finish: Int32Array.of(60, 60, 60, 60),
  },
  calendars: {
    lengthsOf: ({ calendar }: { calendar: string | null }) =>
      plan.calendars.find(({ id }) => id === calendar) ?? { dayMinutes: 1440, weekMinutes: 10_080 },
  },
} as unknown as CellContext

describe('floats of different calendars', () => {
  it('are compared in days of their own: eight missed tides are tighter than seven days', () => {
    expect(tightestOf(context, [0, 1, 2, 3])).toBe(1)
    expect(tightestOf(context, [3])).toBe(-1)
    expect(tightestOf(context, [])).toBe(-1)
    expect(groupSpan(context, [0, 1, 2, 3], 'float')).toBe('−8 d')
    expect(groupSpan(context, [3], 'float')).toBe('')
  })
  it('sort as they are shown, those without float last', () => {
    const by = columnOf('float')!.sortBy!
    const order = [0, 1, 2, 3].sort((a, b) => Number(by(context, a)) - Number(by(context, b)))
    expect(order).toEqual([1, 0, 2, 3])
  })
})
