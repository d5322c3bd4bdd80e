import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { randomPlanWithResources } from '../cost/testing/randomResources.ts'
import { applyChange, PlanError, readPlan, writePlan, type AgreedChain, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import { CalendarError } from '../time/calendar.ts'
import { formatInstant } from '../time/instant.ts'
import { LevelError } from '../cost/index.ts'
import {
  agreement,
  chainChanges,
  chainReport,
  chainSettings,
  chainTest,
  currentChain,
  feverPoints,
  type BufferState,
} from './index.ts'

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
type File = Record<string, unknown>
const planOf = ({ project, ...file }: File = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    calendars: [{ id: 'day', week: WEEK }],
    project: { start: '2027-03-01', calendar: 'day', ...(project as object) },
    ...file,
  }).plan

/**
 * By hand. A 8 d → B 8 d is the chain, 4 + 4 focused: 1 March to 10 March, its buffer of 4 days to 16 March. C 4 d, 2 focused, feeds B with
 * a buffer of 1 day: as late as it can be it lies on 2 and 3 March.
 */
const ACTIVITIES = [
  { id: 'a', duration: '8d' },
  { id: 'b', duration: '8d' },
  { id: 'c', duration: '4d' },
]
const LINKS = [
  { from: 'a', to: 'b' },
  { from: 'c', to: 'b' },
]
const worked = planOf({ activities: ACTIVITIES, links: LINKS })
const agreed = agreement(worked, chainSettings(worked), '2027-03-01')
const DAY = 480

/** The worked plan as it stands after some progress, by activity. */
const after = (statusDate: string, progress: Readonly<Record<string, File>>, more: File = {}): Plan =>
  planOf({
    project: { statusDate },
    activities: ACTIVITIES.map((one) => ({ ...one, progress: progress[one.id] ?? {} })),
    links: LINKS,
    chain: { agreed },
    ...more,
  })
const stateOf = (plan: Plan, id = 'project'): BufferState =>
  currentChain(plan, chainSettings(plan), agreed).buffers.find((one) => one.id === id)!

describe('what is agreed', () => {
  it('freezes dates, focused durations, buffers with their courses, and stands in the file', () => {
    expect(agreed.chain).toEqual(['a', 'b'])
    expect(agreed.activities.c).toEqual(['2027-03-02T08:00', '2027-03-03T16:00', 2 * DAY])
    expect(
      agreed.buffers.map(({ id, minutes, start, finish, course }) => [
        id,
        minutes / DAY,
        start,
        finish,
        course,
      ]),
    ).toEqual([
      ['project', 4, '2027-03-11T08:00', '2027-03-16T16:00', ['a', 'b']],
      ['feeding:c:b', 1, '2027-03-04T08:00', '2027-03-04T16:00', ['c']],
    ])
    const plan = after('2027-03-05', {})
    expect(readPlan(JSON.parse(writePlan(plan))).plan).toEqual(plan)
  })
  it('is refused where a file says nonsense of it', () => {
    const refusal = (more: object): string => {
      try {
        after('2027-03-05', {}, { chain: { agreed: { ...agreed, ...more } } })
        return ''
      } catch (error) {
        return (error as Error).message
      }
    }
    expect(refusal({ at: 'yesterday' })).toContain('/chain/agreed/at')
    expect(refusal({ activities: { a: ['2027-03-01', '2027-03-02'] } })).toContain(
      '/chain/agreed/activities/a',
    )
    expect(refusal({ buffers: [{ ...agreed.buffers[0], minutes: -1 }] })).toContain(
      '/chain/agreed/buffers/0/minutes',
    )
  })
})

