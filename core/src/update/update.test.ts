import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatInstant, instantOf } from '../time/index.ts'
import { applyChange, PlanError, readPlan, writePlan, type Plan } from '../plan/index.ts'
import { schedule, type Schedule } from '../schedule/index.ts'
import { datesOf, driftOf, floatIn, floatNow, newPeriod, realisedBy } from '../progress/index.ts'
import { randomPlan } from '../schedule/testing/randomPlans.ts'
import { askedBy } from './asked.ts'
import { contradictionIn, updateChange, type Answer, type Answers } from './answers.ts'
import { previewUpdate } from './preview.ts'

const week = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['07:00-15:00']]))
/** Days of eight hours; March 2027 begins on a Monday. A, B, C in a row, D beside them, W under way, F finished. */
const plan = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01T07:00', calendar: 'day', statusDate: '2027-03-08T07:00' },
  calendars: [{ id: 'day', name: 'Day', week }],
  activities: [
    {
      id: 'f',
      code: 'F',
      duration: '2d',
      progress: { actualStart: '2027-03-01T07:00', actualFinish: '2027-03-02T15:00', percent: 100 },
    },
    { id: 'w', code: 'W', duration: '10d', progress: { actualStart: '2027-03-03T07:00', percent: 30 } },
    {
      id: 'p',
      code: 'P',
      duration: '6d',
      promise: { finish: '2027-03-10', by: 'Painters' },
      progress: { actualStart: '2027-03-04T07:00', percent: 50 },
    },
    { id: 'a', code: 'A', duration: '2d' },
    { id: 'b', code: 'B', duration: '3d' },
    { id: 'c', code: 'C', duration: '1d' },
    { id: 'd', code: 'D', duration: '1d' },
    { id: 'm', code: 'M', kind: 'milestone', edge: 'finish' },
    { id: 'h', code: 'H', kind: 'hammock' },
  ],
  links: [
    { id: '1', from: 'a', to: 'b' },
    { id: '2', from: 'b', to: 'c' },
    { id: '3', from: 'c', to: 'm' },
    { id: '4', from: 'w', to: 'm' },
    { id: '5', from: 'a', to: 'h', type: 'SS' },
    { id: '6', from: 'c', to: 'h', type: 'FF' },
  ],
}).plan
const STATUS = '2027-03-15T07:00'
const preview = (answers: Answers, of: Plan = plan) => {
  const made = schedule(of)
  return previewUpdate(made, updateChange(of, STATUS, answers), answers)
}
const after = (answers: Answers, of: Plan = plan): Plan =>
  applyChange(of, updateChange(of, STATUS, answers)).plan
const codes = (list: readonly number[]): string => list.map((i) => plan.activities[i]!.code).join('')

