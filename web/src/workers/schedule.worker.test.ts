import { readFileSync } from 'node:fs'
import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import {
  applyChange,
  explain,
  parseJson,
  readPlan,
  schedule,
  setDuration,
  type Change,
  type Plan,
} from '@geodrome/core'
import type { ScheduledReply, ScheduleReply, ScheduleRequest } from './scheduleProtocol.ts'

/** The worker itself, asked as the page asks it: `self` is what a worker has, and its answers are kept. */
const replies: ScheduleReply[] = []
const scope = { postMessage: (reply: ScheduleReply) => void replies.push(reply) } as {
  postMessage(reply: ScheduleReply): void
  onmessage(event: { data: ScheduleRequest }): void
}
beforeAll(async () => {
  Object.assign(globalThis, { self: scope })
  await import('./schedule.worker.ts')
})
const ask = <K extends ScheduleReply['kind']>(data: ScheduleRequest): Extract<ScheduleReply, { kind: K }> => {
  replies.length = 0
  scope.onmessage({ data: structuredClone(data) })
  return replies[0] as Extract<ScheduleReply, { kind: K }>
}
const plan = (name: string): Plan =>
  readPlan(parseJson(readFileSync(new URL(`../../../demo/${name}.geodrome.json`, import.meta.url), 'utf8')))
    .plan

let version = 0
const load = (of: Plan): ScheduledReply => ask<'scheduled'>({ kind: 'load', version: ++version, plan: of })
const lengthen = (of: Plan, code: string, minutes: number): Change =>
  setDuration(
    of.activities.find((a) => a.code === code)!,
    minutes,
  )

describe('the schedule worker', () => {
  let kiln: Plan
  beforeEach(() => {
    kiln = plan('kiln')
    load(kiln)
  })

  it('answers a plan with the schedule that core makes of it, link by link as the plan lists them', () => {
    const kittiwake = plan('kittiwake')
    const made = schedule(kittiwake)
    const { view, version: answered } = load(kittiwake)
    expect(answered).toBe(version)
    expect([...view.start]).toEqual([...made.start])
    expect([...view.totalFloat]).toEqual([...made.float.total])
    const driving = new Set(made.network.links.filter((_, k) => made.drives[k] === 1).map((l) => l.id))
    expect(
      kittiwake.links
        .filter((_, k) => view.drives[k] === 1)
        .map((l) => l.id)
        .sort(),
    ).toEqual([...driving].sort())
  })

  it('answers a change with what it did, and the same whether it was tried before or not', () => {
    const change = lengthen(kiln, 'K40', 3360)
    const [trial] = ask<'tried'>({ kind: 'try', requestId: 1, changes: [change] }).trials
    const tried = ask<'scheduled'>({ kind: 'change', version: ++version, change })
    const wanted = schedule(applyChange(kiln, change).plan)
    expect(trial).toEqual({ finish: wanted.projectFinish, moved: tried.effect!.moved })
    load(kiln)
    const untried = ask<'scheduled'>({ kind: 'change', version: ++version, change })
    expect([...tried.view.finish]).toEqual([...wanted.finish])
    expect({ ...untried.view, computeMs: 0 }).toEqual({ ...tried.view, computeMs: 0 })
    expect(untried.effect).toEqual(tried.effect)
  })

  it('counts new work on the longest path as having joined it, and work taken away from it as having left', () => {
    const long = { id: 'new', code: 'NEW', duration: 50_000 }
    const added = ask<'scheduled'>({
      kind: 'change',
      version: ++version,
      change: { kind: 'add', list: 'activities', item: long, before: null },
    }).effect!
    const before = schedule(kiln)
    const wasOn = [...before.onLongestPath].filter((on) => on === 1).length
    expect([added.joinedLongestPath, added.leftLongestPath]).toEqual([1, wasOn])
    const removed = ask<'scheduled'>({
      kind: 'change',
      version: ++version,
      change: { kind: 'remove', list: 'activities', key: 'new' },
    }).effect!
    expect([removed.joinedLongestPath, removed.leftLongestPath]).toEqual([wasOn, 1])
  })

  it('does not take what was tried on an older plan for what is made on a newer one', () => {
    const change = lengthen(kiln, 'K40', 3360)
    ask({ kind: 'try', requestId: 1, changes: [change] })
    const other = lengthen(kiln, 'K30', 1920)
    ask({ kind: 'change', version: ++version, change: other })
    const { view } = ask<'scheduled'>({ kind: 'change', version: ++version, change })
    const both = applyChange(applyChange(kiln, other).plan, change).plan
    expect(view.projectFinish).toBe(schedule(both).projectFinish)
  })

  it('says why a change cannot be made, and keeps the plan as it is', () => {
    const [first, last] = [kiln.activities[0]!.id, kiln.activities.at(-1)!.id]
    const loop: Change = {
      kind: 'add',
      list: 'links',
      before: null,
      item: { id: 'x', from: last, to: first, type: 'FS', lag: 0 },
    }
    const back = kiln.links.find((l) => l.to === last)!
    const trials = ask<'tried'>({
      kind: 'try',
      requestId: 1,
      changes: [
        { ...loop, item: { ...loop.item, from: back.to, to: back.from } },
        lengthen(kiln, 'K40', 3360),
      ],
    }).trials
    expect(trials[0]).toEqual({ problem: expect.stringContaining('wait for each other') })
    expect(trials[1]).toHaveProperty('finish')
    expect(ask<'compared'>({ kind: 'compare', requestId: 2, plan: kiln }).comparison).toMatchObject({
      difference: { moved: [], changed: [] },
    })
  })

  it('says by its calendar that a plan cannot be scheduled, and nothing of the one before it', () => {
    const tides = { id: 'tide', name: 'Tides', windows: [['2027-03-01T07:00', '2027-03-01T08:00']] }
    const ending = readPlan({
      format: 'geodrome-plan',
      version: 1,
      project: { start: '2027-03-01', calendar: 'tide' },
      calendars: [tides],
      activities: [{ id: kiln.activities[0]!.id, code: 'U10', duration: '2h' }],
    }).plan
    expect(ask<'refused'>({ kind: 'load', version: ++version, plan: ending })).toMatchObject({
      kind: 'refused',
      message: expect.stringContaining('U10'),
    })
    const id = kiln.activities[0]!.id
    expect(ask<'explained'>({ kind: 'explain', requestId: 1, activity: id }).explanation).toBeNull()
    expect(ask<'probed'>({ kind: 'probe', requestId: 1, activity: id }).probe).toBeNull()
  })

  it('explains and probes the activity asked for, and no other', () => {
    const { id } = kiln.activities.find((a) => a.code === 'K50')!
    const { explanation, requestId } = ask<'explained'>({ kind: 'explain', requestId: 7, activity: id })
    expect([requestId, explanation]).toEqual([7, explain(schedule(kiln), id)])
    const { probe } = ask<'probed'>({ kind: 'probe', requestId: 8, activity: id })
    expect(probe!.experiment!.activity).toBe(id)
    expect([...probe!.slack.keys()].sort()).toEqual(
      kiln.links
        .filter((l) => l.from === id || l.to === id)
        .map((l) => l.id)
        .sort(),
    )
    expect(ask<'explained'>({ kind: 'explain', requestId: 9, activity: 'nobody' }).explanation).toBeNull()
  })
})
