import { describe, expect, it } from 'vitest'
import { applyChange, readPlan, type Plan } from '../plan/index.ts'
import { schedule } from '../schedule/index.ts'
import {
  accept,
  biasWords,
  CHECKS,
  fitness,
  fitnessOfSimulation,
  fourteenPoints,
  integrityTest,
  keepReview,
  limitProblem,
  limitsOf,
  networkShape,
  review,
  trendSince,
  withdrawAcceptance,
} from './index.ts'

const found = (plan: Plan) => review(plan, schedule(plan))
const of = (plan: Plan, check: string) => found(plan).findings.filter((f) => f.check === check)
const small = (activities: object[], links: object[], project: object = {}, rest: object = {}): Plan =>
  readPlan({
    format: 'geodrome-plan',
    version: 1,
    project: { start: '2027-03-01T07:00', calendar: 'clock', opens: ['a'], closes: ['c'], ...project },
    activities: activities.map((a) => ({ duration: '1d', ...a })),
    links,
    ...rest,
  }).plan
const chain = [
  { id: '1', from: 'a', to: 'b' },
  { id: '2', from: 'b', to: 'c' },
]
const three = [
  { id: 'a', code: 'A' },
  { id: 'b', code: 'B' },
  { id: 'c', code: 'C' },
]
const held = (date: string, overrides = true): object[] =>
  three.with(1, { ...three[1]!, constraints: [{ edge: 'start', rule: 'exactly', date, overrides }] } as never)

