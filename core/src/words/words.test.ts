import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it, onTestFinished } from 'vitest'
import { applyChange, parseJson, readPlan } from '../plan/index.ts'
import { experiments, explain, schedule } from '../schedule/index.ts'
import { formatInstant, instantOf } from '../time/index.ts'
import {
  dateWords,
  daysWords,
  describeChange,
  durationWords,
  explanationWords,
  instantWords,
  linkPhrase,
  plainText,
  readActivityLine,
  readDate,
  readDuration,
  findByCodeOrName,
  readLinks,
  stopWords,
  readShifts,
  readWeek,
  sayYearsOf,
  shiftWords,
  shortDay,
  shortDurationWords,
  weekWords,
} from './index.ts'

const day = { dayMinutes: 480, weekMinutes: 2400 }
const at = (text: string): number => instantOf(text, 'start')

describe('durations', () => {
  it('are worded exactly: what is written is read back to the minute, on any day length', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1_000_000 }),
        fc.constantFrom(200, 480, 570, 930, 1440),
        (minutes, dayMinutes) => {
          const lengths = { dayMinutes, weekMinutes: 5 * dayMinutes }
          expect(readDuration(durationWords(minutes, lengths), lengths)).toEqual({ ok: true, minutes })
        },
      ),
    )
  })
  it('say so where a narrow column rounds them', () => {
    expect(shortDurationWords(-4237, day)).toBe('≈−8.8 d')
    expect(shortDurationWords(-1200, day)).toBe('−2.5 d')
    expect(shortDurationWords(-187_400, day)).toBe('≈−390 d')
  })
  it.each([
    ['11d', 5280],
    ['2 d 4 h', 1200],
    ['1.5w', 3600],
    ['3', 1440],
    ['-1d', -480],
    ['90 min', 90],
    ['1 h 15', 75],
    ['1,200 h', 72_000],
    ['1,200', 576_000],
    ['1,5d', 720],
    ['0,25 h', 15],
  ])('%s is understood', (text, minutes) => expect(readDuration(text, day)).toEqual({ ok: true, minutes }))
  it('that are none say how to write one', () =>
    expect(readDuration('soon', day)).toMatchObject({ ok: false, why: expect.stringContaining('10d, 6h') }))
})

describe('dates', () => {
  it.each([
    ['12 apr', '2027-04-12'],
    ['tue 14:00', '2027-03-02T14:00'],
    ['+3d', '2027-03-04'],
    ['2027-05-01 08:30', '2027-05-01T08:30'],
    ['3 jan', '2027-01-03'],
    ['Mon 5 Jul 15:45', '2027-07-05T15:45'],
    ['5 jul ’28', '2028-07-05'],
    ["5 jul '99 8:00", '1999-07-05T08:00'],
  ])('%s is understood', (text, date) =>
    expect(readDate(text, at('2027-03-01T07:00'))).toEqual({ ok: true, date }),
  )
  it.each([
    ['today', '2026-12-31'],
    ['tomorrow 14:00', '2027-01-01T14:00'],
    ['Yesterday', '2026-12-30'],
    ['mon', '2027-03-01'],
    ['next mon', '2027-03-08'],
    ['next Tuesday, 7:30', '2027-03-02T07:30'],
  ])('%s is said from the day at hand, or from today', (text, date) =>
    expect(readDate(text, at('2027-03-01T07:00'), new Date(2026, 11, 31, 23, 59))).toEqual({
      ok: true,
      date,
    }),
  )
  it.each(['31 feb', 'someday', '12', '+x'])('%s is refused with an example', (text) =>
    expect(readDate(text, at('2027-03-01'))).toMatchObject({
      ok: false,
      why: expect.stringContaining('12 apr'),
    }),
  )
  it('of days off: single, every year, a stretch within a year and over its end', () =>
    expect([
      daysWords('05-06', '05-06'),
      daysWords('2027-05-06', '2027-05-06'),
      daysWords('2027-07-26', '2027-08-08'),
      daysWords('2027-12-24', '2028-01-02'),
      daysWords('12-24', '01-02'),
    ]).toEqual([
      '6 May',
      '6 May 2027',
      '26 Jul to 8 Aug 2027',
      '24 Dec 2027 to 2 Jan 2028',
      '24 Dec to 2 Jan',
    ]))
  it('say their year where a plan is so long that a day and a month would not tell, and are read back', () => {
    onTestFinished(() => void sayYearsOf(0, 0))
    expect(sayYearsOf(at('2027-11-01'), at('2028-02-01'))).toBe(false)
    expect(shortDay(at('2028-01-05'))).toBe('5 Jan')
    expect(sayYearsOf(at('2027-03-01'), at('2029-02-01'))).toBe(true)
    expect([
      shortDay(at('2028-01-05')),
      instantWords(at('2028-01-05T08:00')),
      dateWords('2028-01-05'),
    ]).toEqual(['5 Jan ’28', 'Wed 5 Jan ’28 08:00', 'Wed 5 Jan ’28'])
    fc.assert(
      fc.property(fc.integer({ min: at('1980-01-01'), max: at('2070-01-01') }), (t) => {
        expect(readDate(instantWords(t), at('2027-03-01'))).toMatchObject({
          ok: true,
          date: formatInstant(t),
        })
      }),
    )
  })
  it('at midnight are the end of a day for a finish', () => {
    expect(instantWords(at('2027-03-02T00:00'), 'finish')).toBe('Mon 1 Mar 24:00')
    expect(dateWords('2027-03-02', 'finish')).toBe('Tue 2 Mar')
  })
})

