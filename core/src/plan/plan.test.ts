import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { schedule } from '../schedule/schedule.ts'
import { randomPlan } from '../schedule/testing/randomPlans.ts'
import {
  applyChange,
  applyUnchecked,
  affectsForecast,
  factsOf,
  isForecastPast,
  parseJson,
  PlanError,
  planFileJsonSchema,
  readPlan,
  removeActivity,
  sharedFacts,
  writePlan,
  type Change,
  type Item,
  type Plan,
} from './index.ts'

const demo = (name: string): string =>
  readFileSync(new URL(`../../../demo/${name}.geodrome.json`, import.meta.url), 'utf8')
const base = {
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'day' },
  calendars: [{ id: 'day', week: { mon: ['08:00-16:00'] } }],
}
const issuesOf = (json: unknown): string[] => {
  try {
    readPlan(json)
  } catch (error) {
    if (error instanceof PlanError) return error.issues.map((i) => `${i.pointer} ${i.message}`)
    throw error
  }
  return []
}

describe('the plan file', () => {
  it.each(['kittiwake', 'kiln'])('%s is read, written and read again without loss', (name) => {
    const { plan, notes } = readPlan(parseJson(demo(name)))
    expect(notes).toEqual([])
    expect(readPlan(parseJson(writePlan(plan))).plan).toEqual(plan)
  })

  it('keeps fields that it does not know, and reports them', () => {
    const { plan, notes } = readPlan({
      ...base,
      activities: [{ id: 'a', duration: '1d', colour: 'red' }],
      extra: 1,
    })
    expect(plan.activities[0]).toMatchObject({ colour: 'red', duration: 480, code: 'a' })
    expect(notes.map((n) => n.pointer)).toEqual(['/extra', '/activities/0/colour'])
  })

  it('has the published JSON Schema that the code makes (npm run schema)', () => {
    const published = JSON.parse(
      readFileSync(new URL('../../../docs/plan-file.schema.json', import.meta.url), 'utf8'),
    ) as object
    expect(JSON.parse(JSON.stringify(planFileJsonSchema()))).toEqual(published)
  })

  it('turns a link on a group into links between open ends', () => {
    const { plan, notes } = readPlan({
      ...base,
      groups: [{ id: 'g' }],
      activities: [
        { id: 'a', group: 'g', duration: '1d' },
        { id: 'b', group: 'g', duration: '1d' },
        { id: 'c', duration: '1d' },
      ],
      links: [
        { from: 'a', to: 'b' },
        { from: 'g', to: 'c' },
      ],
    })
    expect(plan.links.map((l) => `${l.from}${l.to}`)).toEqual(['ab', 'bc'])
    expect(notes).toHaveLength(1)
  })

  const activity = (more: object): object => ({ ...base, activities: [{ id: 'a', duration: '1d', ...more }] })
  const pair = (links: object[], more: object[] = []): object => ({
    ...base,
    activities: [{ id: 'a', code: 'A1' }, { id: 'b', code: 'B1' }, ...more],
    links,
  })
  it.each<[string, unknown, RegExp]>([
    ['another format', { format: 'x' }, /^\/format "x" is not a Geodrome plan file/],
    ['not an object', [], /^ /],
    [
      'a wrong type',
      activity({ duration: 'ten days' }),
      /^\/activities\/0\/duration "ten days" is not a duration; write minutes/,
    ],
    ['a wrong date', activity({ aim: '2027-02-30' }), /^\/activities\/0\/aim "2027-02-30" is not a date/],
    [
      'a duration of ten million days',
      activity({ duration: '10000000d' }),
      /^\/activities\/0\/duration "10000000d" is longer than 200 years/,
    ],
    [
      'a lag of ten million days',
      pair([{ id: '1', from: 'a', to: 'b', lag: '-10000000d' }]),
      /^\/links\/0\/lag "-10000000d" is longer than 200 years/,
    ],
    [
      'an unknown calendar',
      activity({ calendar: 'night' }),
      /^\/activities\/0\/calendar there is no calendar "night"/,
    ],
    [
      'a loop',
      pair([
        { id: '1', from: 'a', to: 'b' },
        { id: '2', from: 'b', to: 'a' },
      ]),
      /wait for each other: A1 → B1 → A1/,
    ],
    ['a self link', pair([{ id: '1', from: 'a', to: 'a' }]), /^\/links\/0 link "1" ties "A1" to itself/],
    ['a dangling link', pair([{ id: '1', from: 'a', to: 'z' }]), /^\/links\/0\/to there is no activity "z"/],
    ['a duplicate id', pair([], [{ id: 'a' }]), /^\/activities\/2\/id id "a" is used twice/],
    [
      'a calendar without hours in use',
      { ...base, calendars: [{ id: 'day' }] },
      /^\/project\/calendar calendar "day" has no working time/,
    ],
    [
      'overlapping shifts',
      { ...base, calendars: [{ id: 'day', week: { mon: ['08:00-12:00', '11:00-13:00'] } }] },
      /^\/calendars\/0\/week\/mon shifts overlap at 11:00/,
    ],
    [
      'a loop of parents',
      {
        ...base,
        calendars: [
          { id: 'day', parent: 'b', week: {} },
          { id: 'b', parent: 'day', week: {} },
        ],
      },
      /is its own ancestor/,
    ],
    [
      'an overriding not-before',
      activity({ constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-01', overrides: true }] }),
      /"not-before" cannot override logic/,
    ],
    [
      'progress without a status date',
      activity({ progress: { percent: 10 } }),
      /no status date; set project.statusDate/,
    ],
    [
      'backward without a finish',
      { ...base, project: { ...base.project, direction: 'backward' } },
      /^\/project\/finish a plan scheduled backward needs/,
    ],
    [
      'a name that reaches the prototype',
      JSON.parse('{"__proto__": {}, "activities": [{"constructor": 1}]}'),
      /"__proto__" is not allowed/,
    ],
    [
      'an inverted estimate',
      activity({ estimate: { low: '3d', likely: '2d', high: '4d' } }),
      /0 ≤ low ≤ likely ≤ high/,
    ],
    [
      'a FS link to a hammock',
      pair([{ id: '1', from: 'a', to: 'h' }], [{ id: 'h', kind: 'hammock' }]),
      /hung from SS and FF links only/,
    ],
  ])('refuses %s and says where and how to mend it', (_, json, expected) =>
    expect(issuesOf(json).join('\n')).toMatch(expected),
  )

  it('refuses text that is not JSON, and a million activities, without a hang', () => {
    expect(() => parseJson('{"a":')).toThrow(PlanError)
    expect(() => parseJson('['.repeat(200_000))).toThrow(PlanError)
    const one = { id: 'a' }
    const many = { ...base, activities: Array.from({ length: 1_000_000 }, () => one) }
    expect(issuesOf(many).join()).toMatch(/\/activities .*more than 200000 activities/)
  })
})

/** Changes that fit a random plan. */
const randomChange = (plan: Plan): fc.Arbitrary<Change> => {
  const key = fc.constantFrom(...plan.activities.map((a) => a.id))
  const works = new Set(plan.activities.filter((a) => a.kind === 'work').map((a) => a.id))
  return fc.oneof(
    key.chain((k) =>
      fc.nat(2000).map((duration): Change => ({
        kind: 'set',
        list: 'activities',
        key: k,
        set: { ...(works.has(k) && { duration }), owner: 'Yard', newField: 1 },
      })),
    ),
    key.map((k) => removeActivity(plan, k)),
    fc.tuple(key, key).map(([k, before]): Change => ({
      kind: 'move',
      list: 'activities',
      key: k,
      before: before === k ? null : before,
    })),
    fc.tuple(key, fc.nat(900)).map(([k, lag]): Change => ({
      kind: 'all',
      changes: [
        {
          kind: 'add',
          list: 'activities',
          before: k,
          item: { id: 'new', code: 'N', duration: 60, confirmed: true },
        },
        {
          kind: 'add',
          list: 'links',
          before: null,
          item: { id: 'lnew', from: k, to: 'new', type: 'SS', lag },
        },
      ],
    })),
    fc.constantFrom<Change>({ kind: 'project', set: { requiredFinish: '2027-04-01', currency: 'EUR' } }),
  )
}

describe('a change', () => {
  it('is taken back by its inverse, byte for byte, and leaves the plan it was applied to alone', () => {
    fc.assert(
      fc.property(
        randomPlan({ constraints: true, progress: true }).chain((plan) =>
          fc.tuple(fc.constant(plan), randomChange(plan)),
        ),
        ([plan, change]) => {
          const before = JSON.stringify(plan)
          const applied = applyChange(plan, change)
          expect(JSON.stringify(plan)).toBe(before)
          const over = JSON.parse(JSON.stringify(applied.inverse)) as Change
          expect(writePlan(applyChange(applied.plan, over).plan)).toBe(writePlan(plan))
          schedule(applied.plan)
        },
      ),
      { numRuns: 500 },
    )
  })

  it('made of many does what they do one by one, and its inverse too', () => {
    const many = randomPlan({ constraints: true, progress: false }).chain((plan) =>
      fc.tuple(
        fc.constant(plan),
        fc.array(
          fc.tuple(fc.constantFrom('set', 'add', 'remove', 'move', 'project'), fc.nat(1000), fc.nat(1000)),
          { minLength: 30, maxLength: 60 },
        ),
      ),
    )
    fc.assert(
      fc.property(many, ([plan, recipe]) => {
        // Each change is made to fit the plan that those before it left.
        let one = plan
        const changes: Change[] = []
        const inverses: Change[] = []
        for (const [k, [kind, a, b]] of recipe.entries()) {
          const ids = one.activities.map((x) => x.id)
          const [key, other] = [
            ids[a % Math.max(1, ids.length)] ?? '',
            ids[b % Math.max(1, ids.length)] ?? '',
          ]
          const before = b % 3 === 0 || other === key ? null : other
          const change: Change =
            kind === 'add' || ids.length < 2
              ? {
                  kind: 'add',
                  list: 'activities',
                  item: { id: `n${k}`, code: `N${k}`, duration: a, confirmed: true },
                  before: ids.includes(other) && b % 3 > 0 ? other : null,
                }
              : kind === 'set'
                ? { kind: 'set', list: 'activities', key, set: { duration: b, note: k } }
                : kind === 'remove'
                  ? { kind: 'remove', list: 'activities', key }
                  : kind === 'move'
                    ? { kind: 'move', list: 'activities', key, before }
                    : { kind: 'project', set: { currency: `C${k % 5}` } }
          const applied = applyUnchecked(one, change)
          one = applied.plan
          changes.push(change)
          inverses.push(applied.inverse)
        }
        const all = applyUnchecked(plan, { kind: 'all', changes })
        expect(all.plan).toEqual(one)
        expect(all.inverse).toEqual({ kind: 'all', changes: inverses.reverse() })
        expect(writePlan(applyUnchecked(all.plan, all.inverse).plan)).toBe(writePlan(plan))
      }),
      { numRuns: 200 },
    )
  })
  it('made of many names the one that does not fit, and changes nothing', () => {
    const { plan: kiln } = readPlan(parseJson(demo('kiln')))
    const sets = Array.from({ length: 40 }, (_, k): Change => ({
      kind: 'set',
      list: 'activities',
      key: 'k2',
      set: { duration: 480 + k },
    }))
    const fails = (bad: Change): string => {
      try {
        applyChange(kiln, { kind: 'all', changes: [...sets, bad] })
        return ''
      } catch (error) {
        return (error as PlanError).message
      }
    }
    expect(fails({ kind: 'set', list: 'activities', key: 'gone', set: {} })).toContain(
      'there is no "gone" in activities any more',
    )
    expect(fails({ kind: 'set', list: 'activities', key: 'k4', set: { duration: 'soon' } })).toContain(
      '/activities/3/duration',
    )
    expect(fails({ kind: 'add', list: 'activities', before: null, item: { id: 'k2' } })).toContain(
      '"k2" is in activities already',
    )
    expect(fails({ kind: 'move', list: 'activities', key: 'k2', before: 'k2' })).toContain('to stand before')
    expect(
      fails({ kind: 'add', list: 'links', before: null, item: { id: 'x', from: 'k8', to: 'k2', lag: 0 } }),
    ).toContain('wait for each other')
  })

  const { plan } = readPlan(parseJson(demo('kiln')))
  it('that would close a loop is refused with the whole loop', () => {
    const loop: Change = {
      kind: 'add',
      list: 'links',
      before: null,
      item: { id: 'x', from: 'k8', to: 'k2', lag: 0 },
    }
    expect(() => applyChange(plan, loop)).toThrow(/K20 → K30 → K40 → K50 → K20|K50 → K20 → .*K50/)
  })
  it('that leaves something dangling is refused', () => {
    expect(() => applyChange(plan, { kind: 'remove', list: 'activities', key: 'k2' })).toThrow(
      /there is no activity "k2"/,
    )
  })
  it('to the identity, or in the wrong shape, is refused', () => {
    expect(() =>
      applyChange(plan, { kind: 'set', list: 'activities', key: 'k2', set: { id: 'k99' } }),
    ).toThrow(/identity never changes/)
    expect(() =>
      applyChange(plan, { kind: 'set', list: 'activities', key: 'k2', set: { duration: '3d' } }),
    ).toThrow(/\/activities\/1\/duration/)
  })
  it('touches the facts that it writes, and clashes only with changes to those', () => {
    const duration = (key: string): Change => ({ kind: 'set', list: 'activities', key, set: { duration: 1 } })
    const name: Change = { kind: 'set', list: 'activities', key: 'k2', set: { name: 'x' } }
    expect(factsOf({ kind: 'all', changes: [duration('k2'), name] })).toEqual([
      'activities/k2/duration',
      'activities/k2/name',
    ])
    expect(sharedFacts(duration('k2'), duration('k3'))).toEqual([])
    expect(sharedFacts(duration('k2'), name)).toEqual([])
    expect(sharedFacts(duration('k2'), removeActivity(plan, 'k2'))).toEqual(['activities/k2/duration'])
  })
})

it('a forecast is past what bears on it: not past words, views, other scenarios, or what was taken back', () => {
  const set = (
    list: 'activities' | 'views' | 'scenarios' | 'scenarioChanges' | 'links',
    key: string,
    fields: Item,
  ): Change => ({
    kind: 'set',
    list,
    key,
    set: fields,
  })
  expect(affectsForecast(set('activities', 'a', { name: 'Blast hull', owner: 'Mason' }), [])).toBe(false)
  expect(affectsForecast(set('activities', 'a', { name: 'Blast hull', duration: 480 }), [])).toBe(true)
  expect(
    affectsForecast(
      { kind: 'all', changes: [set('views', 'v', { name: 'x' }), set('links', 'l', { lag: 60 })] },
      [],
    ),
  ).toBe(true)
  expect(affectsForecast(set('scenarioChanges', 's/1', { change: {} }), [])).toBe(false)
  expect(affectsForecast(set('scenarioChanges', 's/1', { change: {} }), ['base', 's'])).toBe(true)
  expect(affectsForecast(set('scenarios', 's', { base: 'other' }), ['base', 's'])).toBe(true)
  expect(affectsForecast(set('scenarios', 's', { name: 'x' }), ['base', 's'])).toBe(false)
  expect(affectsForecast(set('scenarios', 'apart', { base: 's' }), ['base', 's'])).toBe(false)
  expect(affectsForecast({ kind: 'project', set: { statusDate: '2027-04-01' } }, [])).toBe(true)
  const longer = set('activities', 'a', { duration: 480 })
  const back = set('activities', 'a', { duration: 240 })
  expect(
    isForecastPast(
      [
        { uid: '1', undoes: null, change: longer },
        { uid: '2', undoes: '1', change: back },
      ],
      [],
    ),
  ).toBe(false)
  expect(
    isForecastPast(
      [
        { uid: '1', undoes: null, change: longer },
        { uid: '2', undoes: '1', change: back },
        { uid: '3', undoes: '2', change: longer },
      ],
      [],
    ),
  ).toBe(true)
  expect(isForecastPast([{ uid: '2', undoes: '1', change: back }], [])).toBe(true)
})
