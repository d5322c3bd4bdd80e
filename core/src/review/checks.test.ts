import { describe, expect, it } from 'vitest'
import { readPlan, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { CHECKS, review, type Finding } from './index.ts'

type Part = Record<string, unknown>
interface Draft {
  activities?: Part[]
  links?: Part[]
  project?: Part
  calendars?: Part[]
  [list: string]: unknown
}

const DAYS = ['mon', 'tue', 'wed', 'thu', 'fri']
const week = (...shifts: string[]): Part => Object.fromEntries(DAYS.map((day) => [day, shifts]))
const DAY = { id: 'day', name: 'Day shift', week: week('07:00-15:00'), dayMinutes: 480, weekMinutes: 2400 }
const LONG = { id: 'long', name: 'Long shift', week: week('06:00-16:00'), dayMinutes: 600, weekMinutes: 3000 }
const WATCH = {
  id: 'watch',
  name: 'Watch',
  week: { ...week('00:00-24:00'), sat: ['00:00-24:00'], sun: ['00:00-24:00'] },
  dayMinutes: 1440,
  weekMinutes: 10080,
}
const TUESDAYS = {
  id: 'tue',
  name: 'Tuesdays',
  week: { tue: ['07:00-15:00'] },
  dayMinutes: 480,
  weekMinutes: 480,
}
const SUMMER = {
  id: 'summer',
  name: 'Summer',
  week: {},
  seasons: [{ from: '06-01', to: '08-31', yearly: true, week: week('07:00-15:00') }],
  dayMinutes: 480,
}

/** S → a → b → F with a day each, from Monday 1 March 2027; parts given replace or add by id. */
const make = ({ activities = [], links, project = {}, calendars = [], ...rest }: Draft): Plan => {
  const base: Part[] = [
    { id: 'S', kind: 'milestone' },
    { id: 'a', duration: '1d' },
    { id: 'b', duration: '1d' },
    { id: 'F', kind: 'milestone', edge: 'finish' },
  ].map((part) => ({
    code: part.id,
    ...(part.kind ? {} : { estimate: { low: '1d', likely: '1d', high: '2d' } }),
    ...part,
  }))
  const changed: Part[] = activities.map((part) => ({
    code: part.id,
    ...base.find((b) => b.id === part.id),
    ...part,
  }))
  return readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'day', opens: ['S'], closes: ['F'], ...project },
    calendars: [DAY, ...calendars],
    activities: [...base.filter((b) => !changed.some((c) => c.id === b.id)), ...changed],
    links: links ?? chain('S', 'a', 'b', 'F'),
    ...rest,
  }).plan
}
const link = (from: string, to: string, type = 'FS', more: Part = {}): Part => ({
  id: `${from}-${to}-${type}`,
  from,
  to,
  type,
  ...more,
})
const chain = (...ids: string[]): Part[] => ids.slice(1).map((id, k) => link(ids[k]!, id))
const beside = (id: string, more: Part = {}): Part => ({
  id,
  duration: '1d',
  estimate: { low: '1d', likely: '1d', high: '2d' },
  ...more,
})
const at = (edge: string, rule: string, date: string, overrides = false): Part => ({
  constraints: [{ edge, rule, date, overrides }],
})
const many = (n: number): string[] => Array.from({ length: n }, (_, k) => `m${k}`)
const status = { statusDate: '2027-03-03T07:00' }
const done = (start: string, finish: string | null = null): Part => ({
  progress: { actualStart: start, actualFinish: finish },
})

/** One resource, and who has it. */
const staffed = (resource: Part, activities = ['a', 'b']): Draft => ({
  resources: [{ id: 'r', code: 'R', price: 1, ...resource }],
  assignments: activities.map((activity) => ({ id: `x${activity}`, activity, resource: 'r' })),
})
const twoBeside: Draft = { links: [...chain('S', 'a', 'F'), ...chain('S', 'b', 'F')] }
const NIGHTS = { id: 'nights', name: 'Nights', week: week('20:00-24:00') }

