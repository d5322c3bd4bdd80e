import { describe, expect, it } from 'vitest'
import {
  applyChange,
  PlanError,
  readPlan,
  sharedFacts,
  writePlan,
  type Change,
  type Plan,
} from '../plan/index.ts'
import { describeChange } from '../words/index.ts'
import {
  changesOfScenario,
  editInScenario,
  lineageOf,
  promoteScenario,
  removeScenario,
  scenarioAlone,
  scenarioPlan,
  scenariosOffered,
} from './index.ts'

const duration = (key: string, minutes: number): Change => ({
  kind: 'set',
  list: 'activities',
  key,
  set: { duration: minutes },
})
const FILE = {
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  activities: [
    { id: 'a', code: 'A10', name: 'Cut', duration: 60 },
    { id: 'b', code: 'A20', name: 'Fit', duration: 60 },
  ],
  scenarios: [
    { id: 's', name: 'Faster', changes: [duration('a', 30), duration('b', 20)] },
    { id: 's/x', name: 'Other', changes: [duration('a', 90)] },
  ],
}
const PLAN = readPlan(FILE).plan
const durations = ({ activities }: Plan): number[] => activities.map((a) => a.duration)
let at = 0
const random = (): number => (at = (at + 0.37) % 1)
const make = (plan: Plan, change: Change): Plan => applyChange(plan, change).plan

describe('a scenario', () => {
  it('is its changes on top of the plan, in their order', () => {
    expect(durations(scenarioPlan(PLAN, 's').plan)).toEqual([30, 20])
    const edited = make(PLAN, editInScenario(PLAN, 's', duration('a', 10), random))
    expect(durations(scenarioPlan(edited, 's').plan)).toEqual([10, 20])
    expect(durations(scenarioPlan(edited, 's/x').plan)).toEqual([90, 60])
    expect(durations(edited)).toEqual([60, 60])
  })

  it('moves with the plan under it', () => {
    const grown = make(PLAN, duration('b', 600))
    expect(
      durations(scenarioPlan(make(grown, { kind: 'remove', list: 'scenarioChanges', key: 's/2' }), 's').plan),
    ).toEqual([30, 600])
  })

  it('takes the edits of two people at once, and what one takes back leaves the other’s', () => {
    const [mine, yours] = [duration('a', 11), duration('a', 22)].map((change) =>
      editInScenario(PLAN, 's', change, random),
    ) as [Change, Change]
    expect(sharedFacts(mine, yours)).toEqual([])
    const first = applyChange(PLAN, mine)
    const both = make(first.plan, yours)
    expect(changesOfScenario(both, 's')).toHaveLength(4)
    expect(durations(scenarioPlan(make(both, first.inverse), 's').plan)).toEqual([22, 20])
  })

  it('leaves out what no longer fits, and says why; such a one is not promoted', () => {
    const gone = make(PLAN, { kind: 'remove', list: 'activities', key: 'b' })
    const { plan, unfit } = scenarioPlan(gone, 's')
    expect(durations(plan)).toEqual([30])
    expect([...unfit]).toEqual([['s/2', 'there is no "b" in activities any more']])
    expect(() => promoteScenario(gone, 's')).toThrow(PlanError)
    expect(() => promoteScenario(gone, 's')).toThrow(/no "b" in activities any more; take the change out/)
  })

  it('keeps what is not a change, and leaves it out', () => {
    const odd = readPlan({
      ...FILE,
      scenarios: [{ id: 's', changes: [{ kind: 'wish' }, duration('a', 5)] }],
    }).plan
    expect(durations(scenarioPlan(odd, 's').plan)).toEqual([5, 60])
    expect(scenarioPlan(odd, 's').unfit.get('s/1')).toBe('this is not a change')
    expect((JSON.parse(writePlan(odd)) as typeof FILE).scenarios[0]!.changes[0]).toEqual({ kind: 'wish' })
  })

  it('is promoted or removed whole, and comes back whole', () => {
    for (const change of [promoteScenario(PLAN, 's'), removeScenario(PLAN, 's')]) {
      const { plan, inverse } = applyChange(PLAN, change)
      expect(plan.scenarios.map(({ id }) => id)).toEqual(['s/x'])
      expect(plan.scenarioChanges.map(({ scenario }) => scenario)).toEqual(['s/x'])
      expect(writePlan(make(plan, inverse))).toBe(writePlan(PLAN))
    }
    expect(durations(make(PLAN, promoteScenario(PLAN, 's')))).toEqual([30, 20])
    expect(() => make(PLAN, { kind: 'remove', list: 'scenarios', key: 's' })).toThrow(
      /there is no scenario "s"/,
    )
    expect(() => scenarioPlan(PLAN, 'none')).toThrow('the plan has no scenario "none"')
  })

  it('stands in the file with its changes in it, and has them said in its name', () => {
    const file = JSON.parse(writePlan(PLAN)) as typeof FILE
    expect(file.scenarios.map(({ changes }) => changes)).toEqual(FILE.scenarios.map(({ changes }) => changes))
    expect('scenarioChanges' in file).toBe(false)
    expect(readPlan(file).plan).toEqual(PLAN)
    expect(describeChange(PLAN, editInScenario(PLAN, 's', duration('a', 45), random))).toBe(
      'in scenario Faster: A10 Cut, 1 h → 45 min',
    )
    expect(() => make(PLAN, { kind: 'set', list: 'scenarios', key: 's', set: { changes: [] } })).toThrow(
      /are items of "scenarioChanges"/,
    )
  })
})