describe('a finding', () => {
  it('says by how much a lead and an overriding date hide the true finish', () => {
    const lead = small(three, [{ ...chain[0]!, lag: '-4h' }, chain[1]!])
    expect(of(lead, 'negative-lag')[0]).toMatchObject({
      value: -240,
      effect: { kind: 'finish', minutes: -240 },
    })
    expect(of(small(held('2027-03-01T19:00'), chain), 'overriding-constraint')[0]).toMatchObject({
      effect: { kind: 'finish', minutes: -720 },
    })
  })
  it('groups negative float by the date that causes it', () => {
    const due = three.with(1, {
      ...three[1]!,
      constraints: [{ edge: 'finish', rule: 'not-after', date: '2027-03-02T07:00' }],
    } as never)
    expect(of(small(due, chain), 'negative-float')).toMatchObject([
      { activities: ['a', 'b'], effect: { kind: 'missed', minutes: 1440 } },
    ])
    expect(
      of(small(three, chain, { requiredFinish: '2027-03-03T07:00' }), 'negative-float')[0]!.activities,
    ).toEqual(['a', 'b', 'c'])
  })
  it('tells a date of its own from the required finish, and what hides a delay from what moves the finish', () => {
    const late = small(held('2027-03-01T13:00'), chain, { requiredFinish: '2027-03-02T07:00' })
    const hidden = small(
      [...held('2027-03-01T13:00'), { id: 'd', duration: '9d' }],
      [...chain, { id: '3', from: 'd', to: 'c' }],
    )
    // Without the date the finish stays, by the nine days beside it; the work before B comes eighteen hours after its date.
    expect(of(hidden, 'overriding-constraint')[0]!.effect).toEqual({ kind: 'hides', minutes: 18 * 60 })
    expect(
      of(late, 'negative-float')
        .map(({ effect }) => effect.kind)
        .sort(),
    ).toEqual(['missed', 'short'])
    const open = small([...three, { id: 'd' }], [...chain, { id: '3', from: 'a', to: 'd' }])
    expect(of(open, 'open-end')[0]!.effect).toEqual({ kind: 'hides', minutes: 0 })
  })
  it('says what a midnight costs in float, and nothing where it costs nothing', () => {
    const due = (date: string): Plan =>
      small(
        three.with(1, { ...three[1]!, constraints: [{ edge: 'finish', rule: 'not-after', date }] } as never),
        [...chain, { id: '3', from: 'a', to: 'c', type: 'FF', lag: '9d' }],
      )
    // B may finish as late as its date lets it: a whole day more.
    expect(of(due('2027-03-05T00:00'), 'midnight-limit')[0]!.effect).toEqual({ kind: 'float', minutes: 1440 })
    // Here the work behind it asks for it long before its date.
    expect(of(due('2027-03-20T00:00'), 'midnight-limit')[0]).toMatchObject({
      effect: { kind: 'none' },
      severity: 'caution',
    })
    expect(of(due('2027-03-05T00:00'), 'midnight-limit')[0]!.severity).toBe('moves-answer')
  })
  it('offers an open end the link that was taken away, then the likely one, then the network’s own ends', () => {
    const rows = [
      { id: 'a', code: 'A', group: null },
      { id: 'g1', code: 'G1', group: 'g' },
      { id: 'g2', code: 'G2', group: 'g' },
      { id: 'g3', code: 'G3', group: 'g' },
      { id: 'c', code: 'C', group: null },
    ]
    const groups = { groups: [{ id: 'g', code: 'G', name: 'Group' }] }
    const links = [
      { id: '1', from: 'a', to: 'g1' },
      { id: '2', from: 'g1', to: 'g3' },
      { id: '3', from: 'g3', to: 'c' },
      { id: '4', from: 'g2', to: 'c' },
    ]
    const plan = small(rows, links, {}, groups)
    const labels = (removed: Plan['links'] = []): string[] =>
      review(plan, schedule(plan), { removedLinks: removed })
        .findings.find((f) => f.message === 'G2 has no predecessor')!
        .repairs.map(({ label }) => label)
    expect(labels()).toEqual(['Let it wait for G1', 'Let it wait for A', 'Declare it a start of the network'])
    const taken = { ...plan.links[0]!, id: '9', from: 'c', to: 'g2', type: 'SS' as const, lag: 120 }
    expect(labels([taken])[0]).toMatch(/^Put the link back: with the start of C, 2 h later$/)
    // What is gone, or has been put back since, is not offered.
    expect(
      labels([
        { ...taken, from: 'gone' },
        { ...taken, id: '1' },
      ]),
    ).toEqual(labels())
  })
  it('offers no link to an open end that would close a loop', () => {
    const rows = [
      { id: 'a', code: 'A' },
      { id: 'x', code: 'X' },
      { id: 'b', code: 'B' },
      { id: 'c', code: 'C' },
    ]
    // X, the row above B, comes after B.
    const plan = small(rows, [
      { id: '1', from: 'b', to: 'x' },
      { id: '2', from: 'x', to: 'c' },
      { id: '3', from: 'a', to: 'c' },
    ])
    const [open] = of(plan, 'open-end')
    expect(open!.repairs.map(({ label }) => label)).toEqual([
      'Let it wait for A',
      'Declare it a start of the network',
    ])
    for (const { change } of open!.repairs) schedule(applyChange(plan, change).plan)
  })
  it('offers ways to a required finish before it offers another date', () => {
    const rows = three.with(1, {
      ...three[1]!,
      duration: '3d',
      constraints: [{ edge: 'start', rule: 'not-before', date: '2027-03-04T07:00' }],
      crash: { duration: '1d', normalCost: 0, cost: 900 },
    } as never)
    const plan = small(rows, chain, { requiredFinish: '2027-03-06T07:00' })
    const [missed] = of(plan, 'negative-float')
    expect(missed!.repairs.map(({ label }) => label)).toEqual([
      'Let go of a date: B start not before Thu 4 Mar 07:00',
      'Do B in 1 d instead of 3 d, its shortest',
      'Ask for Mon 8 Mar 07:00, which the plan keeps',
    ])
    const finishes = missed!.repairs.map(
      ({ change }) => schedule(applyChange(plan, change).plan).projectFinish,
    )
    const { projectFinish } = schedule(plan)
    expect(finishes.map((at) => (projectFinish - at) / 1440)).toEqual([2, 2, 0])
  })
  it('offers no other calendar to work that waits for a window', () => {
    const tides = {
      id: 'tide',
      name: 'Tides',
      windows: [['2027-03-20T07:00', '2027-03-24T07:00']],
    }
    const plan = small(
      three.with(1, { ...three[1]!, calendar: 'tide' } as never),
      chain,
      {},
      { calendars: [tides] },
    )
    const [wait] = of(plan, 'calendar-wait')
    expect([wait!.repairs, wait!.effect.kind]).toEqual([[], 'finish'])
  })
  it('explains forty high floats by the one link that is missing', () => {
    const many = Array.from({ length: 40 }, (_, k) => ({ id: `m${k}`, code: `M${k}`, duration: '1h' }))
    const links = [
      ...chain,
      { id: 'x', from: 'a', to: 'm0' },
      ...many.slice(1).map((m, k) => ({ id: `x${k}`, from: `m${k}`, to: m.id })),
    ]
    const plan = small([...three.with(1, { ...three[1]!, duration: '60d' } as never), ...many], links)
    const high = of(plan, 'high-float')
    expect(high).toHaveLength(1)
    expect(high[0]!.activities).toHaveLength(40)
    expect(high[0]!.message).toContain('M39')
    const repaired = applyChange(plan, high[0]!.repairs[0]!.change).plan
    expect(
      found(repaired).findings.filter((f) => f.check === 'high-float' || f.check === 'open-end'),
    ).toEqual(of(repaired, 'high-float'))
  })
  it('keeps ten thousand of a kind apart', () => {
    const loose = small(
      Array.from({ length: 5000 }, (_, k) => ({ id: `n${k}` })),
      [],
      { opens: [], closes: [] },
    )
    const open = of(loose, 'open-end')
    expect(open).toHaveLength(10_000)
    expect(new Set(open.map((f) => f.fingerprint)).size).toBe(10_000)
  })
})

