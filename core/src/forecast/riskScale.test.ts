import { describe, expect, it } from 'vitest'
import { applyChange } from '../plan/applyChange.ts'
import { PlanError } from '../plan/issue.ts'
import { readPlan, writePlan, type Plan } from '../plan/index.ts'
import {
  chanceStep,
  delayMinutes,
  delayStep,
  HOUSE_SCALE,
  namedStep,
  riskScaleOf,
  setChanceStep,
  setDelayStep,
} from './riskScale.ts'

const week = (hours: string) =>
  Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, [hours]]))
const days = (low: number, likely: number, high: number, day: number) => ({
  low: low * day,
  likely: likely * day,
  high: high * day,
  shape: 'pert',
  ends: 'extremes',
})
const planOf = (project: Record<string, unknown> = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [
      { id: 'day', week: week('08:00-16:00') },
      { id: 'short', dayMinutes: 240, weekMinutes: 1200, week: week('08:00-12:00') },
    ],
    project: { start: '2027-03-01', calendar: 'day', ...project },
    activities: [
      { id: 'a', duration: '4d' },
      { id: 'b', duration: '4d', calendar: 'short' },
    ],
    risks: [
      // Medium is 2 / 5 / 8 days: of eight hours at a, of four at b.
      {
        id: 'r',
        probability: 0.2,
        impacts: [
          { activity: 'a', delay: days(2, 5, 8, 480) },
          { activity: 'b', delay: { ...days(2, 5, 8, 240), shape: 'triangular' } },
        ],
      },
      {
        id: 's',
        probability: 0.3,
        impacts: [{ activity: 'a', delay: days(2, 5, 9, 480) }],
        mitigation: { probability: 0.2, cost: 10 },
      },
    ],
  }).plan
const after = (plan: Plan, { change }: { change: Parameters<typeof applyChange>[1] }): Plan =>
  applyChange(plan, change).plan

describe('words of the risk register', () => {
  it('are those of the house until the plan has its own, and stay with its file', () => {
    const plan = planOf()
    expect(riskScaleOf(plan)).toBe(HOUSE_SCALE)
    expect(JSON.parse(writePlan(plan)).project).not.toHaveProperty('riskScale')
    const own = after(plan, setChanceStep(plan, 0, null))
    expect(riskScaleOf(own).chances.map(({ name }) => name)).toEqual([
      'unlikely',
      'possible',
      'likely',
      'nearly certain',
    ])
    expect(riskScaleOf(readPlan(JSON.parse(writePlan(own))).plan)).toEqual(riskScaleOf(own))
  })
  it('stand for exactly their figures, delays by the day of each calendar', () => {
    expect(chanceStep(HOUSE_SCALE, 0.2)?.name).toBe('unlikely')
    expect(chanceStep(HOUSE_SCALE, 0.21)).toBeNull()
    const medium = delayMinutes({ low: 2, likely: 5, high: 8 }, { dayMinutes: 240 })
    expect(delayStep(HOUSE_SCALE, medium, { dayMinutes: 240 })?.name).toBe('medium')
    expect(delayStep(HOUSE_SCALE, medium, { dayMinutes: 480 })?.name).not.toBe('medium')
  })
  it.each([
    ['likely', 'likely'],
    [' Nearly   CERTAIN ', 'nearly certain'],
    ['near', 'nearly certain'],
    ['u', 'unlikely'],
    ['', null],
    ['l i', null],
    ['sure', null],
  ])('are found by what is typed: “%s”', (typed, name) =>
    expect(namedStep(HOUSE_SCALE.chances, typed)?.name ?? null).toBe(name),
  )
  it('are not guessed where two begin alike', () => {
    expect(namedStep(HOUSE_SCALE.delays, 's')).toBeNull()
    expect(namedStep(HOUSE_SCALE.delays, 'sm')?.name).toBe('small')
  })
})

describe('a word that comes to mean something else', () => {
  it('takes along the risks and mitigations that were as likely as it, and only those', () => {
    const plan = planOf()
    const step = setChanceStep(plan, 1, { name: 'unlikely', value: 0.25 })
    expect(step.moves).toBe(2)
    const [r, s] = after(plan, step).risks
    expect([r!.probability, s!.probability, s!.mitigation!.probability]).toEqual([0.25, 0.3, 0.25])
    expect(s!.mitigation!.cost).toBe(10)
  })
  it('takes delays along in days of each calendar, their shapes kept', () => {
    const plan = planOf()
    const step = setDelayStep(plan, 2, { name: 'medium', low: 3, likely: 6, high: 10 })
    expect(step.moves).toBe(1)
    const [r, s] = after(plan, step).risks
    expect(r!.impacts.map(({ delay }) => [delay.low, delay.likely, delay.high, delay.shape])).toEqual([
      [1440, 2880, 4800, 'pert'],
      [720, 1440, 2400, 'triangular'],
    ])
    expect(s!.impacts).toEqual(plan.risks[1]!.impacts)
  })
  it('moves nothing by another name, by going, or by being new', () => {
    const plan = planOf()
    for (const step of [
      setChanceStep(plan, 1, { name: 'seldom', value: 0.2 }),
      setChanceStep(plan, 1, null),
      setChanceStep(plan, 5, { name: 'even', value: 0.5 }),
      setDelayStep(plan, 2, null),
    ]) {
      expect(step.moves).toBe(0)
      expect(after(plan, step).risks).toEqual(plan.risks)
    }
  })
  it('is one change, taken back whole', () => {
    const plan = planOf()
    const { plan: changed, inverse } = applyChange(
      plan,
      setChanceStep(plan, 1, { name: 'unlikely', value: 0.3 }).change,
    )
    expect(applyChange(changed, inverse).plan).toEqual(plan)
  })
})

describe('a scale that cannot be', () => {
  it.each([
    [{ chances: [{ name: ' ', value: 0.1 }] }, 'a word of the scale of risks is empty'],
    [
      {
        chances: [
          { name: 'so', value: 0.1 },
          { name: 'SO', value: 0.2 },
        ],
      },
      'the scale of risks has "SO" twice',
    ],
    [
      { delays: [{ name: 'far', low: 3, likely: 2, high: 5 }] },
      'the delay "far" of the scale of risks must have 0 ≤ low',
    ],
    [{ chances: [{ name: 'so', value: 1.2 }] }, ''],
  ])('says why: %j', (riskScale, message) => {
    expect(() => planOf({ riskScale })).toThrow(PlanError)
    try {
      planOf({ riskScale })
    } catch (error) {
      expect((error as PlanError).issues[0]!.message).toContain(message)
      expect((error as PlanError).issues[0]!.pointer).toMatch(/^\/project\/riskScale\//)
    }
  })
})
