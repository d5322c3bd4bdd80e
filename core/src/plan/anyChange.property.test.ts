import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { schedule } from '../schedule/schedule.ts'
import { CalendarError } from '../time/calendar.ts'
import { applyChange } from './applyChange.ts'
import { changeSchema, keyOf, type Change, type Item } from './change.ts'
import { FIELDS, LIST_NAMES, type ListName } from './fields.ts'
import { PlanError } from './issue.ts'
import { parseJson, readPlan } from './readPlan.ts'
import type { Plan } from './schema.ts'
import { writePlan } from './writePlan.ts'

/** Whatever a change leaves can be written, read again as the same plan, and scheduled, or it is said why not. */

const PLAN = readPlan(
  parseJson(readFileSync(new URL('../../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')),
).plan

/** What is typed, pasted or sent where another value belongs. */
const odd = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.constantFrom<unknown>(
      null,
      '',
      ' ',
      0,
      -1,
      1,
      0.5,
      480,
      55_555 * 480,
      105_192_000,
      1e15,
      true,
      false,
      [],
      {},
      '\u0000absent',
      'clock',
      'day',
      'none',
      '2027-05-01',
      '2027-02-30',
      '1950-01-01',
      '2149-12-31T23:59',
      '10d',
      'milestone',
      'hammock',
      'work',
      'late',
      'backward',
      'forward',
      'FF',
      'finish',
      'constructor',
      'A10',
      '\ud800',
      'ſ',
      'a,b;c',
    ),
  },
  { weight: 1, arbitrary: fc.jsonValue({ maxDepth: 2 }) },
)
const list = fc.constantFrom(...LIST_NAMES.filter((name) => PLAN[name].length > 0))
const itemOf = (name: ListName): fc.Arbitrary<Item> => fc.constantFrom<Item>(...(PLAN[name] as Item[]))
const fieldOf = (name: ListName | 'project'): fc.Arbitrary<string> =>
  fc.oneof(
    { weight: 9, arbitrary: fc.constantFrom(...Object.keys(FIELDS[name])) },
    { weight: 1, arbitrary: fc.constant('x') },
  )
const someFields = (name: ListName | 'project'): fc.Arbitrary<Item> =>
  fc.dictionary(fieldOf(name), odd, { minKeys: 1, maxKeys: 2 })
const single: fc.Arbitrary<Change> = list.chain((name) =>
  fc.oneof(
    {
      weight: 4,
      arbitrary: fc
        .tuple(itemOf(name), someFields(name))
        .map(([item, set]): Change => ({ kind: 'set', list: name, key: keyOf(name, item), set })),
    },
    {
      weight: 3,
      arbitrary: fc
        .tuple(itemOf(name), someFields(name), fc.boolean())
        .map(([item, set, isBare]): Change => ({
          kind: 'add',
          list: name,
          item: { ...(isBare ? {} : item), id: 'new', ...set },
          before: null,
        })),
    },
    {
      weight: 1,
      arbitrary: itemOf(name).map((item): Change => ({ kind: 'remove', list: name, key: keyOf(name, item) })),
    },
    { weight: 1, arbitrary: someFields('project').map((set): Change => ({ kind: 'project', set })) },
  ),
)

/** The changes of a scenario are named anew when a file is read; they have an order within their scenario only. */
const named = ({ scenarioChanges, ...plan }: Plan) => ({
  ...plan,
  // Sorting keeps the order of equals.
  changes: scenarioChanges
    .map(({ scenario, change }) => ({ scenario, change }))
    .sort((a, b) => (a.scenario < b.scenario ? -1 : a.scenario > b.scenario ? 1 : 0)),
})
const attempt = (plan: Plan, change: Change): Plan | null => {
  try {
    // As it comes over the wire.
    return applyChange(plan, changeSchema.parse(JSON.parse(JSON.stringify(change)))).plan
  } catch (error) {
    if (error instanceof PlanError) {
      for (const { message } of error.issues) expect(message.length).toBeGreaterThan(3)
      return null
    }
    throw error
  }
}

it('what a change leaves can be exported, read again and scheduled, or says why', () => {
  let taken = 0
  fc.assert(
    fc.property(fc.array(single, { minLength: 1, maxLength: 4 }), (changes) => {
      let plan = PLAN
      for (const change of changes) plan = attempt(plan, change) ?? plan
      if (plan === PLAN) return
      taken++
      expect(named(readPlan(JSON.parse(writePlan(plan))).plan)).toEqual(named(plan))
      try {
        const made = schedule(plan)
        for (const at of [...made.start, ...made.finish]) expect(Number.isInteger(at)).toBe(true)
      } catch (error) {
        if (!(error instanceof CalendarError)) throw error
        expect(error.message).toMatch(/\d|calendar/)
      }
    }),
    { numRuns: Number(process.env.GEODROME_MUTATIONS ?? 600) },
  )
  expect(taken).toBeGreaterThan(100)
})
