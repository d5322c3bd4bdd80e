import { expect, it } from 'vitest'
import { applyChange, readPlan } from '../plan/index.ts'
import { formatInstant } from '../time/index.ts'
import { schedule } from '../schedule/index.ts'
import { loadsOf } from './load.ts'
import { overloadGroups } from './overloadGroups.ts'
import { balanceOf, moneyView } from './moneyView.ts'
import { waysOut } from './waysOut.ts'

const week = (shifts: string[]) =>
  Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, shifts]))
/** A lifts for two days, B for one; both want the only crane from Monday, 1 March. C follows A and ends the project on Thursday. */
const { plan } = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'day' },
  calendars: [{ id: 'day', name: 'Day', week: week(['07:00-15:00']) }],
  activities: [
    { id: 'a', code: 'A', duration: '2d', cost: { perDay: 100 } },
    { id: 'b', code: 'B', duration: '1d' },
    { id: 'c', code: 'C', duration: '2d' },
    { id: 'p', code: 'P', kind: 'milestone', edge: 'finish', payment: { amount: 1000, direction: 'in' } },
  ],
  links: [
    { id: '1', from: 'a', to: 'c' },
    { id: '2', from: 'c', to: 'p' },
  ],
  resources: [{ id: 'r', code: 'CRAN', kind: 'plant', price: 60, available: [{ amount: 1 }] }],
  assignments: [
    { id: 'x', activity: 'a', resource: 'r' },
    { id: 'y', activity: 'b', resource: 'r' },
  ],
  damages: [{ id: 'd', due: '2027-03-04', steps: [{ from: 1, amount: 500 }] }],
})

it('tries every way out of an overload and says what each does to finish, cost, damages and float', () => {
  const made = schedule(plan)
  const [load] = loadsOf(made)
  expect(load!.overloads).toMatchObject([{ load: 2, available: 1, minutes: 480, excess: 480 }])
  const ways = waysOut(made, load!, overloadGroups(load!)[0]!)
  const said = ways.map(({ way, finish, cost, damages, left, moved }) => ({
    way: way.kind === 'wait' ? `${way.activity} waits for ${way.behind}` : way.kind,
    finish: formatInstant(finish).slice(5),
    cost,
    damages,
    left,
    moved,
  }))
  expect(said).toEqual([
    // B has float: it waits, and nothing else moves. Levelling finds the same.
    { way: 'b waits for a', finish: '03-04T15:00', cost: 0, damages: 0, left: 0, moved: 1 },
    { way: 'level', finish: '03-04T15:00', cost: 0, damages: 0, left: 0, moved: 1 },
    // Eight more hours of a crane at 60.
    { way: 'more', finish: '03-04T15:00', cost: 480, damages: 0, left: 0, moved: 0 },
    // The other way round the finish moves to Friday, which is a day of damages.
    { way: 'a waits for b', finish: '03-05T15:00', cost: 0, damages: 500, left: 0, moved: 3 },
  ])
  expect(ways[0]!.float).toEqual({ before: 1440, after: 480 })
  // What was tried is what the change does.
  for (const { change, finish } of ways)
    expect(schedule(applyChange(plan, change).plan).projectFinish).toBe(finish)
})

it('more of it for the time leaves what was there before and after', () => {
  const stepped = applyChange(plan, {
    kind: 'set',
    list: 'resources',
    key: 'r',
    set: {
      available: [
        { from: null, amount: 1 },
        { from: '2027-03-08', amount: 3 },
      ],
    },
  }).plan
  const made = schedule(stepped)
  const [load] = loadsOf(made)
  const more = waysOut(made, load!, overloadGroups(load!)[0]!).find(({ way }) => way.kind === 'more')!
  expect(applyChange(stepped, more.change).plan.resources[0]!.available).toEqual([
    { from: null, amount: 1 },
    { from: '2027-03-01T07:00', amount: 2 },
    { from: '2027-03-01T15:00', amount: 1 },
    { from: '2027-03-08', amount: 3 },
  ])
})

it('the balance is what came in less what was spent, day by day', () => {
  const made = schedule(plan)
  const money = moneyView(made)
  const balance = balanceOf(money)
  // Two days of A at 100, three days of the crane at 8 h × 60; the payment on Thursday.
  expect(money.total.atCompletion).toBe(200 + 3 * 480)
  expect([...balance.byDay].map((x) => Math.round(x))).toEqual([-1060, -1640, -1640, -640])
})
