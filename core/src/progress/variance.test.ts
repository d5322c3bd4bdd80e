import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatInstant, isWorking } from '../time/index.ts'
import { applyChange, PlanError, readPlan, writePlan, type Plan } from '../plan/index.ts'
import { activityCosts } from '../cost/index.ts'
import { randomPlanWithResources } from '../cost/testing/randomResources.ts'
import { NONE } from '../network/index.ts'
import { schedule, type Schedule } from '../schedule/index.ts'
import { agreedMoney } from './agreedMoney.ts'
import { baselineOf } from './baselines.ts'
import { basisOf, freeze } from './freeze.ts'
import { varianceOf } from './variance.ts'
import { varianceReport } from './varianceReport.ts'

const WORDS = { name: 'Agreed', note: '', by: 'Ana', ink: 'plum', at: '2027-03-01T09:00' }
const random = (): (() => number) => {
  let n = 7
  return () => (n = (n * 16807) % 2147483647) / 2147483647
}
const frozen = (plan: Plan, only: readonly string[] | null = null): Plan =>
  applyChange(plan, freeze(schedule(plan), WORDS, only, baselineOf(plan), random()).change).plan

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
const plan = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'day' },
  calendars: [{ id: 'day', name: 'Day', week }],
  activities: [
    { id: 'a', code: 'A', duration: '2d', cost: { perDay: 100 } },
    { id: 'b', code: 'B', duration: '1d' },
    { id: 'c', code: 'C', duration: '2d' },
  ],
  links: [{ id: '1', from: 'a', to: 'c' }],
}).plan
const set = (of: Plan, key: string, fields: Record<string, unknown>): Plan =>
  applyChange(of, { kind: 'set', list: 'activities', key, set: fields }).plan

describe('variance against a baseline', () => {
  it('is in days of the project for dates, in the work’s own for durations and float, in money for cost', () => {
    const agreed = frozen(plan)
    expect(baselineOf(agreed)).toMatchObject({ name: 'Agreed', by: 'Ana', frozen: '2027-03-01T09:00' })
    const report = varianceReport(schedule(set(agreed, 'a', { duration: 4 * 480 })), baselineOf(agreed)!)
    expect(report).toMatchObject({ finish: 960, agreedFinish: '2027-03-04T15:00', gone: [] })
    expect(report.activities).toEqual({
      a: { start: 0, finish: 960, duration: 960, totalFloat: 0, cost: 200 },
      // B has two days more of it since the finish moved.
      b: { start: 0, finish: 0, duration: 0, totalFloat: 960, cost: 0 },
      c: { start: 960, finish: 960, duration: 0, totalFloat: 0, cost: 0 },
    })
  })

  it('has none for what was added since, never 0, and names what is gone', () => {
    let now = frozen(plan)
    now = applyChange(now, {
      kind: 'all',
      changes: [
        { kind: 'add', list: 'activities', item: { id: 'n', code: 'N', duration: 480 }, before: null },
        { kind: 'remove', list: 'activities', key: 'b' },
      ],
    }).plan
    const report = varianceReport(schedule(now), baselineOf(now)!)
    expect(report.activities.n).toEqual({
      start: null,
      finish: null,
      duration: null,
      totalFloat: null,
      cost: null,
    })
    expect(report.gone).toEqual(['b'])
    expect(varianceOf(schedule(now), baselineOf(now)!, null).added).toBe(1)
  })

  it('freezes a part and keeps what was agreed of the others', () => {
    const later = set(set(frozen(plan), 'a', { duration: 4 * 480 }), 'b', { duration: 3 * 480 })
    const again = frozen(later, ['b'])
    expect(again.baselines).toHaveLength(2)
    const { activities } = varianceReport(schedule(again), baselineOf(again)!)
    expect([activities.a!.duration, activities.b!.duration]).toEqual([960, 0])
    // Without an earlier one the others are simply not in it.
    expect(Object.keys(baselineOf(frozen(plan, ['b']))!.activities)).toEqual(['b'])
  })

  it('says that what its dates rest on is another plan, also where no date moved', () => {
    const agreed = frozen(plan)
    expect(basisOf(agreed)).toBe(baselineOf(agreed)!.basis)
    const linked = applyChange(agreed, {
      kind: 'add',
      list: 'links',
      item: { id: '2', from: 'b', to: 'c', type: 'FS', lag: 0 },
      before: null,
    }).plan
    expect(varianceReport(schedule(linked), baselineOf(linked)!).finish).toBe(0)
    expect(basisOf(linked)).not.toBe(baselineOf(linked)!.basis)
  })

  it('cannot lose the baseline that it is compared with', () => {
    const agreed = frozen(plan)
    const { id } = baselineOf(agreed)!
    const remove = { kind: 'remove', list: 'baselines', key: id } as const
    expect(() => applyChange(agreed, remove)).toThrow(PlanError)
    const none = { baseline: null }
    const released = applyChange(agreed, { kind: 'project', set: none }).plan
    expect(applyChange(released, remove).plan.baselines).toEqual([])
  })

  it('reads nothing into entries of others that mean nothing here', () => {
    const odd = readPlan({
      ...(JSON.parse(writePlan(plan)) as object),
      baselines: [
        {
          id: 'x',
          activities: { a: { finish: 'soon', duration: '2d' }, b: null, c: { finish: '2027-03-03' } },
        },
      ],
    }).plan
    const { activities, finish } = varianceReport(schedule(odd), baselineOf(odd)!)
    expect([activities.a!.finish, activities.b!.finish]).toEqual([null, null])
    // A finish without a time is the end of its day.
    expect([activities.c!.finish, finish]).toEqual([480, 480])
  })
})