/** For every check: a network that has what it looks for, one that nearly has it, and one that has it twice. */
const CASES: Record<string, { has: Draft; nearly: Draft; twice: Draft }> = {
  'open-end': {
    has: { activities: [beside('c')], links: [...chain('S', 'a', 'b', 'F'), link('S', 'c')] },
    nearly: {
      activities: [beside('c')],
      links: [...chain('S', 'a', 'b', 'F'), link('S', 'c')],
      project: { closes: ['F', 'c'] },
    },
    twice: { activities: [beside('c')] },
  },
  'dangling-end': {
    has: { links: [link('S', 'a'), link('a', 'b', 'SS'), link('b', 'F')] },
    nearly: { links: [link('S', 'a'), link('a', 'b', 'SS'), link('a', 'b', 'FF'), link('b', 'F')] },
    twice: {
      activities: [beside('c')],
      links: [link('S', 'a'), link('a', 'b', 'SS'), link('b', 'F'), link('S', 'c'), link('c', 'b', 'SS')],
    },
  },
  'implied-link': {
    has: { links: [...chain('S', 'a', 'b', 'F'), link('S', 'b')] },
    nearly: { links: [...chain('S', 'a', 'b', 'F'), link('S', 'b', 'FS', { lag: '1d' })] },
    twice: { links: [...chain('S', 'a', 'b', 'F'), link('S', 'b'), link('a', 'F')] },
  },
  'group-link': {
    has: {
      groups: [{ id: 'g' }],
      activities: [{ id: 'b', group: 'g' }],
      links: [link('S', 'a'), link('a', 'g'), link('b', 'F')],
    },
    nearly: { groups: [{ id: 'g' }], activities: [{ id: 'b', group: 'g' }] },
    twice: {
      groups: [{ id: 'g' }],
      activities: [{ id: 'b', group: 'g' }],
      links: [link('S', 'a'), link('a', 'g'), link('g', 'F')],
    },
  },
  'negative-lag': {
    has: { links: [link('S', 'a'), link('a', 'b', 'FS', { lag: '-4h' }), link('b', 'F')] },
    nearly: { links: [link('S', 'a'), link('a', 'b', 'FS', { lag: '4h' }), link('b', 'F')] },
    twice: {
      links: [link('S', 'a'), link('a', 'b', 'FS', { lag: '-4h' }), link('b', 'F', 'FS', { lag: '-1h' })],
    },
  },
  'long-lag': {
    has: { links: [link('S', 'a'), link('a', 'b', 'FS', { lag: 2401 }), link('b', 'F')] },
    nearly: { links: [link('S', 'a'), link('a', 'b', 'FS', { lag: 2400 }), link('b', 'F')] },
    twice: {
      links: [link('S', 'a'), link('a', 'b', 'FS', { lag: '6d' }), link('b', 'F', 'FS', { lag: '6d' })],
    },
  },
  'serial-chain': {
    has: {
      activities: many(9).map((id) => beside(id)),
      links: chain('S', 'a', 'b', 'F').concat(link('S', 'm0'), chain(...many(9)), link('m8', 'F')),
    },
    nearly: {
      activities: many(9).map((id) => beside(id)),
      links: chain('S', 'a', 'b', 'F').concat(
        link('S', 'm0'),
        chain(...many(9)).map((l, k) => (k === 4 ? { ...l, reason: 'crane' } : l)),
        link('m8', 'F'),
      ),
    },
    twice: {
      activities: [...many(9), 'x', ...many(9).map((m) => `${m}x`)].map((id) => beside(id)),
      links: chain('S', 'a', 'b', 'F').concat(
        link('S', 'm0'),
        chain(...many(9)),
        link('m8', 'F'),
        link('S', 'x'),
        link('x', 'F'),
        link('S', 'm0x'),
        chain(...many(9).map((m) => `${m}x`)),
        link('m8x', 'F'),
      ),
    },
  },
  'merge-point': {
    has: {
      activities: many(8).map((id) => beside(id)),
      links: [...chain('S', 'a', 'b', 'F'), ...many(8).flatMap((m) => chain('S', m, 'b'))],
    },
    nearly: {
      activities: many(6).map((id) => beside(id)),
      // Two of the eight links are redundant: the same work comes to it over another path.
      links: [...chain('S', 'a', 'b', 'F'), ...many(6).flatMap((m) => chain('S', m, 'b')), link('S', 'b')],
    },
    twice: {
      activities: many(16).map((id) => beside(id)),
      links: [...chain('S', 'a', 'b', 'F'), ...many(16).flatMap((m, k) => chain('S', m, k < 8 ? 'b' : 'F'))],
    },
  },
  'hammock-ends': {
    has: {
      activities: [{ id: 'h', kind: 'hammock' }],
      links: [...chain('S', 'a', 'b', 'F'), link('a', 'h', 'SS')],
    },
    nearly: {
      activities: [{ id: 'h', kind: 'hammock' }],
      links: [...chain('S', 'a', 'b', 'F'), link('a', 'h', 'SS'), link('b', 'h', 'FF')],
    },
    twice: {
      activities: [
        { id: 'h', kind: 'hammock' },
        { id: 'h2', kind: 'hammock' },
      ],
    },
  },
  'negative-float': {
    has: { project: { requiredFinish: '2027-03-01' } },
    nearly: { project: { requiredFinish: '2027-03-02' } },
    twice: {
      project: { requiredFinish: '2027-03-02T10:00' },
      activities: [{ id: 'a', ...at('finish', 'not-after', '2027-03-01T09:00') }],
    },
  },
  'high-float': {
    has: {
      activities: [beside('c'), { id: 'b', duration: '32d' }],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F')],
    },
    nearly: {
      activities: [beside('c'), { id: 'b', duration: '30d' }],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F')],
    },
    twice: {
      activities: [beside('c'), beside('d'), { id: 'b', duration: '32d' }],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F'), ...chain('S', 'd', 'F')],
    },
  },
  'float-fraction': {
    has: {
      activities: [beside('c', { duration: '12h' })],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F')],
    },
    nearly: { activities: [beside('c')], links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F')] },
    twice: {
      activities: [
        beside('c', { duration: '12h' }),
        beside('d', { duration: '4h', ...at('finish', 'not-after', '2027-03-01T12:00') }),
      ],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F'), ...chain('S', 'd', 'F')],
    },
  },
  'overriding-constraint': {
    has: { activities: [{ id: 'b', ...at('start', 'exactly', '2027-03-04', true) }] },
    nearly: { activities: [{ id: 'b', ...at('start', 'exactly', '2027-03-04') }] },
    twice: {
      activities: [
        { id: 'a', ...at('start', 'exactly', '2027-03-04', true) },
        { id: 'b', ...at('finish', 'not-after', '2027-03-09', true) },
      ],
    },
  },
  'binding-constraint': {
    has: { activities: [{ id: 'b', ...at('start', 'not-before', '2027-03-03') }] },
    nearly: { activities: [{ id: 'b', ...at('start', 'not-before', '2027-03-02') }] },
    twice: {
      activities: [
        { id: 'a', ...at('start', 'exactly', '2027-03-02') },
        { id: 'b', ...at('finish', 'not-before', '2027-03-05') },
      ],
    },
  },
  'contradicting-constraint': {
    has: {
      activities: [
        {
          id: 'b',
          constraints: [
            { edge: 'start', rule: 'not-before', date: '2027-03-04' },
            { edge: 'finish', rule: 'not-after', date: '2027-03-04T14:00' },
          ],
        },
      ],
    },
    nearly: {
      activities: [
        {
          id: 'b',
          constraints: [
            { edge: 'start', rule: 'not-before', date: '2027-03-04' },
            { edge: 'finish', rule: 'not-after', date: '2027-03-04' },
          ],
        },
      ],
    },
    twice: {
      activities: ['a', 'b'].map((id) => ({
        id,
        constraints: [
          { edge: 'start', rule: 'exactly', date: '2027-03-04' },
          { edge: 'start', rule: 'not-after', date: '2027-03-03' },
        ],
      })),
    },
  },
  'midnight-limit': {
    has: { project: { requiredFinish: '2027-03-04T00:00' } },
    nearly: {
      project: { requiredFinish: '2027-03-04T24:00' },
      activities: [{ id: 'b', ...at('finish', 'not-after', '2027-03-04') }],
    },
    twice: {
      project: { requiredFinish: '2027-03-04T00:00' },
      activities: [{ id: 'b', ...at('finish', 'not-after', '2027-03-04T00:00') }],
    },
  },
  'off-hours-limit': {
    has: { activities: [{ id: 'b', ...at('start', 'not-before', '2027-03-04T15:00') }] },
    nearly: { activities: [{ id: 'b', ...at('start', 'not-before', '2027-03-04T14:59') }] },
    twice: {
      activities: [
        { id: 'a', ...at('start', 'not-before', '2027-03-02T18:00') },
        { id: 'b', ...at('finish', 'not-after', '2027-03-05T06:00') },
      ],
    },
  },
  'day-lengths': {
    has: { calendars: [LONG], activities: [{ id: 'b', calendar: 'long' }] },
    nearly: {
      calendars: [LONG],
      activities: ['S', 'a', 'b'].map((id) => ({ id, calendar: 'long' })),
      project: { start: '2027-03-01T06:00' },
    },
    twice: {
      calendars: [LONG, WATCH],
      activities: [
        { id: 'a', calendar: 'watch', duration: '1d' },
        { id: 'b', calendar: 'long', duration: 660 },
        beside('c'),
      ],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('b', 'c', 'F')],
    },
  },
  'calendar-wait': {
    has: {
      calendars: [TUESDAYS],
      activities: [
        { id: 'a', duration: '2d' },
        { id: 'b', calendar: 'tue' },
      ],
    },
    nearly: {
      calendars: [TUESDAYS],
      activities: [
        { id: 'a', duration: '5d' },
        { id: 'b', calendar: 'tue' },
      ],
      project: { start: '2027-03-02T07:00' },
    },
    twice: {
      calendars: [TUESDAYS],
      activities: [
        beside('c', { duration: '2d' }),
        { id: 'a', calendar: 'tue' },
        beside('d'),
        { id: 'b', calendar: 'tue' },
      ],
      links: chain('S', 'c', 'a', 'd', 'b', 'F'),
    },
  },
  'calendar-without-work': {
    has: { calendars: [SUMMER], activities: [{ id: 'b', calendar: 'summer' }] },
    nearly: {
      calendars: [SUMMER],
      activities: [{ id: 'b', calendar: 'summer' }],
      project: { start: '2027-05-12T07:00' },
    },
    twice: {
      calendars: [SUMMER],
      activities: [{ id: 'b', calendar: 'summer' }, beside('c', { calendar: 'summer' })],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('a', 'c', 'F')],
    },
  },
  'unused-calendar': {
    has: { calendars: [LONG] },
    nearly: {
      calendars: [LONG, { ...TUESDAYS, parent: 'long' }],
      activities: [{ id: 'b', calendar: 'tue' }],
    },
    twice: { calendars: [LONG, TUESDAYS] },
  },
  'actual-after-status': {
    has: { project: status, activities: [{ id: 'a', ...done('2027-03-03T08:00') }] },
    nearly: { project: status, activities: [{ id: 'a', ...done('2027-03-03T07:00') }] },
    twice: {
      project: status,
      activities: [
        { id: 'a', ...done('2027-03-01T07:00', '2027-03-04T15:00') },
        { id: 'b', ...done('2027-03-05T07:00') },
      ],
    },
  },
  'planned-in-past': {
    has: { project: status, activities: [{ id: 'b', ...at('start', 'exactly', '2027-03-02', true) }] },
    nearly: { project: status, activities: [{ id: 'b', ...at('start', 'exactly', '2027-03-03', true) }] },
    twice: {
      project: status,
      activities: ['a', 'b'].map((id) => ({ id, ...at('start', 'exactly', '2027-03-02', true) })),
    },
  },
  'out-of-sequence': {
    has: {
      project: status,
      activities: [
        { id: 'S', ...done('2027-03-01T07:00') },
        { id: 'b', ...done('2027-03-02T07:00') },
      ],
    },
    nearly: {
      project: status,
      activities: [
        { id: 'S', ...done('2027-03-01T07:00') },
        { id: 'a', ...done('2027-03-01T07:00', '2027-03-01T15:00') },
        { id: 'b', ...done('2027-03-02T07:00') },
      ],
    },
    twice: {
      project: status,
      activities: [
        { id: 'a', ...done('2027-03-01T07:00') },
        { id: 'b', ...done('2027-03-02T07:00') },
      ],
    },
  },
  'promise-trap': {
    has: { project: status, activities: [{ id: 'a', promise: { finish: '2027-03-05', by: 'fitters' } }] },
    nearly: {
      project: status,
      activities: [
        { id: 'S', ...done('2027-03-01T07:00') },
        { id: 'a', ...done('2027-03-02T07:00'), promise: { finish: '2027-03-05', by: 'fitters' } },
      ],
    },
    twice: {
      project: status,
      activities: [
        { id: 'a', promise: { finish: '2027-03-05' } },
        { id: 'b', ...done('2027-03-02T07:00'), promise: { finish: '2027-03-02' } },
      ],
    },
  },
  'no-actual-start': {
    has: { project: status, activities: [{ id: 'a', progress: { percent: 40 } }] },
    nearly: {
      project: status,
      activities: [{ id: 'a', progress: { percent: 40, actualStart: '2027-03-01T07:00' } }],
    },
    twice: {
      project: status,
      activities: [
        { id: 'a', progress: { percent: 40 } },
        { id: 'b', progress: { remaining: 60 } },
      ],
    },
  },
  'missed-baseline': {
    has: {
      activities: [
        { id: 'a', duration: '6d' },
        { id: 'b', duration: 481 },
      ],
      baselines: [{ id: 'b1', activities: { b: { finish: '2027-03-02T15:00' } } }],
    },
    nearly: {
      activities: [{ id: 'a', duration: '6d' }],
      baselines: [{ id: 'b1', activities: { b: { finish: '2027-03-02T15:00' } } }],
    },
    twice: {
      activities: [{ id: 'a', duration: '9d' }, beside('c', { duration: '9d' })],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F')],
      baselines: [
        { id: 'b0', activities: {} },
        {
          id: 'b1',
          activities: {
            a: { finish: '2027-03-01T15:00' },
            b: { finish: '2027-03-02T15:00' },
            c: { finish: '2027-03-01T15:00' },
          },
        },
      ],
    },
  },
  'long-duration': {
    has: { activities: [{ id: 'a', duration: 20 * 480 + 1 }] },
    nearly: { activities: [{ id: 'a', duration: '20d' }] },
    twice: {
      activities: [
        { id: 'a', duration: '21d' },
        { id: 'b', duration: '21d' },
      ],
    },
  },
  'unconfirmed-duration': {
    has: { activities: [{ id: 'a', confirmed: false }] },
    nearly: {
      project: status,
      activities: [{ id: 'a', confirmed: false, ...done('2027-03-01T07:00', '2027-03-01T15:00') }],
    },
    twice: {
      activities: [
        { id: 'a', confirmed: false },
        { id: 'b', confirmed: false },
      ],
    },
  },
  'zero-duration': {
    has: { activities: [{ id: 'a', duration: 0 }] },
    nearly: { activities: [{ id: 'a', duration: 1 }] },
    twice: {
      activities: [
        { id: 'a', duration: 0 },
        { id: 'b', duration: 0 },
      ],
    },
  },
  'missing-estimate': {
    has: { activities: [{ id: 'a', estimate: null }] },
    nearly: {
      activities: [beside('c', { estimate: null }), { id: 'b', duration: '8d' }],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F')],
    },
    twice: {
      activities: [{ id: 'a', estimate: null }, { id: 'b', estimate: null }, beside('c')],
      links: [...chain('S', 'a', 'b', 'F'), ...chain('S', 'c', 'F')],
    },
  },
  'estimate-off': {
    has: { activities: [{ id: 'a', duration: 961 }] },
    nearly: { activities: [{ id: 'a', duration: 960 }] },
    twice: {
      activities: [
        { id: 'a', duration: '3d' },
        { id: 'b', duration: 479 },
      ],
    },
  },
  'no-resources': {
    has: { resources: [{ id: 'r' }], assignments: [{ activity: 'a', resource: 'r' }] },
    nearly: { resources: [] },
    twice: { resources: [{ id: 'r' }] },
  },
  'cost-without-time': {
    has: { activities: [{ id: 'F', cost: { perDay: 100 } }] },
    nearly: {
      activities: [
        { id: 'F', cost: { fixed: 100 } },
        { id: 'a', cost: { perDay: 100 } },
      ],
    },
    twice: {
      activities: [
        { id: 'F', cost: { perDay: 100 } },
        { id: 'S', cost: { perDay: 100 } },
      ],
    },
  },
  overload: {
    has: { ...twoBeside, ...staffed({ available: [{ amount: 1 }] }) },
    // In turns there is enough; and without a limit there always is.
    nearly: {
      ...twoBeside,
      links: [...chain('S', 'a', 'b', 'F')],
      ...staffed({ available: [{ amount: 1 }] }),
    },
    twice: {
      ...twoBeside,
      resources: ['r', 's'].map((id) => ({ id, code: id, price: 1, available: [{ amount: 1 }] })),
      assignments: ['r', 's'].flatMap((resource) =>
        ['a', 'b'].map((activity) => ({ id: `${resource}${activity}`, activity, resource })),
      ),
    },
  },
  'outside-hours': {
    has: { calendars: [TUESDAYS], ...staffed({ calendar: 'tue' }, ['a']) },
    nearly: { calendars: [LONG], ...staffed({ calendar: 'long' }, ['b']) },
    twice: { ...twoBeside, calendars: [TUESDAYS], ...staffed({ calendar: 'tue' }) },
  },
  'no-joint-hours': {
    has: { calendars: [NIGHTS], ...staffed({ calendar: 'nights' }, ['b']) },
    nearly: { calendars: [TUESDAYS], ...staffed({ calendar: 'tue' }, ['b']) },
    twice: { calendars: [NIGHTS], ...staffed({ calendar: 'nights' }, ['a', 'b']) },
  },
  'no-price': {
    has: staffed({ price: 0 }),
    nearly: { ...staffed({ price: 0.01 }), resources: [{ id: 'r', price: 0.01 }, { id: 'unused' }] },
    twice: {
      resources: [{ id: 'r' }, { id: 's' }],
      assignments: [
        { id: 'x', activity: 'a', resource: 'r' },
        { id: 'y', activity: 'b', resource: 's' },
      ],
    },
  },
  'nothing-due': {
    has: { damages: [{ id: 'd', due: '2027-04-01' }] },
    nearly: {
      damages: [{ id: 'd', due: '2027-04-01', steps: [{ from: 30, amount: 1 }] }],
      activities: [{ id: 'F', payment: { amount: 1 } }],
    },
    twice: {
      damages: [{ id: 'd', due: '2027-04-01', steps: [{ from: 1, amount: 5 }], cap: 0 }],
      activities: [{ id: 'F', payment: { amount: 0 } }],
    },
  },
}

