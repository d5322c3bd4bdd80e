import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { applyChange, parseJson, readPlan } from '@geodrome/core'
import { columnOf } from './columns.ts'
import { readForAll } from './forAll.ts'
import { contextOf } from './testing/contextOf.ts'

const { plan } = readPlan(
  parseJson(readFileSync(new URL('../../../../demo/kiln.geodrome.json', import.meta.url), 'utf8')),
)
const context = contextOf(plan)
const ids = (...codes: string[]): string[] =>
  codes.map((code) => plan.activities.find((a) => a.code === code)!.id)
const of = (column: string, codes: readonly string[], text: string) =>
  readForAll(context, columnOf(column)!, ids(...codes), () => text)

it('one text for several is one change of those that it changes, in the order in which they were selected', () => {
  const read = of('duration', ['B10', 'K20', 'K40'], '4d')
  if (!read.ok) throw new Error(read.why)
  // B10 takes 4 d already, and nobody doubts it.
  expect(read.change.changes.map((c) => (c as { key: string }).key)).toEqual(ids('K20', 'K40'))
  const after = applyChange(plan, read.change).plan
  expect(ids('B10', 'K20', 'K40').map((id) => after.activities.find((a) => a.id === id)!.duration)).toEqual(
    Array(3).fill(4 * 480),
  )
})
it('what does not fit one of them changes none, and says which', () => {
  const read = of('duration', ['K20', 'K10'], '2d')
  expect(read).toMatchObject({ ok: false, why: expect.stringMatching(/^K10: /) as string })
})
it('an activity that is gone, or none, takes no part', () => {
  expect(readForAll(context, columnOf('owner')!, ['gone'], () => 'Ines, & Co')).toEqual({
    ok: true,
    change: { kind: 'all', changes: [] },
  })
})
it('a text of its own for each: tags are added to what each has', () => {
  const [first] = ids('K20')
  const tagged = applyChange(plan, {
    kind: 'set',
    list: 'activities',
    key: first!,
    set: { tags: { trade: 'brick' } },
  }).plan
  const now = contextOf(tagged)
  const column = columnOf('tags')!
  const read = readForAll(
    now,
    column,
    ids('K20', 'K30'),
    (i) => `${column.draft!(now, i)}; area: kiln; 0: no`,
  )
  if (!read.ok) throw new Error(read.why)
  const after = applyChange(tagged, read.change).plan
  const tags = ids('K20', 'K30').map((id) => after.activities.find((a) => a.id === id)!.tags)
  expect(tags).toEqual([
    { trade: 'brick', area: 'kiln', 0: 'no' },
    { area: 'kiln', 0: 'no' },
  ])
})