describe('accepting with a reason', () => {
  const plan = small(held('2027-03-01T19:00'), chain)
  const accepted = applyChange(
    plan,
    accept(plan, of(plan, 'overriding-constraint'), 'the tide table says so', 'Ana', '2027-03-01T08:00'),
  ).plan
  it('takes the finding from the open ones, and gives it back when withdrawn', () => {
    expect(of(accepted, 'overriding-constraint')).toEqual([])
    expect(found(accepted)).toMatchObject({
      counts: { 'overriding-constraint': 0 },
      accepted: [{ acceptance: { reason: 'the tide table says so' } }],
    })
    expect(
      of(applyChange(accepted, withdrawAcceptance(accepted.acceptances[0]!)).plan, 'overriding-constraint'),
    ).toHaveLength(1)
  })
  it('lasts while other things change, and ends when the facts under it do, saying which', () => {
    const renamed = applyChange(accepted, {
      kind: 'set',
      list: 'activities',
      key: 'a',
      set: { name: 'Other', duration: 60 },
    }).plan
    expect(of(renamed, 'overriding-constraint')).toEqual([])
    const moved = applyChange(accepted, {
      kind: 'set',
      list: 'activities',
      key: 'b',
      set: { constraints: [{ edge: 'start', rule: 'exactly', date: '2027-03-01T20:00', overrides: true }] },
    }).plan
    const [back] = of(moved, 'overriding-constraint')
    const reopened = found(moved).reopened[back!.fingerprint]!
    expect(reopened.acceptance.by).toBe('Ana')
    expect(reopened.changed).toEqual([
      'date was start exactly Mon 1 Mar 19:00, is start exactly Mon 1 Mar 20:00',
    ])
    // Accepted anew, the old acceptance is replaced.
    expect(
      applyChange(moved, accept(moved, [back!], 'moved with the tide', 'Ana', '2027-03-02T08:00')).plan
        .acceptances,
    ).toHaveLength(1)
  })
  it('knows a finding again whose date was moved', () => {
    const due = (date: string): Plan =>
      small(
        three.with(1, { ...three[1]!, constraints: [{ edge: 'finish', rule: 'not-after', date }] } as never),
        chain,
      )
    const before = due('2027-03-02T07:00')
    const agreed = applyChange(
      before,
      accept(before, of(before, 'negative-float'), 'agreed with the owner', 'Ana', '2027-03-01'),
    ).plan
    const after = { ...due('2027-03-02T19:00'), acceptances: agreed.acceptances }
    const [back] = of(after, 'negative-float')
    expect(found(after).reopened[back!.fingerprint]!.changed).toEqual([
      'date was Tue 2 Mar 07:00, is Tue 2 Mar 19:00',
      'missed by was 1 d, is 12 h',
    ])
  })
  it('does not bend a simulation by what only PERT leaves out', () => {
    const many = Array.from({ length: 8 }, (_, k) => ({
      id: `m${k}`,
      estimate: { low: '1d', likely: '1d', high: '2d' },
    }))
    const merged = small(
      [...three.map((a) => ({ ...a, estimate: { low: '1d', likely: '1d', high: '2d' } })), ...many],
      [
        ...chain,
        ...many.flatMap(({ id }) => [
          { id: `i${id}`, from: 'a', to: id },
          { id: `o${id}`, from: id, to: 'c' },
        ]),
      ],
    )
    const fit = fitness(found(merged))
    expect([fit.verdict, fit.distortions.map(({ bias }) => biasWords(bias))]).toEqual([
      'with care',
      ['PERT comes out too early'],
    ])
    expect(fitnessOfSimulation(fit)).toMatchObject({ verdict: 'fit', distortions: [] })
  })
  it('does not make a network fit: an accepted distortion is named', () => {
    const { verdict, distortions } = fitness(found(plan))
    expect([verdict, distortions[0]]).toMatchObject([
      'not fit',
      { check: 'overriding-constraint', bias: { direction: 'too early' } },
    ])
    expect(fitness(found(accepted)).accepted).toMatchObject([{ check: 'overriding-constraint', count: 1 }])
  })
})