describe('links', () => {
  const find = findByCodeOrName([{ code: 'H10', name: 'Blast' }])
  const typedTo = (text: string) => {
    const read = readLinks(text, find)
    if (!read.ok || read.links.length !== 1) throw new Error(text)
    const [{ to, type, lag }] = read.links as [(typeof read.links)[number]]
    const minutes = lag(day)
    return [to.code, type, minutes.ok ? minutes.minutes : minutes.why]
  }
  it('are read in the words they are shown in', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('FS', 'SS', 'FF', 'SF'),
        fc.integer({ min: -3000, max: 3000 }),
        (type, lag) => {
          expect(typedTo(linkPhrase({ type, lag }, 'H10', day))).toEqual(['H10', type, lag])
        },
      ),
    )
  })
  it.each([
    ['H10 SS 6h', 'SS', 360],
    ['H10', 'FS', 0],
    ['h10 ff +2d', 'FF', 960],
    ['H10 FS-1d', 'FS', -480],
  ])('%s is understood', (text, type, lag) => {
    expect(typedTo(text)).toEqual(['H10', type, lag])
  })
})

const { plan } = readPlan(
  parseJson(readFileSync(new URL('../../../demo/kiln.geodrome.json', import.meta.url), 'utf8')),
)

it('an explanation reads as a sentence and a ladder', () => {
  const words = explanationWords(plan, explain(schedule(plan), 'k8'))
  expect(plainText(words.start.sentence)).toBe(
    'It starts Tue 16 Mar 07:00 because K40 Lay new lining ends Fri 12 Mar 16:00.',
  )
  expect(words.start.ladder.map((r) => `${plainText(r.label)} | ${r.at}`)).toEqual([
    'K40 ends | Fri 12 Mar 16:00',
    '+ 1 d, Day shift | Mon 15 Mar 16:00',
    'next work, Day shift | Tue 16 Mar 07:00',
    'starts | Tue 16 Mar 07:00',
  ])
  expect(words.start.nextInLine.map((r) => `${plainText(r.label)} ${r.behind}`)).toEqual([
    'B30 ends 3 d earlier',
    'the project starts 11 d earlier',
  ])
  expect(plainText(words.float.sentence)).toBe(
    'It has 6 d of float, shared with 8 others: K60 must start by Fri 26 Mar 16:00.',
  )
})

it('work placed late, and a date that overrides, say so in the sentence and in the steps', () => {
  const placed = {
    ...plan,
    activities: plan.activities.map((a) => (a.id === 'k7' ? { ...a, place: 'late' as const } : a)),
  }
  const late = explanationWords(placed, explain(schedule(placed), 'k7'))
  expect(plainText(late.start.sentence)).toContain(' later than it could, as its float allows. ')
  expect(
    late.start.ladder
      .map((rung) => plainText(rung.label))
      .some((label) => label.startsWith('as late as its float allows: + ')),
  ).toBe(true)

  const cut = {
    ...plan,
    activities: plan.activities.map((a) =>
      a.id === 'k8'
        ? {
            ...a,
            constraints: [
              { edge: 'finish' as const, rule: 'not-after' as const, date: '2027-03-06', overrides: true },
            ],
          }
        : a,
    ),
  }
  const held = explanationWords(cut, explain(schedule(cut), 'k8'))
  expect(held.finish.ladder.map((rung) => [plainText(rung.label), rung.at])).toEqual([
    ['finish not after Sat 6 Mar, overriding logic', 'Sat 6 Mar 24:00'],
    ['last work by then, Day shift', 'Fri 5 Mar 16:00'],
    ['finishes', 'Fri 5 Mar 16:00'],
  ])
  expect(held.finish.nextInLine[0]!.behind).toMatch(/later, not heeded$/)
})

