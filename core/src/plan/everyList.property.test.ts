import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChange, type Applied } from './applyChange.ts'
import { keyOf, type Change, type Item } from './change.ts'
import { LIST_NAMES, type ListName } from './fields.ts'
import { PlanError } from './issue.ts'
import { interpretChange } from './interpretChange.ts'
import { itemArrays } from './itemArrays.ts'
import { itemChains } from './itemChains.ts'
import type { PlanInWork } from './planInWork.ts'
import { readPlan } from './readPlan.ts'
import type { Plan } from './schema.ts'
import { writePlan } from './writePlan.ts'

/** The fields that make an item of a list what it is, by a number. */
const IDENTITY: Readonly<Record<ListName, (k: number) => Item>> = {
  calendars: (k) => ({ id: `c${k}` }),
  groups: (k) => ({ id: `g${k}` }),
  activities: (k) => ({ id: `a${k}`, code: `A${k}`, duration: 60, confirmed: true }),
  links: (k) => ({ id: `l${k}`, from: `a${k % 3}`, to: `a${(k % 3) + 1}`, lag: 0 }),
  resources: (k) => ({ id: `r${k}` }),
  risks: (k) => ({ id: `k${k}` }),
  damages: (k) => ({ id: `d${k}`, due: '2027-07-01' }),
  spreads: (k) => ({ id: `s${k}`, low: 0.9, high: 1.2 }),
  factors: (k) => ({ id: `f${k}`, low: 0.9, high: 1.2 }),
  weather: (k) => ({ id: `w${k}`, calendar: 'clock' }),
  baselines: (k) => ({ id: `b${k}` }),
  scenarios: (k) => ({ id: `s${k}` }),
  scenarioChanges: (k) => ({
    id: `${Math.floor(k / 4) + 1}`,
    scenario: `s${k % 4}`,
    change: { kind: 'project', set: {} },
  }),
  reviews: (k) => ({ id: `v${k}` }),
  views: (k) => ({ id: `w${k}` }),
  events: (k) => ({ id: `e${k}`, number: k + 1 }),
  periods: (k) => ({ id: `p${k}`, statusDate: `2027-03-0${k + 1}` }),
  assignments: (k) => ({ activity: `a${k % 4}`, resource: `r${Math.floor(k / 4)}` }),
  acceptances: (k) => ({ check: `check ${k % 3}`, fingerprint: `${k}` }),
}
/** Names that a file may hold and a database or a program may take for something else. */
const FIELD = fc.constantFrom('note', 'name', 'unknown', 'tags', 'x y', 'ſ')
const VALUE = fc.oneof(fc.string(), fc.integer(), fc.constant(null), fc.array(fc.string(), { maxLength: 2 }))

const PLAN: Plan = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  ...Object.fromEntries(
    LIST_NAMES.filter((list) => list !== 'scenarioChanges').map((list) => [
      list,
      Array.from({ length: 4 }, (_, k) => IDENTITY[list](k)),
    ]),
  ),
  // In a file the changes of a scenario stand in it.
  scenarios: Array.from({ length: 4 }, (_, k) => ({
    ...IDENTITY.scenarios(k),
    changes: [IDENTITY.scenarioChanges(k).change],
  })),
}).plan

const change = (list: ListName): fc.Arbitrary<Change> => {
  const key = fc.nat(7).map((k) => keyOf(list, IDENTITY[list](k)))
  const before = fc.option(key)
  return fc.oneof(
    fc.record({
      kind: fc.constant('set' as const),
      list: fc.constant(list),
      key,
      set: fc.dictionary(FIELD, VALUE, { maxKeys: 2 }),
    }),
    fc.record({
      kind: fc.constant('add' as const),
      list: fc.constant(list),
      item: fc.nat(7).map(IDENTITY[list]),
      before,
    }),
    fc.record({ kind: fc.constant('remove' as const), list: fc.constant(list), key }),
    fc.record({ kind: fc.constant('move' as const), list: fc.constant(list), key, before }),
    fc.record({ kind: fc.constant('project' as const), set: fc.dictionary(FIELD, VALUE, { maxKeys: 2 }) }),
  )
}

/** The change made on items of one kind, or what it is refused with. */
const made = (items: PlanInWork, of: Change): Applied | string => {
  try {
    const inverse = interpretChange(items, of)
    return { plan: items.toPlan(), inverse }
  } catch (error) {
    if (error instanceof PlanError) return error.message
    throw error
  }
}

describe.each(LIST_NAMES)('changes to %s', (list) => {
  it('mean the same on arrays and on chains, and are taken back to the byte', () => {
    let taken = 0
    fc.assert(
      fc.property(fc.array(change(list), { minLength: 1, maxLength: 12 }), (changes) => {
        // Both refuse with the same words; of those that fit, one change is made.
        let at = PLAN
        const fitting = changes.filter((part) => {
          const onArrays = made(itemArrays(at), part)
          expect(made(itemChains(at), part)).toEqual(onArrays)
          if (typeof onArrays !== 'string') at = onArrays.plan
          return typeof onArrays !== 'string'
        })
        taken += fitting.length
        const all: Change = { kind: 'all', changes: fitting }
        const { plan, inverse } = made(itemArrays(PLAN), all) as Applied
        expect(made(itemChains(PLAN), all)).toEqual({ plan, inverse })
        expect(plan).toEqual(at)
        const keys = plan[list].map((item) => keyOf(list, item))
        expect(new Set(keys).size).toBe(keys.length)
        // The inverse goes over the wire and through the log.
        const over = JSON.parse(JSON.stringify(inverse)) as Change
        for (const items of [itemArrays(plan), itemChains(plan)]) {
          const back = made(items, over)
          expect(typeof back === 'string' ? back : writePlan(back.plan)).toBe(writePlan(PLAN))
        }
      }),
      { numRuns: 300 },
    )
    expect(taken).toBeGreaterThan(300)
  })
  it('refuse an item that is there, alone and among many', () => {
    const again: Change = { kind: 'add', list, item: IDENTITY[list](0), before: null }
    const others = Array.from({ length: 30 }, (_, k): Change => ({ kind: 'project', set: { name: `${k}` } }))
    for (const refused of [again, { kind: 'all', changes: [...others, again] } as Change])
      expect(() => applyChange(PLAN, refused)).toThrow(/is in \w+ already; give it another id/)
  })
})
