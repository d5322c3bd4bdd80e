import { describe, expect, it } from 'vitest'
import { readFileSync } from 'node:fs'
import { applyChange, readPlan, type Change, type Plan } from '../plan/index.ts'
import { simulationModel, iterationTable, runIterations, percentileSorted } from '../forecast/index.ts'
import { runDifferences, type ComparedRun } from './index.ts'

const { plan: kittiwake } = readPlan(
  JSON.parse(readFileSync(new URL('../../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')),
)
const OPTIONS = { iterations: 400, seed: 5, sampling: 'lhs', risks: true } as const
const run = (plan: Plan, more: Partial<ComparedRun['options']> = {}): ComparedRun => ({
  plan,
  options: { ...OPTIONS, ...more },
})
const changed = (plan: Plan, ...changes: Change[]): Plan =>
  changes.reduce((at, change) => applyChange(at, change).plan, plan)
const p80 = ({ plan, options }: ComparedRun): { count: number; day: number } => {
  const model = simulationModel(plan, options)
  const table = iterationTable(model)
  runIterations(model, table)
  const at = percentileSorted(table.finish.slice().sort(), 80)
  const calendar = simulationModel(kittiwake, OPTIONS).planned.network.calendars.get(
    kittiwake.project.calendar,
  )
  return { count: calendar.countBefore(at), day: at }
}
const differences = (before: ComparedRun, after: ComparedRun) => [...runDifferences(before, after, 80)]
const work = kittiwake.activities.find(({ estimate, progress }) => estimate && progress.actualStart === null)!
const risk = kittiwake.risks[0]!

describe('what differs between two runs', () => {
  it('is nothing between a run and itself', () => {
    expect(differences(run(kittiwake), run(kittiwake))).toEqual([])
  })

  it('of one difference alone its days are what the percentile moves', () => {
    for (const change of [
      { kind: 'set', list: 'activities', key: work.id, set: { estimate: null } },
      { kind: 'set', list: 'risks', key: risk.id, set: { probability: 0.9 } },
      { kind: 'remove', list: 'risks', key: risk.id },
      {
        kind: 'add',
        list: 'factors',
        item: { id: 'new', name: 'Yard', scope: {}, low: 1, likely: 1.3, high: 1.6 },
        before: null,
      },
    ] satisfies Change[]) {
      const after = run(changed(kittiwake, change))
      const found = differences(run(kittiwake), after)
      expect(found, JSON.stringify(change)).toHaveLength(1)
      const days = (p80(after).count - p80(run(kittiwake)).count) / 480
      expect(found[0]!.days, JSON.stringify(change)).toBeCloseTo(days, 6)
    }
  })

  it('takes iterations and their batches as one: a part of a batch is no run', () => {
    const batched = run(kittiwake, { iterations: 600, batch: 200 })
    const [one, ...rest] = [...runDifferences(run(kittiwake), batched, 80)]
    expect(rest).toEqual([])
    expect([one!.what, one!.before, one!.after]).toEqual(['Iterations', '400', '600 in batches of 200'])
    expect(one!.days).not.toBeNull()
    expect(
      [...runDifferences(batched, run(kittiwake, { iterations: 600 }), 80)].map(({ after }) => after),
    ).toEqual(['600'])
  })

  it('says options, estimates, risks, costs and what came and went in words', () => {
    const after = changed(
      kittiwake,
      { kind: 'set', list: 'activities', key: work.id, set: { cost: { ...work.cost, fixed: 12_345 } } },
      { kind: 'remove', list: 'risks', key: risk.id },
      { kind: 'add', list: 'spreads', item: { id: 'x', name: 'Rest', low: 0.9, high: 1.5 }, before: null },
    )
    const found = differences(run(kittiwake), run(after, { iterations: 600, risks: false }))
    const said = found.map(({ what, before, after: is }) => [what, before, is].join(' | '))
    expect(said).toContain('Iterations | 400 | 600')
    expect(said).toContain('Risk register | drawn | not drawn')
    expect(said.some((line) => line.startsWith(`${work.code} cost |`) && line.includes('12,345'))).toBe(true)
    expect(said.some((line) => line.startsWith(`Risk ${risk.code}`) && line.endsWith('| removed'))).toBe(true)
    expect(said.some((line) => line.startsWith('Spread Rest | not there | '))).toBe(true)
    expect(said).toHaveLength(5)
  })

  it('what cannot stand alone is listed without days', () => {
    const after = changed(
      kittiwake,
      {
        kind: 'add',
        list: 'activities',
        item: { id: 'fresh', code: 'ZZ', name: 'Fresh', duration: 480 },
        before: null,
      },
      {
        kind: 'add',
        list: 'risks',
        item: {
          id: 'onFresh',
          code: 'RZ',
          probability: 0.5,
          impacts: [{ activity: 'fresh', delay: { low: 480, likely: 480, high: 480, shape: 'fixed' } }],
        },
        before: null,
      },
    )
    const found = differences(run(kittiwake), run(after))
    expect(found.map(({ what, days }) => [what, days === null])).toEqual([
      ['ZZ Fresh added', false],
      ['Risk RZ', true],
    ])
  })
})
