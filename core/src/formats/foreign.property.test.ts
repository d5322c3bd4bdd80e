import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { applyChange, parseJson, PlanError, readPlan, writePlan, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { CalendarError } from '../time/index.ts'
import { cellsOf } from './listMapping.ts'
import { readSheets } from './listImport.ts'
import { guessMapping } from './listMapping.ts'

/** Files that were cut, mixed up or written by hand: each is read, or refused with reasons; nothing is half read. */

const RUNS = Number(process.env.GEODROME_MUTATIONS ?? 400)
const TEXT = readFileSync(new URL('../../../demo/kiln.geodrome.json', import.meta.url), 'utf8')

const odd = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    '',
    0,
    -1,
    1e300,
    'soon',
    '10d',
    '-3w',
    '2027-13-01',
    '2027-05-01T24:00',
    [],
    {},
    [[]],
    true,
    'k4',
    'clock',
    '\ud800',
    'ſ',
    '__proto__',
    ['k1', 'k1'],
  ),
  fc.jsonValue({ maxDepth: 2 }),
)
type Node = Record<string, unknown> | unknown[]
const places = (json: unknown): { node: Node; key: string | number }[] => {
  if (typeof json !== 'object' || json === null) return []
  const keys = Array.isArray(json) ? json.map((_, k) => k) : Object.keys(json)
  return keys.flatMap((key) => [
    { node: json as Node, key },
    ...places((json as Record<string | number, unknown>)[key]),
  ])
}
/** The demo with some of its values taken out, doubled, exchanged or made odd. */
const mutated = fc
  .array(fc.tuple(fc.nat(), fc.constantFrom('odd', 'gone', 'twice', 'other'), odd, fc.nat()), {
    minLength: 1,
    maxLength: 4,
  })
  .map((mutations) => {
    const json = JSON.parse(TEXT) as Node
    for (const [at, how, value, other] of mutations) {
      const all = places(json)
      const { node, key } = all[at % all.length]!
      const values = node as Record<string | number, unknown>
      if (how === 'odd') values[key] = value
      else if (how === 'other') {
        const from = all[other % all.length]!
        values[key] = structuredClone((from.node as Record<string | number, unknown>)[from.key])
      } else if (how === 'twice' && Array.isArray(node)) node.push(structuredClone(node[key as number]))
      else if (Array.isArray(node)) node.splice(key as number, 1)
      else delete values[key]
    }
    return json
  })

const readOr = (json: unknown): Plan | null => {
  try {
    return readPlan(json).plan
  } catch (error) {
    if (!(error instanceof PlanError)) throw error
    for (const { pointer, message } of error.issues) {
      expect(pointer === '' || pointer.startsWith('/')).toBe(true)
      expect(message).not.toMatch(/undefined|Invalid input|\[object|NaN/)
    }
    return null
  }
}

it('a plan file is read whole or refused with where and why; what is read is written, read and scheduled', () => {
  let read = 0
  fc.assert(
    fc.property(mutated, (json) => {
      const plan = readOr(json)
      if (plan === null) return
      read++
      expect(readPlan(parseJson(writePlan(plan))).plan).toEqual(plan)
      try {
        for (const at of schedule(plan).finish) expect(Number.isInteger(at)).toBe(true)
      } catch (error) {
        if (!(error instanceof CalendarError)) throw error
      }
    }),
    { numRuns: RUNS },
  )
  expect(read).toBeGreaterThan(20)
})

it('text that was cut anywhere is refused as what it is', () => {
  fc.assert(
    fc.property(fc.nat(TEXT.length - 3), (end) => {
      expect(() => parseJson(TEXT.slice(0, end))).toThrow(/not a JSON file/)
    }),
    { numRuns: 100 },
  )
})

const cell = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.constantFrom(
      'Code',
      'Activity',
      'Duration',
      'After',
      'Start',
      'K10',
      'K20',
      'K10, K20',
      'K30 and K10',
      '3d',
      '3',
      '0',
      '',
      ' ',
      '-5',
      '1.1',
      '1e9',
      'soon',
      '12.4.2027',
      '2027-04-12',
      'K10 FS 2d',
      'after K10, 2d later',
      '=1+1',
      '"',
      "'",
      '\u0000',
    ),
  },
  { weight: 1, arbitrary: fc.string({ maxLength: 12, unit: 'binary' }) },
)
it('a list of anything gives a change that fits the plan, or nothing', () => {
  const plan = readPlan(parseJson(TEXT)).plan
  const separator = fc.constantFrom('\t', ',', ';')
  fc.assert(
    fc.property(
      fc.array(fc.array(cell, { maxLength: 6 }), { maxLength: 8 }),
      separator,
      fc.constantFrom('leave-out' as const, 'without-cell' as const),
      (rows, between, badRows) => {
        const cells = cellsOf(rows.map((row) => row.join(between)).join('\n'))
        const mapping = guessMapping(cells)
        let roll = 0
        const { change } = readSheets(plan, [{ name: 'x', cells, mapping, badRows }], {
          group: null,
          random: () => (roll = (roll + 0.137) % 1),
        })
        const { plan: after, inverse } = applyChange(plan, change)
        expect(writePlan(applyChange(after, inverse).plan)).toBe(writePlan(plan))
      },
    ),
    { numRuns: RUNS },
  )
})