describe('limits', () => {
  const lag = small(three, [{ ...chain[0]!, lag: '3d' }, chain[1]!])
  it('are the preset’s, or the plan’s own where it has some', () => {
    expect(of(lag, 'long-lag')).toEqual([])
    expect(
      review(lag, schedule(lag), { preset: '14-point' }).findings.filter((f) => f.check === 'long-lag'),
    ).toHaveLength(1)
    const own = applyChange(lag, {
      kind: 'project',
      set: { review: { preset: 'own', limits: { 'long-lag': 2 } } },
    }).plan
    expect(of(own, 'long-lag')).toMatchObject([{ value: 3, threshold: 2 }])
  })
  it('out of range are named, and the default holds', () => {
    const rule = CHECKS.find((c) => c.id === 'merge-point')!.limit!
    expect([1, 2.5, Number.NaN].map((value) => limitProblem(rule, value))).toEqual([
      'give a figure from 2 to 1000',
      'a count is a whole number',
      'a limit is a number',
    ])
    const wrong = applyChange(lag, {
      kind: 'project',
      set: { review: { preset: 'own', limits: { 'merge-point': -1 } } },
    }).plan
    expect(limitsOf(CHECKS, wrong)['merge-point']).toBe(7)
  })
})

describe('a kept review', () => {
  it('tells the next one what appeared and what is gone', () => {
    const plan = small([...three, { id: 'd', code: 'D' }], chain)
    const kept = applyChange(
      plan,
      keepReview(plan, schedule(plan), found(plan), 'Ana', '2027-03-01T08:00'),
    ).plan
    const later = applyChange(kept, {
      kind: 'all',
      changes: [
        { kind: 'project', set: { opens: ['a', 'd'], closes: ['c'] } },
        { kind: 'set', list: 'links', key: '1', set: { lag: -60 } },
      ],
    }).plan
    const trend = trendSince(found(later), later.reviews[0]!)
    expect(trend.find((t) => t.check === 'open-end')).toMatchObject({
      before: 2,
      now: 1,
      gone: 1,
      appeared: [],
    })
    expect(trend.find((t) => t.check === 'negative-lag')).toMatchObject({ before: 0, now: 1, gone: 0 })
    expect(trend.find((t) => t.check === 'negative-lag')!.appeared).toHaveLength(1)
  })
})

describe('the path integrity test', () => {
  it('passes where a delay arrives whole', () => {
    const plan = small(three, chain)
    expect(integrityTest(plan, schedule(plan), 'a')).toEqual({
      activity: 'a',
      days: 100,
      shortOf: null,
      delay: 144_000,
      arrives: 144_000,
      carries: 'exact',
      swallows: [],
    })
  })
  it('names the date, the float or the actual that swallows it', () => {
    const pinned = small(held('2027-03-05T07:00'), chain)
    expect(integrityTest(pinned, schedule(pinned), 'a')).toMatchObject({
      carries: 'lost',
      swallows: [{ activity: 'b', from: 'a', link: '1', by: 'date', minutes: 144_000 }],
    })
    const waits = small(held('2027-03-05T07:00', false), chain)
    expect(integrityTest(waits, schedule(waits), 'a')).toMatchObject({
      carries: 'lost',
      swallows: [{ activity: 'b', by: 'float', minutes: 3 * 1440 }],
    })
    const begun = small(
      three.map((a, k) => (k === 1 ? { ...a, progress: { actualStart: '2027-03-01T07:00' } } : a)),
      chain,
      { statusDate: '2027-03-01T08:00', outOfSequence: 'follow' },
    )
    expect(integrityTest(begun, schedule(begun), 'a')).toMatchObject({
      carries: 'lost',
      swallows: [{ activity: 'b', by: 'actual' }],
    })
  })
  it('tells waiting for a calendar from a lost delay', () => {
    const tuesdays = { id: 'tue', week: { tue: ['07:00-15:00'] }, dayMinutes: 480 }
    const plan = small(
      three.with(1, { ...three[1]!, calendar: 'tue' } as never),
      chain,
      { start: '2027-03-02T07:00' },
      { calendars: [tuesdays] },
    )
    expect(integrityTest(plan, schedule(plan), 'a', 5)).toMatchObject({
      delay: 7200,
      arrives: 7 * 1440 - 7 * 1440,
      carries: 'rounded',
    })
    // Where windows run out, as many days are put in as fit.
    const windows = {
      id: 'tides',
      dayMinutes: 60,
      windows: [
        ['2027-03-02T07:00', '2027-03-02T08:00'],
        ['2027-03-04T07:00', '2027-03-04T08:00'],
        ['2027-03-06T07:00', '2027-03-06T08:00'],
        ['2027-03-08T07:00', '2027-03-08T08:00'],
      ],
    }
    const tidal = small(
      three.with(0, { ...three[0]!, calendar: 'tides' } as never),
      chain,
      { start: '2027-03-02T07:00' },
      { calendars: [windows] },
    )
    expect(integrityTest(tidal, schedule(tidal), 'a')).toMatchObject({
      days: 3,
      shortOf: 'tides',
      carries: 'exact',
    })
    // It is the calendar on the way that is named, not that of the activity.
    const onTheWay = small(
      three.with(1, { ...three[1]!, calendar: 'tides' } as never),
      chain,
      { start: '2027-03-02T07:00' },
      { calendars: [windows] },
    )
    const tested = integrityTest(onTheWay, schedule(onTheWay), 'a')
    expect(tested.shortOf).toBe('tides')
    expect(tested.days).toBeLessThan(100)
    expect(() => integrityTest(plan, schedule(plan), 'nothing')).toThrow(RangeError)
  })
})

