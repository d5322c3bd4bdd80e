import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { parseJson, readPlan } from '../plan/index.ts'
import { departureOf, NO_RULE, type HouseRule } from './index.ts'

const rule: HouseRule = { work: 'verb', milestones: 'achieved', words: ['fair'] }
const work = (name: string, own: HouseRule = rule): string | null =>
  departureOf({ kind: 'work', name }, own)?.why ?? null
const milestone = (name: string): string | null => departureOf({ kind: 'milestone', name }, rule)?.why ?? null

it('every name of the invented world keeps the rule it was written by', () => {
  for (const file of ['kiln', 'kittiwake'])
    for (const activity of readPlan(
      parseJson(readFileSync(new URL(`../../../demo/${file}.geodrome.json`, import.meta.url), 'utf8')),
    ).plan.activities)
      expect(departureOf(activity, rule), activity.name).toBeNull()
})
it('work that says no verb departs, and is told how; the project’s own verbs count', () => {
  for (const name of [
    'Cross-head',
    'Hull blasting',
    'Anodes',
    'Final trials',
    'Electrical works',
    'Blasting',
  ])
    expect(work(name), name).toContain('say what is done')
  expect(work('Hull blasting')).toContain('“Blast hull” for “Hull blasting”')
  for (const name of [
    'Blast hull',
    'Rewire controls',
    'Re-lay deck',
    'Fair plating',
    'Pressure-test piping',
    'PULL cables',
  ])
    expect(work(name), name).toBeNull()
  expect(work('Fair plating', { ...rule, words: [] })).not.toBeNull()
})
it('a milestone says a state that has been reached', () => {
  for (const name of [
    'Hull dry',
    'Permit received',
    'Winch chosen',
    'Kiln handed over',
    'Ship afloat',
    'Contract rebuilt',
  ])
    expect(milestone(name), name).toBeNull()
  for (const name of ['Milestone 3', 'Redelivery', 'Need for crane', 'Feed pump'])
    expect(milestone(name), name).toContain('say what is achieved')
})
it('the other house names what is delivered; no rule lists nothing', () => {
  expect(work('Blast hull', { ...rule, work: 'delivered' })).toContain('say what is delivered')
  expect(work('Hull, blasted', { ...rule, work: 'delivered' })).toBeNull()
  expect(work('Anodes', NO_RULE)).toBeNull()
  expect(departureOf({ kind: 'hammock', name: 'Dock hire' }, rule)).toBeNull()
  expect(work('')).toBeNull()
})