describe('a scenario on its own way to a colleague', () => {
  const { plan } = readPlan(FILE)
  let count = 0
  const random = (): number => (count = (count + 0.123) % 1)
  const sent = (from: Plan, id: string): Plan => readPlan(JSON.parse(writePlan(scenarioAlone(from, id)))).plan
  const noScenarios = (): Plan => readPlan({ ...FILE, scenarios: [] }).plan

  it('leaves alone, in a plan file, and is taken in with the same changes, as one change that can be taken back', () => {
    const file = sent(plan, 's')
    expect(file.scenarios.map(({ id }) => id)).toEqual(['s'])
    expect(file.scenarioChanges.every(({ scenario }) => scenario === 's')).toBe(true)
    expect(file.activities).toEqual(plan.activities)
    const theirs = noScenarios()
    const [offered] = scenariosOffered(theirs, file, random)
    expect(offered).toMatchObject({ name: 'Faster', changes: 2, unfit: 0, isHere: false })
    const { plan: taken, inverse } = applyChange(theirs, offered!.take)
    expect(changesOfScenario(taken, offered!.id).map(({ change }) => change)).toEqual(
      changesOfScenario(plan, 's').map(({ change }) => change),
    )
    expect(scenarioPlan(taken, offered!.id).plan.activities).toEqual(scenarioPlan(plan, 's').plan.activities)
    expect(writePlan(applyChange(taken, inverse).plan)).toBe(writePlan(theirs))
  })
  it('beside one of its name gets another; what is here already, change for change, is said', () => {
    const file = sent(plan, 's')
    expect(scenariosOffered(plan, file, random)[0]).toMatchObject({ isHere: true })
    const changed = applyChange(file, editInScenario(file, 's', duration('b', 15), random)).plan
    const [offered] = scenariosOffered(plan, changed, random)
    expect(offered).toMatchObject({ name: 'Faster', changes: 3, isHere: false })
    const { plan: taken } = applyChange(plan, offered!.take)
    expect(taken.scenarios.map(({ name }) => name)).toContain('Faster (2)')
  })
  it('brings along what does not fit, counted, and says why as any void change', () => {
    const without = applyChange(noScenarios(), { kind: 'remove', list: 'activities', key: 'b' }).plan
    const [offered] = scenariosOffered(without, sent(plan, 's'), random)
    expect(offered).toMatchObject({ changes: 2, unfit: 1 })
    const { plan: taken } = applyChange(without, offered!.take)
    expect([...scenarioPlan(taken, offered!.id).unfit.values()]).toHaveLength(1)
  })
  it('that is not there cannot leave', () => {
    expect(() => scenarioAlone(plan, 'nope')).toThrow('the plan has no scenario "nope"')
  })
})

