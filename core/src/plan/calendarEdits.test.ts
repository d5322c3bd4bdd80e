import { expect, it } from 'vitest'
import { schedule } from '../schedule/index.ts'
import { formatInstant, instantOf, PlanCalendars } from '../time/index.ts'
import { hoursDifferences } from '../words/index.ts'
import { applyChange } from './applyChange.ts'
import { calendarLibrary } from './calendarLibrary.ts'
import { copyOfCalendar, originNow, originOf, takeOrigin } from './calendarCopies.ts'
import {
  CALENDAR_TEMPLATES,
  removeCalendar,
  setCalendar,
  setProjectCalendar,
  usesOfCalendar,
} from './calendarEdits.ts'
import type { Change } from './change.ts'
import { keepingDays } from './edits.ts'
import { readPlan } from './readPlan.ts'

const plan = () =>
  readPlan({
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
      { id: 'spare', week: {} },
      { id: 'other', parent: 'spare', week: { mon: ['08:00-12:00'] } },
    ],
    activities: [
      { id: 'a', duration: '5d', estimate: { low: '4d', likely: '5d', high: '8d' } },
      { id: 'b', duration: '2d', calendar: 'clock' },
    ],
    links: [{ from: 'a', to: 'b', lag: '1d' }],
  }).plan
const longer = {
  dayMinutes: 600,
  week: {
    mon: ['07:00-17:00'],
    tue: ['07:00-17:00'],
    wed: ['07:00-17:00'],
    thu: ['07:00-17:00'],
    fri: ['07:00-17:00'],
  },
}
const finishOfA = (stays: 'days' | 'minutes'): string =>
  formatInstant(schedule(applyChange(plan(), setCalendar(plan(), 'day', longer, stays)).plan).finish[0]!)

it('longer days: where days stay the work grows with them, where minutes stay it is done sooner', () => {
  expect(finishOfA('days')).toBe('2027-03-05T17:00')
  expect(finishOfA('minutes')).toBe('2027-03-04T17:00')
  const scaled = applyChange(plan(), setCalendar(plan(), 'day', longer, 'days')).plan
  expect(scaled.activities[0]).toMatchObject({
    duration: 3000,
    estimate: { low: 2400, likely: 3000, high: 4800 },
  })
  expect(scaled.links[0]!.lag).toBe(600)
  expect(scaled.activities[1]!.duration).toBe(2880)
})
it('another calendar for the project: days or work stay for all that counts on it, and for nothing else', () => {
  const two = applyChange(plan(), {
    kind: 'add',
    list: 'calendars',
    before: null,
    item: { id: 'long', ...longer },
  }).plan
  const after = (stays: 'days' | 'minutes') => applyChange(two, setProjectCalendar(two, 'long', stays)).plan
  const finish = (stays: 'days' | 'minutes'): string => formatInstant(schedule(after(stays)).finish[0]!)
  expect([finish('days'), finish('minutes')]).toEqual(['2027-03-05T17:00', '2027-03-04T17:00'])
  // The lag counts on the calendar of the activity before, which is the project's; the other activity has its own.
  expect([
    after('days').links[0]!.lag,
    after('minutes').links[0]!.lag,
    after('days').activities[1]!.duration,
  ]).toEqual([600, 480, 2880])
})
it('one that is used cannot be removed, and says by whom', () => {
  expect(usesOfCalendar(plan(), 'day')).toMatchObject({ activities: ['a'], lags: 1, isProject: true })
  expect(removeCalendar(plan(), 'day')).toContain('the project counts on it')
  expect(removeCalendar(plan(), 'spare')).toContain('1 calendar that inherits')
  expect(removeCalendar(plan(), 'other')).toEqual({ kind: 'remove', list: 'calendars', key: 'other' })
})
it('each template is a calendar that a plan can be scheduled on', () => {
  for (const [k, template] of CALENDAR_TEMPLATES.entries()) {
    const made = applyChange(plan(), {
      kind: 'all',
      changes: [
        { kind: 'add', list: 'calendars', item: { id: `t${k}`, ...template }, before: null },
        { kind: 'project', set: { calendar: `t${k}` } },
      ],
    }).plan
    expect(schedule(made).projectFinish).toBeGreaterThan(0)
  }
})

it('an activity on another calendar keeps its work, and can keep its days instead', () => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'day' },
    calendars: [
      { id: 'day', dayMinutes: 480, week: { mon: ['07:00-15:00'] } },
      { id: 'long', dayMinutes: 600, week: { mon: ['06:00-16:00'] } },
      { id: 'same', dayMinutes: 480, week: { tue: ['07:00-15:00'] } },
    ],
    activities: [{ id: 'a', duration: '5d', estimate: { low: '4d', likely: '5d', high: '10d' } }],
  })
  const toLong: Change = { kind: 'set', list: 'activities', key: 'a', set: { calendar: 'long' } }
  const kept = keepingDays(plan, toLong)!
  const after = applyChange(applyChange(plan, toLong).plan, kept.change).plan.activities[0]!
  expect([after.duration, after.estimate!.high]).toEqual([5 * 600, 10 * 600])
  expect(
    keepingDays(plan, { kind: 'set', list: 'activities', key: 'a', set: { calendar: 'same' } }),
  ).toBeNull()
  expect(keepingDays(plan, { kind: 'set', list: 'activities', key: 'a', set: { name: 'x' } })).toBeNull()
})

