import { expect, it } from 'vitest'
import { onDays, paint, shiftsOf, spansOf } from './paint.ts'
import { paintedLengths, weekLengths } from '@geodrome/core'

it('painted work joins what it touches; a break wiped out of it leaves two shifts', () => {
  const day = paint(paint([], [420, 720], 'work'), [720, 960], 'work')
  expect(shiftsOf(day)).toEqual(['07:00-16:00'])
  expect(shiftsOf(paint(day, [690, 720], 'rest'))).toEqual(['07:00-11:30', '12:00-16:00'])
  expect(paint(day, [0, 1440], 'rest')).toEqual([])
})
it('a night shift keeps its end in the next morning', () => {
  const night = paint([], [1320, 1800], 'work')
  expect(shiftsOf(night)).toEqual(['22:00-06:00'])
  expect(spansOf(['22:00-06:00'])).toEqual([[1320, 1800]])
  // Painted round the whole clock from some hour, it still is a shift that can be read.
  expect(spansOf(shiftsOf(paint([], [540, 1980], 'work')))).toEqual([[540, 1979]])
})
it('the days chosen are painted alike, the others stay; a day counts as long as most are', () => {
  const week = onDays(
    { mon: ['07:00-12:00'], sat: ['08:00-12:00'] },
    new Set(['mon', 'tue', 'wed']),
    (shifts) => shiftsOf(paint(spansOf(shifts), [780, 960], 'work')),
  )
  expect(week).toMatchObject({
    mon: ['07:00-12:00', '13:00-16:00'],
    tue: ['13:00-16:00'],
    sat: ['08:00-12:00'],
  })
  // Work in a season alone counts by the season's hours, not by a week without any.
  const season = { name: 'Summer', from: '05-01', to: '09-30', yearly: true, week }
  expect(paintedLengths({ week: {}, seasons: [season] })).toEqual(weekLengths(week))
  expect(paintedLengths({ week: null, seasons: [] })).toBeNull()
  expect(weekLengths(week)).toEqual({ dayMinutes: 180, weekMinutes: 480 + 180 + 180 + 240 })
})
