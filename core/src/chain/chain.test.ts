import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { loadsOf } from '../cost/load.ts'
import { randomPlanWithResources } from '../cost/testing/randomResources.ts'
import { LevelError } from '../cost/level/problem.ts'
import { CalendarError } from '../time/calendar.ts'
import { instantOf } from '../time/instant.ts'
import { readPlan, writePlan, type Plan } from '../plan/index.ts'
import { chainReport } from './index.ts'
import { criticalChain } from './criticalChain.ts'
import { chainSettings } from './focused.ts'
import { insertBuffers } from './insertBuffers.ts'

const WEEK = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['08:00-16:00']]))
const fileOf = (file: Record<string, unknown>) => ({
  format: 'geodrome-plan',
  version: 1,
  calendars: [{ id: 'day', week: WEEK }],
  project: { start: '2027-03-01', calendar: 'day' },
  ...file,
})
const planOf = (file: Record<string, unknown>): Plan => readPlan(fileOf(file)).plan

/**
 * By hand. A 8 d → B 4 d, and C 6 d → D 4 d, then E 4 d; A and D need the one welder. Focused: 4, 2, 3, 2, 2.
 * From the finish backward: E on days 8–9; D, B before it. D needs the welder on 6–7, so A has to end before: D follows A.
 * Chain A 0–4, D 4–6, E 6–8 (with the welder handed over); B 4–6 feeds E, C 0–3 feeds D.
 */
const worked = {
  activities: [
    { id: 'a', duration: '8d' },
    { id: 'b', duration: '4d' },
    { id: 'c', duration: '6d' },
    { id: 'd', duration: '4d' },
    { id: 'e', duration: '4d' },
  ],
  links: [
    { from: 'a', to: 'b' },
    { from: 'c', to: 'd' },
    { from: 'b', to: 'e' },
    { from: 'd', to: 'e' },
  ],
  resources: [{ id: 'weld', kind: 'people', available: [{ from: null, amount: 1 }] }],
  assignments: [
    { activity: 'a', resource: 'weld' },
    { activity: 'd', resource: 'weld' },
  ],
}

describe('a chain worked by hand', () => {
  const report = chainReport(planOf(worked))
  it('follows the welder, not the links alone', () => {
    expect(report.handovers).toEqual([{ from: 'a', to: 'd', resource: 'weld' }])
    // A and D cut 4 and 2 days against A and B with 4 and 2: equal squares, and smaller ids win.
    expect(report.chain).toEqual(['a', 'b', 'e'])
    expect(report.finish).toBe('2027-03-15T12:00')
  })
  it('has half of what was cut behind it, and feeding buffers where work joins', () => {
    // Chain cut 4 + 2 + 2: half is 4 days. C and D, cut 3 + 2, join before E: 2.5. Nothing else joins.
    expect(
      report.buffers.map(({ id, kind, size, after, before }) => [id, kind, size, after, before]),
    ).toEqual([
      ['project', 'project', 4, ['e'], []],
      ['feeding:d:e', 'feeding', 2.5, ['d'], ['e']],
    ])
    expect(report.promised).toBe('2027-03-19T12:00')
  })
  it('waits where the feeding buffer does not fit, and says how long and why', () => {
    // D ends on day 6 with its buffer of 2.5 days: E waits for 8.5 instead of 6.
    expect(report.gaps).toEqual([{ before: 'e', length: 2.5, cause: 'feeding:d:e' }])
  })
  it('calls ahead those whom the chain did not have before', () => {
    const later = chainReport(
      planOf({
        ...worked,
        resources: [...worked.resources, { id: 'crane', kind: 'plant' }],
        assignments: [...worked.assignments, { activity: 'e', resource: 'crane' }],
      }),
    )
    expect(later.alerts).toEqual([{ activity: 'e', resource: 'crane', at: later.alerts[0]!.at }])
    const days =
      (instantOf(later.activities.e!.start, 'start') - instantOf(later.alerts[0]!.at, 'start')) / 1440
    expect(days === 2 || days === 4).toBe(true)
  })
})

