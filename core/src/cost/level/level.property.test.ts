import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CalendarError, isWorking, lastMinuteFrom, type Calendar } from '../../time/index.ts'
import { applyChange, type Plan } from '../../plan/index.ts'
import { compileNetwork, State } from '../../network/index.ts'
import { schedule } from '../../schedule/index.ts'
import { copyEarlyDates, forwardStep } from '../../schedule/forwardPass.ts'
import { availabilityOf, availableAt, isWorker } from '../availability.ts'
import { randomPlanWithResources } from '../testing/randomResources.ts'
import { busyPlans } from '../testing/tightPlans.ts'
import { horizonAround, jointPlan } from './jointPlan.ts'
import { level, levelSteps, type Levelled, type LevelOptions } from './level.ts'
import { levelReport } from './levelReport.ts'
import { LEVEL_RULES } from './rules.ts'

const RULE = fc.constantFrom(...LEVEL_RULES, ...LEVEL_RULES, 'best' as const)
const PLANS = {
  plain: randomPlanWithResources({
    constraints: false,
    progress: false,
    calendars: true,
    leads: true,
    scarce: true,
  }),
  mixed: randomPlanWithResources({
    constraints: true,
    progress: true,
    calendars: true,
    leads: true,
    places: true,
    scarce: true,
  }),
}
/** Half of the work may pause. */
const withSplits = (plan: Plan): Plan => ({
  ...plan,
  activities: plan.activities.map((a, i) => (i % 2 === 0 ? { ...a, split: true } : a)),
})

const levelledOrNull = (plan: Plan, options: LevelOptions): Levelled | null => {
  try {
    return level(plan, options)
  } catch (error) {
    if (error instanceof CalendarError) return null
    throw error
  }
}

interface Hold {
  readonly activity: number
  readonly amount: number
  readonly parts: readonly (readonly [number, number])[]
}
/** Who holds a resource when, in the scheduled scenario: from start to finish, or in pieces; work under way from the status date. */
const holdsOf = ({ after, pieces }: Levelled, resource: string): Hold[] => {
  const { network } = after
  const { plan } = network
  return plan.assignments.flatMap((assignment): Hold[] => {
    const i = network.indexOf.get(assignment.activity)!
    const isHeld =
      plan.activities[i]!.kind === 'work' &&
      network.state[i] !== State.Finished &&
      network.remaining[i]! > 0 &&
      assignment.resource === resource &&
      assignment.amount > 0
    if (!isHeld) return []
    const begin =
      network.state[i] === State.Started
        ? Math.min(network.statusDate!, after.early.begin[i]!)
        : after.early.begin[i]!
    return [{ activity: i, amount: assignment.amount, parts: pieces.get(i) ?? [[begin, after.finish[i]!]] }]
  })
}
const heldAt = (holds: readonly Hold[], t: number, without = -1): number =>
  holds.reduce(
    (sum, { activity, amount, parts }) =>
      activity !== without && parts.some(([from, to]) => from <= t && t < to) ? sum + amount : sum,
    0,
  )

const check = (plan: Plan, made: Levelled, counts: { waited: number; pieces: number }): void => {
  // The scenario is one that a user could make: every change is accepted, and gives the dates that are shown.
  const scenario = applyChange(plan, { kind: 'all', changes: [...made.changes] }).plan
  const again = schedule(scenario)
  expect([...again.start]).toEqual([...made.after.start])
  expect(made.after.projectFinish).toBeGreaterThanOrEqual(made.bound.finish)
  counts.waited += made.waited.size
  counts.pieces += made.pieces.size

  const { network } = made.after
  const excused = new Set(made.unresolved.map(({ activity }) => activity))
  const limited = plan.resources.filter((r) => isWorker(r) && r.available.length > 0)
  const holdsBy = new Map(limited.map((r) => [r.id, holdsOf(made, r.id)]))
  for (const resource of limited) {
    const availability = availabilityOf(resource)
    const holds = holdsBy.get(resource.id)!
    const edges = [...holds.flatMap(({ parts }) => parts.flat()), ...availability.from]
    for (const t of edges) {
      const held = heldAt(holds, t)
      if (held <= availableAt(availability, t) + 1e-6) continue
      // Only what stands or was left unresolved may take more than there is.
      const here = holds.filter(({ parts }) => parts.some(([from, to]) => from <= t && t < to))
      expect(here.some(({ activity }) => excused.has(activity))).toBe(true)
    }
  }

  // Nothing could start at its previous working minute with all the others left where they are.
  const early = { ...plan, activities: plan.activities.map((a) => ({ ...a, place: 'early' as const })) }
  const joint = compileNetwork(
    jointPlan(early, horizonAround(made.before.projectStart, made.before.projectFinish)).plan,
  )
  for (const [i] of made.waited) {
    if (made.pieces.has(i)) continue
    const dates = copyEarlyDates(made.after.early)
    forwardStep(joint, joint.remaining[i]!, dates, i)
    const start = made.after.early.begin[i]!
    expect(dates.begin[i]).toBeLessThanOrEqual(start)
    if (dates.begin[i] === start) continue
    const calendar: Calendar = joint.calendar[i]!
    const earlier = lastMinuteFrom(calendar, start - 1)
    const floor = joint.startFloor[i]!
    joint.startFloor[i] = Math.max(floor, earlier)
    forwardStep(joint, joint.remaining[i]!, dates, i)
    joint.startFloor[i] = floor
    const isBlocked = limited.some((resource) => {
      const holds = holdsBy.get(resource.id)!
      const own = holds.filter(({ activity }) => activity === i).reduce((sum, { amount }) => sum + amount, 0)
      if (own === 0) return false
      const availability = availabilityOf(resource)
      for (let t = dates.begin[i]!; t < dates.finish[i]!; t++)
        if (heldAt(holds, t, i) + own > availableAt(availability, t) + 1e-6) return true
      return false
    })
    expect(isBlocked).toBe(true)
  }
  for (const [i, pieces] of made.pieces) {
    const calendar: Calendar = joint.calendar[i]!
    let worked = 0
    for (const [from, to] of pieces) for (let t = from; t < to; t++) if (isWorking(calendar, t)) worked++
    expect(worked).toBe(joint.remaining[i])
    expect([pieces[0]![0], pieces.at(-1)![1]]).toEqual([made.after.early.begin[i], made.after.finish[i]])
  }
  for (const { because } of Object.values(levelReport(made).activities))
    for (const { from, to, heldBy } of because) {
      expect(from < to).toBe(true)
      expect(new Set(heldBy).size).toBe(heldBy.length)
    }
  expect(network.statusDate).toBe(made.before.network.statusDate)
}

