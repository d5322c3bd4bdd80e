import { expect, it } from 'vitest'
import { readPlan } from '@geodrome/core'
import { foldOneLevel, groupsAround, openOneLevel } from './foldLevel.ts'

const { groups } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01' },
  // A child may stand before its parent in the file.
  groups: [
    { id: 'plating', parent: 'hull' },
    { id: 'frames', parent: 'plating' },
    { id: 'hull' },
    { id: 'trials' },
    { id: 'sea', parent: 'trials' },
  ],
}).plan

it('folds and opens an outline level by level, and back to where it was', () => {
  const steps = [new Set<string>() as ReadonlySet<string>]
  for (let k = 0; k < 4; k++) steps.push(foldOneLevel(groups, steps.at(-1)!))
  const named = steps.map((s) => [...s].sort().join(' '))
  expect(named).toEqual([
    '',
    'frames',
    'frames plating sea',
    'frames hull plating sea trials',
    'frames hull plating sea trials',
  ])
  expect([3, 2, 1, 0].map((k) => [...openOneLevel(groups, steps[k]!)].sort().join(' '))).toEqual([
    'frames plating sea',
    'frames',
    '',
    '',
  ])
})

it('what was folded by hand stays folded, and what is hidden in it is not counted as open', () => {
  expect([...foldOneLevel(groups, new Set(['hull']))].sort()).toEqual(
    ['hull', 'frames', 'plating', 'sea'].sort(),
  )
  expect([...foldOneLevel(groups, new Set(['hull', 'sea']))]).toHaveLength(5)
  expect([...openOneLevel(groups, new Set(['hull', 'sea']))]).toEqual(['sea'])
  expect(groupsAround(groups, 'frames')).toEqual(['frames', 'plating', 'hull'])
})
