import { expect, it } from 'vitest'
import { readPlan } from '../plan/readPlan.ts'
import { NONE } from '../network/network.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'
import { floatGain, scheduleDifference } from './differences.ts'

/** A long and a short way from a start to an end; the float of the short one is their difference. */
const made = (hours: 7 | 8, days: { long: number; short: number }, clock = false): Schedule => {
  const day = [`08:00-${String(8 + hours).padStart(2, '0')}:00`]
  const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((name) => [name, day]))
  return schedule(
    readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01', calendar: 'yard' },
      calendars: [{ id: 'yard', name: 'Yard', week, dayMinutes: hours * 60, weekMinutes: hours * 300 }],
      activities: [
        { id: 'a', code: 'A', duration: `${days.long}d` },
        { id: 'b', code: 'B', duration: `${days.short}d`, ...(clock ? { calendar: 'clock' } : {}) },
        { id: 'z', code: 'Z', kind: 'milestone', edge: 'finish', duration: 0 },
      ],
      links: [
        { id: 'l1', from: 'a', to: 'z' },
        { id: 'l2', from: 'b', to: 'z' },
      ],
    }).plan,
  )
}

it('a float of as many days as before is neither lost nor gained, however long a day is', () => {
  const difference = scheduleDifference(made(8, { long: 9, short: 4 }), made(7, { long: 9, short: 4 }))
  expect([difference.lostFloat, difference.gainedFloat]).toEqual([[], []])
  // The finish of each day is another hour.
  expect(difference.moved).toEqual(['a', 'b', 'z'])
})
it('of fewer days it is lost, of more gained', () => {
  const before = made(8, { long: 9, short: 4 })
  expect(scheduleDifference(before, made(7, { long: 9, short: 5 })).lostFloat).toEqual(['b'])
  expect(scheduleDifference(before, made(7, { long: 9, short: 3 })).gainedFloat).toEqual(['b'])
  expect(scheduleDifference(before, before)).toMatchObject({
    changed: [],
    moved: [],
    lostFloat: [],
    gainedFloat: [],
  })
})
it('is said in minutes of the calendar as it is now, and of no float nothing is said', () => {
  expect(floatGain(2400, 480, 2100, 420)).toBe(0)
  expect(floatGain(2400, 480, 1680, 420)).toBe(-420)
  expect(floatGain(1, 3, 1, 3)).toBe(0)
  expect([floatGain(NONE, 480, 480, 480), floatGain(480, 480, NONE, 480)]).toEqual([0, 0])
})
