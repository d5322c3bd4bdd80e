import { describe, expect, it } from 'vitest'
import { instantOf } from '../time/index.ts'
import { guessCalendarMapping, isCalendarTable, readCalendarTable } from './calendarTable.ts'

const cells = (text: string): string[][] => text.split('\n').map((line) => line.split('\t'))
const around = instantOf('2027-03-01', 'start')

describe('a table of calendars', () => {
  it('is recognised by its heads; days off are single or stretches, in any notation, on rows of their own too', () => {
    const table = cells(
      'Calendar\tHours\tHolidays\nYard\tmon-fri 7-11:30 12:15-15:45\t24/12/2027, 26 Jul 2027 to 8 Aug 2027\nNight\tmon-fri 22-6\t\nYard\t\t6 may',
    )
    expect(isCalendarTable(table)).toBe(true)
    const { calendars, problems } = readCalendarTable(table, guessCalendarMapping(table), around)
    expect(problems).toEqual([])
    expect(calendars.map((c) => [c.name, c.week.mon, c.off])).toEqual([
      [
        'Yard',
        ['07:00-11:30', '12:15-15:45'],
        [
          { from: '2027-12-24', to: '2027-12-24' },
          { from: '2027-07-26', to: '2027-08-08' },
          { from: '2027-05-06', to: '2027-05-06' },
        ],
      ],
      ['Night', ['22:00-06:00'], []],
    ])
  })
  it('with heads that say nothing is read by the columns chosen by hand', () => {
    const table = cells('Betrieb\tZeit\tFrei\nHof\tmon-sat 6-14\t01.05.2027')
    expect(guessCalendarMapping(table)).toMatchObject({ name: -1, hours: -1, off: -1 })
    const { calendars } = readCalendarTable(
      table,
      { headRow: 0, name: 0, hours: 1, off: 2, dayFirst: true },
      around,
    )
    expect(calendars).toMatchObject([{ name: 'Hof', off: [{ from: '2027-05-01', to: '2027-05-01' }] }])
  })
  it('lists what it does not understand by row, once, and keeps the rest', () => {
    const table = cells(
      'Name\tHours\tDays off\nA\tsometimes\t\nB\tmon 8-12\t31/02/2027, 2027-05-09 to 2027-05-01, 2027-06-01\nC\t\t2027-05-01\n\tmon 8-12\t',
    )
    const { calendars, problems } = readCalendarTable(table, guessCalendarMapping(table), around)
    expect(calendars.map((c) => [c.name, c.off.length])).toEqual([['B', 1]])
    expect(problems.map((p) => p.row)).toEqual([2, 3, 3, 4, 5])
    expect(problems.map((p) => p.why).join(' | ')).toMatch(
      /31\/02\/2027.*ends before it begins.*C has no hours.*names no calendar/,
    )
  })
})