describe('sizing', () => {
  const plan = (more: Record<string, unknown> = {}) =>
    planOf({
      activities: [
        { id: 'a', duration: '6d' },
        { id: 'b', duration: '8d', focused: '5d' },
      ],
      links: [{ from: 'a', to: 'b' }],
      ...more,
    })
  it('is half of the cut, the root of its squares, or what simulation asks for', () => {
    // Cut: 3 and 3 days.
    expect(chainReport(plan()).buffers[0]!.size).toBe(3)
    expect(chainReport(plan(), { sizing: 'root-squares' }).buffers[0]!.size).toBeCloseTo(Math.sqrt(18), 2)
    const [sure, surer] = [0.8, 0.95].map(
      (confidence) => chainReport(plan(), { sizing: 'simulated', confidence }).buffers[0]!.size,
    )
    expect(sure).toBeGreaterThan(0.5)
    expect(surer!).toBeGreaterThan(sure!)
    expect(surer!).toBeLessThan(6)
    expect(chainReport(plan(), { cut: 0 }).buffers[0]!.size).toBe(1.5)
  })
  it('is what was set by hand, where it was; a milestone holds its own', () => {
    const byHand = plan({
      chain: { buffers: { project: { size: '7d' } } },
      activities: [
        { id: 'a', duration: '6d' },
        { id: 'm', kind: 'milestone', edge: 'finish', buffer: '2d' },
      ],
      links: [{ from: 'a', to: 'm' }],
    })
    const report = chainReport(byHand)
    expect(report.buffers.map(({ kind, size }) => [kind, size])).toEqual([
      ['project', 7],
      ['milestone', 2],
    ])
    // The declared finish stands at the promise: three days of work, seven of buffer.
    expect([report.activities.m!.start, report.promised]).toEqual(['2027-03-12T16:00', '2027-03-12T16:00'])
    expect(readPlan(JSON.parse(writePlan(byHand))).plan).toEqual(byHand)
  })
  it('refuses what cannot be, and has an answer for a plan with nothing in it', () => {
    const message = (chain: object): string => {
      try {
        plan({ chain })
        return ''
      } catch (error) {
        return (error as Error).message
      }
    }
    expect(message({ cut: 1 })).toContain('/chain/cut')
    expect(message({ calendar: 'gone' })).toContain('/chain/calendar: there is no calendar "gone"')
    expect(message({ drum: 'gone' })).toContain('/chain/drum: there is no resource "gone"')
    expect(message({ sizing: 'guess' })).toContain('/chain/sizing')
    expect(message({ buffers: { project: { size: 'long' } } })).toContain('/chain/buffers/project/size')
    expect(chainReport(planOf({ activities: [] }))).toMatchObject({ chain: [], buffers: [] })
    const one = chainReport(planOf({ activities: [{ id: 'a', duration: '2d' }] }))
    expect([one.chain, one.buffers[0]!.size]).toEqual([['a'], 0.5])
    expect(() =>
      chainReport(
        planOf({
          project: { start: '2027-03-01', calendar: 'day', direction: 'backward', finish: '2027-04-01' },
        }),
      ),
    ).toThrow(LevelError)
  })
})

