import { describe, expect, it } from 'vitest'
import { readPlan, type Change } from '../plan/index.ts'
import { describeChange } from './index.ts'

const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'clock' },
  calendars: [{ id: 'zq-cal', name: 'Night shift' }],
  groups: [{ id: 'zq-g1', code: 'G', name: 'Buying' }],
  activities: [
    {
      id: 'zq-a',
      code: 'A10',
      name: 'Order steel',
      duration: '2d',
      group: 'zq-g1',
      estimate: { low: '1d', likely: '2d', high: '3d' },
    },
    { id: 'zq-b', code: '', name: '', duration: '1d' },
  ],
  links: [{ id: 'zq-l', from: 'zq-a', to: 'zq-b' }],
})
const all = (...changes: Change[]): Change => ({ kind: 'all', changes })
const set = (list: never, key: string, fields: object): Change => ({
  kind: 'set',
  list,
  key,
  set: fields as never,
})
const add = (list: string, item: object): Change => ({
  kind: 'add',
  list: list as never,
  item: item as never,
  before: null,
})

describe('a change in words', () => {
  it.each<[string, Change]>([
    [
      'group Buying → Paper work',
      all(
        add('groups', { id: 'zq-g2', code: 'P', name: 'Paper work' }),
        set('activities' as never, 'zq-a', { group: 'zq-g2' }),
      ),
    ],
    [
      'project calendar: round the clock → Day shift',
      all(add('calendars', { id: 'zq-new', name: 'Day shift' }), {
        kind: 'project',
        set: { calendar: 'zq-new' },
      }),
    ],
    [
      'calendar the project’s → another calendar',
      set('activities' as never, 'zq-a', { calendar: 'zq-gone' }),
    ],
    ['length of a day changed', set('calendars' as never, 'zq-cal', { dayMinutes: 420 })],
    ['a view added', add('periods', { id: 'zq-v' })],
    ['a link', { kind: 'remove', list: 'links', key: 'zq-none' }],
    ['an activity', set('activities' as never, 'zq-none', { name: 'x' })],
    ['after A10, reason changed', set('links' as never, 'zq-l', { reason: 'customs' })],
    ['estimate changed', set('activities' as never, 'zq-a', { estimate: { low: 1, likely: 2, high: 3 } })],
    ['estimate taken out', set('activities' as never, 'zq-a', { estimate: null })],
  ])('%s', (words, change) => {
    const said = describeChange(plan, change)
    expect(said).not.toMatch(/zq-|undefined|\[object|…|[a-z][A-Z]/)
    if (!/^a view|^a link|^an activity/.test(words)) expect(said).toContain(words)
  })
  it('names nothing by its id, whatever it is and whatever is done to it', () => {
    for (const list of [
      'calendars',
      'groups',
      'activities',
      'resources',
      'risks',
      'scenarios',
      'views',
      'events',
      'damages',
      'spreads',
      'factors',
      'weather',
      'baselines',
      'reviews',
    ])
      for (const change of [
        add(list, { id: 'zq-1' }),
        { kind: 'remove', list, key: 'zq-1' } as never,
        { kind: 'move', list, key: 'zq-1', before: null } as never,
        set(list as never, 'zq-1', { name: 'x' }),
      ])
        expect(describeChange(plan, change), JSON.stringify(change)).not.toMatch(/zq-|undefined/)
  })
})