describe('living with it', () => {
  it('as planned uses nothing, and says how much is done', () => {
    const plan = after('2027-03-05T08:00', {
      a: { actualStart: '2027-03-01T08:00', actualFinish: '2027-03-04T16:00' },
      c: { actualStart: '2027-03-02T08:00', actualFinish: '2027-03-03T16:00' },
    })
    expect(stateOf(plan)).toMatchObject({ used: 0, consumption: 0, progress: 0.5, says: 'leave', uses: [] })
    expect(stateOf(plan, 'feeding:c:b')).toMatchObject({ used: 0, progress: 1 })
  })
  it('a day more of A uses a day, half a day less of B gives half back', () => {
    const plan = after('2027-03-08T08:00', {
      a: { actualStart: '2027-03-01T08:00', actualFinish: '2027-03-05T16:00' },
      b: { actualStart: '2027-03-08T08:00', remaining: '3.5d' },
      c: { actualStart: '2027-03-02T08:00', actualFinish: '2027-03-03T16:00' },
    })
    const state = stateOf(plan)
    expect(state.uses).toEqual([
      { activity: 'a', kind: 'took', minutes: DAY },
      { activity: 'b', kind: 'took', minutes: -DAY / 2 },
    ])
    expect(state).toMatchObject({ used: DAY / 2, consumption: 0.125, progress: 1 - 3.5 / 8 })
  })
  it('a percent is of the focused duration', () => {
    const plan = after('2027-03-03T08:00', { a: { actualStart: '2027-03-01T08:00', percent: 50 } })
    expect(stateOf(plan)).toMatchObject({ used: 0, progress: 0.25 })
  })
  it('feeding work that is late uses its own buffer first, then B waits for it', () => {
    // C begins on 8 March only: it ends on the 9th, and B waits for the 10th instead of the 5th.
    const plan = after('2027-03-08T08:00', {
      a: { actualStart: '2027-03-01T08:00', actualFinish: '2027-03-04T16:00' },
    })
    expect(stateOf(plan, 'feeding:c:b')).toMatchObject({ used: 4 * DAY, consumption: 4, says: 'act' })
    expect(stateOf(plan)).toMatchObject({
      used: 3 * DAY,
      consumption: 0.75,
      says: 'act',
      uses: [{ activity: 'b', kind: 'waited', minutes: 3 * DAY }],
    })
  })
  it('thresholds rise with progress, and are the plan’s', () => {
    const plan = after('2027-03-08T08:00', {
      a: { actualStart: '2027-03-01T08:00', actualFinish: '2027-03-05T16:00' },
      c: { actualStart: '2027-03-02T08:00', actualFinish: '2027-03-03T16:00' },
    })
    // A quarter used, half done: the lower line stands at 0.35, the upper at 0.55.
    expect(stateOf(plan)).toMatchObject({ consumption: 0.25, progress: 0.5, says: 'leave' })
    const strict = (thresholds: [[number, number], [number, number]]): string =>
      currentChain(plan, { ...chainSettings(plan), thresholds }, agreed).buffers[0]!.says
    expect(
      strict([
        [0, 0.4],
        [0.3, 0.3],
      ]),
    ).toBe('plan')
    expect(
      strict([
        [0, 0.1],
        [0.1, 0.3],
      ]),
    ).toBe('act')
  })
  it('goes on where agreed work is gone from the plan', () => {
    const plan = planOf({
      project: { statusDate: '2027-03-05' },
      activities: ACTIVITIES.filter(({ id }) => id !== 'c'),
      links: [LINKS[0]],
      chain: { agreed },
    })
    expect(stateOf(plan, 'feeding:c:b')).toMatchObject({ used: 0, progress: 1 })
    expect(stateOf(plan).progress).toBe(0)
  })
})

describe('the fever picture', () => {
  const dates = (left: number): File => ({
    a: ['2027-03-01T08:00', '2027-03-05T16:00', 0, left],
    b: ['2027-03-08T08:00', '2027-03-11T16:00', 0, 4 * DAY],
  })
  it('has one point a closed period since it was agreed, as each knew it, and one for now', () => {
    const plan = after(
      '2027-03-08T08:00',
      {
        a: { actualStart: '2027-03-01T08:00', actualFinish: '2027-03-05T16:00' },
        c: { actualStart: '2027-03-02T08:00', actualFinish: '2027-03-03T16:00' },
      },
      {
        periods: [
          { id: 'p0', name: 'before', statusDate: '2027-02-20', closed: '2027-02-20', dates: dates(0) },
          {
            id: 'p1',
            name: 'first',
            statusDate: '2027-03-04T08:00',
            closed: '2027-03-04',
            dates: dates(2 * DAY),
          },
          { id: 'p2', name: 'open', statusDate: '2027-03-05T08:00', closed: '', dates: dates(DAY) },
        ],
      },
    )
    const points = feverPoints(plan, chainSettings(plan), agreed)
    expect(points.map(({ period, statusDate }) => [period?.name ?? 'now', statusDate])).toEqual([
      ['first', '2027-03-04T08:00'],
      ['now', '2027-03-08T08:00'],
    ])
    // On 4 March two days of A were left: it would end on the 5th, a day late, with a quarter done.
    expect(points.map(({ buffers }) => [buffers[0]!.progress, buffers[0]!.consumption])).toEqual([
      [0.25, 0.25],
      [0.5, 0.25],
    ])
  })
})

describe('the fever picture of a plan nobody has updated', () => {
  it('has one point: nothing done, nothing used', () => {
    const [point, ...more] = feverPoints(worked, chainSettings(worked), agreed)
    expect(more).toEqual([])
    expect(point).toMatchObject({ period: null, statusDate: worked.project.start })
    expect(point!.buffers[0]).toMatchObject({ progress: 0, consumption: 0 })
  })
})