describe('levelled plans', () => {
  for (const [name, plans] of Object.entries(PLANS))
    it(`of ${name} networks take no more than there is, wait no longer than they must, and are what their scenario gives`, () => {
      const counts = { waited: 0, pieces: 0 }
      fc.assert(
        fc.property(plans, RULE, fc.boolean(), fc.nat(100), (plan, rule, splits, seed) => {
          const given = splits ? withSplits(plan) : plan
          const made = levelledOrNull(given, { rule, seed, insideFloat: false })
          if (made) check(given, made, counts)
        }),
        { numRuns: 250 },
      )
      expect(counts.waited).toBeGreaterThan(15)
    })
  it('that are proven to finish earliest are levelled all the same, and no rule gives an earlier one', () => {
    let [proven, searched] = [0, 0]
    const counts = { waited: 0, pieces: 0 }
    fc.assert(
      fc.property(busyPlans, (plan) => {
        const made = level(plan, { rule: 'best', seed: 1, insideFloat: false })
        check(plan, made, counts)
        if (made.proven.finish === made.after.projectFinish) proven++
        if (made.proven.isSearched) searched++
        expect(made.proven.finish).toBeLessThanOrEqual(made.after.projectFinish)
        for (const rule of LEVEL_RULES)
          expect(
            level(plan, { rule, seed: 1, insideFloat: false }).after.projectFinish,
          ).toBeGreaterThanOrEqual(made.after.projectFinish)
      }),
      { numRuns: 30 },
    )
    expect([proven > 25, searched > 5]).toEqual([true, true])
  })
  it('are found of work under way, of work that may pause, and when they are stopped at once', () => {
    const counts = { waited: 0, pieces: 0 }
    let stopped = 0
    fc.assert(
      fc.property(busyPlans, fc.boolean(), fc.boolean(), (plan, isUnderWay, mayPause) => {
        const begun: Plan = {
          ...plan,
          project: { ...plan.project, statusDate: '2027-03-02T00:00' },
          activities: plan.activities.map((a, i) =>
            i === 2 ? { ...a, progress: { ...a.progress, actualStart: '2027-03-01T00:00' } } : a,
          ),
        }
        const half = mayPause ? withSplits(plan) : plan
        const given = isUnderWay ? begun : half
        const options = { rule: 'best' as const, seed: 1, insideFloat: false }
        check(given, level(given, options), counts)
        const steps = levelSteps(given, options)
        for (let next = steps.next(); ; next = steps.next(true)) {
          if (!next.done) {
            stopped++
            continue
          }
          check(given, next.value, counts)
          expect(next.value.proven.finish).toBeLessThanOrEqual(next.value.after.projectFinish)
          break
        }
      }),
      { numRuns: 40 },
    )
    expect([stopped > 3, counts.pieces > 5]).toEqual([true, true])
  })
  it('inside float keep the finish and every limit that was kept', () => {
    fc.assert(
      fc.property(PLANS.plain, RULE, (plan, rule) => {
        const made = levelledOrNull(plan, { rule, seed: 1, insideFloat: true })
        if (!made) return
        const joint = jointPlan(plan, horizonAround(made.before.projectStart, made.before.projectFinish)).plan
        expect(made.after.projectFinish).toBeLessThanOrEqual(schedule(joint).projectFinish)
      }),
      { numRuns: 100 },
    )
  })
  it('are the same for the same seed, and for rows in another order', () => {
    fc.assert(
      fc.property(PLANS.plain, fc.constantFrom(...LEVEL_RULES), (plan, rule) => {
        const options = { rule, seed: 7, insideFloat: false }
        const made = levelledOrNull(plan, options)
        if (!made) return
        const turned = rule === 'own-order' ? plan : { ...plan, activities: [...plan.activities].reverse() }
        const { activities, finish } = levelReport(level(turned, options))
        expect(finish).toBe(levelReport(made).finish)
        for (const [id, { start }] of Object.entries(levelReport(made).activities))
          expect(activities[id]!.start).toBe(start)
      }),
      { numRuns: 60 },
    )
    fc.assert(
      fc.property(PLANS.plain, fc.nat(1000), (plan, seed) => {
        const options = { rule: 'best' as const, seed, insideFloat: false }
        const made = levelledOrNull(plan, options)
        if (made) expect(levelReport(level(plan, options))).toEqual(levelReport(made))
      }),
      { numRuns: 8 },
    )
  })
})
