import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lagCalendarOf, readPlan, type Link, type Plan } from '../plan/index.ts'
import { randomPlan } from '../schedule/testing/randomPlans.ts'
import { complexity, impliedLinks } from './index.ts'

const small = (links: object[], n = 4): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'clock' },
    calendars: [{ id: 'c', week: { mon: ['08:00-16:00'] } }],
    activities: 'abcdefgh'
      .slice(0, n)
      .split('')
      .map((id) => ({ id, duration: 60 })),
    links,
  }).plan
const l = (id: string, ends: string, type = 'FS', lag = 0, lagOn: string | null = null) => ({
  id,
  from: ends[0],
  to: ends[1],
  type,
  lag,
  lagOn,
})

describe('an implied link', () => {
  it.each<[string, object[], string[]]>([
    ['is one that a chain guarantees', [l('1', 'ab'), l('2', 'bc'), l('3', 'ac')], ['3']],
    [
      'is not one with a lag that the chain does not guarantee',
      [l('1', 'ab'), l('2', 'bc'), l('3', 'ac', 'FS', 60)],
      [],
    ],
    [
      'is one with a lag that lags on the same calendar add up to',
      [l('1', 'ab', 'FS', 40), l('2', 'bc', 'FS', 30), l('3', 'ac', 'FS', 60)],
      ['3'],
    ],
    [
      'is not one whose lag would have to come from another calendar',
      [l('1', 'ab', 'FS', 40, 'calendar:c'), l('2', 'bc', 'FS', 90), l('3', 'ac', 'FS', 100)],
      [],
    ],
    [
      'is one without a lag that lags on any calendars guarantee',
      [l('1', 'ab', 'FS', 40, 'calendar:c'), l('2', 'bc', 'FS', 90), l('3', 'ac')],
      ['3'],
    ],
    [
      'is one that a link between the same edges guarantees with a greater lag',
      [l('1', 'ab', 'FS', 60), l('2', 'ab')],
      ['2'],
    ],
    ['is one of two equal links, not both', [l('1', 'ab'), l('2', 'ab')], ['1']],
    [
      'is an SS link where an FS link holds as well, for the start comes before the finish',
      [l('1', 'ab'), l('2', 'ab', 'SS')],
      ['2'],
    ],
    ['is an FF link where an FS link holds as well', [l('1', 'ab'), l('2', 'ab', 'FF')], ['2']],
    [
      'is not an FS link beside SS and FF links',
      [l('1', 'ab', 'SS'), l('2', 'ab', 'FF'), l('3', 'ab')],
      ['1', '2'],
    ],
    ['is not one that a lead undoes', [l('1', 'ab', 'FS', -30), l('2', 'bc'), l('3', 'ac')], []],
    [
      'is one with a lead that a chain without guarantees',
      [l('1', 'ab'), l('2', 'bc'), l('3', 'ac', 'FS', -30)],
      ['3'],
    ],
  ])('%s', (_, links, expected) => expect(impliedLinks(small(links))).toEqual(expected))

  it('leaves, once taken out, a network that still guarantees it: a search over all paths says so', () => {
    fc.assert(
      fc.property(randomPlan({ constraints: false, progress: false }), (plan) => {
        const implied = new Set(impliedLinks(plan))
        const kept = plan.links.filter((link) => !implied.has(link.id))
        for (const link of plan.links)
          expect([
            link.id,
            guaranteed(
              plan,
              link,
              kept.filter((other) => other !== link),
            ),
          ]).toEqual([link.id, implied.has(link.id)])
      }),
      { numRuns: 500 },
    )
  })
})

/** Whether some path over the given links guarantees a link's lag, by walking every path with the sum of its lags on each calendar. */
const guaranteed = (plan: Plan, link: Link, links: readonly Link[]): boolean => {
  const byId = new Map(plan.activities.map((a) => [a.id, a]))
  const calendar = (k: Link): string => lagCalendarOf(plan.project, k, byId.get(k.from), byId.get(k.to))
  const tail = (k: Link): string => k.from + (k.type === 'FS' || k.type === 'FF' ? 'F' : 'S')
  const head = (k: Link): string => k.to + (k.type === 'FF' || k.type === 'SF' ? 'F' : 'S')
  const own = calendar(link)
  // Lags on a path are taken for what they guarantee on one calendar `on`: themselves there, nothing elsewhere; leads elsewhere guarantee nothing at all.
  const walk = (at: string, on: string, sum: number): boolean => {
    if (at === head(link) && sum >= link.lag) return true
    if (at.endsWith('S') && walk(at.slice(0, -1) + 'F', on, sum)) return true
    return links.some((k) => {
      if (tail(k) !== at) return false
      if (k.lag === 0 || calendar(k) === on)
        return walk(head(k), on, sum + k.lag) || (k.lag > 0 && walk(head(k), on, sum))
      return k.lag > 0 && walk(head(k), on, sum)
    })
  }
  const calendars = link.lag === 0 ? [...new Set([own, ...plan.links.map(calendar)])] : [own]
  return calendars.some((on) => walk(tail(link), on, 0))
}

it('complexity is links − activities + 2 × parts on the reduced network', () => {
  const plan = small([l('1', 'ab'), l('2', 'bc'), l('3', 'ac'), l('4', 'de'), l('5', 'bd')], 6)
  // f stands alone; 3 is implied: 4 links − 6 activities + 2 × 2 parts.
  expect(complexity(plan)).toEqual({ number: 2, links: 4, activities: 6, parts: 2, implied: ['3'] })
})
