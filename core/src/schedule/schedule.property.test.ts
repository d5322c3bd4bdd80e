import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatInstant } from '../time/index.ts'
import { NONE } from '../network/network.ts'
import { schedule, type Schedule } from './schedule.ts'
import { naiveSchedule } from './testing/minuteGrid.ts'
import { GRID, randomPlan, type PlanOptions } from './testing/randomPlans.ts'
import type { Plan } from '../plan/index.ts'

const RUNS = Number(process.env.GEODROME_NETWORKS ?? 2000) / 5

const dates = (s: Schedule, i: number): Record<string, string | number | null> => {
  const float = (x: number): number | null => (x === NONE ? null : x)
  return {
    start: formatInstant(s.early.start[i]!),
    finish: formatInstant(s.early.finish[i]!),
    lateStart: formatInstant(s.late.start[i]!),
    lateFinish: formatInstant(s.lateFinishShown[i]!),
    totalFloat: float(s.float.total[i]!),
    freeFloat: float(s.float.free[i]!),
    startFloat: float(s.float.start[i]!),
    placedStart: formatInstant(s.start[i]!),
    placedFinish: formatInstant(s.finish[i]!),
  }
}

const agreesWithOracle = (plan: Plan): void => {
  let naive
  try {
    naive = naiveSchedule(plan, GRID.lowDay, GRID.days)
  } catch (error) {
    if ((error as Error).message === 'outside the grid') return fc.pre(false)
    throw error
  }
  const fast = schedule(plan)
  expect(formatInstant(fast.projectFinish)).toBe(formatInstant(naive.finish))
  plan.activities.forEach((a, i) => {
    const tried = naive.dates.get(a.id)!
    expect({ id: a.id, ...dates(fast, i) }).toEqual({
      id: a.id,
      ...tried,
      start: formatInstant(tried.start),
      finish: formatInstant(tried.finish),
      lateStart: formatInstant(tried.lateStart),
      lateFinish: formatInstant(tried.lateFinish),
      placedStart: formatInstant(tried.placedStart),
      placedFinish: formatInstant(tried.placedFinish),
    })
  })
}

describe('the schedule equals a naive one that tries every minute', () => {
  const variants: Record<string, PlanOptions> = {
    'over mixed calendars': { constraints: false, progress: false },
    'with constraints and a required finish': { constraints: true, progress: false },
    'with progress': { constraints: false, progress: true },
    'with constraints and progress': { constraints: true, progress: true },
    'with work that was suspended, and may still be': {
      constraints: true,
      progress: true,
      places: true,
      suspensions: true,
    },
    'with dates that override, work placed late, and progress': {
      constraints: true,
      progress: true,
      overrides: true,
      places: true,
    },
  }
  for (const [name, options] of Object.entries(variants))
    it(name, () => {
      fc.assert(fc.property(randomPlan(options), agreesWithOracle), { numRuns: RUNS })
    })
})