describe('an update', () => {
  it('asks about what should have happened, what is under way and what was promised, each once', () => {
    const asked = (status: string, added: readonly string[] = []): string[] =>
      askedBy(schedule(plan), instantOf(status, 'start'), new Set(added)).map(
        ({ activity, as }) => `${plan.activities[activity]!.code} ${as}`,
      )
    expect(asked('2027-03-10T12:00')).toEqual([
      'B should-have-started',
      'W under-way',
      'P under-way',
      'A should-have-finished',
      'D should-have-finished',
    ])
    expect(asked(STATUS, ['m', 'f'])).toEqual([
      'W under-way',
      'A should-have-finished',
      'D should-have-finished',
      'B should-have-finished',
      'P promised',
      'F added',
      'M added',
    ])
    // At the status date itself nothing should have happened since.
    expect(asked('2027-03-08T07:00')).toEqual(['W under-way', 'P under-way'])
  })

  it('moves the status date and what is said, and nothing else', () => {
    const next = after({
      a: { start: '2027-03-08T07:00', finish: '2027-03-09T15:00' },
      b: { start: '2027-03-10T07:00', percent: 50 },
      w: { remaining: 480 },
      d: { unchanged: true },
    })
    expect(next.project.statusDate).toBe(STATUS)
    const progress = Object.fromEntries(next.activities.map((a) => [a.id, a.progress]))
    expect(progress.a).toMatchObject({ actualFinish: '2027-03-09T15:00', percent: 100, remaining: null })
    expect(progress.b).toMatchObject({ actualStart: '2027-03-10T07:00', percent: 50, remaining: null })
    expect(progress.w).toMatchObject({ actualStart: '2027-03-03T07:00', remaining: 480, percent: 90 })
    expect(next.activities.map(({ duration }) => duration)).toEqual(
      plan.activities.map(({ duration }) => duration),
    )
    for (const id of ['f', 'd', 'c'])
      expect(progress[id]).toEqual(plan.activities.find((a) => a.id === id)!.progress)
    // A finish that is taken back leaves work that is not done.
    const back = after(
      { a: { finish: null } },
      after({ a: { start: '2027-03-08T07:00', finish: '2027-03-09T15:00' } }),
    )
    expect(back.activities.find((a) => a.id === 'a')!.progress).toMatchObject({
      actualFinish: null,
      percent: 0,
    })
  })

  it('says what it moves, on whose account, and what becomes of promises', () => {
    const nothing = preview({})
    // What did not happen waits for the new status date: A five days, and B, C and M behind it.
    expect(nothing.later.map(({ activities, by }) => [codes(activities), by / 480])).toEqual([
      ['WM', 5],
      ['P', 5],
      ['ABC', 5],
      ['D', 5],
    ])
    expect(nothing.promises).toEqual([{ activity: 2, kept: false }])
    expect(nothing.behind).toEqual([])

    const done = preview({ p: { finish: '2027-03-10T15:00' }, w: { remaining: 480 } })
    expect(done.promises).toEqual([{ activity: 2, kept: true }])
    expect(done.earlier.map(({ activities }) => codes(activities)[0])).toContain('W')
    expect(preview({ p: { finish: '2027-03-11T15:00' } }).promises).toEqual([{ activity: 2, kept: false }])
    // C ends on the 22nd now, after W did on the 16th.
    expect([formatInstant(done.finishBefore), formatInstant(done.finish), done.finishMoves]).toEqual([
      '2027-03-16T15:00',
      '2027-03-22T15:00',
      4 * 480,
    ])
  })

  it('asks about work out of sequence with both readings and ways of mending it, each with its finish', () => {
    const { odd, otherReading } = preview({ b: { start: '2027-03-10T07:00', remaining: 960 } })
    const found = odd.find(({ finding }) => finding.check === 'out-of-sequence')!
    expect(found.finding.activities).toEqual(['b', 'a'])
    const kinds = found.ways.map(({ repair }) => repair.kind)
    expect(kinds).toEqual(['actual-finish', 'finish-only', 'remove-link'])
    expect(otherReading).toMatchObject({ rule: 'follow' })
    const held = after({ b: { start: '2027-03-10T07:00', remaining: 960 } })
    for (const { repair, finish } of found.ways)
      expect(schedule(applyChange(held, repair.change).plan).projectFinish).toBe(finish)
    const followed = applyChange(held, { kind: 'project', set: { outOfSequence: 'follow' } }).plan
    expect(schedule(followed).projectFinish).toBe(otherReading!.finish)
  })

  it('keeps since when work stands still, and takes the time out of what a promise leaves', () => {
    const suspended = [{ from: '2027-03-16T07:00', to: '2027-03-18T07:00' }]
    const promise = { finish: '2027-03-19', by: '' }
    const left = (answer: Answer): number => {
      const made = schedule(after({ w: answer }))
      return made.network.remaining[made.network.indexOf.get('w')!]!
    }
    expect(left({ promise })).toBe(5 * 480)
    expect(left({ promise, suspended })).toBe(3 * 480)
    // What is left waits while it stands still.
    const held = schedule(after({ w: { remaining: 960, suspended } }))
    expect(formatInstant(held.finish[1]!)).toBe('2027-03-18T15:00')
    const back = after({ w: { suspended: [] } }, after({ w: { suspended } }))
    expect('suspended' in back.activities[1]!.progress).toBe(false)
  })

  it('knows that no work finishes before it starts, whichever of the two is said now', () => {
    const [f, w] = [plan.activities[0]!, plan.activities[1]!]
    expect(contradictionIn(w, { finish: '2027-03-02T15:00' })).toContain('before it started Wed 3 Mar 07:00')
    expect(contradictionIn(f, { start: '2027-03-03T07:00' })).toContain('it cannot finish Tue 2 Mar 15:00')
    // A day is all of it: begun in its course, done at its end.
    expect(contradictionIn(w, { finish: '2027-03-03' })).toBeNull()
    expect(contradictionIn(w, { unchanged: true })).toBeNull()
  })

  it('asks about dates after the status date, and about a promise that means something else', () => {
    const checks = (answers: Answers): string[] => preview(answers).odd.map(({ finding }) => finding.check)
    expect(checks({ a: { start: '2027-03-16T07:00' } })).toContain('actual-after-status')
    expect(checks({ w: { promise: { finish: '2027-03-20T12:00', by: '' } } })).toEqual(['promise-trap'])
    expect(checks({ a: { promise: { finish: '2027-03-20', by: '' } } })).toEqual(['promise-trap'])
    expect(checks({ w: { promise: { finish: '2027-03-19', by: '' } } })).toEqual([])
    // Odd things that nobody spoke of in this update are Review’s.
    expect(checks({})).toEqual([])
    expect(() => after({ a: { start: '2027-03-09T07:00', finish: '2027-03-08T15:00' } })).toThrow(PlanError)
  })
})

