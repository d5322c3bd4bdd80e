import { expect, it } from 'vitest'
import { formatInstant, instantOf, readPlan, schedule, type ReturnedLine } from '@geodrome/core'
import { useCalendars } from '../../composables/useCalendars.ts'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'
import { returnedAnswers } from './returnedAnswers.ts'

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'day', statusDate: '2027-03-08T07:00' },
  calendars: [{ id: 'day', name: 'Day', dayMinutes: 480, weekMinutes: 2400, week }],
  activities: [
    { id: 'w', code: 'W', duration: '10d', progress: { actualStart: '2027-03-04T07:00', percent: 50 } },
    { id: 'a', code: 'A', duration: '2d' },
    { id: 'b', code: 'B', duration: '3d' },
  ],
})
const made = schedule(plan)
const view = {
  start: made.start,
  finish: made.finish,
  totalFloat: made.float.total,
  state: made.network.state,
} as unknown as ScheduleView
const line = (
  row: number,
  code: string,
  cells: Partial<ReturnedLine['cells']>,
  plannedFinish = '',
): ReturnedLine => ({
  sheet: 'Welders',
  row,
  code,
  plannedFinish,
  cells: { started: '', finished: '', left: '', promised: '', ...cells },
})
const read = (...lines: ReturnedLine[]) =>
  returnedAnswers(plan, view, useCalendars(() => plan).value!, instantOf('2027-03-15T07:00', 'start'), lines)

it('takes what is new, leaves what was printed on the sheet, and says what the plan has changed since', () => {
  const { taken, refused, silent } = read(
    // As it was sent out: nothing new.
    line(2, 'W', { started: '2027-03-04 07:00', left: '50 %' }),
    // A workbook keeps 80 % as 0.8, and a bare figure counts days.
    line(3, 'a', { started: '2027-03-09', left: '0.8' }, '2027-03-08 15:00'),
    line(4, 'B', { finished: '2027-03-11 12:00', promised: '' }, formatInstant(made.finish[2]!)),
  )
  expect(taken.map(({ activity, answer, words, since }) => [activity.code, answer, words, since])).toEqual([
    [
      'A',
      { start: '2027-03-09', percent: 80 },
      'started 9 Mar, 80 % done',
      'planned for Mon 8 Mar 15:00 then, Tue 9 Mar 15:00 now',
    ],
    ['B', { finish: '2027-03-11 12:00'.replace(' ', 'T') }, 'finished 11 Mar', ''],
  ])
  expect([refused, silent]).toEqual([[], 1])
  expect(read(line(2, 'W', { left: '3' })).taken[0]).toMatchObject({
    answer: { remaining: 3 * 480 },
    words: '3 d left',
  })
})

it('keeps what is sound of a sheet, and names the rest with its row', () => {
  const { taken, refused } = read(
    line(2, 'X', { left: '2 d' }),
    line(3, '', { left: '2 d' }),
    line(4, 'W', { left: '120 %', promised: '20 mar' }),
    line(5, 'w', { left: '1 d' }),
    line(6, 'B', { started: 'soon' }),
    line(7, 'A', { started: '12 mar', finished: '10 mar' }),
  )
  // The promise on W is sound, what is left of it is not.
  expect(taken.map(({ words }) => words)).toEqual(['promised 20 Mar'])
  expect(refused.map(({ line: { row }, why }) => `${row}: ${why.slice(0, 32)}`)).toEqual([
    '2: there is no activity X in the pl',
    '3: it has no code: nothing says whi',
    '4: W: 120 % is more than all of it;',
    '5: W is in row 4 of “Welders” alrea',
    '6: B: “soon” is not a date; write f',
    '7: A: it cannot finish Wed 10 Mar 2',
  ])
})
