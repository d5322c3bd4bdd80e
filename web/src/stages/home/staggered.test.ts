import { describe, expect, it } from 'vitest'
import { instantOf, readPlan, type Plan, type Staggered } from '@geodrome/core'
import { drumsOf, firstDrum, staggerTitle, whyWords } from './staggered.ts'

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
const planOf = (asks: Record<string, number>, more: Record<string, unknown> = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', week: WEEK }],
    project: { start: '2027-03-01', calendar: 'day' },
    activities: [{ id: 'a', code: 'A', duration: '4d' }],
    resources: [
      { id: 'w', code: 'WELD', name: 'Welders', kind: 'people', available: [{ from: null, amount: 4 }] },
      { id: 'c', code: 'CRAN', kind: 'plant', available: [{ from: null, amount: 1 }] },
      { id: 'p', code: 'PAIN', kind: 'material', price: 3 },
      { id: 'n', kind: 'people' },
    ],
    assignments: Object.entries(asks).map(([resource, amount]) => ({ activity: 'a', resource, amount })),
    ...more,
  }).plan

describe('what plans could be staggered at', () => {
  it('is people and plant that unfinished work asks for, what is shared first, the scarcest of it first', () => {
    const drums = drumsOf([planOf({ w: 4, c: 1, p: 9, n: 2 }), planOf({ w: 3 })])
    expect(drums).toEqual([
      { code: 'WELD', name: 'Welders', plans: 2, busy: (4 * 4 * 480 + 3 * 4 * 480) / 4 },
      { code: 'CRAN', name: 'CRAN', plans: 1, busy: 4 * 480 },
    ])
    const over = {
      activities: [
        {
          id: 'a',
          duration: '4d',
          progress: { actualStart: '2027-03-01T08:00', actualFinish: '2027-03-02T08:00' },
        },
      ],
      statusDate: '2027-03-03',
    }
    expect(
      drumsOf([
        planOf(
          { w: 1 },
          {
            activities: over.activities,
            project: { start: '2027-03-01', calendar: 'day', statusDate: '2027-03-03' },
          },
        ),
      ]),
    ).toEqual([])
  })
  it('begins with what a plan names as its drum, though another is scarcer', () => {
    const plans = [planOf({ w: 1, c: 1 }), planOf({ w: 4, c: 1 }, { chain: { drum: 'c' } })]
    expect(firstDrum(plans, drumsOf(plans))).toBe('CRAN')
    expect(firstDrum([plans[0]!], drumsOf([plans[0]!]))).toBe('CRAN')
    expect(firstDrum([], [])).toBeNull()
  })
})

const one: Staggered = {
  id: 'p',
  state: 'placed',
  days: 0,
  start: '2027-03-01T00:00',
  finish: '2027-03-05T16:00',
  promised: '2027-03-09T16:00',
  drum: [{ activity: 'a', from: 0, to: 480, amount: 1 }],
  waitsFor: [],
  held: [],
}
const until = instantOf('2027-03-04T16:00', 'finish')
describe('why a plan begins when it does', () => {
  it.each([
    [{}, 'there is room from its start'],
    [{ drum: [] }, 'asks for none'],
    [{ days: 4, waitsFor: [{ id: 'q', until }] }, 'waits for Q until 4 Mar'],
    [{ state: 'under way' }, 'under way: it stays, the others go round it'],
    [{ state: 'cannot' }, 'asks for more than there is'],
    [{ state: 'cannot', waitsFor: [{ id: 'q', until }] }, 'no room is found beside Q until 4 Mar'],
    [
      { state: 'cannot', held: ['a'], waitsFor: [{ id: 'q', until }] },
      'dates hold A in the way of Q until 4 Mar; no later beginning helps',
    ],
  ] as const)('%j', (more, words) =>
    expect(
      whyWords(
        { ...one, ...more } as Staggered,
        (id) => id.toUpperCase(),
        (id) => id.toUpperCase(),
      ),
    ).toBe(words),
  )
  it('is summed up over all plans, and not before all are placed', () => {
    const later = { ...one, days: 4 }
    const stuck: Staggered = { ...one, state: 'cannot' }
    expect(staggerTitle([one], 2)).toBe('Placing 2 plans, the first first …')
    expect(staggerTitle([one, one], 2)).toBe('All can begin when they are planned to.')
    expect(staggerTitle([one, later], 2)).toBe('1 plan begins later, by 4 calendar days.')
    expect(staggerTitle([later, { ...later, days: 1 }, stuck], 3)).toBe(
      '2 plans begin later, by up to 4 calendar days; 1 of 3 finds no room.',
    )
    expect(staggerTitle([one, stuck], 2)).toBe('No plan begins later; 1 of 2 finds no room.')
  })
})
