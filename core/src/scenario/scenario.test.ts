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
import { changesOfScenario, editInScenario, promoteScenario, removeScenario, scenarioPlan } from './index.ts'

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