it('a change is described with the value before and after', () => {
  expect(describeChange(plan, { kind: 'set', list: 'activities', key: 'k4', set: { duration: 3360 } })).toBe(
    'K40 Lay new lining, 5 d → 7 d',
  )
  expect(describeChange(plan, { kind: 'set', list: 'links', key: '9', set: { lag: 960 } })).toBe(
    'K50 after K40, 1 d later → after K40, 2 d later',
  )
  expect(describeChange(plan, { kind: 'remove', list: 'links', key: '3' })).toBe('K40 after K30, unlinked')
  expect(describeChange(plan, { kind: 'project', set: { requiredFinish: '2027-04-02' } })).toBe(
    'project required finish: Fri 26 Mar 2027 → Fri 2 Apr 2027',
  )
})

describe('hours of a week', () => {
  it.each([
    ['mon-fri 6:30-11:30 12-16:30; sat sun off', 'mon–fri 6:30–11:30 12–16:30; sat sun off'],
    ['weekdays 7-12, 13-16\nsat 8-12', 'mon–fri 7–12 13–16; sat 8–12; sun off'],
    ['daily 22:00-06:00', 'mon–sun 22–6'],
    ['fri-mon round the clock', 'mon fri–sun round the clock; tue–thu off'],
    ['tue and thu 8:15-12', 'tue thu 8:15–12; mon wed fri–sun off'],
  ])('%s is understood', (text, words) => {
    const read = readWeek(text)
    expect(read).toMatchObject({ ok: true })
    if (read.ok) expect(weekWords(read.week)).toBe(words)
  })
  it('what is written is read back as it was', () => {
    const shift = fc
      .tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 1, max: 1440 }))
      .filter(([from, to]) => to !== from)
      .map(([from, to]) => [from, to > from ? to : to + 1440] as const)
    fc.assert(
      fc.property(fc.array(shift, { maxLength: 3 }), (given) => {
        const shifts = given
          .toSorted((a, b) => a[0] - b[0])
          .filter((s, k, all) => all.slice(0, k).every((t) => t[1] <= s[0]))
        const clock = (m: number): string =>
          `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`
        const texts = shifts.map(([a, b]) => `${clock(a)}-${clock(b > 1440 ? b - 1440 : b)}`)
        expect(readShifts(shiftWords(texts))).toEqual({ ok: true, shifts: texts })
      }),
      { numRuns: 2000 },
    )
  })
  it('overlaps and nonsense are refused with the place', () => {
    expect(readShifts('7-12 11-16')).toEqual({
      ok: false,
      why: 'the hours overlap at 11:00; join them or leave a break',
    })
    expect(readWeek('someday 7-12')).toMatchObject({
      ok: false,
      why: expect.stringContaining('names no days'),
    })
  })
})

describe('an activity typed as one line', () => {
  const kiln = readPlan(
    parseJson(readFileSync(new URL('../../../demo/kiln.geodrome.json', import.meta.url), 'utf8')),
  ).plan
  const at = { after: kiln.activities.find((a) => a.code === 'K40')!.id, group: null }
  const read = (text: string) => readActivityLine(kiln, text, at, Math.random)
  it.each([
    ['Inspect lining, 4h, after K40, 2h later, by Mason', 'K45 Inspect lining, 4 h, after K40, 2 h later'],
    ['Lining approved; milestone; after K40', 'K45 Lining approved, milestone, after K40'],
    ['Clear up', 'K45 Clear up, duration not confirmed'],
    ['Dry\t2d\tends with K50', 'K45 Dry, 2 d, ends with K50'],
  ])('%s', (text, words) => expect(read(text)).toMatchObject({ ok: true, words }))
  it.each([
    ['Papers:', null, null, 'Papers', null],
    ['Papers, permits & 0 fees :', null, 'K', 'Papers, permits & 0 fees', 'B'],
    ['Site:', 'K40', null, 'Site', 'B'],
    ['Site:', 'B30', null, 'Site', null],
  ])('%s after %s in %s is a heading', (text, after, group, name, before) => {
    const idOf = (code: string | null): string | null =>
      [...kiln.activities, ...kiln.groups].find((item) => item.code === code)?.id ?? null
    const typed = readActivityLine(kiln, text, { after: idOf(after), group: idOf(group) }, Math.random)
    expect(typed).toMatchObject({
      ok: true,
      kind: 'group',
      change: { list: 'groups', item: { name, parent: null }, before: idOf(before) },
    })
  })
  it.each([
    ['Inspect, soon', '“soon” is not a duration'],
    ['Inspect, after Z99', 'there is no activity “Z99”'],
    ['Inspect, on Mondays', 'there is no calendar “mondays”'],
    [' ', 'write a name'],
  ])('%s is refused', (text, why) =>
    expect(read(text)).toMatchObject({ ok: false, why: expect.stringContaining(why) }),
  )
})

