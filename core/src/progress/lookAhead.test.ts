import { expect, it } from 'vitest'
import { formatInstant, instantOf } from '../time/index.ts'
import { readPlan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { lookAhead } from './lookAhead.ts'
import { promisesOf } from './promises.ts'

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'day', statusDate: '2027-03-08T07:00' },
  calendars: [{ id: 'day', name: 'Day', week }],
  activities: [
    {
      id: 'f',
      code: 'F',
      duration: '2d',
      progress: { actualStart: '2027-03-01T07:00', actualFinish: '2027-03-03T15:00' },
      promise: { finish: '2027-03-03', by: 'Ana' },
    },
    {
      id: 'w',
      code: 'W',
      duration: '8d',
      owner: 'Welders',
      promise: { finish: '2027-03-11' },
      progress: { actualStart: '2027-03-04T07:00', percent: 50 },
    },
    {
      id: 'o',
      code: 'O',
      kind: 'milestone',
      edge: 'finish',
      decision: { by: 'Owner' },
      constraints: [{ edge: 'finish', rule: 'not-before', date: '2027-03-10T15:00' }],
    },
    { id: 'p', code: 'P', kind: 'milestone', edge: 'finish', payment: { amount: 5 } },
    {
      id: 'a',
      code: 'A',
      duration: '2d',
      constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-12T07:00' }],
    },
    { id: 'b', code: 'B', duration: '1d', promise: { finish: '2027-03-09' } },
    {
      id: 'z',
      code: 'Z',
      duration: '1d',
      constraints: [{ edge: 'start', rule: 'not-before', date: '2027-04-12' }],
    },
    { id: 'h', code: 'H', kind: 'hammock' },
  ],
  links: [
    ['f', 'b', 'FS'],
    ['w', 'a', 'FS'],
    ['o', 'a', 'FS'],
    ['p', 'a', 'FS'],
    ['w', 'b', 'SS'],
    ['a', 'h', 'SS'],
    ['z', 'h', 'FF'],
  ].map(([from, to, type], k) => ({ id: `${k}`, from, to, type })),
})
const made = schedule(plan)

it('looks so many weeks ahead: what is to be done, and what still has to happen before it can begin', () => {
  const said = lookAhead(made, instantOf('2027-03-22T07:00', 'start')).map(({ activity, blocks }) => [
    plan.activities[activity]!.code,
    ...blocks.map((block) =>
      [
        block.kind,
        block.kind === 'date' ? '' : plan.activities[block.activity]!.code,
        formatInstant(block.until).slice(5),
      ].join(' '),
    ),
  ])
  expect(said).toEqual([
    ['W'],
    // F is finished and W has started: nothing blocks B. The payment is due at once, and not made.
    ['P'],
    ['B'],
    ['O'],
    ['A', 'payment P 03-08T07:00', 'decision O 03-10T15:00', 'work W 03-11T15:00', 'date  03-12T07:00'],
  ])
  // What begins after the window is not in it.
  expect(
    lookAhead(made, instantOf('2027-03-09T07:00', 'start')).map(
      ({ activity }) => plan.activities[activity]!.code,
    ),
  ).toEqual(['W', 'P', 'B'])
})

it('knows what became of every promise, and whose it was', () => {
  const told = (dates = made): string[] =>
    promisesOf(dates.network.plan, { state: dates.network.state, finish: dates.finish }).map(
      ({ activity, by, state }) => `${plan.activities[activity]!.code} ${by}: ${state}`,
    )
  expect(told()).toEqual(['F Ana: kept', 'W Welders: open', 'B Nobody named: wish'])
  const later = { ...plan, project: { ...plan.project, statusDate: '2027-03-15T07:00' } }
  expect(told(schedule(later))).toEqual(['F Ana: kept', 'W Welders: past', 'B Nobody named: wish'])
  const missed = {
    ...plan,
    activities: plan.activities.map((a) =>
      a.id === 'f' ? { ...a, promise: { finish: '2027-03-02', by: 'Ana' } } : a,
    ),
  }
  expect(told(schedule(missed))[0]).toBe('F Ana: missed')
})
