import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { SpannedCalendar } from './calendar.ts'
import {
  addWork,
  CalendarError,
  compileCalendar,
  instantOf,
  formatInstant,
  nextWork,
  parseDate,
  PlanCalendars,
  prevWork,
  settle,
  subWork,
  workBetween,
  type CalendarRule,
} from './index.ts'

const at = (text: string): number => instantOf(text, 'start')
const day: CalendarRule = {
  id: 'day',
  week: Object.fromEntries(
    ['mon', 'tue', 'wed', 'thu', 'fri'].map((d) => [d, ['07:00-11:30', '12:15-15:45']]),
  ),
}
const calendar = compileCalendar([day], at('2027-01-01'))

describe('dates', () => {
  it('are minutes since 1950, and read back as they are written', () => {
    expect(at('1950-01-01')).toBe(0)
    fc.assert(
      fc.property(fc.integer({ min: 0, max: at('2150-12-31T23:59') }), (t) => at(formatInstant(t)) === t),
    )
  })
  it('take 24:00 as the end of the day, and a day as its end on a finish', () => {
    expect(at('2027-03-01T24:00')).toBe(at('2027-03-02T00:00'))
    expect(instantOf('2027-03-01', 'finish')).toBe(at('2027-03-02T00:00'))
  })
  it.each([
    '2027-02-29',
    '2027-13-01',
    '1949-12-31',
    '2151-01-01',
    '2027-03-01T24:01',
    '2027-03-01 07:00',
    'soon',
  ])('refuse %s', (text) => expect(parseDate(text)).toBeNull())
})

describe('working time', () => {
  it('shows the same count at the end of Friday as a finish and on Monday as a start', () => {
    const friday = at('2027-03-05T15:45')
    const monday = at('2027-03-08T07:00')
    expect(workBetween(calendar, friday, monday)).toBe(0)
    expect(prevWork(calendar, monday)).toBe(friday)
    expect(nextWork(calendar, friday)).toBe(monday)
    expect(settle(calendar, friday)).toBe(friday)
    expect(settle(calendar, friday + 1)).toBe(monday)
  })
  it('adds and takes off exactly, over breaks and weekends, near and far', () => {
    expect(formatInstant(addWork(calendar, at('2027-03-05T11:00'), 480))).toBe('2027-03-08T11:00')
    expect(formatInstant(subWork(calendar, at('2027-03-08T07:00'), 60))).toBe('2027-03-05T14:45')
    fc.assert(
      fc.property(
        fc.integer({ min: at('2000-01-01'), max: at('2100-01-01') }),
        fc.integer({ min: 1, max: 500_000 }),
        (t, n) => {
          expect(workBetween(calendar, t, addWork(calendar, t, n))).toBe(n)
          expect(workBetween(calendar, subWork(calendar, t, n), t)).toBe(n)
        },
      ),
      { numRuns: 200 },
    )
  })
})

/** The hours of a day as texts, for a calendar with its ancestors. */
const hoursOf = (calendars: readonly CalendarRule[], id: string, date: string): string => {
  const compiled = new PlanCalendars(calendars, at('2027-01-01')).get(id)
  const out: string[] = []
  for (let t = at(date); t < at(date) + 1440; t++) {
    const works = compiled.countBefore(t + 1) > compiled.countBefore(t)
    const before = t > at(date) && compiled.countBefore(t) > compiled.countBefore(t - 1)
    if (works && !before) out.push(formatInstant(t).slice(11))
    if (!works && before) out.push(formatInstant(t).slice(11))
  }
  return out.join(' ')
}

