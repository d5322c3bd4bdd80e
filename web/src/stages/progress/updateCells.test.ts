import { describe, expect, it } from 'vitest'
import { instantOf, readPlan, type Activity } from '@geodrome/core'
import {
  cellWords,
  readFinished,
  readLeft,
  readPromise,
  readStarted,
  readStretch,
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
    ['', { remaining: null }],
  ])('%s under left', (text, answer) => expect(readLeft(text, ground())).toEqual({ ok: true, answer }))

  it.each([
    [() => readLeft('100 %', ground()), 'say when it finished'],
    [() => readLeft('101%', ground()), 'at most 100 %'],
    [() => readLeft('0', ground()), 'say when it finished'],
    [() => readLeft('-2d', ground()), 'less than nothing'],
    [() => readLeft('a lot', ground()), 'percentage like 60 %'],
    [() => readLeft('2d', ground(plan.activities[2])), 'a milestone has nothing left'],
    [() => readStarted('soon', ground()), '“as planned” or “not yet”'],
    [() => readFinished('31 feb', ground()), 'not a date'],
    [() => readPromise('sometime', ground()), 'not a date'],
  ])('says what is wrong and how to mend it', (read, why) => {
    const found = read()
    expect(found.ok ? '' : found.why).toContain(why)
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
