import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { instantOf, isWorking } from '../time/index.ts'
import { applyUnchecked, calendarOf, lengthsOf, readPlan, writePlan, type Plan } from '../plan/index.ts'
import { activityCalendar } from '../network/activityCalendar.ts'
import { schedule, type Schedule } from '../schedule/index.ts'
import { activityCosts } from './activityCosts.ts'
import { costCurve } from './costCurve.ts'
import { activitiesIn, activitiesInEach, askedIn } from './askedIn.ts'
import { loadsOf } from './load.ts'
import { overloadGroups } from './overloadGroups.ts'
import { randomPlanWithResources } from './testing/randomResources.ts'

/**
 * The rules of semantics2.md section 11 once more, minute by minute, on the dates of the schedule: no steps, no slopes, no tables.
 */
const RUNS = { numRuns: 150 }
const OPTIONS = { constraints: false, progress: true, calendars: true, leads: true, suspensions: true }

const scheduled = (plan: Plan): Schedule | null => {
  try {
    return schedule(plan)
  } catch {
    return null // a calendar ends
  }
}

/** The minutes at which an activity works, first what it has done, then what it has still to do. */
const minutesOf = ({ network, start, finish }: Schedule, i: number): { done: number[]; left: number[] } => {
  const { plan } = network
  const activity = plan.activities[i]!
  const calendar = activityCalendar(network.calendars, plan.project, activity, network.statusDate)
  const { actualStart, actualFinish } = activity.progress
  const between = (from: number, to: number): number[] => {
    const minutes = []
    for (let t = from; t < to; t++) if (isWorking(calendar, t)) minutes.push(t)
    return minutes
  }
  if (actualFinish !== null) return { done: between(start[i]!, instantOf(actualFinish, 'finish')), left: [] }
  if (actualStart === null) return { done: [], left: between(start[i]!, finish[i]!) }
  const status = instantOf(plan.project.statusDate!, 'start')
  const left: number[] = []
  for (let t = finish[i]! - 1; left.length < network.remaining[i]!; t--)
    if (isWorking(calendar, t)) left.unshift(t)
  return { done: between(instantOf(actualStart, 'start'), status), left }
}

const at = ({ from, load }: { from: Int32Array; load: Float64Array }, t: number): number =>
  load[from.findLastIndex((step) => step <= t)] ?? 0

