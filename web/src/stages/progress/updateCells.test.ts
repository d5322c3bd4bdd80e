import { describe, expect, it } from 'vitest'
import { instantOf, readPlan, type Activity, type Calendar } from '@geodrome/core'
import {
  cellWords,
  readFinished,
  readLeft,
  readPromise,
  readStarted,
  readStretch,
  tickedSteps,
  type CellGround,
} from './updateCells.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-05-10', calendar: 'clock', statusDate: '2027-05-10' },
  activities: [
    { id: 'a', code: 'A', duration: 4800, owner: 'Painters' },
    { id: 'w', code: 'W', duration: 4800, progress: { actualStart: '2027-05-05T07:00', percent: 40 } },
    { id: 'm', code: 'M', kind: 'milestone', edge: 'finish' },
  ],
})
const lengths = { dayMinutes: 480, weekMinutes: 2400 }
const ground = (activity: Activity = plan.activities[0]!): CellGround => ({
  activity,
  lengths,
  // Every second minute is worked, so that time and work are told apart.
  calendar: { countBefore: (at: number) => Math.floor(at / 2) } as Calendar,
  answer: undefined,
  start: instantOf('2027-05-12T09:30', 'start'),
  finish: instantOf('2027-05-14T15:45', 'finish'),
  status: instantOf('2027-05-17T07:00', 'start'),
})

describe('what is typed into an update', () => {
  it.each([
    ['13 may', { start: '2027-05-13' }],
    // A day without a time, the planned one: it began at the planned hour.
    ['12 may', { start: '2027-05-12T09:30' }],
    ['12 may 11:00', { start: '2027-05-12T11:00' }],
    ['2027-05-11', { start: '2027-05-11' }],
    ['as planned', { start: '2027-05-12T09:30' }],
    ['Not yet', { unchanged: true }],
    ['', { start: null }],
  ])('%s under started', (text, answer) => expect(readStarted(text, ground())).toEqual({ ok: true, answer }))

  it.each([
    ['as planned', { start: '2027-05-12T09:30', finish: '2027-05-14T15:45' }],
    // A day without a time is its end.
    ['13 may', { finish: '2027-05-13' }],
    ['no', { unchanged: true }],
    ['', { finish: null }],
  ])('%s under finished', (text, answer) => {
    expect(readFinished(text, ground())).toEqual({ ok: true, answer })
  })
  it('keeps the start of work that has begun where it finished as planned', () => {
    expect(readFinished('yes', ground(plan.activities[1]))).toEqual({
      ok: true,
      answer: { finish: '2027-05-14T15:45' },
    })
  })

  it.each([
    ['5 d', { remaining: 2400 }],
    ['1,5d', { remaining: 720 }],
    ['67 %', { percent: 67 }],
    ['12,5%', { percent: 12.5 }],
    ['12 of 30', { percent: 40 }],
    ['1,5 / 4 t', { percent: 38 }],
    ['500 of 1,000 m', { percent: 50 }],
    ['1,200 of 2,400', { percent: 50 }],
    ['1 200 / 4 800', { percent: 25 }],
    ['', { remaining: null }],
  ])('%s under left', (text, answer) => expect(readLeft(text, ground())).toEqual({ ok: true, answer }))

  it.each([
    [() => readLeft('100 %', ground()), 'say when it finished'],
    [() => readLeft('101%', ground()), 'at most 100 %'],
    [() => readLeft('31 of 30', ground()), '31 of 30 is more than all of it'],
    [() => readLeft('0 of 0', ground()), 'write what it is in all'],
    [() => readLeft('time', ground()), 'say first when it began'],
    [() => readLeft('time', { ...ground(plan.activities[1]), status: 1e9 }), 'its time is used up'],
    [() => readLeft('steps', ground()), 'no step that counts'],
    [() => readLeft('0', ground()), 'say when it finished'],
    [() => readLeft('-2d', ground()), 'less than nothing'],
    [() => readLeft('a lot', ground()), 'a share like 60 %, 12 of 30, time or steps'],
    [() => readLeft('2d', ground(plan.activities[2])), 'a milestone has nothing left'],
    [() => readStarted('soon', ground()), '“as planned” or “not yet”'],
    [() => readFinished('31 feb', ground()), 'not a date'],
    [() => readPromise('sometime', ground()), 'not a date'],
  ])('says what is wrong and how to mend it', (read, why) => {
    const found = read()
    expect(found.ok ? '' : found.why).toContain(why)
  })

  it('takes what is done by time from its beginning, said now or before, to the status date', () => {
    // From Wed 5 May 07:00 to Mon 17 May 07:00, every second minute of 4,800 in all but two.
    const begun = { ...ground(plan.activities[1]), status: instantOf('2027-05-10T07:00', 'start') }
    expect(readLeft('by time', begun)).toEqual({ ok: true, answer: { percent: 75 } })
    const said = { ...begun, answer: { start: '2027-05-09T07:00' } }
    expect(readLeft('Time', said)).toEqual({ ok: true, answer: { percent: 15 } })
    expect(readLeft('time', { ...begun, answer: { start: '2027-05-12' } })).toEqual({
      ok: true,
      answer: { percent: 0 },
    })
  })

  it('takes what is done by the steps of its checklist, by their weights, as they are ticked', () => {
    const checklist = [
      'Clean',
      { text: 'Cut', done: true, weight: 3 },
      { text: 'Fair', weight: 0 },
      { weight: 'x' },
    ]
    const stepped = ground({ ...plan.activities[0]!, checklist })
    expect(readLeft('steps', stepped)).toEqual({
      ok: true,
      answer: { percent: 60, steps: [false, true, false, false] },
    })
    const ticked = { ...stepped, answer: { steps: [true, true, false, false] } }
    expect(readLeft('by steps', ticked)).toMatchObject({ answer: { percent: 80 } })
    // All of them done is not finished: when it finished is a date.
    expect(tickedSteps(stepped.activity, [true, true, true, true])).toMatchObject({ percent: 99 })
    const none = { ...plan.activities[0]!, checklist: [{ text: 'Talk', weight: 0 }] }
    expect(tickedSteps(none, [true])).toEqual({ steps: [true] })
  })

  it('names the owner with a promise, unless somebody is named already', () => {
    expect(readPromise('20 may', ground())).toEqual({
      ok: true,
      answer: { promise: { finish: '2027-05-20', by: 'Painters' } },
    })
    const promised = { ...plan.activities[0]!, promise: { finish: '2027-05-18', by: 'Ana' } }
    expect(readPromise('20 may', ground(promised))).toMatchObject({ answer: { promise: { by: 'Ana' } } })
  })
})