describe('for any plan', () => {
  const random = randomPlanWithResources({
    constraints: false,
    progress: false,
    calendars: true,
    leads: false,
    scarce: true,
  })
  /** As much of each resource, always, as the one that needs most of it. */
  const enough = random.map((plan): Plan => {
    const asked = new Map<string, number>()
    for (const { activity, resource, amount } of plan.assignments) {
      const key = `${activity} ${resource}`
      asked.set(key, (asked.get(key) ?? 0) + amount)
    }
    const most = (id: string): number =>
      Math.max(1, ...[...asked].filter(([key]) => key.endsWith(` ${id}`)).map(([, amount]) => amount))
    return {
      ...plan,
      // Where one may finish as soon as the other starts (SF), no hand-over can keep them apart.
      links: plan.links.filter(({ type }) => type !== 'SF'),
      resources: plan.resources.map((resource) => ({
        ...resource,
        calendar: null,
        available: [{ from: null, amount: most(resource.id) }],
      })),
    }
  })
  it('the base plan overloads nothing, the chain binds from one to the next, the promise is its end and the buffer', () => {
    let [handed, fed, checked] = [0, 0, 0]
    fc.assert(
      fc.property(enough, (plan) => {
        const settings = chainSettings(plan)
        let chain
        let buffered
        try {
          chain = criticalChain(plan, settings)
          buffered = insertBuffers(plan, settings, chain)
        } catch (error) {
          if (error instanceof CalendarError) return
          throw error
        }
        const { base } = chain
        const { network } = base
        handed += chain.handOvers.length
        for (const { overloads } of loadsOf(base)) {
          expect(overloads).toEqual([])
          checked++
        }
        for (const { from, to } of chain.handOvers)
          expect(base.early.finish[from]!).toBeLessThanOrEqual(base.early.begin[to]!)
        // The chain ends the plan, and each of it starts by the one before.
        const { activities } = chain.chain
        expect(base.early.finish[activities.at(-1)!]).toBe(base.projectFinish)
        activities.slice(1).forEach((i, k) => {
          const ties = network.links.filter(
            (link, at) =>
              base.drives[at] === 1 &&
              network.linkFrom[at] === activities[k] &&
              network.linkTo[at] === i &&
              link.from === plan.activities[activities[k]!]!.id,
          )
          expect(ties.length).toBeGreaterThan(0)
        })
        // Sizes once more, from the durations alone.
        const project = buffered.buffers.find(({ kind }) => kind === 'project')
        if (project) {
          const cut = activities.reduce((sum, i) => sum + chain.cut[i]!, 0)
          expect(project.days).toBeCloseTo(cut / 2, 2)
          expect(buffered.promised).toBeGreaterThanOrEqual(buffered.end)
          expect(project.finish).toBe(buffered.promised)
        }
        for (const { kind, before, finish, start } of buffered.buffers) {
          expect(start).toBeLessThanOrEqual(finish)
          if (kind !== 'feeding') continue
          fed++
          // It protects the chain: it ends before what it feeds begins, or ends.
          expect(finish).toBeLessThanOrEqual(buffered.finish[before[0]!]!)
        }
        for (const i of activities) expect(buffered.start[i]!).toBe(buffered.made.early.start[i]!)
      }),
      { numRuns: 120 },
    )
    expect(handed).toBeGreaterThan(10)
    expect(fed).toBeGreaterThan(5)
    expect(checked).toBeGreaterThan(20)
  })
  it('nothing depends on the order of rows', () => {
    fc.assert(
      fc.property(random, (plan) => {
        const turned: Plan = {
          ...plan,
          activities: [...plan.activities].reverse(),
          links: [...plan.links].reverse(),
          assignments: [...plan.assignments].reverse(),
        }
        const sorted = (one: Plan) => {
          try {
            const report = chainReport(one)
            const byId = (a: { id: string }, b: { id: string }): number => (a.id < b.id ? -1 : 1)
            return {
              ...report,
              handovers: report.handovers.map((h) => `${h.resource} ${h.from} ${h.to}`).sort(),
              buffers: [...report.buffers].sort(byId).map((b) => ({ ...b, after: [...b.after].sort() })),
              activities: report.activities,
            }
          } catch (error) {
            if (error instanceof CalendarError) return 'no hours'
            throw error
          }
        }
        expect(sorted(turned)).toEqual(sorted(plan))
      }),
      { numRuns: 30 },
    )
  })
})