it('names the promise that says what is left of work, and otherwise that it lies after the status date', () => {
  const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
  const make = (promise: object | null) => {
    const { plan } = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01T07:00', calendar: 'day', statusDate: '2027-03-08T07:00' },
      calendars: [{ id: 'day', name: 'Day shift', dayMinutes: 480, weekMinutes: 2400, week }],
      activities: [
        {
          id: 'a',
          code: 'A',
          duration: '9d',
          promise,
          progress: { actualStart: '2027-03-02T07:00', remaining: '4d' },
        },
        { id: 'b', code: 'B', duration: '1d' },
      ],
    })
    const made = schedule(plan)
    const words = explanationWords(plan, explain(made, 'a'))
    return {
      finish: plainText(words.finish.sentence),
      ladder: words.finish.ladder.map(({ label }) => plainText(label)),
      start: plainText(explanationWords(plan, explain(made, 'b')).start.sentence),
    }
  }
  const promised = make({ finish: '2027-03-12T15:00', by: 'platers' })
  expect(promised.finish).toBe(
    'It finishes Fri 12 Mar 15:00 because it is promised for Fri 12 Mar 15:00 by platers.',
  )
  expect(promised.ladder).toContain('+ 5 d, Day shift, by the promise')
  const plain = make(null)
  expect(plain.finish).toBe(
    'It finishes Thu 11 Mar 15:00 because what is left of it is done from the status date on.',
  )
  expect(plain.ladder).toContain('+ 4 d, Day shift')
  expect(plain.start).toContain('what is not begun lies after the status date')
  // A promise that has passed says nothing of what is left.
  expect(make({ finish: '2027-03-05', by: 'platers' }).finish).toBe(plain.finish)
})

describe('a start that a calendar puts off', () => {
  const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'day' },
    calendars: [
      { id: 'day', name: 'Day shift', dayMinutes: 480, weekMinutes: 2400, week },
      { id: 'tide', name: 'Tides', windows: [['2027-03-07T10:00', '2027-03-07T14:00']] },
    ],
    activities: [
      { id: 'a', code: 'A', name: 'Clear dock', duration: '2d' },
      { id: 'b', code: 'B', name: 'Rig lines', duration: '4d' },
      { id: 'c', code: 'C', name: 'Dock', duration: '120m', calendar: 'tide' },
      { id: 'd', code: 'D', name: 'Make fast', duration: '1d' },
    ],
    links: [
      { id: '1', from: 'a', to: 'c' },
      { id: '2', from: 'b', to: 'c' },
      { id: '3', from: 'c', to: 'd' },
    ],
  })
  const made = schedule(plan)
  it('names the calendar first, and of what it waits for that which comes last', () => {
    const { start, finish } = explanationWords(plan, explain(made, 'c'))
    expect(plainText(start.sentence)).toBe(
      'It starts Sun 7 Mar 10:00 because Tides has no working time from Thu 4 Mar 15:00, when it could begin, until then; B Rig lines ends Thu 4 Mar 15:00, and what else it waits for by then.',
    )
    expect(plainText(finish.sentence)).toContain('until Sun 7 Mar 10:00; B Rig lines ends')
    expect(start.ladder.map(({ label }) => plainText(label))[0]).toBe('B ends')
  })
  it('is not said of a weekend', () => {
    expect(plainText(explanationWords(plan, explain(made, 'd')).start.sentence)).toBe(
      'It starts Mon 8 Mar 07:00 because C Dock ends Sun 7 Mar 12:00.',
    )
  })
  it('is why one day longer moves nothing; a date that holds is another reason', () => {
    const [, b] = experiments(made, ['a', 'b'])
    expect([b!.nudge, plainText(stopWords(plan, b!.stops))]).toEqual([
      0,
      'C Dock waits for Tides until Sun 7 Mar 10:00 anyway',
    ])
    const held = applyChange(plan, {
      kind: 'set',
      list: 'activities',
      key: 'c',
      set: {
        calendar: null,
        constraints: [{ edge: 'start', rule: 'exactly', date: '2027-03-05T07:00', overrides: true }],
      },
    }).plan
    const [longer] = experiments(schedule(held), ['b'])
    expect([longer!.nudge, plainText(stopWords(held, longer!.stops))]).toEqual([
      0,
      'C Dock is held by its date to Fri 5 Mar 07:00, whatever comes before',
    ])
  })
})