const WORDS = { name: '', by: 'Ana', note: '', at: '2027-03-15T08:00' }
const random = (): (() => number) => {
  let n = 7
  return () => (n = (n * 16807) % 2147483647) / 2147483647
}
const kept = (of: Plan, statusDate: string, answers: Answers): Plan => {
  const next = applyChange(of, updateChange(of, statusDate, answers)).plan
  return applyChange(next, newPeriod(schedule(next), WORDS, random())).plan
}

describe('periods', () => {
  it('keep what was said: drift is the difference of kept dates, float is counted, and done work is set against what was planned', () => {
    const first = kept(plan, '2027-03-08T07:00', {})
    const second = kept(first, STATUS, {
      a: { start: '2027-03-08T07:00', finish: '2027-03-09T15:00' },
      b: { start: '2027-03-10T07:00', remaining: 960 },
    })
    expect(second.periods.map(({ statusDate, by }) => [statusDate, by])).toEqual([
      ['2027-03-08T07:00', 'Ana'],
      [STATUS, 'Ana'],
    ])
    const [before, now] = [schedule(first), schedule(second)]
    const m = plan.activities.findIndex(({ id }) => id === 'm')
    expect(driftOf(second, 'm').map(({ finish }) => finish)).toEqual([before.finish[m], now.finish[m]])
    expect(datesOf(second.periods[1]!).get('b')).toEqual({
      start: now.start[4],
      finish: now.finish[4],
      totalFloat: now.float.total[4],
      remaining: 960,
    })
    expect(floatIn(second.periods[1]!, 2400)).toEqual(floatNow(now, 2400))
    // By the 15th A, B, D and P were to be done; A was.
    expect(realisedBy(now)).toMatchObject([{ planned: 4, done: 1 }])
    expect(driftOf(second, 'gone')).toEqual([])
  })
})

const scheduled = (of: Plan): Schedule | null => {
  try {
    return schedule(of)
  } catch {
    return null
  }
}

describe('of any plan', () => {
  const PLANS = randomPlan({ constraints: true, progress: true, calendars: true, leads: true })
  const answer = fc.oneof(
    fc.record({ percent: fc.integer({ min: 0, max: 99 }) }),
    fc.record({ remaining: fc.integer({ min: 1, max: 3000 }) }),
    fc.constant<Answer>({ promise: { finish: '2027-04-01', by: 'x' } }),
    fc.constant<Answer>({ unchanged: true }),
  )
  it('an update taken back restores the plan byte for byte, and a promise withdrawn leaves no difference', () => {
    let said = 0
    fc.assert(
      fc.property(
        PLANS,
        fc.array(answer, { minLength: 1, maxLength: 4 }),
        fc.nat(),
        (random, answers, pick) => {
          const made = scheduled(random)
          if (!made) return
          const { activities } = random
          const all = Object.fromEntries(
            answers.map((one, k) => [activities[(pick + k) % activities.length]!.id, one]),
          )
          const status = random.project.statusDate ?? formatInstant(made.projectStart + 1440)
          const change = updateChange(random, status, all)
          const applied = applyChange(random, change)
          expect(writePlan(applyChange(applied.plan, applied.inverse).plan)).toBe(writePlan(random))
          if (writePlan(applied.plan) !== writePlan(random)) said++

          const promised = activities[pick % activities.length]!
          const withPromise = updateChange(random, status, {
            [promised.id]: { promise: { finish: '2027-04-01', by: 'x' } },
          })
          const there = applyChange(random, withPromise).plan
          const back = applyChange(
            there,
            updateChange(there, status, { [promised.id]: { promise: promised.promise } }),
          ).plan
          expect(writePlan({ ...back, project: random.project })).toBe(writePlan(random))
        },
      ),
      { numRuns: 120 },
    )
    expect(said).toBeGreaterThan(20)
  })
})