const scheduled = (of: Plan): Schedule | null => {
  try {
    return schedule(of)
  } catch {
    return null
  }
}

it('is 0 everywhere for a plan that did not change, and working minutes counted one by one where it did', () => {
  const options = { constraints: true, progress: true, calendars: true, leads: true }
  let moved = 0
  fc.assert(
    fc.property(randomPlanWithResources(options), fc.nat(), (random, pick) => {
      const made = scheduled(random)
      if (!made) return
      const agreed = readPlan(JSON.parse(writePlan(frozen(random)))).plan
      const still = varianceOf(schedule(agreed), baselineOf(agreed)!, activityCosts(schedule(agreed)))
      for (const list of [still.start, still.finish, still.duration, still.float])
        expect(list.every((v) => v === 0 || v === NONE)).toBe(true)
      for (const v of still.cost) expect(Math.abs(v)).toBeLessThan(0.006)

      const i = pick % agreed.activities.length
      if (agreed.activities[i]!.kind !== 'work') return
      const { id, duration } = agreed.activities[i]!
      const later = scheduled(set(agreed, id, { duration: duration + 500 }))
      if (!later) return
      const found = varianceOf(later, baselineOf(agreed)!, null)
      const calendar = later.network.calendars.get(agreed.project.calendar)
      found.finish.forEach((variance, k) => {
        const [then, now] = [made.finish[k]!, later.finish[k]!]
        let counted = 0
        for (let t = Math.min(then, now); t < Math.max(then, now); t++) if (isWorking(calendar, t)) counted++
        // Nothing late is 0, and not −0.
        expect([formatInstant(now), variance]).toEqual([
          formatInstant(now),
          (now < then ? -counted : counted) + 0,
        ])
        if (variance !== 0) moved++
      })
    }),
    { numRuns: 100 },
  )
  expect(moved).toBeGreaterThan(3)
})

it('spreads agreed cost over the agreed dates, to the same sum, and says nothing where no cost was agreed', () => {
  const agreed = frozen(plan)
  const made = schedule(set(agreed, 'a', { duration: 4 * 480 }))
  const day = (date: string): number => Date.parse(date) / 86_400_000 - Date.parse('1950-01-01') / 86_400_000
  const money = agreedMoney(made, baselineOf(agreed)!, day('2027-03-01'), 6)!
  // A costs 100 a day on Monday and Tuesday, whatever it is now; B and C nothing.
  expect([...money.curve]).toEqual([100, 200, 200, 200, 200, 200])
  expect([money.total, ...money.byActivity]).toEqual([200, 200, 0, 0])
  // What lies outside of what is looked at counts at its edges.
  expect([...agreedMoney(made, baselineOf(agreed)!, day('2027-03-02'), 1)!.curve]).toEqual([200])
  const silent = { ...baselineOf(agreed)!, activities: { a: { finish: '2027-03-02' } } }
  expect(agreedMoney(made, silent, 0, 1)).toBeNull()
})
