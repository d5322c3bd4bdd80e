import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChange, readPlan, type Plan } from '../plan/index.ts'
import { formatInstant } from '../time/index.ts'
import { schedule, type Schedule } from './schedule.ts'
import { randomPlan } from './testing/randomPlans.ts'

/** The plan with one activity's start moved later by working minutes, by a limit. */
const movedBy = (plan: Plan, made: Schedule, i: number, minutes: number): Schedule => {
  const calendar = made.network.calendar[i]!
  const at = calendar.minuteAt(calendar.countBefore(made.early.start[i]!) + minutes)
  const constraints = [
    { edge: 'start' as const, rule: 'not-before' as const, date: formatInstant(at), overrides: false },
  ]
  return schedule({ ...plan, activities: plan.activities.with(i, { ...plan.activities[i]!, constraints }) })
}

describe('float, by experiment over mixed calendars, all link types, lags and leads', () => {
  const networks = randomPlan({ constraints: false, progress: false })
  const experiment = (check: (plan: Plan, made: Schedule, i: number) => void): void =>
    fc.assert(
      fc.property(networks, fc.nat(), (plan, pick) => {
        const i = pick % plan.activities.length
        fc.pre(plan.activities[i]!.kind === 'work' && plan.activities[i]!.duration > 0)
        check(plan, schedule(plan), i)
      }),
      { numRuns: 1000 },
    )

  it('an activity moved by its total float leaves the finish, one minute more moves it', () =>
    experiment((plan, made, i) => {
      const float = made.float.total[i]!
      expect(float).toBeGreaterThanOrEqual(0)
      expect(movedBy(plan, made, i, float).projectFinish).toBe(made.projectFinish)
      expect(movedBy(plan, made, i, float + 1).projectFinish).toBeGreaterThan(made.projectFinish)
    }))

  it('an activity moved by its free float moves no other and not the finish, one minute more does', () =>
    experiment((plan, made, i) => {
      const others = (s: Schedule): number[] =>
        [...s.early.start, ...s.early.finish]
          .filter((_, k) => k % plan.activities.length !== i)
          .concat(s.projectFinish)
      const free = made.float.free[i]!
      expect(others(movedBy(plan, made, i, free))).toEqual(others(made))
      expect(others(movedBy(plan, made, i, free + 1))).not.toEqual(others(made))
    }))
})

describe('a schedule', () => {
  it('has no float on the longest path with one calendar, FS links and no constraints', () => {
    fc.assert(
      fc.property(
        randomPlan({ constraints: false, progress: false, calendars: false, leads: false }),
        (random) => {
          const plan = { ...random, links: random.links.map((link) => ({ ...link, type: 'FS' as const })) }
          const made = schedule(plan)
          for (let i = 0; i < plan.activities.length; i++)
            if (made.onLongestPath[i]) expect(made.float.total[i]).toBe(0)
          const longer = schedule({
            ...plan,
            activities: plan.activities.map((a, i) =>
              i === 0 && a.kind === 'work' ? { ...a, duration: a.duration + 37 } : a,
            ),
          })
          expect(longer.projectFinish).toBeGreaterThanOrEqual(made.projectFinish)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('does not depend on the order of rows or on codes', () => {
    fc.assert(
      fc.property(randomPlan({ constraints: true, progress: true }), (plan) => {
        const turned = {
          ...plan,
          activities: [...plan.activities].reverse().map((a, i) => ({ ...a, code: `X${i}` })),
          links: [...plan.links].reverse(),
        }
        const [one, two] = [schedule(plan), schedule(turned)]
        plan.activities.forEach((a, i) => {
          const j = two.network.indexOf.get(a.id)!
          expect([
            two.start[j],
            two.finish[j],
            two.float.total[j],
            two.float.free[j],
            two.onLongestPath[j],
          ]).toEqual([
            one.start[i],
            one.finish[i],
            one.float.total[i],
            one.float.free[i],
            one.onLongestPath[i],
          ])
        })
      }),
      { numRuns: 300 },
    )
  })

  it('scheduled backward mirrors one scheduled forward: no float on the path that sets its start', () => {
    fc.assert(
      fc.property(
        randomPlan({ constraints: false, progress: false, calendars: false, leads: false }),
        (drawn) => {
          // A finish milestone on nothing stands at a start of work forward and at an end of work backward: work only here.
          const random = {
            ...drawn,
            activities: drawn.activities.map((a) => ({
              ...a,
              kind: 'work' as const,
              edge: undefined,
              duration: a.duration || 30,
            })),
          }
          const finish = formatInstant(schedule(random).projectFinish)
          const plan = { ...random, project: { ...random.project, direction: 'backward' as const, finish } }
          const made = schedule(plan)
          for (let i = 0; i < plan.activities.length; i++) {
            expect(made.finish[i]).toBe(made.late.finish[i])
            expect(made.float.total[i]).toBeGreaterThanOrEqual(0)
            // By working time: an SF link can hold a start in the gap before the work, where as much has been worked as at its beginning.
            const calendar = made.network.calendar[i]!
            expect(calendar.countBefore(made.early.start[i]!)).toBeLessThanOrEqual(
              calendar.countBefore(made.start[i]!),
            )
          }
          // The forward plan reaches that finish from the project's start, so its early dates are the backward plan's early dates.
          const forward = schedule(random)
          const counts = (s: Schedule): number[] =>
            [...s.early.finish].map((at, i) => s.network.calendar[i]!.countBefore(at))
          expect(counts(made)).toEqual(counts(forward))
        },
      ),
      { numRuns: 300 },
    )
  })
})

describe('a longer activity can make the project finish earlier', () => {
  it('where an FF link holds its finish and an SS link hands its start on', () => {
    // The finish of B is held by A, so B starts as late as its length lets it; C needs only the start of B.
    const plan = {
      ...baseOneCalendar(),
      activities: [work('a', 2400), work('b', 480), work('c', 960)],
      links: [link('1', 'a', 'b', 'FF'), link('2', 'b', 'c', 'SS')],
    } as unknown as Plan
    const before = schedule(plan).projectFinish
    const longer = applyChange(plan, {
      kind: 'set',
      list: 'activities',
      key: 'b',
      set: { duration: 960 },
    }).plan
    expect(schedule(longer).projectFinish).toBeLessThan(before)
  })
})

function baseOneCalendar(): Plan {
  return readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'clock' },
  }).plan
}
function work(id: string, duration: number): object {
  return readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'clock' },
    activities: [{ id, duration }],
  }).plan.activities[0]!
}
function link(id: string, from: string, to: string, type: string): object {
  return { id, from, to, type, lag: 0, lagOn: null, nature: 'hard', reason: '' }
}
