import fc from 'fast-check'
import { expect, it } from 'vitest'
import { readPlan, type Project } from '../plan/index.ts'
import { randomPlanWithResources } from '../cost/testing/randomResources.ts'
import { Kind, State } from '../network/index.ts'
import { schedule } from '../schedule/index.ts'
import { doneOf, doneTogether } from './done.ts'

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'day', statusDate: '2027-03-08', weighting: 'work' },
  calendars: [{ id: 'day', name: 'Day', week }],
  resources: [
    { id: 'w', code: 'W', kind: 'people' },
    { id: 'c', code: 'C', kind: 'plant', price: 100, per: 'day' },
  ],
  activities: [
    {
      id: 'f',
      code: 'F',
      duration: '2d',
      progress: { actualStart: '2027-03-01', actualFinish: '2027-03-03' },
    },
    { id: 's', code: 'S', duration: '4d', progress: { actualStart: '2027-03-04', remaining: 480 } },
    { id: 'grown', code: 'G', duration: '1d', progress: { actualStart: '2027-03-04', remaining: 4800 } },
    { id: 'n', code: 'N', duration: '3d', progress: { percent: 50 } },
    { id: 'm', code: 'M', kind: 'milestone', edge: 'finish' },
    { id: 'h', code: 'H', kind: 'hammock' },
  ],
  links: [
    { id: '1', from: 'f', to: 'h', type: 'SS' },
    { id: '2', from: 'n', to: 'h', type: 'FF' },
  ],
  assignments: [
    { activity: 'f', resource: 'w', amount: 3 },
    { activity: 's', resource: 'w', amount: 1 },
    { activity: 's', resource: 'c', amount: 9 },
  ],
})
const made = schedule(plan)
const all = plan.activities.keys()
const by = (weighting?: Project['weighting']): number | null =>
  doneTogether(doneOf(made, weighting), plan.activities.keys())

it('is what is not left of work under way, all of what finished, nothing of what has not begun', () => {
  expect([...doneOf(made).share]).toEqual([1, 0.75, 0, 0, 0, 0])
  expect([...all]).toHaveLength(6)
})

it('counts by duration, by hours of people, by cost or each the same, a hammock never', () => {
  // 2 d and 3 of 4 d, of 10 d in all.
  expect(by('duration')).toBeCloseTo(5 / 10)
  // 48 h of three welders, 24 of 32 h of one.
  expect(by('work')).toBeCloseTo((48 + 24) / (48 + 32))
  expect(by()).toBe(by('work'))
  expect(by('cost')).toBeCloseTo(0.75)
  expect(by('count')).toBeCloseTo(1.75 / 5)
  expect(doneTogether(doneOf(made, 'cost'), [0, 3])).toBeNull()
  expect(doneTogether(doneOf(made, 'count'), [])).toBeNull()
})

it('stays between nothing and all in any plan, and groups come to what the whole comes to', () => {
  const any = randomPlanWithResources({ constraints: true, progress: true })
  fc.assert(
    fc.property(
      any,
      fc.constantFrom('duration', 'work', 'cost', 'count'),
      fc.array(fc.boolean()),
      (one, weighting, cut) => {
        const s = schedule(one)
        const done = doneOf(s, weighting)
        expect(done.share.every((share) => share >= 0 && share <= 1)).toBe(true)
        expect(
          done.weight.every(
            (weight, i) => weight >= 0 && (s.network.kind[i] !== Kind.Hammock || weight === 0),
          ),
        ).toBe(true)
        expect(done.share.every((share, i) => (s.network.state[i] === State.Finished) <= (share === 1))).toBe(
          true,
        )
        const [left, right] = [true, false].map((side) =>
          [...one.activities.keys()].filter((i) => (cut[i] ?? false) === side),
        )
        const weigh = (members: number[]): number => members.reduce((sum, i) => sum + done.weight[i]!, 0)
        const parts = [left!, right!].reduce(
          (sum, members) => sum + (doneTogether(done, members) ?? 0) * weigh(members),
          0,
        )
        const whole = doneTogether(done, one.activities.keys())
        expect(parts).toBeCloseTo((whole ?? 0) * weigh([...one.activities.keys()]), 6)
      },
    ),
  )
})
