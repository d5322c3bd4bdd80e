import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChange, PlanError, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { randomPlan } from '../schedule/testing/randomPlans.ts'
import { workBetween } from '../time/index.ts'
import { CHECKS, foresee, repairAll, review, type Finding } from './index.ts'

const plans = fc.boolean().chain((progress) => randomPlan({ constraints: true, progress }))
const keyOf = (f: Finding): string => `${f.check} ${f.place}`
const keys = (plan: Plan): Set<string> => new Set(review(plan, schedule(plan)).findings.map(keyOf))
const minus = (a: Set<string>, b: Set<string>): string[] => [...a].filter((key) => !b.has(key)).sort()

describe('repairs, on random networks', () => {
  it('do what their preview says: finish, findings closed and new, by scheduling and reviewing the changed plan from nothing', () => {
    let tried = 0
    fc.assert(
      fc.property(plans, (plan) => {
        const made = schedule(plan)
        const before = review(plan, made)
        for (const finding of before.findings)
          for (const { change } of finding.repairs) {
            const seen = foresee(plan, made, change, before)
            if (seen.kind === 'refused') {
              expect(() => schedule(applyChange(plan, change).plan)).toThrow()
              continue
            }
            const after = applyChange(plan, change).plan
            expect(seen.finishAfter).toBe(schedule(after).projectFinish)
            const [was, is] = [keys(plan), keys(after)]
            expect(seen.closes!.map(keyOf).sort()).toEqual(minus(was, is))
            expect(seen.opens!.map(keyOf).sort()).toEqual(minus(is, was))
            tried++
          }
      }),
      { numRuns: 25 },
    )
    expect(tried).toBeGreaterThan(100)
  })

  it('leave none of a kind that they can repair once all of it is repaired', () => {
    const repairedKinds = new Set<string>()
    fc.assert(
      fc.property(plans, (plan) => {
        const made = schedule(plan)
        const ways = new Set(
          review(plan, made).findings.flatMap((f) => f.repairs.map((r) => `${f.check} ${r.kind}`)),
        )
        for (const way of ways) {
          const [check, kind] = way.split(' ') as [string, string]
          const { change, repaired, left } = repairAll(plan, made, check, kind)
          if (!change) continue
          const after = applyChange(plan, change).plan
          const open = review(after, schedule(after)).findings.filter((f) => f.check === check)
          expect(open).toHaveLength(left)
          // What is left cannot be repaired this way: it has no such repair, or the plan refuses it.
          for (const f of open)
            for (const r of f.repairs)
              if (r.kind === kind) expect(() => applyChange(after, r.change)).toThrow(PlanError)
          if (repaired > 0) repairedKinds.add(way)
        }
      }),
      { numRuns: 30 },
    )
    expect(repairedKinds.size).toBeGreaterThan(8)
  })

  it('measure the effect of a finding as scheduling the plan without it from nothing does', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const made = schedule(plan)
        const calendar = made.network.calendars.get(plan.project.calendar)
        for (const { effect, without, otherwise = { kind: 'none' }, activities } of review(plan, made)
          .findings) {
          if (!without || effect.kind === 'unknown') continue
          const other = schedule(applyChange(plan, without).plan)
          const moved = workBetween(calendar, made.projectFinish, other.projectFinish)
          if (moved !== 0) {
            expect(effect).toEqual({ kind: 'finish', minutes: -moved })
            continue
          }
          const i = made.network.indexOf.get(activities[0] ?? '')
          const gained =
            otherwise === 'own-float' && i !== undefined ? other.float.total[i]! - made.float.total[i]! : 0
          if (otherwise !== 'own-float') expect(effect).toEqual(otherwise)
          else expect(effect).toEqual(gained > 0 ? { kind: 'float', minutes: gained } : { kind: 'none' })
        }
      }),
      { numRuns: 100 },
    )
  })

  it('have checks with ids, words and sound limits', () => {
    expect(new Set(CHECKS.map((c) => c.id)).size).toBe(CHECKS.length)
    for (const { limit } of CHECKS)
      if (limit)
        expect(limit.default >= limit.min && limit.default <= limit.max && limit.reason !== '').toBe(true)
  })
})