describe('a scenario that stands on another one', () => {
  const branched = (base: unknown = 's'): Plan =>
    readPlan({
      ...FILE,
      scenarios: [
        ...FILE.scenarios,
        { id: 't', name: 'Faster still', base, changes: [duration('b', 10)] },
        { id: 'u', name: 'Fastest', base: 't', changes: [duration('a', 5)] },
      ],
    }).plan
  const lengths = (plan: Plan, id: string): number[] =>
    scenarioPlan(plan, id).plan.activities.map((activity) => activity.duration)

  it('has its changes on top of those under it, and follows them', () => {
    const plan = branched()
    expect(lineageOf(plan, 'u')).toEqual(['s', 't', 'u'])
    expect(lineageOf(plan, null)).toEqual([])
    expect([lengths(plan, 's'), lengths(plan, 't'), lengths(plan, 'u')]).toEqual([
      [30, 20],
      [30, 10],
      [5, 10],
    ])
    const other = applyChange(
      plan,
      editInScenario(plan, 's', duration('a', 25), () => 0.4),
    ).plan
    expect([lengths(other, 't'), lengths(other, 'u')]).toEqual([
      [25, 10],
      [5, 10],
    ])
    expect(lengths(readPlan(JSON.parse(writePlan(plan))).plan, 'u')).toEqual([5, 10])
  })
  it('stays what it is when that goes, and taking that back leaves every byte as it was', () => {
    const plan = branched()
    const { plan: without, inverse } = applyChange(plan, removeScenario(plan, 's'))
    expect(without.scenarios.map(({ id, base }) => [id, base ?? null])).toEqual([
      ['s/x', null],
      ['t', null],
      ['u', 't'],
    ])
    expect([lengths(without, 't'), lengths(without, 'u')]).toEqual([
      [30, 10],
      [5, 10],
    ])
    expect(writePlan(applyChange(without, inverse).plan)).toBe(writePlan(plan))
  })
  it('promoted brings what is under it along; what stood on it stands on the plan and stays what it is', () => {
    const plan = branched()
    const { plan: promoted, inverse } = applyChange(plan, promoteScenario(plan, 't'))
    expect(promoted.activities.map((activity) => activity.duration)).toEqual([30, 10])
    expect(promoted.scenarios.map(({ id }) => id)).toEqual(['s', 's/x', 'u'])
    expect(lineageOf(promoted, 'u')).toEqual(['u'])
    expect(lengths(promoted, 'u')).toEqual([5, 10])
    expect(writePlan(applyChange(promoted, inverse).plan)).toBe(writePlan(plan))
  })
  it('leaves alone with what is under it as changes of its own', () => {
    const alone = readPlan(JSON.parse(writePlan(scenarioAlone(branched(), 'u')))).plan
    expect(alone.scenarios.map(({ id, base }) => [id, base ?? null])).toEqual([['u', null]])
    expect(lengths(alone, 'u')).toEqual([5, 10])
  })
  it('cannot stand on itself, round about or on what is not there', () => {
    expect(() => branched('nope')).toThrow(/nope/)
    expect(() => branched('u')).toThrow(/its own ancestor.*give it another base/)
    const plan = branched()
    const onto = (key: string, base: string): Change => ({
      kind: 'set',
      list: 'scenarios',
      key,
      set: { base },
    })
    expect(() => applyChange(plan, onto('s', 'u'))).toThrow(/its own ancestor/)
    expect(() => applyChange(plan, onto('s', 's'))).toThrow(/its own ancestor/)
    expect(() => applyChange(plan, { kind: 'remove', list: 'scenarios', key: 's' })).toThrow(PlanError)
  })
})