it('a copy works on the same days as its origin with its parents, knows what changed there, and takes it beside its own', () => {
  const file = (extra: object) =>
    readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01', calendar: 'crew' },
      calendars: [
        {
          id: 'yard',
          week: {
            mon: ['07:00-15:00'],
            tue: ['07:00-15:00'],
            wed: ['07:00-15:00'],
            thu: ['07:00-15:00'],
            fri: ['07:00-15:00'],
          },
          exceptions: [
            { name: 'Keel Day', from: '05-06', to: '05-06', yearly: true, shifts: [] },
            { from: '2027-07-05', to: '2027-07-09', shifts: [] },
          ],
        },
        {
          id: 'crew',
          name: 'Crew',
          parent: 'yard',
          seasons: [{ from: '06-01', to: '08-31', yearly: true, week: { mon: ['06:00-14:00'] } }],
          exceptions: [{ from: '2027-07-07', to: '2027-07-07', shifts: ['07:00-12:00'] }],
          ...extra,
        },
      ],
    }).plan.calendars
  const before = file({})
  const alone = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'c' },
    calendars: [
      { id: 'c', ...copyOfCalendar({ planId: 'p1', plan: 'Yard works', calendars: before }, 'crew') },
    ],
  }).plan.calendars
  const [kin, copied] = [new PlanCalendars(before, 0).get('crew'), new PlanCalendars(alone, 0).get('c')]
  for (let day = instantOf('2027-03-01', 'start'); day < instantOf('2028-03-01', 'start'); day += 720)
    expect(copied.countBefore(day) - copied.countBefore(day - 720), formatInstant(day)).toBe(
      kin.countBefore(day) - kin.countBefore(day - 720),
    )

  // The crew now begins earlier and has a day off more; the copy has one of its own.
  const later = file({
    week: { mon: ['06:00-14:00'] },
    exceptions: [{ name: 'Regatta', from: '2027-06-11', to: '2027-06-11', shifts: [] }],
  })
  const copy = {
    ...alone[0]!,
    exceptions: [
      ...alone[0]!.exceptions,
      { name: 'Stock-taking', from: '2027-09-01', to: '2027-09-01', yearly: false, shifts: [] },
    ],
  }
  const origin = originOf(copy)!
  expect(originNow(origin, [])).toBeNull()
  const now = originNow(origin, [{ planId: 'p1', plan: 'Yard works', calendars: later }])!
  expect(hoursDifferences(origin.taken, now)).toEqual([
    'hours mon–fri 7–15; sat sun off → mon 6–14; tue–sun off',
    'Regatta 11 Jun 2027 added',
    'extra work 7 Jul 2027 taken out',
  ])
  const { set, kept } = takeOrigin(copy, origin, now)
  expect(kept).toEqual([])
  expect((set.exceptions as { name?: string }[]).map((e) => e.name)).toEqual([
    'Keel Day',
    undefined,
    'Stock-taking',
    'Regatta',
  ])
  expect(set.week).toEqual(now.week)
  expect(takeOrigin({ ...copy, week: { mon: ['09:00-12:00'] } }, origin, now)).toMatchObject({
    kept: ['its own hours'],
  })
  expect(() =>
    readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01' },
      calendars: [
        { id: 'c', week: {}, origin: { planId: 'p', calendarId: 'd', taken: { exceptions: 'none' } } },
      ],
    }),
  ).toThrow('/calendars/0/origin/taken/exceptions')
  expect(hoursDifferences(originOf({ ...copy, ...set })!.taken, now)).toEqual([])
})

it('the library has each calendar of other plans once, with all the plans that say the same, and none that is here already', () => {
  const calendarsOf = (calendars: object[]) =>
    readPlan({ format: 'geodrome-plan', version: 1, project: { start: '2027-03-01' }, calendars }).plan
      .calendars
  const week = (hours: string) => ({ mon: [hours] })
  const [day, early, night] = [
    { name: 'Day', week: week('07:00-15:00') },
    { name: 'Day', week: week('06:00-14:00') },
    { name: 'Night', week: week('22:00-06:00') },
  ]
  const slip = {
    planId: 'q',
    plan: 'Slip',
    calendars: calendarsOf([
      { id: 'c1', ...early },
      { id: 'c2', ...day },
      { id: 'c3', ...night },
    ]),
  }
  // What is inherited counts: here a calendar without hours of its own says the same as one with them.
  const dock = {
    planId: 'r',
    plan: 'Dock',
    calendars: calendarsOf([
      { id: 'base', ...night },
      { id: 'kin', name: 'Night', parent: 'base' },
    ]),
  }
  const library = calendarLibrary([slip, dock], calendarsOf([{ id: 'c1', ...day }]))
  expect(library.map(({ name, from }) => [name, from.map((f) => `${f.in.plan} ${f.calendarId}`)])).toEqual([
    ['Day', ['Slip c1']],
    ['Night', ['Slip c3', 'Dock base', 'Dock kin']],
  ])
})
