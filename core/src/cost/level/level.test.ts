import { describe, expect, it } from 'vitest'
import { applyChange, readPlan, type Plan } from '../../plan/index.ts'
import { schedule, scheduleReport } from '../../schedule/index.ts'
import { level, type LevelOptions } from './level.ts'
import { LevelError } from './problem.ts'
import { levelReport, type LevelReport } from './levelReport.ts'

/** March 2027 begins on a Monday. */
const week = (shifts: string[], days = ['mon', 'tue', 'wed', 'thu', 'fri']) =>
  Object.fromEntries(days.map((day) => [day, shifts]))
const planOf = (rest: object): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'day' },
    calendars: [
      { id: 'day', name: 'Yard day shift', week: week(['07:00-11:30', '12:15-15:45']) },
      { id: 'surveyor', name: 'Surveyor', week: week(['09:00-15:00'], ['tue', 'thu']) },
    ],
    resources: [{ id: 'crane', code: 'CRAN', kind: 'plant', available: [{ from: null, amount: 1 }] }],
    ...rest,
  }).plan
const needs = (activity: string, amount = 1, resource = 'crane') => ({ activity, resource, amount })
const levelled = (plan: Plan, options: Partial<LevelOptions> = {}): LevelReport =>
  levelReport(level(plan, { rule: 'own-order', seed: 1, insideFloat: false, ...options }))