describe('does it hold', () => {
  const OPTIONS = { iterations: 1000, seed: 5, sampling: 'lhs', risks: true } as const
  it('always, where nothing varies; never, where all takes longer than safe', () => {
    const settings = chainSettings(worked)
    const fixed = (days: number): Plan =>
      planOf({
        activities: ACTIVITIES.map((one) => {
          const value = `${days}d`
          return { ...one, estimate: { low: value, likely: value, high: value, shape: 'fixed' } }
        }),
        links: LINKS,
      })
    expect(chainTest(fixed(2), settings, agreed, OPTIONS).map(({ enough }) => enough)).toEqual([1, 1])
    const [project] = chainTest(fixed(9), settings, agreed, OPTIONS)
    // C begins on the second day and B waits for it: 19 days instead of 8.
    expect(project).toMatchObject({ enough: 0, minutesFor: 11 * DAY })
  })
  it('the size for a confidence gives that confidence', () => {
    const settings = { ...chainSettings(worked), confidence: 0.8 }
    const uniform = planOf({
      activities: ACTIVITIES.map((one) => ({
        ...one,
        estimate: { low: '2d', likely: '4d', high: '8d', shape: 'uniform' },
      })),
      links: LINKS,
    })
    const [project] = chainTest(uniform, settings, agreed, OPTIONS)
    const sized = {
      ...agreed,
      buffers: [{ ...agreed.buffers[0]!, finish: addDays(project!.minutesFor) }],
    }
    expect(chainTest(uniform, settings, sized, OPTIONS)[0]!.enough).toBeCloseTo(0.8, 2)
  })
  /** The project buffer begins on 11 March; sizes come as working minutes. */
  const addDays = (minutes: number): string => {
    const plan = planOf({ activities: [{ id: 'x', duration: minutes }], project: { start: '2027-03-11' } })
    return formatInstant(schedule(plan).projectFinish)
  }
})

describe('for any plan', () => {
  const random = randomPlanWithResources({
    constraints: false,
    progress: false,
    calendars: true,
    leads: false,
    scarce: true,
  })
  const tried = <T>(make: () => T): T | null => {
    try {
      return make()
    } catch (error) {
      if (error instanceof CalendarError || error instanceof LevelError) return null
      throw error
    }
  }
  it('nothing done yet, no more is used than agreed, and what is used is the sum of its causes', () => {
    let counted = 0
    fc.assert(
      fc.property(random, fc.nat(3000), (plan, longer) => {
        const settings = chainSettings(plan)
        const found = tried(() => {
          const made: AgreedChain = agreement(plan, settings, '2027-01-01')
          return { made, now: currentChain(plan, settings, made) }
        })
        if (!found) return
        const { made, now } = found
        const project = now.buffers.find(({ id }) => id === 'project')
        if (!project) return
        expect(project.used).toBeLessThanOrEqual(0)
        // The first of the chain takes longer: the causes add up to what the end moved by.
        const first = made.chain[0]!
        const late: Plan = {
          ...plan,
          activities: plan.activities.map((a) =>
            a.id === first ? { ...a, focused: made.activities[first]![2] + longer } : a,
          ),
        }
        const moved = tried(() => currentChain(late, settings, made))
        const state = moved?.buffers.find(({ id }) => id === 'project')
        if (!state) return
        const sum = state.uses.reduce((total, { minutes }) => total + minutes, 0)
        expect(sum).toBe(state.used)
        counted++
      }),
      { numRuns: 60 },
    )
    expect(counted).toBeGreaterThan(15)
  })
  it('as a scenario it is a plan that promises the same finish', () => {
    let checked = 0
    fc.assert(
      fc.property(random, (plan) => {
        const settings = chainSettings(plan)
        const report = tried(() => chainReport(plan, settings))
        const changes = tried(() => chainChanges(plan, settings))
        if (!report || !changes) return
        let made: Plan
        try {
          made = applyChange(plan, { kind: 'all', changes }).plan
        } catch (error) {
          if (error instanceof PlanError) throw new Error(error.issues[0]!.message)
          throw error
        }
        const buffer = report.buffers.findIndex(({ kind }) => kind === 'project')
        if (buffer < 0) return
        const found = schedule(made)
        expect(formatInstant(found.early.finish[plan.activities.length + buffer]!)).toBe(report.promised)
        checked++
      }),
      { numRuns: 60 },
    )
    expect(checked).toBeGreaterThan(20)
  })
})
