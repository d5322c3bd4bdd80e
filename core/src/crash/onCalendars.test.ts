import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { parseJson, readPlan, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { formatInstant } from '../time/index.ts'
import { crash, crashSteps, loadSolver, type CrashStep, type Solver } from './index.ts'
import { crashedSchedule } from './crash.ts'

let solver: Solver
beforeAll(async () => {
  solver = await loadSolver()
})
const week = (shift: string, days: readonly string[]) => Object.fromEntries(days.map((day) => [day, [shift]]))
const FIVE = ['mon', 'tue', 'wed', 'thu', 'fri']
const CALENDARS = [
  { id: 'day', week: week('08:00-16:00', FIVE) },
  { id: 'six', dayMinutes: 600, week: week('06:00-16:00', [...FIVE, 'sat']) },
  { id: 'few', week: week('08:00-16:00', ['tue', 'thu']) },
]
const steps = (plan: Plan, whole: number | null, to: string | null = null): CrashStep[] =>
  crashSteps(crash(plan, { curve: true, whole, to, basis: 'calendars' }, solver), to)

describe('the demo', () => {
  const { plan } = readPlan(
    parseJson(readFileSync(new URL('../../../demo/kittiwake.geodrome.json', import.meta.url), 'utf8')),
  )
  it('is shortened behind its tide only: each finish with what is crashed for it, and why cheaper work is not', () => {
    const made = steps(plan, 1)
    const code = (i: number): string => plan.activities[i]!.code
    expect(
      made.map(({ finish, point, changes, perDay }) => [
        formatInstant(finish),
        point.crashCost,
        changes.map(({ activity }) => code(activity)).join(' '),
        perDay,
      ]),
    ).toEqual([
      ['2027-07-05T15:45', 0, '', 0],
      ['2027-07-02T15:45', 3600, 'U80', 3600],
      ['2027-07-01T15:45', 8400, 'U60', 4800],
      ['2027-06-30T15:45', 14100, 'U80', 5700],
      ['2027-06-29T15:45', 21000, 'U20 U30', 6900],
      ['2027-06-28T15:45', 30300, 'U60', 9300],
    ])
    const why = new Map(made[1]!.notUsed.map((one) => [code(one.activity), one]))
    expect(why.get('H50')).toMatchObject({ why: 'saves-nothing', slope: 1400 })
    expect(why.get('L80')).toMatchObject({ why: 'has-float', slope: 1300 })
    expect(why.has('U60')).toBe(false)
    const { waits, network } = crash(plan, { basis: 'calendars', whole: 1 }, solver).network
    expect(waits.map(({ activity }) => network.activities[activity]!.code)).toContain('U10')
    expect(made[0]!.cost.damages - made[1]!.cost.damages).toBe(6000)
  })
})

const ids = ['a', 'b', 'c', 'd']
const random = (calendars: readonly string[]) =>
  fc
    .record({
      activities: fc.array(
        fc.tuple(
          fc.integer({ min: 1, max: 5 }),
          fc.integer({ min: 0, max: 3 }),
          fc.integer({ min: 1, max: 9 }),
          fc.constantFrom(...calendars),
        ),
        { minLength: ids.length, maxLength: ids.length },
      ),
      links: fc.array(fc.tuple(fc.nat(2), fc.nat(2), fc.constantFrom('FS', 'FS', 'SS', 'FF')), {
        maxLength: 5,
      }),
    })
    .map(({ activities, links }) => {
      const kept = new Map(
        links.map(([one, other, type]) => {
          const [from, to] = [Math.min(one, other), Math.max(one, other) + 1]
          return [`${from} ${to}`, { from: ids[from], to: ids[to], type }] as const
        }),
      )
      return readPlan({
        format: 'geodrome-plan',
        version: 1,
        calendars: CALENDARS,
        project: { start: '2027-03-01', calendar: 'day' },
        activities: activities.map(([duration, limit, slope, calendar], i) => {
          const saves = Math.min(limit, duration - 1)
          return {
            id: ids[i],
            calendar,
            duration: `${duration}d`,
            crash: { duration: `${duration - saves}d`, normalCost: 0, cost: saves * slope },
          }
        }),
        links: [...kept.values()],
      }).plan
    })

/** The least that each finish costs, of all choices of whole days. */
const enumerated = (plan: Plan): Map<number, number> => {
  const least = new Map<number, number>()
  const choose = (i: number, activities: Plan['activities'], cost: number): void => {
    if (i === plan.activities.length) {
      const { projectFinish } = schedule({ ...plan, activities })
      least.set(projectFinish, Math.min(cost, least.get(projectFinish) ?? Infinity))
      return
    }
    const { crash: data, duration, calendar } = plan.activities[i]!
    const day = calendar === 'six' ? 600 : 480
    const saves = (duration - data!.duration) / day
    for (let k = 0; k <= saves; k++) {
      const shorter = activities.slice()
      shorter[i] = { ...activities[i]!, duration: duration - k * day }
      choose(i + 1, shorter, cost + (saves === 0 ? 0 : (k * data!.cost) / saves))
    }
  }
  choose(0, plan.activities, 0)
  return least
}
const cheapestBy = (least: ReadonlyMap<number, number>, finish: number): number =>
  Math.min(...[...least].filter(([at]) => at <= finish).map(([, cost]) => cost))

describe('against every choice of whole days', () => {
  it('on one calendar each finish costs the least that there is, to the shortest', () => {
    fc.assert(
      fc.property(random(['day']), (plan) => {
        const least = enumerated(plan)
        const made = steps(plan, 1)
        for (const { finish, point } of made)
          expect(point.crashCost).toBeCloseTo(cheapestBy(least, finish), 6)
        expect(made.at(-1)!.finish).toBe(Math.min(...least.keys()))
        expect(made[0]!.finish).toBe(schedule(plan).projectFinish)
      }),
      { numRuns: 25 },
    )
  })
  it('on several no finish is promised that the plan does not keep, none costs less than is true, few cost more', () => {
    let [exact, all] = [0, 0]
    fc.assert(
      fc.property(random(['day', 'six', 'few', 'day']), (plan) => {
        const least = enumerated(plan)
        const result = crash(plan, { curve: true, whole: 1, basis: 'calendars' }, solver)
        let before = Infinity
        for (const { finish, point } of crashSteps(result, null)) {
          expect(crashedSchedule(result, point).projectFinish).toBe(finish)
          expect(finish).toBeLessThan(before)
          before = finish
          const truly = cheapestBy(least, finish)
          expect(point.crashCost).toBeGreaterThanOrEqual(truly - 1e-6)
          all++
          if (point.crashCost <= truly + 1e-6) exact++
        }
      }),
      { numRuns: 60 },
    )
    expect(exact / all).toBeGreaterThan(0.9)
  })
  it('in fractions no finish costs more than in whole days', () => {
    fc.assert(
      fc.property(random(['day']), (plan) => {
        const fractions = steps(plan, null)
        for (const { finish, point } of steps(plan, 1)) {
          const asEarly = fractions.filter((step) => step.finish <= finish)
          expect(Math.min(...asEarly.map((step) => step.point.crashCost))).toBeLessThanOrEqual(
            point.crashCost + 1e-6,
          )
        }
      }),
      { numRuns: 20 },
    )
  })
})
