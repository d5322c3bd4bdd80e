import { expect, it } from 'vitest'
import { holidaysCsv } from '@geodrome/core'
import { readHolidays, writeIcs, type Exception } from './holidayFiles.ts'

const days: Exception[] = [
  { name: 'Yard shutdown; summer', from: '2027-07-26', to: '2027-08-08', yearly: false, shifts: [] },
  { name: 'Keel Day', from: '2027-05-06', to: '2027-05-06', yearly: true, shifts: [] },
  {
    name: 'Saturday before docking',
    from: '2027-04-10',
    to: '2027-04-10',
    yearly: false,
    shifts: ['07:00-12:00', '13:00-15:30'],
  },
]
it('named days written as iCalendar or CSV are read back as they were, days of extra work with their hours', async () => {
  expect(await readHolidays(writeIcs('Yard', days), 'yard.ics')).toEqual({ exceptions: days, problems: [] })
  expect(await readHolidays(holidaysCsv(days), 'yard.csv')).toEqual({ exceptions: days, problems: [] })
  expect(holidaysCsv([{ ...days[0]!, name: '=1+1' }])).toContain("'=1+1")
})
it('from CSV, with or without a last day; what is no date is said by its row', async () => {
  const read = await readHolidays(
    'Date,Until,Name\n2027-05-06,,Keel Day\n26/07/2027,08/08/2027,Shutdown\nsometime,,Party',
    'days.csv',
  )
  expect(read.exceptions.map((e) => [e.from, e.to])).toEqual([
    ['2027-05-06', '2027-05-06'],
    ['2027-07-26', '2027-08-08'],
  ])
  expect(read.problems).toEqual([expect.stringContaining('row 4')])
})
it('hours of a day and monthly events are left out with the reason', async () => {
  const event = (lines: string): string => `BEGIN:VEVENT\r\nUID:1\r\nSUMMARY:Talk\r\n${lines}\r\nEND:VEVENT`
  const text = [
    'BEGIN:VCALENDAR',
    event('DTSTART:20270506T090000Z'),
    event('DTSTART;VALUE=DATE:20270506\r\nRRULE:FREQ=MONTHLY'),
    'END:VCALENDAR',
  ].join('\r\n')
  const { exceptions, problems } = await readHolidays(text, 'x.ics')
  expect(exceptions).toEqual([])
  expect(problems).toEqual([
    expect.stringContaining('not a whole day'),
    expect.stringContaining('recurs monthly'),
  ])
})