describe('the 14-point assessment', () => {
  it('counts unfinished work, and gives the two indexes', () => {
    const progress = { actualStart: '2027-03-01T07:00', actualFinish: '2027-03-02T07:00' }
    const baselines = [
      { id: 'b', activities: { a: { finish: '2027-03-02T07:00' }, b: { finish: '2027-03-02T08:00' } } },
    ]
    const plan = small(
      [{ ...three[0]!, progress }, three[1]!, { ...three[2]!, duration: '45d' }],
      [chain[0]!, { ...chain[1]!, lag: '1d' }],
      { statusDate: '2027-03-02T09:00', requiredFinish: '2027-04-25T09:00' },
      { baselines },
    )
    const { points, pathLengthIndex, baselineExecutionIndex } = fourteenPoints(plan, schedule(plan))
    const point = (n: number) => points[n - 1]!
    expect(points.map((p) => p.number)).toEqual(Array.from({ length: 14 }, (_, k) => k + 1))
    expect(point(1)).toMatchObject({ count: 0, of: 2, passes: true })
    expect(point(3)).toMatchObject({ count: 1, of: 2, value: 0.5, passes: false, links: ['2'] })
    expect(point(8)).toMatchObject({ count: 1, passes: false, activities: ['c'] })
    expect(point(10)).toMatchObject({ count: 2, of: 2, passes: false })
    expect(point(11)).toMatchObject({ count: 1, of: 2, passes: false, activities: ['b'] })
    expect(point(12)).toMatchObject({ count: 0, passes: true })
    // 47 days to go; 54 to the date: (47 + 7) ÷ 47.
    expect(pathLengthIndex).toBeCloseTo(54 / 47)
    expect(baselineExecutionIndex).toBe(0.5)
    expect(point(14)).toMatchObject({ passes: false })
  })
  it('takes other limits from the plan, and the public ones where those are out of range', () => {
    const plan = small(three, [{ ...chain[0]!, lag: '1h' }, chain[1]!], {
      review: { points: { 3: 0.5, 4: 7 } },
    })
    const { points } = fourteenPoints(plan, schedule(plan))
    expect([points[2], points[3]]).toMatchObject([{ limit: 0.5, passes: true }, { limit: 0.9 }])
  })
  it('says of an empty plan that there is nothing to measure', () => {
    const empty = readPlan({ format: 'geodrome-plan', version: 1, project: { start: '2027-03-01' } }).plan
    expect(fourteenPoints(empty, schedule(empty)).points.map((p) => p.passes)).toEqual(Array(14).fill(null))
  })
})

describe('the shape of a network', () => {
  it('counts chains, merges and what runs at once', () => {
    const plan = small(
      [...three, { id: 'd', code: 'D' }, { id: 'e', code: 'E' }],
      [
        ...chain,
        ...['d', 'e'].flatMap((id) => [
          { id: `a${id}`, from: 'a', to: id },
          { id: `${id}c`, from: id, to: 'c' },
        ]),
      ],
    )
    expect(networkShape(plan, schedule(plan))).toMatchObject({
      complexity: { number: 6 - 5 + 2 },
      linksPerActivity: 6 / 5,
      longestChain: ['a', 'b', 'c'],
      mergePoints: [{ activity: 'c', into: 3 }],
      meanParallel: 5 / 3,
      mostParallel: 3,
    })
  })
})
