import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { applyChange, parseJson, readPlan, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { review } from './index.ts'

const { plan: kittiwake } = readPlan(parseJson(readFileSync(new URL('../../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')))
const of = (plan: Plan, check: string) => review(plan, schedule(plan)).findings.filter((f) => f.check === check)
const small = (activities: object[], links: object[], project: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan', version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'clock', opens: ['a'], closes: ['c'], ...project },
    activities: activities.map((a) => ({ duration: '1d', ...a })), links,
  }).plan
const chain = [{ id: '1', from: 'a', to: 'b' }, { id: '2', from: 'b', to: 'c' }]
const three = [{ id: 'a', code: 'A' }, { id: 'b', code: 'B' }, { id: 'c', code: 'C' }]

describe('the demo’s deliberate faults', () => {
  it('are found, all and only they', () => {
    const codes = new Map(kittiwake.activities.map((a) => [a.id, a.code]))
    const found = review(kittiwake, schedule(kittiwake)).findings.map((f) => `${f.check} ${f.check === 'negative-float' ? '' : f.activities.map((id) => codes.get(id)).join(' ')}`.trim())
    expect(found.sort()).toEqual(['midnight-limit S60', 'negative-float', 'negative-float', 'negative-lag P20 P30', 'open-end C70', 'open-end W20', 'overriding-constraint L70'])
  })
  it('are gone once their repairs are applied', () => {
    let plan = kittiwake
    for (const check of ['open-end', 'negative-lag', 'overriding-constraint', 'midnight-limit']) {
      for (let [f] = of(plan, check); f; [f] = of(plan, check)) plan = applyChange(plan, f.repairs[0]!.change).plan
      expect(of(plan, check)).toEqual([])
    }
  })
})

describe('a check', () => {
  it('finds open ends, but not declared ones nor hammocks', () => {
    expect(of(small(three, chain), 'open-end')).toEqual([])
    const open = of(small([...three, { id: 'd', code: 'D' }, { id: 'h', kind: 'hammock' }], chain), 'open-end')
    expect(open.map((f) => f.message)).toEqual(['D waits for nothing', 'Nothing waits for D'])
  })
  it('says how much a lead hides', () => {
    const [lead] = of(small(three, [{ ...chain[0]!, lag: '-4h' }, chain[1]!]), 'negative-lag')
    expect(lead).toMatchObject({ value: -240, effect: { kind: 'finish', minutes: -240 } })
  })
  it('says how much an overriding date hides', () => {
    const held = three.with(1, { ...three[1]!, constraints: [{ edge: 'start', rule: 'exactly', date: '2027-03-01T19:00', overrides: true }] } as never)
    expect(of(small(held, chain), 'overriding-constraint')[0]).toMatchObject({ effect: { kind: 'finish', minutes: -720 } })
  })
  it('groups negative float by the date that causes it', () => {
    const due = three.with(1, { ...three[1]!, constraints: [{ edge: 'finish', rule: 'not-after', date: '2027-03-02T07:00' }] } as never)
    const [cause] = of(small(due, chain), 'negative-float')
    expect(cause).toMatchObject({ activities: ['a', 'b'], effect: { kind: 'short', minutes: 1440 } })
    expect(of(small(three, chain, { requiredFinish: '2027-03-03T07:00' }), 'negative-float')[0]!.activities).toEqual(['a', 'b', 'c'])
    expect(of(small(three, chain, { requiredFinish: '2027-03-04T07:00' }), 'negative-float')).toEqual([])
  })
  it('finds a finish due at midnight, but not one due on a day or at 24:00', () => {
    expect(of(small(three, chain, { requiredFinish: '2027-03-04T00:00' }), 'midnight-limit')).toHaveLength(1)
    expect(of(small(three, chain, { requiredFinish: '2027-03-04' }), 'midnight-limit')).toEqual([])
    expect(of(small(three, chain, { requiredFinish: '2027-03-04T24:00' }), 'midnight-limit')).toEqual([])
  })
})