const found = (draft: Draft, check: string): readonly Finding[] => {
  const plan = make(draft)
  return review(plan, schedule(plan)).findings.filter((f) => f.check === check)
}

describe('each check', () => {
  it('has its cases', () => {
    // The share of link types is one figure of the whole project and cannot be found twice.
    expect(Object.keys(CASES).sort()).toEqual(
      CHECKS.map((c) => c.id)
        .filter((id) => id !== 'few-finish-starts')
        .sort(),
    )
  })
  for (const [check, { has, nearly, twice }] of Object.entries(CASES))
    it(`${check}: finds it, not what is nearly it, and both of two`, () => {
      const one = found(has, check)
      expect(one.map((f) => f.message)).toHaveLength(1)
      expect(found(nearly, check).map((f) => f.message)).toEqual([])
      const two = found(twice, check)
      expect(two.map((f) => f.message)).toHaveLength(2)
      expect(new Set(two.map((f) => f.fingerprint)).size).toBe(2)
      expect(two.every((f) => f.message !== '' && f.effect.kind !== 'unmeasured')).toBe(true)
    })
  it('few-finish-starts: counts the share, and names the others', () => {
    const links = (types: string[]): Part[] => [
      link('S', 'a', types[0]),
      link('a', 'b', types[1]),
      link('b', 'F', types[2]),
      link('S', 'b', types[3]),
    ]
    expect(found({ links: links(['FS', 'SS', 'FS', 'FS']) }, 'few-finish-starts')).toEqual([])
    expect(found({ links: links(['FS', 'SS', 'FF', 'FS']) }, 'few-finish-starts')).toMatchObject([
      { value: 0.5, threshold: 0.75, links: ['a-b-SS', 'b-F-FF'] },
    ])
  })
  it('finds nothing in an empty project', () => {
    const empty = readPlan({ format: 'geodrome-plan', version: 1, project: { start: '2027-03-01' } }).plan
    expect(review(empty, schedule(empty)).findings).toEqual([])
  })
})