describe('levelling', () => {
  it('lets the second wait for the first, says who had the crane, and is what its scenario gives', () => {
    const plan = planOf({
      activities: [
        { id: 'a', code: 'A', duration: '2d' },
        { id: 'b', code: 'B', duration: '1d' },
        { id: 'c', code: 'C', duration: '1d' },
      ],
      links: [{ id: 'l', from: 'b', to: 'c' }],
      assignments: [needs('a'), needs('b')],
    })
    const made = level(plan, { rule: 'own-order', seed: 1, insideFloat: false })
    const report = levelReport(made)
    expect(report.activities.b).toEqual({
      start: '2027-03-03T07:00',
      finish: '2027-03-03T15:45',
      movedBy: 2,
      because: [{ resource: 'crane', from: '2027-03-01T07:00', to: '2027-03-02T15:45', heldBy: ['a'] }],
      pieces: [],
    })
    expect(report.activities.c).toMatchObject({ start: '2027-03-04T07:00', movedBy: 2, because: [] })
    expect(report.finish).toBe('2027-03-04T15:45')
    const scenario = applyChange(plan, { kind: 'all', changes: [...made.changes] }).plan
    expect(scenario.links.filter(({ nature }) => nature === 'resource')).toMatchObject([
      { from: 'a', to: 'b', type: 'FS', reason: 'CRAN is handed over' },
    ])
    expect(scheduleReport(schedule(scenario)).finish).toBe(report.finish)
    // The other way round nothing is lost: B first, C beside A. It ends with the crane’s three days of work, which is proven.
    const best = levelled(plan, { rule: 'best' })
    expect([best.finish, best.bound]).toEqual(['2027-03-03T15:45', '2027-03-03T15:45'])
  })

  it('proves the earliest finish of work that excludes each other pair by pair, over more than one resource', () => {
    const plan = planOf({
      resources: ['cranes', 'riggers', 'berths'].map((id) => ({
        id,
        available: [{ from: null, amount: 3 }],
      })),
      activities: [
        { id: 'a', duration: '3d' },
        { id: 'b', duration: '4d' },
        { id: 'c', duration: '5d' },
        { id: 'paint', duration: '1d' },
      ],
      links: ['a', 'b', 'c'].map((id) => ({ id, from: id, to: 'paint' })),
      assignments: [
        ...[needs('a', 2, 'cranes'), needs('a', 2, 'riggers'), needs('b', 2, 'cranes')],
        ...[needs('b', 2, 'berths'), needs('c', 2, 'riggers'), needs('c', 2, 'berths')],
      ],
    })
    const { bound, proven, finish } = levelled(plan, { rule: 'best' })
    // By itself no resource takes longer than the path of c; one after the other they take 12 days, and the paint one more.
    expect(finish).toBe('2027-03-17T15:45')
    expect(bound < finish).toBe(true)
    expect(proven).toEqual({
      finish,
      searched: false,
      because: {
        from: '2027-03-01T07:00',
        to: '2027-03-16T15:44',
        resource: null,
        activities: ['a', 'b', 'c'],
        needed: 12 * 480,
        there: 12 * 480 - 1,
      },
    })
  })

  it('finds the earliest finish where no order of placing one after the other gives it, and closes no circle of links', () => {
    const plan = planOf({
      activities: [
        { id: 'pipes', code: 'PIPE', duration: '2d' },
        { id: 'watch', code: 'WATCH', duration: '4d' },
        { id: 'mast', code: 'MAST', duration: '1d' },
        { id: 'wiring', code: 'WIRE', duration: '5d' },
      ],
      // Whoever places work in the order of its links gives the crane to the pipes first.
      links: [
        { id: 'l1', from: 'pipes', to: 'watch', type: 'FF' },
        { id: 'l2', from: 'watch', to: 'mast', type: 'SS' },
        { id: 'l3', from: 'mast', to: 'wiring' },
      ],
      assignments: [needs('pipes'), needs('mast')],
    })
    const made = level(plan, { rule: 'best', seed: 1, insideFloat: false })
    const report = levelReport(made)
    expect([report.finish, report.proven.finish]).toEqual(['2027-03-08T15:45', '2027-03-08T15:45'])
    expect(level(plan, { rule: 'least-float', seed: 1, insideFloat: false }).after.projectFinish).toBe(
      made.after.projectFinish + 2 * 1440,
    )
    expect(report.activities.pipes).toMatchObject({
      start: '2027-03-02T07:00',
      because: [{ resource: 'crane', from: '2027-03-01T07:00', to: '2027-03-01T15:45', heldBy: ['mast'] }],
    })
    // A link from the mast to the pipes would lead in a circle: a date says it.
    const scenario = applyChange(plan, { kind: 'all', changes: [...made.changes] }).plan
    expect(scenario.links).toHaveLength(3)
    expect(scenario.activities[0]!.constraints).toEqual([
      { edge: 'start', rule: 'not-before', date: '2027-03-01T15:45', overrides: false },
    ])
    expect(schedule(scenario).projectFinish).toBe(made.after.projectFinish)
  })

  it('keeps the crane over night: what starts in the evening shift of others waits for the morning', () => {
    const plan = planOf({
      activities: [
        { id: 'a', duration: '2d' },
        { id: 'b', duration: '2h', calendar: 'clock' },
      ],
      assignments: [needs('a'), needs('b')],
    })
    expect(levelled(plan).activities.b!.start).toBe('2027-03-02T15:45')
  })

  it('lets work that may pause go on where it is free, and schedules its pieces exactly', () => {
    const plan = planOf({
      activities: [
        {
          id: 'x',
          code: 'X',
          duration: '2d',
          constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-03T07:00' }],
        },
        { id: 'y', code: 'Y', duration: '4d', split: true },
        { id: 'z', code: 'Z', duration: '1d' },
      ],
      links: [{ id: 'l', from: 'y', to: 'z', lag: '1d' }],
      assignments: [needs('x'), needs('y')],
    })
    const { y, z } = levelled(plan).activities
    expect(y).toMatchObject({ start: '2027-03-01T07:00', finish: '2027-03-08T15:45', movedBy: 0 })
    expect(y!.pieces).toEqual([
      ['2027-03-01T07:00', '2027-03-02T15:45'],
      ['2027-03-05T07:00', '2027-03-08T15:45'],
    ])
    expect(y!.because).toEqual([
      { resource: 'crane', from: '2027-03-03T07:00', to: '2027-03-04T15:45', heldBy: ['x'] },
    ])
    // The lag counts on the yard’s days, not on the calendar with the pause.
    expect(z!.start).toBe('2027-03-10T07:00')
    const whole = { ...plan, activities: plan.activities.map((a) => ({ ...a, split: false })) }
    expect(levelled(whole).activities.y!.start).toBe('2027-03-05T07:00')
  })

  it('does not begin work that may pause in a time too short for a piece, and says until when it waits, in a night too', () => {
    const notBefore = (date: string) => [{ edge: 'start', rule: 'not-before', date }]
    const plan = planOf({
      activities: [
        { id: 'n', calendar: 'clock', duration: '2h', constraints: notBefore('2027-03-01T22:00') },
        { id: 'y', duration: '10h', split: true, constraints: notBefore('2027-03-01T14:30') },
      ],
      assignments: [needs('n'), needs('y')],
    })
    const { y } = levelled(plan).activities
    expect(y!.start).toBe('2027-03-02T07:00')
    expect(y!.because).toEqual([
      { resource: 'crane', from: '2027-03-01T22:00', to: '2027-03-02T00:00', heldBy: ['n'] },
    ])
  })

  it('leaves work whole whose finish is held by a link: with a pause its start would be another', () => {
    const plan = planOf({
      activities: [
        { id: 'p', calendar: 'clock', duration: '74h' },
        {
          id: 'x',
          duration: '1d',
          constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-03T07:00' }],
        },
        { id: 'y', duration: '20h', split: true },
      ],
      links: [{ id: 'l', from: 'p', to: 'y', type: 'FF' }],
      assignments: [needs('x'), needs('y')],
    })
    const { y } = levelled(plan).activities
    // It would start on 2 March to end with P on the 4th; X has the crane on the 3rd.
    expect(y).toMatchObject({ start: '2027-03-04T07:00', pieces: [] })
  })

  it('works in the hours of all who drive it, and lets a visitor stop nothing', () => {
    const plan = planOf({
      activities: [
        { id: 'a', code: 'A', duration: '4h' },
        { id: 'b', code: 'B', duration: '4h' },
      ],
      resources: [
        { id: 's', code: 'SURV', name: 'Surveyor', calendar: 'surveyor', available: [{ amount: 2 }] },
      ],
      assignments: [needs('a', 1, 's'), { ...needs('b', 1, 's'), drives: false }],
    })
    const { a, b } = levelled(plan).activities
    // Tuesday 09:00 to 11:30 and 12:15 to 13:45.
    expect(a).toMatchObject({ start: '2027-03-02T09:00', finish: '2027-03-02T13:45', because: [] })
    expect(b!.start).toBe('2027-03-01T07:00')
  })

  it('waits for more of it with a date where nobody hands it over, and says what never fits', () => {
    const plan = planOf({
      activities: [
        { id: 'a', code: 'A', duration: '1d' },
        { id: 'b', code: 'B', duration: '1d' },
      ],
      resources: [
        {
          id: 'crane',
          code: 'CRAN',
          available: [
            { from: null, amount: 1 },
            { from: '2027-03-10', amount: 2 },
          ],
        },
      ],
      assignments: [needs('a', 2), needs('b', 3)],
    })
    const report = levelled(plan)
    expect(report.activities.a).toMatchObject({
      start: '2027-03-10T07:00',
      because: [{ resource: 'crane', from: '2027-03-01T07:00', to: '2027-03-10T00:00', heldBy: [] }],
    })
    expect(report.unresolved).toEqual([
      { activity: 'b', resource: 'crane', reason: expect.stringContaining('more than is ever available') },
    ])
    expect(report.activities.b!.start).toBe('2027-03-01T07:00')
  })

  it('exceeds the finish and lists what it breaks, or keeps to the float and says what stays', () => {
    const plan = planOf({
      project: { start: '2027-03-01T07:00', calendar: 'day', requiredFinish: '2027-03-02' },
      activities: [
        { id: 'a', code: 'A', duration: '2d' },
        {
          id: 'b',
          code: 'B',
          duration: '2d',
          constraints: [{ edge: 'finish', rule: 'not-after', date: '2027-03-02' }],
        },
      ],
      assignments: [needs('a'), needs('b')],
    })
    expect(levelled(plan).exceeded).toEqual([
      { activity: 'b', limit: '2027-03-03T00:00', finish: '2027-03-04T15:45' },
      { activity: null, limit: '2027-03-03T00:00', finish: '2027-03-04T15:45' },
    ])
    const inside = levelled(plan, { insideFloat: true })
    expect(inside.finish).toBe('2027-03-02T15:45')
    expect(inside.exceeded).toEqual([])
    expect(inside.unresolved).toEqual([
      { activity: 'b', resource: 'crane', reason: expect.stringContaining('beyond its float') },
    ])
  })

  it('leaves work under way where it is and gives it what it has first', () => {
    const plan = planOf({
      project: { start: '2027-03-01T07:00', calendar: 'day', statusDate: '2027-03-03T07:00' },
      activities: [
        { id: 'a', code: 'A', duration: '1d' },
        { id: 'b', code: 'B', duration: '4d', progress: { actualStart: '2027-03-01T07:00', percent: 50 } },
      ],
      assignments: [needs('a'), needs('b')],
    })
    const { a, b } = levelled(plan).activities
    expect(b).toMatchObject({ start: '2027-03-01T07:00', finish: '2027-03-04T15:45', movedBy: 0 })
    expect(a).toMatchObject({ start: '2027-03-05T07:00', because: [{ heldBy: ['b'] }] })
  })

  it('says that a plan scheduled backward is not levelled', () => {
    const plan = planOf({
      project: { start: '2027-03-01', finish: '2027-04-01', direction: 'backward', calendar: 'day' },
      activities: [{ id: 'a', duration: '1d' }],
    })
    expect(() => levelled(plan)).toThrow(LevelError)
  })
})
