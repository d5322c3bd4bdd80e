import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { parseJson, readPlan, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { CHECKS, review, verdictsOf } from './index.ts'

const verdicts = (plan: Plan) => verdictsOf(plan, review(plan, schedule(plan)))
const bare = (more: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'clock' },
    ...more,
  }).plan
const untested = (plan: Plan): Record<string, string[]> =>
  Object.fromEntries(verdicts(plan).untested.map(({ lacks, checks }) => [lacks, checks.map(({ id }) => id)]))

it('what there is none of is not tested, and so not clean', () => {
  expect(untested(bare())).toEqual({
    'no required finish and no constraints': ['negative-float'],
    'no hammocks': ['hammock-ends'],
    'no status date': ['actual-after-status', 'planned-in-past', 'out-of-sequence', 'no-actual-start'],
    'no promises': ['promise-trap'],
    'no baseline': ['missed-baseline'],
    'no estimates': ['estimate-off'],
    'no resources': ['no-resources', 'overload', 'outside-hours', 'no-joint-hours', 'no-price'],
    'no payments and no damages': ['nothing-due'],
    'no costs': ['cost-without-time'],
  })
})

it('what there is something of is tested, even if there is little of it', () => {
  const some = bare({
    project: {
      start: '2027-03-01',
      calendar: 'clock',
      requiredFinish: '2027-06-01',
      statusDate: '2027-03-01',
    },
    activities: [
      { id: 'a', duration: 60, estimate: { low: 30, likely: 60, high: 90 }, cost: { fixed: 5 } },
      { id: 'h', kind: 'hammock' },
    ],
    resources: [{ id: 'r', calendar: 'clock' }],
    damages: [{ id: 'd', due: '2027-06-01' }],
    assignments: [{ activity: 'a', resource: 'r' }],
    baselines: [{ id: 'b', activities: {} }],
  })
  expect(Object.keys(untested(some))).toEqual(['no promises'])
})

it('every check is one of found, accepted, clean and not tested, on the demo too', () => {
  for (const name of ['kiln', 'kittiwake', 'kittiwake-may']) {
    const { plan } = readPlan(
      parseJson(readFileSync(new URL(`../../../demo/${name}.geodrome.json`, import.meta.url), 'utf8')),
    )
    const found = review(plan, schedule(plan))
    const { clean, untested: without } = verdictsOf(plan, found)
    const accepted = new Set(found.accepted.map(({ finding }) => finding.check))
    const open = CHECKS.filter(({ id }) => found.counts[id]! > 0 || accepted.has(id))
    const all = [...open, ...clean, ...without.flatMap(({ checks }) => checks)]
    expect(new Set(all.map(({ id }) => id)).size).toBe(CHECKS.length)
    expect(all).toHaveLength(CHECKS.length)
  }
})
