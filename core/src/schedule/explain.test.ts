import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addWork,
  formatInstant,
  instantOf,
  lastMinuteFrom,
  nextWork,
  settle,
  settleBack,
  subWork,
  type Calendar,
} from '../time/index.ts'
import { NONE, type Network } from '../network/network.ts'
import type { Plan } from '../plan/index.ts'
import { explain, type Candidate } from './explain.ts'
import { schedule } from './schedule.ts'
import { randomPlan } from './testing/randomPlans.ts'

/** Does the steps of a candidate again from their description alone, forwards in time. */
const replay = (network: Network, candidate: Candidate): string => {
  let at = 0
  for (const step of candidate.steps) {
    const calendar: Calendar | null = step.calendar === null ? null : network.calendars.get(step.calendar)
    if (step.op === 'date') at = instantOf(step.at, 'start')
    if (step.op === 'add-work') at = addWork(calendar!, at, step.minutes)
    if (step.op === 'sub-work') at = subWork(calendar!, at, step.minutes)
    if (step.op === 'next-work') at = nextWork(calendar!, at)
    if (step.op === 'settle') at = settle(calendar!, at)
    expect(formatInstant(at)).toBe(step.at)
  }
  return formatInstant(at)
}

/** The steps of a late limit run backwards: settling is on the last work by then, and a lead is taken off by its adjoint. */
const replayLate = (network: Network, candidate: Candidate): string => {
  let at = 0
  candidate.steps.forEach((step, k) => {
    const calendar: Calendar | null = step.calendar === null ? null : network.calendars.get(step.calendar)
    if (step.op === 'date') at = instantOf(step.at, 'start')
    if (step.op === 'sub-work') at = subWork(calendar!, at, step.minutes)
    if (step.op === 'next-work') at = nextWork(calendar!, at)
    if (step.op === 'add-work') {
      const undoesLead = k === 1 && candidate.kind === 'link'
      at = undoesLead
        ? calendar!.minuteAt(calendar!.countBefore(at + 1) - 1 + step.minutes)
        : addWork(calendar!, at, step.minutes)
    }
    if (step.op === 'settle')
      expect(
        [settle(calendar!, at), settleBack(calendar!, at), lastMinuteFrom(calendar!, at)].map(formatInstant),
      ).toContain(step.at)
    if (step.op === 'settle') at = instantOf(step.at, 'start')
    expect(formatInstant(at)).toBe(step.at)
  })
  return formatInstant(at)
}

const recomputes = (plan: Plan): void => {
  const made = schedule(plan)
  const { network } = made
  plan.activities.forEach((activity, i) => {
    const { start, finish, float } = explain(made, activity.id)
    for (const [edge, scheduled] of [
      [start, made.start[i]!],
      [finish, made.finish[i]!],
    ] as const) {
      expect(edge.at).toBe(formatInstant(scheduled))
      expect(edge.candidates.some((c) => c.wins)).toBe(true)
      for (const candidate of edge.candidates) {
        const at = replay(network, candidate)
        expect(at).toBe(candidate.at)
        // An overriding "exactly" decides alone, even where something else would lead to the same instant.
        const stands = edge.candidates.some(
          (c) => c.wins && c.constraint?.overrides && c.constraint.rule === 'exactly',
        )
        expect(candidate.wins).toBe(at === edge.at && (!stands || candidate.constraint?.overrides === true))
        // Nothing that bears on a date may lead beyond it, unless a date that overrides it decides.
        if (at > edge.at) expect(edge.candidates.some((c) => c.wins && c.constraint?.overrides)).toBe(true)
      }
    }
    if (made.float.total[i] === NONE) return
    const calendar = network.calendar[i]!
    expect(float.candidates.some((c) => c.wins)).toBe(true)
    for (const candidate of float.candidates) {
      const at = replayLate(network, candidate)
      expect(calendar.countBefore(instantOf(at, 'start')) - calendar.countBefore(made.late.finish[i]!)).toBe(
        candidate.behindBy,
      )
      expect(candidate.behindBy).toBeGreaterThanOrEqual(0)
    }
  })
}

describe('an explanation', () => {
  it('recomputes to the scheduled dates from its own steps, for every activity of random networks', () => {
    fc.assert(
      fc.property(
        randomPlan({ constraints: true, progress: true, overrides: true, places: true }),
        recomputes,
      ),
      { numRuns: 400 },
    )
  })

  it('names as sharers of the float exactly the activities whose float falls when it is spent', () => {
    fc.assert(
      fc.property(
        randomPlan({ constraints: false, progress: false, calendars: false }),
        fc.nat(),
        (plan, pick) => {
          const i = pick % plan.activities.length
          const activity = plan.activities[i]!
          fc.pre(activity.kind === 'work' && activity.duration > 0)
          const before = schedule(plan)
          const finish = formatInstant(before.projectFinish)
          const spent = Math.max(1, before.float.total[i]!)
          const longer = {
            ...plan,
            project: { ...plan.project, requiredFinish: finish },
            activities: plan.activities.with(i, { ...activity, duration: activity.duration + spent }),
          }
          const after = schedule(longer)
          const falls = plan.activities
            .filter((_, j) => j !== i && after.float.total[j]! < before.float.total[j]!)
            .map((a) => a.id)
          expect(explain(before, activity.id).float.sharedWith).toEqual(falls)
        },
      ),
      { numRuns: 300 },
    )
  })
})

it('a plan scheduled backward is explained by what comes after: the deciding candidates stand where it is placed', () => {
  fc.assert(
    fc.property(randomPlan({ constraints: true, progress: false }), (random) => {
      const plan = {
        ...random,
        project: { ...random.project, direction: 'backward' as const, finish: '2027-03-20' },
      }
      const made = schedule(plan)
      plan.activities.forEach((activity, i) => {
        const { start, finish } = explain(made, activity.id)
        expect([start.at, finish.at]).toEqual([formatInstant(made.start[i]!), formatInstant(made.finish[i]!)])
        for (const edge of [start, finish]) {
          expect(edge.candidates.some((c) => c.wins)).toBe(true)
          for (const candidate of edge.candidates) {
            expect(candidate.steps.at(-1)!.at).toBe(candidate.at)
            expect(candidate.wins).toBe(candidate.at === edge.at)
            expect(candidate.at >= edge.at).toBe(true)
          }
        }
      })
    }),
    { numRuns: 200 },
  )
})
