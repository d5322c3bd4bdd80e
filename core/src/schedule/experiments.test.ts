import fc from 'fast-check'
import { expect, it } from 'vitest'
import { workBetween } from '../time/index.ts'
import { readPlan, type Plan } from '../plan/index.ts'
import { emptyEarlyDates, experiments, forwardPass, rankedPaths, schedule, type Schedule } from './index.ts'
import { randomPlan } from './testing/randomPlans.ts'

const withRemaining = (plan: Plan, i: number, duration: number): Schedule =>
  schedule({ ...plan, activities: plan.activities.with(i, { ...plan.activities[i]!, duration }) })

it('nudge and drag are what a whole new schedule with a longer or no duration gives', () => {
  fc.assert(
    fc.property(randomPlan({ constraints: true, progress: false }), (plan) => {
      const made = schedule(plan)
      const project = made.network.calendars.get(plan.project.calendar)
      const lengths = new Map(plan.calendars.map((c) => [c.id, c.dayMinutes]))
      experiments(made).forEach(({ nudge, drag }, i) => {
        const { kind, duration, calendar } = plan.activities[i]!
        if (kind !== 'work') return expect([nudge, drag]).toEqual([0, 0])
        const day = lengths.get(calendar ?? 'day') ?? 1440
        expect(nudge).toBe(
          workBetween(project, made.projectFinish, withRemaining(plan, i, duration + day).projectFinish),
        )
        if (duration > 0)
          expect(drag).toBe(workBetween(project, withRemaining(plan, i, 0).projectFinish, made.projectFinish))
      })
    }),
    { numRuns: 200 },
  )
})

it('a delay that moves no finish stops where something stays that waits for what moved', () => {
  let stopped = 0
  fc.assert(
    fc.property(randomPlan({ constraints: true, overrides: true, progress: false }), (plan) => {
      const made = schedule(plan)
      const lengths = new Map(plan.calendars.map((c) => [c.id, c.dayMinutes]))
      experiments(made).forEach(({ activity, nudge, stops }, i) => {
        const { duration, calendar, kind } = plan.activities[i]!
        if (nudge !== 0) return expect(stops).toEqual([])
        const longer = withRemaining(plan, i, duration + (lengths.get(calendar ?? 'day') ?? 1440))
        const moved = (id: string): boolean => {
          const j = made.network.indexOf.get(id)!
          return (
            made.early.start[j] !== longer.early.start[j] || made.early.finish[j] !== longer.early.finish[j]
          )
        }
        for (const stop of stops) {
          stopped++
          if (stop.by === 'itself') {
            expect([stop.activity, longer.early.finish[i]]).toEqual([activity, made.early.finish[i]])
            continue
          }
          expect(moved(stop.activity), JSON.stringify(stop)).toBe(false)
          expect(plan.links.some(({ from, to }) => to === stop.activity && moved(from))).toBe(true)
        }
        // A finish that moves while the project does not work has moved all the same.
        if (longer.projectFinish !== made.projectFinish) return expect(stops).toEqual([])
        // What decides the finish and does not move it is stopped by something.
        if (kind === 'work' && made.onLongestPath[i] === 1 && moved(activity) && stops.length === 0)
          expect(plan.activities[i]!.constraints.some(({ overrides }) => overrides)).toBe(true)
      })
    }),
    { numRuns: 150 },
  )
  expect(stopped).toBeGreaterThan(20)
})

it('the slack of a ranked path is the largest delay of each of its activities that leaves the chosen start unmoved', () => {
  fc.assert(
    fc.property(
      randomPlan({ constraints: true, overrides: true, progress: false }),
      fc.nat(),
      (plan, pick) => {
        const made = schedule(plan)
        const target = pick % plan.activities.length
        const paths = rankedPaths(made, plan.activities[target]!.id)
        expect(paths.map((p) => p.slack)).toEqual(paths.map((p) => p.slack).sort((a, b) => a - b))
        for (const { slack, activities } of paths)
          for (const id of activities) {
            const i = made.network.indexOf.get(id)!
            if (plan.activities[i]!.kind !== 'work' || plan.activities[i]!.duration === 0) continue
            // What an overriding date puts somewhere cannot be delayed, but may end later.
            if (plan.activities[i]!.constraints.some(({ overrides }) => overrides)) continue
            // Delayed by a limit on its start, everything else alike.
            const beginWith = (minutes: number): number => {
              const calendar = made.network.calendar[i]!
              const startFloor = made.network.startFloor.slice()
              startFloor[i] = calendar.minuteAt(made.early.beginCount[i]! + minutes)
              const early = emptyEarlyDates(plan.activities.length)
              forwardPass({ ...made.network, startFloor }, made.network.remaining, early)
              return early.begin[target]!
            }
            expect(slack).toBeGreaterThanOrEqual(0)
            expect(beginWith(slack)).toBe(made.early.begin[target])
            expect(beginWith(slack + 1)).toBeGreaterThan(made.early.begin[target]!)
          }
      },
    ),
    { numRuns: 300 },
  )
})

it('what leads to it only through work that an overriding date holds is on no path; what the date holds is', () => {
  const { plan } = readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01', calendar: 'clock' },
    activities: [
      { id: 'a', duration: '5d' },
      {
        id: 'pinned',
        duration: '1d',
        constraints: [{ edge: 'start', rule: 'exactly', date: '2027-03-03', overrides: true }],
      },
      {
        id: 'cut',
        duration: '1d',
        constraints: [{ edge: 'start', rule: 'not-after', date: '2027-03-02', overrides: true }],
      },
      { id: 'b', duration: '1h' },
      { id: 't', duration: '1d' },
    ],
    links: ['pinned', 'cut']
      .flatMap((middle) => [
        { id: `a ${middle}`, from: 'a', to: middle },
        { id: `${middle} t`, from: middle, to: 't' },
      ])
      .concat([{ id: 'b cut', from: 'b', to: 'cut' }]),
  })
  const made = schedule(plan)
  expect(rankedPaths(made, 't')).toEqual([
    { slack: 0, activities: ['pinned'] },
    { slack: 1440, activities: ['cut'] },
  ])
  expect(rankedPaths(made, 'pinned')).toEqual([])
})
