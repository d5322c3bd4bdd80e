import { expect, it } from 'vitest'
import { literalFirst, sought, soughtByMeaning } from './sought.ts'

const TEXTS = [
  'K10  Strip the lining',
  'K40  Cure the lining',
  'Go to Network',
  'Show the longest path alone',
  'K4  Heat',
]
const found = (typed: string, most = 9): string[] => sought(TEXTS, typed, most).map((i) => TEXTS[i]!)

it.each<[typed: string, found: string[]]>([
  ['k40', ['K40  Cure the lining']],
  ['lining cure', ['K40  Cure the lining']],
  ['longst', ['Show the longest path alone']],
  ['netwrok', ['Go to Network']],
  ['path longest', ['Show the longest path alone']],
  ['quay', []],
  ['', []],
  ['   ', []],
  ['(', []],
])('%s', (typed, expected) => expect(found(typed)).toEqual(expected))

it('has the nearer first, and no more than asked for', () => {
  expect(found('K4')[0]).toBe('K4  Heat')
  expect(found('lining')).toHaveLength(2)
  expect(found('lining', 1)).toHaveLength(1)
})

it('a command that is typed as it is called stands before work that only comes near it', () => {
  const found = ['Install deionised water plant', 'All plans', 'Call planner']
  expect(literalFirst(found, (text) => text, ' all plans ')).toEqual([
    'All plans',
    'Install deionised water plant',
    'Call planner',
  ])
  expect(literalFirst(found, (text) => text, '')).toEqual(found)
})

it('a command is found by what it does too, after those that are called so', () => {
  const offered = [
    { label: 'New codes', explains: 'Recodes by a rule: prefix, step, digits' },
    { label: 'Break it down', explains: 'Into parts, with new codes of their own' },
    { label: 'Fit the whole plan', explains: '' },
  ]
  const found = (typed: string, most = 9): string[] =>
    soughtByMeaning(offered, typed, most).map((i) => offered[i]!.label)
  expect(found('recode')).toEqual(['New codes'])
  expect(found('prefix')).toEqual(['New codes'])
  expect(found('new codes')).toEqual(['New codes', 'Break it down'])
  expect(found('new codes', 1)).toEqual(['New codes'])
  expect(found('')).toEqual([])
  expect(found('quay')).toEqual([])
})
