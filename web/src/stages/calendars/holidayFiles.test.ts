import fc from 'fast-check'
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

const calendar = (...events: string[]): string =>
  [
    'BEGIN:VCALENDAR',
    ...events.map((lines, k) => `BEGIN:VEVENT\r\nUID:${k}\r\n${lines}\r\nEND:VEVENT`),
    'END:VCALENDAR',
  ].join('\r\n')
it.each<[what: string, lines: string, says: RegExp]>([
  ['a thirteenth month', 'DTSTART;VALUE=DATE:20271399\r\nSUMMARY:Odd', /“Odd” has no date that can be read/],
  ['letters for a date', 'DTSTART;VALUE=DATE:2027xx01', /“day off” has no date/],
  ['no date at all', 'SUMMARY:Odd', /“Odd” has no date/],
  [
    'twenty million years',
    'DTSTART;VALUE=DATE:20270301\r\nDURATION:P9999999999D',
    /lasts longer than 10 years/,
  ],
  ['eleven years', 'DTSTART;VALUE=DATE:20270301\r\nDTEND;VALUE=DATE:20380301', /lasts longer than 10 years/],
  [
    'an end in letters',
    'DTSTART;VALUE=DATE:20270301\r\nDTEND;VALUE=DATE:soon',
    /ends on no date that can be read/,
  ],
  ['hours of a duration', 'DTSTART;VALUE=DATE:20270301\r\nDURATION:PT5H', /ends on no date/],
])('an event with %s is left out with the reason, and the others are read', async (_, lines, says) => {
  const { exceptions, problems } = await readHolidays(
    calendar('DTSTART;VALUE=DATE:20270506\r\nSUMMARY:Keel Day', lines),
    'x.ics',
  )
  expect(exceptions.map(({ name, from, to }) => [name, from, to])).toEqual([
    ['Keel Day', '2027-05-06', '2027-05-06'],
  ])
  expect(problems).toEqual([expect.stringMatching(says)])
})
it('durations in days and weeks, and ends before their start, give the days that they mean', async () => {
  const days = [
    'DURATION:P3D',
    'DURATION:P1W',
    'DTEND;VALUE=DATE:20270302',
    'DTEND;VALUE=DATE:20270101',
    'SUMMARY:x',
  ]
  const { exceptions } = await readHolidays(
    calendar(...days.map((more) => `DTSTART;VALUE=DATE:20270301\r\n${more}`)),
    'x.ics',
  )
  expect(exceptions.map(({ to }) => to)).toEqual([
    '2027-03-03',
    '2027-03-07',
    '2027-03-01',
    '2027-03-01',
    '2027-03-01',
  ])
})
it('sixteen thousand events are read; more than twenty thousand are not begun', async () => {
  const many = (n: number): string =>
    calendar(...Array.from({ length: n }, () => 'DTSTART;VALUE=DATE:20270506'))
  expect((await readHolidays(many(16_000), 'x.ics')).exceptions).toHaveLength(16_000)
  expect(await readHolidays(many(20_001), 'x.ics')).toEqual({
    exceptions: [],
    problems: ['more than 20000 events; leave some out'],
  })
})

const line = fc.constantFrom(
  'BEGIN:VEVENT',
  'END:VEVENT',
  'BEGIN:VCALENDAR',
  'END:VCALENDAR',
  'DTSTART;VALUE=DATE:20270301',
  'DTSTART:20270301T090000Z',
  'DTEND;VALUE=DATE:20270303',
  'DTEND:',
  'DURATION:P3D',
  'DURATION:-P1W',
  'RRULE:FREQ=YEARLY',
  'RRULE:FREQ=;COUNT=x',
  'SUMMARY:Day',
  'SUMMARY',
  ';;;:',
  'X-GEODROME-HOURS:8-12',
  ' folded',
  '2027-03-01,2027-03-02,Name,every year,8-12',
  ',,,,',
)
it('lines of anything give days with a beginning and an end, or reasons', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(line, { maxLength: 16 }), fc.boolean(), async (lines, isCalendar) => {
      const text = lines.join('\r\n')
      const { exceptions, problems } = await readHolidays(
        isCalendar ? `BEGIN:VCALENDAR\r\n${text}\r\nEND:VCALENDAR` : text,
        isCalendar ? 'x.ics' : 'x.csv',
      )
      for (const { from, to } of exceptions)
        expect([from, to, from <= to]).toEqual([
          expect.stringMatching(/^\d{4}-\d{2}-\d{2}$/),
          expect.stringMatching(/^\d{4}-\d{2}-\d{2}$/),
          true,
        ])
      expect(exceptions.length + problems.length).toBeGreaterThan(0)
    }),
    { numRuns: Number(process.env.GEODROME_MUTATIONS ?? 300) },
  )
})
