import { expect, it } from 'vitest'
import { instantOf, PlanCalendars, readPlan } from '@geodrome/core'
import { pullFinish, pullStart } from './dragBar.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'day' },
  calendars: [
    {
      id: 'day',
      dayMinutes: 480,
      week: {
        mon: ['08:00-16:00'],
        tue: ['08:00-16:00'],
        wed: ['08:00-16:00'],
        thu: ['08:00-16:00'],
        fri: ['08:00-16:00'],
      },
    },
  ],
  activities: [
    {
      id: 'a',
      duration: '2d',
      constraints: [
        { edge: 'start', rule: 'not-before', date: '2027-03-03' },
        { edge: 'finish', rule: 'not-after', date: '2027-03-20' },
      ],
    },
  ],
})
const [a] = plan.activities
const calendar = new PlanCalendars(plan.calendars, 0).get('day')
const at = (text: string): number => instantOf(text, 'start')
const scheduled = { start: at('2027-03-03T08:00'), finish: at('2027-03-04T16:00') }
const limits = (change: unknown): unknown =>
  (change as { set: { constraints: { date: string }[] } }).set.constraints.map((c) => c.date)

it('a bar moved to a Saturday says not before Monday morning, and keeps its other limits', () => {
  const pull = pullStart(a!, calendar, at('2027-03-06T05:00'), 12, scheduled)
  expect(pull.words).toBe('start not before Mon 8 Mar 08:00')
  expect(limits(pull.change)).toEqual(['2027-03-20', '2027-03-08T08:00'])
  expect(pull.finish).toBe(at('2027-03-09T16:00'))
})
it('moved back, its limit goes; without one its links hold it', () => {
  expect(limits(pullStart(a!, calendar, at('2027-03-01'), 12, scheduled).change)).toEqual(['2027-03-20'])
  expect(pullStart({ ...a!, constraints: [] }, calendar, at('2027-03-01'), 12, scheduled)).toMatchObject({
    change: null,
    words: 'its links hold it; it cannot come earlier',
  })
})
it('the end of a bar pulled over a weekend counts working days only', () => {
  const pull = pullFinish(
    a!,
    calendar,
    { dayMinutes: 480, weekMinutes: 2400 },
    at('2027-03-08T15:00'),
    12,
    scheduled.start,
  )
  expect(pull.words).toBe('2 d → 4 d')
  expect(pull.change).toMatchObject({ set: { duration: 1920 } })
})
