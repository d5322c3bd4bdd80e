import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChange, readPlan, writePlan, type Change, type Plan } from '../plan/index.ts'
import {
  behindIn,
  editInScenario,
  keepThough,
  newScenario,
  removeScenario,
  scenarioAlone,
  scenariosOffered,
} from './index.ts'

const set = (key: string, fields: object): Change => ({
  kind: 'set',
  list: 'activities',
  key,
  set: { ...fields },
})
const make = (plan: Plan, change: Change): Plan => applyChange(plan, change).plan
let at = 0
const random = (): number => (at = (at + 0.37) % 1)
const inScenario = (plan: Plan, change: Change, scenario = 's'): Plan =>
  make(plan, editInScenario(plan, scenario, change, random))
const PLAN = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  activities: [
    { id: 'a', code: 'A10', name: 'Cut', duration: 60 },
    { id: 'b', code: 'A20', name: 'Fit', duration: 60 },
    { id: 'a/b', code: 'A30', name: 'Odd', duration: 60 },
  ],
  scenarios: [
    { id: 's', name: 'Faster' },
    { id: 't', name: 'On top', base: 's' },
  ],
}).plan
const since = (plan: Plan, scenario = 's'): string[] => behindIn(plan, scenario).flatMap((one) => one.since)

describe('a change of a scenario is behind', () => {
  it('when the plan has changed what it sets since it was made; both values are said', () => {
    const made = inScenario(PLAN, set('a', { duration: 30 }))
    expect(since(made)).toEqual([])
    expect(since(make(made, set('b', { duration: 90 })))).toEqual([])
    expect(since(make(made, set('a', { name: 'Cut plates' })))).toEqual([])
    expect(since(make(made, set('a', { duration: 90 })))).toEqual(['A10 Cut, 1 h → 1 h 30'])
    // Back again, or come to what the scenario wants: nothing to look at.
    for (const duration of [60, 30])
      expect(since(make(make(made, set('a', { duration: 90 })), set('a', { duration })))).toEqual([])
  })

  it('fact by fact of one change, facts of the project and odd keys among them', () => {
    const both: Change = {
      kind: 'all',
      changes: [
        set('a/b', { duration: 30, owner: 'Hull crew' }),
        { kind: 'project', set: { requiredFinish: '2027-03-20' } },
      ],
    }
    const moved = make(make(inScenario(PLAN, both), set('a/b', { owner: 'Yard' })), {
      kind: 'project',
      set: { requiredFinish: '2027-03-10' },
    })
    const [one, ...rest] = behindIn(moved, 's')
    expect(rest).toEqual([])
    expect(one!.since).toHaveLength(2)
    expect(one!.since.join()).toContain('A30')
    expect(one!.since.join()).toMatch(/owner.*Yard/)
    expect(one!.since.join()).toContain('10 Mar')
  })

  it('only by the last that sets it, and not when its activity is gone: then it is void', () => {
    const first = inScenario(PLAN, set('a', { duration: 30 }))
    const moved = make(first, set('a', { duration: 90 }))
    expect(since(inScenario(moved, set('a', { duration: 20 })))).toEqual([])
    expect(since(make(first, { kind: 'remove', list: 'activities', key: 'a' }))).toEqual([])
  })

  it('to the scenario that it stands on, not to the plan below that', () => {
    const low = inScenario(PLAN, set('a', { duration: 30 }))
    const high = inScenario(low, set('a', { duration: 10 }), 't')
    const planMoved = make(high, set('a', { duration: 90 }))
    expect([since(planMoved, 's'), since(planMoved, 't')]).toEqual([['A10 Cut, 1 h → 1 h 30'], []])
    const under = inScenario(high, set('a', { duration: 40 }))
    expect(since(under, 't')).toEqual(['A10 Cut, 30 min → 40 min'])
  })

  it('no longer once somebody said that it holds, until the plan moves again', () => {
    const moved = make(inScenario(PLAN, set('a', { duration: 30 })), set('a', { duration: 90 }))
    const kept = make(moved, keepThough(behindIn(moved, 's')[0]!))
    expect(since(kept)).toEqual([])
    expect(since(make(kept, set('a', { duration: 45 })))).toEqual(['A10 Cut, 1 h 30 → 45 min'])
  })
})

describe('what a change found', () => {
  it('goes with the file, a branch taken over, and a copy sent to a colleague', () => {
    const made = inScenario(PLAN, set('a', { duration: 30 }))
    const moved = make(inScenario(made, set('b', { duration: 10 }), 't'), set('a', { duration: 90 }))
    const again = readPlan(JSON.parse(writePlan(moved))).plan
    expect(again).toEqual({ ...moved, scenarioChanges: again.scenarioChanges })
    expect(since(again)).toEqual(since(moved))
    expect(writePlan(again)).toBe(writePlan(moved))
    expect(since(make(moved, removeScenario(moved, 's')), 't')).toEqual(['A10 Cut, 1 h → 1 h 30'])
    // Sent before the plan moved, taken in after it did.
    const [offered] = scenariosOffered(moved, scenarioAlone(made, 's'), random)
    expect(since(make(moved, offered!.take), offered!.id)).toEqual(['A10 Cut, 1 h → 1 h 30'])
  })

  it('is not known of changes of files that do not say it: they are never behind', () => {
    const plain = readPlan({
      ...(JSON.parse(writePlan(PLAN)) as object),
      scenarios: [{ id: 's', name: 'Faster', changes: [set('a', { duration: 30 })] }],
    }).plan
    expect('was' in plain.scenarioChanges[0]!).toBe(false)
    expect(since(make(plain, set('a', { duration: 90 })))).toEqual([])
    expect(JSON.parse(writePlan(plain))).not.toHaveProperty('scenarios.0.was')
  })

  it('of a scenario of very many changes stands with the one that holds them all', () => {
    const many = Array.from({ length: 250 }, (_, k) => set(k % 2 ? 'a' : 'b', { duration: k + 1 }))
    const { change, id } = newScenario(PLAN, { name: 'Many', by: '', why: '', holdsIf: '' }, many, random)
    const moved = make(make(PLAN, change), set('a', { duration: 999 }))
    expect(behindIn(moved, id)).toHaveLength(1)
    expect(since(moved, id).join()).toContain('A10 Cut, 1 h →')
  })
})

it('a scenario whose plan stands still is never behind, whatever it sets', () => {
  const change = fc.oneof(
    fc
      .record({ duration: fc.integer({ min: 0, max: 5000 }), name: fc.string({ maxLength: 8 }) })
      .map((f) => set('a', f)),
    fc.constant<Change>({ kind: 'remove', list: 'activities', key: 'b' }),
    fc.integer({ min: 1, max: 90 }).map((n): Change => ({
      kind: 'all',
      changes: [set('a', { duration: n }), set('a', { duration: n + 1 })],
    })),
  )
  fc.assert(
    fc.property(fc.array(change, { maxLength: 6 }), (changes) => {
      const made = changes.reduce((plan, one) => inScenario(plan, one), PLAN)
      expect(behindIn(made, 's')).toEqual([])
    }),
  )
})