describe('against minutes counted one by one', () => {
  it('loads, overloads with their activities and excess, and work outside hours', () => {
    let [overloaded, late] = [0, 0]
    fc.assert(
      fc.property(randomPlanWithResources(OPTIONS), (plan) => {
        const made = scheduled(plan)
        if (!made) return
        const { network } = made
        for (const load of loadsOf(made)) {
          const { resource } = load
          const hours = resource.calendar === null ? null : network.calendars.get(resource.calendar)
          const works = new Map<number, Map<number, number>>()
          const outside = new Map<number, number>()
          const anybody = new Set<number>()
          for (const { activity, resource: id, amount } of plan.assignments) {
            if (id !== resource.id || amount === 0) continue
            const i = network.indexOf.get(activity)!
            const { done, left } = minutesOf(made, i)
            for (const t of [...done, ...left]) {
              anybody.add(t)
              if (hours && !isWorking(hours, t)) {
                outside.set(i, (outside.get(i) ?? 0) + 1)
                continue
              }
              const at = works.get(t) ?? new Map<number, number>()
              works.set(t, at.set(i, (at.get(i) ?? 0) + amount))
            }
          }
          const availableAt = (t: number): number => {
            if (resource.available.length === 0) return Infinity
            let amount = 0
            for (const step of resource.available)
              if (step.from === null || instantOf(step.from, 'start') <= t) amount = step.amount
            return amount
          }
          const loadAt = (t: number): number => [...(works.get(t)?.values() ?? [])].reduce((a, b) => a + b, 0)
          const times = [...works.keys()].sort((a, b) => a - b)
          expect(load.peak).toBeCloseTo(Math.max(0, ...times.map(loadAt)), 5)

          const overloads: {
            from: number
            to: number
            minutes: number
            excess: number
            activities: Set<number>
          }[] = []
          for (const t of times) {
            const excess = loadAt(t) - availableAt(t)
            if (excess <= 1e-6) continue
            let last = overloads.at(-1)
            let isJoined = last !== undefined
            for (let between = last?.to ?? t; isJoined && between < t; between++)
              if (anybody.has(between)) isJoined = false
            if (!isJoined) {
              last = { from: t, to: t, minutes: 0, excess: 0, activities: new Set() }
              overloads.push(last)
            }
            last!.to = t + 1
            last!.minutes++
            last!.excess += excess
            for (const i of works.get(t)!.keys()) last!.activities.add(i)
          }
          expect(
            load.overloads.map((overload) => ({
              from: overload.from,
              to: overload.to,
              minutes: overload.minutes,
              activities: activitiesIn(load, overload),
            })),
          ).toEqual(
            overloads.map(({ from, to, minutes, activities }) => ({
              from,
              to,
              minutes,
              activities: [...activities].sort((a, b) => a - b),
            })),
          )
          // All overloads in one walk are what each is by itself; as groups they are the same minutes, never twice the same people in a row.
          expect(activitiesInEach(load, load.overloads)).toEqual(
            load.overloads.map((overload) => activitiesIn(load, overload)),
          )
          const groups = overloadGroups(load)
          expect(groups.reduce((sum, { minutes }) => sum + minutes, 0)).toBe(
            overloads.reduce((sum, { minutes }) => sum + minutes, 0),
          )
          groups.forEach(({ activities }, k) => {
            if (k > 0) expect(activities).not.toEqual(groups[k - 1]!.activities)
          })
          for (const day of new Set(times.map((t) => Math.floor(t / 1440)))) {
            const asked = new Map<number, number>()
            for (const t of times)
              if (Math.floor(t / 1440) === day) for (const [i, amount] of works.get(t)!) asked.set(i, amount)
            const found = askedIn(load, { from: day * 1440, to: (day + 1) * 1440 })
            expect(found.map(({ activity }) => activity)).toEqual([...asked.keys()].sort((a, b) => a - b))
            for (const { activity, amount } of found) expect(amount).toBeCloseTo(asked.get(activity)!, 5)
          }
          // A part and the rest of it are the whole at every minute.
          const [part, rest] = [0, 1].map((odd) =>
            loadsOf(made, 'placed', (i) => i % 2 === odd).find((one) => one.resource.id === resource.id)!,
          )
          for (const t of times) expect(at(part!, t) + at(rest!, t)).toBeCloseTo(loadAt(t), 5)
          overloaded += load.overloads.length
          late += load.outside.length
          load.overloads.forEach(({ excess }, k) => expect(excess).toBeCloseTo(overloads[k]!.excess, 3))
          // Two assignments of one activity to one resource are counted apart.
          expect(new Map(load.outside.map(({ activity, minutes }) => [activity, minutes]))).toEqual(outside)
        }
      }),
      RUNS,
    )
    expect(overloaded).toBeGreaterThan(20)
    expect(late).toBeGreaterThan(20)
  })

  it('loads after edits, some of which leave some resources as they were, are those of the plan read anew', () => {
    let [same, other] = [0, 0]
    const told = (made: Schedule) =>
      loadsOf(made).map((load) => ({
        from: [...load.from],
        load: [...load.load],
        peak: load.peak,
        overloads: load.overloads,
        outside: load.outside,
        groups: overloadGroups(load),
      }))
    fc.assert(
      fc.property(
        randomPlanWithResources(OPTIONS),
        fc.array(fc.tuple(fc.nat(), fc.integer({ min: 1, max: 3000 })), { minLength: 1, maxLength: 4 }),
        (plan, edits) => {
          let [now, before] = [plan, scheduled(plan) && loadsOf(scheduled(plan)!)]
          for (const [at, duration] of edits) {
            const { id, kind } = now.activities[at % now.activities.length]!
            if (kind !== 'work') continue
            now = applyUnchecked(now, { kind: 'set', list: 'activities', key: id, set: { duration } }).plan
            const made = scheduled(now)
            if (!made) return
            const loads = loadsOf(made)
            loads.forEach((load, k) => (before?.[k] === load ? same++ : other++))
            before = loads
            expect(told(made)).toEqual(told(schedule(readPlan(JSON.parse(writePlan(now))).plan)))
          }
        },
      ),
      RUNS,
    )
    expect(same).toBeGreaterThan(20)
    expect(other).toBeGreaterThan(20)
  })

  it('costs planned, at completion and spent, and the curve of early dates day by day', () => {
    fc.assert(
      fc.property(randomPlanWithResources(OPTIONS), (plan) => {
        const made = scheduled(plan)
        if (!made) return
        const costs = activityCosts(made)
        const curve = costCurve(costs)
        const byDay = new Map<number, number>()
        const add = (day: number, amount: number): void => void byDay.set(day, (byDay.get(day) ?? 0) + amount)
        const dayOf = (t: number): number => Math.floor(t / 1440)
        plan.activities.forEach((activity, i) => {
          const { done, left } = minutesOf(made, i)
          const state = made.network.state[i]!
          const isWork = activity.kind === 'work'
          const { dayMinutes } = lengthsOf(plan, calendarOf(plan.project, activity))
          const length = state === 0 ? (isWork ? activity.duration : 0) : done.length + left.length
          const share = state === 2 ? 1 : length === 0 ? 0 : done.length / length
          const parts: { accrue: 'even' | 'start' | 'finish'; lump: number; perMinute: number }[] = [
            { accrue: activity.cost.accrue, lump: activity.cost.fixed, perMinute: 0 },
            { accrue: 'even', lump: 0, perMinute: activity.cost.perDay / dayMinutes },
            ...plan.assignments
              .filter((a) => a.activity === activity.id)
              .map((a) => {
                const r = plan.resources.find(({ id }) => id === a.resource)!
                const accrue = r.accrue ?? (r.per === 'call' ? ('start' as const) : ('even' as const))
                if (r.per === 'hour') return { accrue, lump: 0, perMinute: (r.price * a.amount) / 60 }
                if (r.per === 'day') return { accrue, lump: 0, perMinute: (r.price * a.amount) / dayMinutes }
                return { accrue, lump: r.price * a.amount, perMinute: 0 }
              }),
          ]
          const start = made.start[i]!
          const finish = made.early.finish[i]!
          const first = state === 2 ? start : left.length > 0 ? left[0]! : finish
          let [planned, accrued, whole] = [0, 0, 0]
          for (const { accrue, lump, perMinute } of parts) {
            planned += lump + perMinute * (isWork ? activity.duration : 0)
            const cost = lump + perMinute * length
            whole += cost
            const part =
              accrue === 'even'
                ? cost * share
                : accrue === 'start'
                  ? state > 0
                    ? cost
                    : 0
                  : state === 2
                    ? cost
                    : 0
            accrued += part
            const rest = cost - part
            if (activity.progress.actualCost === null) {
              if (accrue === 'even') for (const t of done) add(dayOf(t), part / done.length)
              if (accrue === 'even' && done.length === 0)
                add(finish > start && state === 2 ? dayOf(finish - 1) : dayOf(start), part)
              if (accrue === 'start') add(dayOf(start), part)
              if (accrue === 'finish') add(finish > start ? dayOf(finish - 1) : dayOf(finish), part)
            }
            const last = finish > first || activity.edge === 'finish' ? dayOf(finish - 1) : dayOf(finish)
            if (accrue === 'even' && left.length > 0) for (const t of left) add(dayOf(t), rest / left.length)
            else if (accrue === 'even') add(dayOf(finish), rest)
            else if (accrue === 'start') add(dayOf(first), rest)
            else add(last, rest)
          }
          const { actualCost } = activity.progress
          if (actualCost !== null) {
            const [from, to] = [start, state === 2 ? finish : instantOf(plan.project.statusDate!, 'start')]
            for (const t of done) add(dayOf(t), actualCost / done.length)
            if (done.length === 0) add(to > from ? dayOf(to - 1) : dayOf(from), actualCost)
          }
          expect(costs.planned[i]).toBeCloseTo(planned, 6)
          expect(costs.spent[i]).toBeCloseTo(actualCost ?? accrued, 6)
          expect(costs.atCompletion[i]).toBeCloseTo((actualCost ?? accrued) + whole - accrued, 6)
        })
        let sum = 0
        curve.early.forEach((amount, k) => {
          sum += byDay.get(curve.firstDay + k) ?? 0
          expect(amount).toBeCloseTo(sum, 5)
        })
        expect(curve.early.at(-1) ?? 0).toBeCloseTo(
          costs.atCompletion.reduce((a, b) => a + b, 0),
          5,
        )
        expect(curve.late.at(-1) ?? 0).toBeCloseTo(curve.early.at(-1) ?? 0, 5)
      }),
      RUNS,
    )
  })
})