describe('which hours hold on a day', () => {
  const yard: CalendarRule = {
    id: 'yard',
    exceptions: [
      { name: 'Keel Day', from: '05-06', to: '05-06', yearly: true, shifts: [] },
      { name: 'Half day', from: '2027-05-07', to: '2027-05-07', shifts: ['07:00-09:00'] },
    ],
  }
  const coating: CalendarRule = {
    id: 'coating',
    parent: 'yard',
    week: { mon: ['08:00-10:00'], thu: ['08:00-10:00'], fri: ['08:00-10:00'] },
    seasons: [
      { from: '05-01', to: '09-30', yearly: true, week: { thu: ['06:30-11:30'], fri: ['06:30-11:30'] } },
    ],
    exceptions: [
      { from: '2027-05-03', to: '2027-05-20', shifts: ['10:00-11:00'] },
      { from: '2027-05-10', to: '2027-05-10', shifts: [] },
    ],
  }
  const heir: CalendarRule = {
    id: 'heir',
    parent: 'coating',
    exceptions: [{ from: '2027-05-11', to: '2027-05-11', shifts: ['12:00-13:00'] }],
  }
  const all = [yard, coating, heir]
  it('takes own exceptions first, later ones in the list before earlier ones', () => {
    expect(hoursOf(all, 'coating', '2027-05-06')).toBe('10:00 11:00')
    expect(hoursOf(all, 'coating', '2027-05-10')).toBe('')
  })
  it('then the ancestors’ exceptions, then the season, then the week', () => {
    expect(hoursOf(all, 'coating', '2028-05-06')).toBe('')
    expect(hoursOf(all, 'coating', '2028-05-04')).toBe('06:30 11:30')
    expect(hoursOf(all, 'coating', '2028-04-27')).toBe('08:00 10:00')
  })
  it('takes season and week of the parent where it has no week of its own', () => {
    expect(hoursOf(all, 'heir', '2027-05-11')).toBe('12:00 13:00')
    expect(hoursOf(all, 'heir', '2028-05-04')).toBe('06:30 11:30')
  })
  it('runs a night shift into the next day, blanks the off days of a rota, and adds windows last', () => {
    const night: CalendarRule = {
      id: 'n',
      week: { mon: ['22:00-06:00'] },
      rota: { from: '2027-03-01', on: 7, off: 7 },
      windows: [['2027-03-09T10:20', '2027-03-09T13:20']],
    }
    expect(hoursOf([night], 'n', '2027-03-01')).toBe('22:00')
    expect(hoursOf([night], 'n', '2027-03-02')).toBe('00:00 06:00')
    expect(hoursOf([night], 'n', '2027-03-08')).toBe('')
    expect(hoursOf([night], 'n', '2027-03-09')).toBe('10:20 13:20')
  })
})

describe('a calendar that runs out of work', () => {
  const tides = compileCalendar(
    [{ id: 'tides', windows: [['2027-03-09T10:20', '2027-03-09T13:20']] }],
    at('2027-01-01'),
  )
  it('says so and names itself, and never loops', () => {
    expect(nextWork(tides, at('2027-01-01'))).toBe(at('2027-03-09T10:20'))
    expect(() => addWork(tides, at('2027-01-01'), 181)).toThrow(CalendarError)
    expect(() => addWork(tides, at('2027-01-01'), 181)).toThrow(/"tides" has no working time within 50 years/)
  })
  it('counts a duration that leads beyond 2150 as an error', () => {
    expect(() => addWork(calendar, at('2027-01-01'), 100_000_000)).toThrow(/outside 1950–2150/)
  })
})

describe('calendars of two readings of a plan', () => {
  const read = (text: string, anchor = '2027-01-01'): SpannedCalendar =>
    new PlanCalendars(JSON.parse(text) as CalendarRule[], at(anchor)).get('own')
  const rules: CalendarRule[] = [
    { id: 'base', week: { mon: ['08:00-12:00'] } },
    {
      id: 'own',
      name: 'Own',
      parent: 'base',
      exceptions: [{ from: '2027-05-03', to: '2027-05-03', shifts: [] }],
    },
  ]
  it('are one where they say the same, and not where anything differs: hours of a parent, a day, a name, the year', () => {
    const text = JSON.stringify(rules)
    const own = read(text)
    expect(read(text)).toBe(own)
    expect(read(text, '2027-09-30')).toBe(own)
    expect(read(text, '2029-09-30')).not.toBe(own)
    for (const [from, to] of [
      ['08:00-12:00', '08:00-12:01'],
      ['"2027-05-03","to"', '"2027-05-02","to"'],
      ['"Own"', '"Other"'],
    ] as const) {
      expect(text).toContain(from)
      expect(read(text.replace(from, to))).not.toBe(own)
    }
    // A calendar that nobody goes by says nothing of it.
    expect(read(JSON.stringify([...rules, { id: 'more' }]))).toBe(own)
  })
  it('are kept for the latest ones only, and not where they are long', () => {
    const text = JSON.stringify(rules)
    const own = read(text)
    for (let k = 0; k < 60; k++) read(text.replace('Own', `Own ${k}`))
    expect(read(text)).not.toBe(own)
    const long = JSON.stringify([
      { ...rules[0], id: 'own', exceptions: Array.from({ length: 1001 }, () => rules[1]!.exceptions![0]) },
    ])
    expect(read(long)).not.toBe(read(long))
  })
})
