import fc from 'fast-check'
import { expect, it } from 'vitest'
import { schedule } from '../schedule/index.ts'
import { randomPlan } from '../schedule/testing/randomPlans.ts'
import { applyChange } from './applyChange.ts'
import { breakDown, handedOn, whyWhole } from './breakDown.ts'
import { readPlan } from './readPlan.ts'

const seeded = (): (() => number) => {
  let n = 0
  return () => ((n += 7919) % 104729) / 104729
}

it('work broken down into as much work moves nothing else, whatever network it stands in; undone, all is as it was', () => {
  fc.assert(
    fc.property(
      randomPlan({ constraints: true, progress: false, overrides: false, places: false }),
      fc.nat(),
      fc.array(fc.nat(600), { minLength: 1, maxLength: 3 }),
      (plan, pick, cuts) => {
        const whole = plan.activities[pick % plan.activities.length]!
        fc.pre(whyWhole(whole) === '' && whole.duration > cuts.length)
        // What pushes or holds its finish acts on the last part alone afterwards, and the others need not wait for it.
        fc.pre(
          whole.constraints.every((c) => c.edge === 'start') &&
            plan.links.every((l) => l.to !== whole.id || l.type === 'FS' || l.type === 'SS'),
        )
        const at = [0, ...new Set(cuts.map((c) => 1 + (c % (whole.duration - 1)))), whole.duration].sort(
          (a, b) => a - b,
        )
        const parts = at.slice(1).map((end, k) => ({ name: `part ${k}`, duration: end - at[k]! }))
        const { change, parts: ids } = breakDown(plan, whole.id, parts, seeded())
        const { plan: broken, inverse } = applyChange(plan, change)
        const [before, after] = [schedule(plan), schedule(broken)]
        const of = (s: typeof before, id: string) => s.network.indexOf.get(id)!
        for (const { id } of plan.activities) {
          if (id === whole.id) continue
          const [i, j] = [of(before, id), of(after, id)]
          expect([after.start[j], after.finish[j], after.late.start[j], after.float.total[j]], id).toEqual([
            before.start[i],
            before.finish[i],
            before.late.start[i],
            before.float.total[i],
          ])
        }
        const i = of(before, whole.id)
        expect([
          after.start[of(after, ids[0]!)],
          after.finish[of(after, ids.at(-1)!)],
          after.projectFinish,
        ]).toEqual([before.start[i], before.finish[i], before.projectFinish])
        expect(applyChange(broken, inverse).plan).toEqual(plan)
      },
    ),
    { numRuns: 150 },
  )
})

it('what hangs on the whole goes to the part it belongs to, and is said', () => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', closes: ['w'] },
    groups: [{ id: 'h', code: 'H', name: 'Hull' }],
    resources: [
      { id: 'c', name: 'Welders', kind: 'people' },
      { id: 's', name: 'Steel', kind: 'material' },
    ],
    assignments: [
      { activity: 'w', resource: 'c', amount: 4 },
      { activity: 'w', resource: 's', amount: 12 },
    ],
    activities: [
      { id: 'p', code: 'H10', group: 'h', duration: 60 },
      {
        id: 'w',
        code: 'H20',
        name: 'Renew plating',
        group: 'h',
        duration: 1000,
        owner: 'Hull shop',
        notes: 'frames 12 to 30',
        cost: { fixed: 500, perDay: 20 },
        payment: { amount: 9000 },
        estimate: { low: 800, likely: 1000, high: 1600 },
        crash: { duration: 800, normalCost: 100, cost: 300 },
        constraints: [
          { edge: 'start', rule: 'not-before', date: '2027-03-02' },
          { edge: 'finish', rule: 'not-after', date: '2027-04-02' },
        ],
      },
      { id: 'n', code: 'H30', group: 'h', duration: 60 },
    ],
    links: [
      { id: 'a', from: 'p', to: 'w' },
      { id: 'b', from: 'p', to: 'w', type: 'FF' },
      { id: 'c', from: 'w', to: 'n', type: 'SS' },
      { id: 'd', from: 'w', to: 'n' },
    ],
  })
  const {
    change,
    parts: [first, second],
  } = breakDown(
    plan,
    'w',
    [
      { name: 'Cut out plates', duration: 400 },
      { name: 'Fit plates', duration: 800 },
    ],
    seeded(),
  )
  const broken = applyChange(plan, change).plan
  expect(broken.activities.map((a) => [a.code, a.name, a.duration])).toEqual([
    ['H10', '', 60],
    ['H20', 'Cut out plates', 400],
    ['H25', 'Fit plates', 800],
    ['H30', '', 60],
  ])
  expect(broken.groups.at(-1)).toMatchObject({ name: 'Renew plating', parent: 'h' })
  expect(broken.links.map((l) => `${l.from} ${l.type} ${l.to}`)).toEqual([
    `p FS ${first}`,
    `p FF ${second}`,
    `${first} SS n`,
    `${second} FS n`,
    `${first} FS ${second}`,
  ])
  expect(broken.project.closes).toEqual([second])
  const [, one, two] = broken.activities
  expect(one).toMatchObject({
    estimate: { low: 320, likely: 400, high: 640 },
    crash: { duration: 320, normalCost: 33.33, cost: 100 },
    constraints: [{ edge: 'start' }],
    cost: { fixed: 500, perDay: 20 },
    payment: null,
    notes: 'frames 12 to 30',
  })
  expect(two).toMatchObject({
    estimate: { low: 640, likely: 800, high: 1280 },
    crash: { duration: 640, normalCost: 66.67, cost: 200 },
    constraints: [{ edge: 'finish' }],
    cost: { fixed: 0, perDay: 20 },
    payment: { amount: 9000 },
    owner: 'Hull shop',
    notes: '',
  })
  expect(broken.assignments).toEqual([
    ...plan.assignments,
    { activity: second, resource: 'c', amount: 4, drives: true },
  ])
  expect(handedOn(plan, 'w').map(({ what, to }) => `${what}: ${to}`)).toEqual([
    'the link into its start: first',
    'the link out of its start: first',
    'the constraint on its start: first',
    'its fixed cost: first',
    'the assignment of material or fees: first',
    'notes and checklist: first',
    'the link into its finish: last',
    'the link out of its finish: last',
    'the constraint on its finish: last',
    'its payment: last',
    'the assignment of people or plant: each',
    'its estimate, shared out by duration: each',
  ])
  expect(whyWhole({ ...plan.activities[1]!, kind: 'milestone' })).toContain('no parts')
})
