import { describe, expect, it } from 'vitest'
import { readPlan } from '../../plan/index.ts'
import { riskWorths, type RiskWorth } from '../index.ts'

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
const fixed = (value: string | number) => ({ low: value, likely: value, high: value, shape: 'fixed' })
const worthsOf = (risks: readonly Record<string, unknown>[], percent = 80): RiskWorth[] => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', week: WEEK }],
    project: { start: '2027-03-01', calendar: 'day' },
    activities: [
      { id: 'a', duration: '5d', cost: { perDay: 100 } },
      { id: 'b', duration: '2d' },
    ],
    links: [{ from: 'a', to: 'b' }],
    risks,
  })
  return [...riskWorths(plan, { iterations: 400, seed: 1, sampling: 'lhs', risks: true }, percent)]
}
const risk = {
  id: 'k',
  probability: 0.5,
  impacts: [{ activity: 'a', delay: fixed('2d') }],
  cost: fixed(1000),
}

describe('what a risk is worth', () => {
  it('is its delay and its cost at a percentile that it reaches, and nothing below', () => {
    // In half the iterations: two days more, each at 100, and 1,000.
    expect(worthsOf([risk])).toEqual([{ id: 'k', owed: { days: 2, money: 1200 }, mitigation: null }])
    expect(worthsOf([risk], 40)[0]!.owed).toEqual({ days: 0, money: 0 })
  })
  it('of an opportunity is what it spares', () => {
    const chance = { ...risk, probability: 0.9, sign: 'opportunity', cost: null }
    expect(worthsOf([chance])[0]!.owed).toEqual({ days: -2, money: -200 })
  })
  it('says what mitigation takes off, its price counted, whether it is done or not', () => {
    const mitigation = { name: 'Look first', cost: 300, probability: 0.1, scale: 1 }
    for (const done of [false, true])
      expect(worthsOf([{ ...risk, mitigation: { ...mitigation, done } }])[0]!.mitigation).toEqual({
        days: 2,
        money: 900,
      })
    // As likely as before, but half as long.
    const halved = { ...mitigation, probability: 0.5, scale: 0.5 }
    expect(worthsOf([{ ...risk, mitigation: halved }])[0]!.mitigation).toEqual({ days: 1, money: -200 })
  })
  it('of one that falls on finished or no work is nothing', () => {
    expect(worthsOf([{ id: 'k', probability: 0.5 }])[0]!.owed).toEqual({ days: 0, money: 0 })
  })
})