it('reads since when work stood still, and until when, in that order', () => {
  const w = ground(plan.activities[1])
  const from = readStretch('from', '12 may', [], w)
  expect(from).toEqual({ ok: true, stretches: [{ from: '2027-05-12', to: null }] })
  const open = [{ from: '2027-05-12', to: null }]
  expect(readStretch('to', '14 may 07:00', open, w)).toEqual({
    ok: true,
    stretches: [{ from: '2027-05-12', to: '2027-05-14T07:00' }],
  })
  expect(readStretch('to', '', [{ from: '2027-05-12', to: '2027-05-14' }], w)).toEqual({
    ok: true,
    stretches: open,
  })
  expect(readStretch('from', '', open, w)).toEqual({ ok: true, stretches: [] })
  const why = (read: ReturnType<typeof readStretch>): string => (read.ok ? '' : read.why)
  expect(why(readStretch('to', '11 may', open, w))).toContain('cannot be taken up before')
  expect(why(readStretch('to', '14 may', [], w))).toContain('since when')
  expect(why(readStretch('from', '4 may', [], w))).toContain('it began Wed 5 May 07:00')
})

it('shows what was said, else what the plan has, and nothing left of what is done', () => {
  const w = plan.activities[1]!
  const shown = (answer: Parameters<typeof cellWords>[2]): string[] =>
    (['started', 'finished', 'left', 'promised'] as const).map((column) =>
      cellWords(column, w, answer, lengths),
    )
  expect(shown(undefined)).toEqual(['5 May', '', '40 %', ''])
  expect(shown({ remaining: 960 })).toEqual(['5 May', '', '2 d', ''])
  expect(shown({ finish: '2027-05-14T15:45' })).toEqual(['5 May', '14 May', '', ''])
  expect(cellWords('started', plan.activities[0]!, { unchanged: true }, lengths)).toBe('not yet')
})
