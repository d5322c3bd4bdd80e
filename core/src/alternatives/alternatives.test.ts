import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { applyChange, readPlan, type Change, type Plan } from '../plan/index.ts'
import { costReport } from '../cost/index.ts'
import { review } from '../review/index.ts'
import { schedule } from '../schedule/index.ts'
import { formatInstant } from '../time/index.ts'
import { alternativeBeside, choiceWords, comparedPlan, type Choosable } from './index.ts'

const { plan } = readPlan(
  JSON.parse(readFileSync(new URL('../../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')),
)
const idOf = (code: string): string => plan.activities.find((one) => one.code === code)!.id
const changed = (...changes: Change[]): Plan =>
  changes.reduce((at, change) => applyChange(at, change).plan, plan)
const shorter = (code: string, days: number): Change => ({
  kind: 'set',
  list: 'activities',
  key: idOf(code),
  set: { duration: days * 480 },
})

describe('an alternative beside the plan', () => {
  const base = comparedPlan(plan)

  it('of the plan itself differs in nothing', () => {
    const same = alternativeBeside(base, plan)
    expect(same).toMatchObject({ later: 0, opened: [], closed: [], money: [], moves: [] })
    expect(same).toMatchObject(base.itself)
  })

  it('has the finish, cost, damages, path and findings that the plan with its changes has', () => {
    const other = changed(shorter('H30', 6), shorter('H40', 4))
    const beside = alternativeBeside(base, other)
    const made = schedule(other)
    const cost = costReport(made)
    expect(beside.finish).toBe(made.projectFinish)
    expect(beside.later).toBeLessThan(0)
    expect(beside.cost!.damages).toBe(cost.damages.reduce((sum, { amount }) => sum + amount, 0))
    expect(beside.findings).toBe(review(other, made, { experiments: 0 }).findings.length)
    expect(beside.findings).toBe(base.itself.findings + beside.opened.length - beside.closed.length)
    const total = ({ work, damages }: { work: number; damages: number }): number => work + damages
    expect(beside.money.reduce((sum, { amount }) => sum + amount, 0)).toBeCloseTo(
      total(beside.cost!) - total(base.itself.cost!),
      1,
    )
    const own = beside.moves.filter(({ isChanged }) => isChanged)
    expect(own.map(({ activity }) => activity)).toEqual([idOf('H30'), idOf('H40')])
    expect(beside.moves.length).toBeGreaterThan(own.length)
    for (const { here, plan: there } of beside.moves.slice(own.length)) expect(here).not.toEqual(there)
  })

  it('tells of work that is only in one of the two', () => {
    const beside = alternativeBeside(
      base,
      changed({
        kind: 'add',
        list: 'activities',
        item: { id: 'fresh', code: 'ZZ', name: 'Fresh', duration: 480, cost: { fixed: 900 } },
        before: null,
      }),
    )
    expect(beside.moves.find(({ activity }) => activity === 'fresh')).toMatchObject({
      isChanged: true,
      plan: null,
    })
    expect(beside.money).toContainEqual({ what: 'ZZ Fresh', amount: 900 })
    expect(beside.opened.length).toBeGreaterThan(0)
  })

  it('has no cost where nothing costs anything, and is short of nothing without a required finish', () => {
    const bare = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01' },
      activities: [{ id: 'a', duration: 60 }],
    }).plan
    expect(comparedPlan(bare).itself).toMatchObject({ cost: null, short: null })
    expect(formatInstant(comparedPlan(bare).itself.finish)).toBe('2027-03-01T01:00')
  })
})

describe('which to choose', () => {
  const one = (name: string, more: Partial<Choosable> = {}): Choosable => ({
    name,
    isPlan: name === 'The plan',
    p80: '2027-07-19T16:00',
    finish: '2027-07-05T15:45',
    cost: 1000,
    keeps: false,
    ...more,
  })
  const words = (all: Choosable[], required: string | null = '2027-07-01') =>
    choiceWords(all, required, 'EUR')

  it('is the earliest 80 % date, at its price, with the cheapest beside it', () => {
    expect(
      words([
        one('The plan'),
        one('Double shift', { p80: '2027-07-06T16:00', cost: 6000 }),
        one('Two surveyors', { p80: '2027-07-16T16:00', cost: 600 }),
      ]),
    ).toEqual([
      'Double shift brings the 80 % date from Mon 19 Jul to Tue 6 Jul, for 5,000 EUR more.',
      'Two surveyors is cheapest, 5,400 EUR less.',
      'None of the 3 keeps Thu 1 Jul as planned.',
    ])
  })
  it('goes by the planned finish where not all were simulated on the same draws', () => {
    expect(
      words([one('The plan'), one('Double shift', { p80: null, finish: '2027-07-01T15:45', keeps: true })]),
    ).toEqual([
      'Double shift brings the planned finish from Mon 5 Jul to Thu 1 Jul.',
      'Thu 1 Jul is kept as planned by Double shift only.',
    ])
  })
  it('speaks of two as of two', () => {
    expect(words([one('The plan'), one('Other')]).at(-1)).toBe('Neither keeps Thu 1 Jul as planned.')
    expect(words([one('The plan', { keeps: true }), one('Other', { keeps: true })]).at(-1)).toBe(
      'Both keep Thu 1 Jul as planned.',
    )
  })
  it('says so where nothing is earlier, of two equals takes the cheaper, and is silent about one alone', () => {
    expect(words([one('The plan'), one('Other', { cost: 1200 })], null)).toEqual([
      'No alternative brings the 80 % date before Mon 19 Jul.',
      'As it is, the plan is cheapest, 200 EUR less.',
    ])
    const early = { p80: '2027-07-10T16:00' }
    expect(
      words(
        [
          one('The plan'),
          one('Dear', { p80: '2027-07-10T09:00', cost: 9000 }),
          one('Cheap', { ...early, cost: 900 }),
        ],
        null,
      )[0],
    ).toBe('Cheap brings the 80 % date from Mon 19 Jul to Sat 10 Jul, for 100 EUR less.')
    expect(words([one('The plan')])).toEqual([])
  })
})
