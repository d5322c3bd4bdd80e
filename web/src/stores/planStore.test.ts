import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import {
  applyChange,
  PlanError,
  readPlan,
  schedule,
  writePlan,
  type Change,
  type LoggedChange,
  type Plan,
  type Role,
  type SentChange,
} from '@geodrome/core'
import type { ScheduleListener } from '../workers/scheduleClient.ts'

/** What the store is given of the world: a server of one plan, a worker that answers at once, a browser that keeps things. */
const server = {
  plan: null as unknown as Plan,
  log: [] as LoggedChange[],
  isAway: false,
  role: 'administrator' as Role,
}
const kept = new Map<string, unknown>()
/** Streams of others' changes, as they were opened. */
interface Stream {
  readonly CLOSED: number
  readyState: number
  onopen?: () => void
  onerror?: () => void
  addEventListener(): void
  close(): void
}
const streams: Stream[] = []

vi.stubGlobal('navigator', {})
vi.stubGlobal('sessionStorage', { getItem: () => null, setItem: () => undefined })
vi.stubGlobal('requestAnimationFrame', (run: () => void) => setTimeout(run))
vi.mock('idb-keyval', () => ({
  entries: () => Promise.resolve([...kept]),
  set: (key: string, value: unknown) => Promise.resolve(void kept.set(key, structuredClone(value))),
  delMany: (keys: string[]) => Promise.resolve(keys.forEach((key) => kept.delete(key))),
}))
vi.mock('../workers/scheduleClient.ts', () => ({
  ScheduleClient: class {
    private plan: Plan | null = null
    private readonly listener: ScheduleListener
    constructor(listener: ScheduleListener) {
      this.listener = listener
    }
    load(plan: Plan): void {
      this.plan = plan
      const { start, finish, projectStart, projectFinish } = schedule(plan)
      const view = { start, finish, projectStart, projectFinish }
      this.listener.scheduled({ kind: 'scheduled', version: 1, view, effect: null } as never)
    }
    change(change: Change): void {
      this.load(applyChange(this.plan!, change).plan)
    }
    stop(): void {}
  },
}))
vi.mock('../api/client.ts', async (original) => {
  const { OfflineError, ApiError } = await original<typeof import('../api/client.ts')>()
  const reach = <T>(answer: () => T): Promise<T> =>
    server.isAway ? Promise.reject(new OfflineError('away')) : Promise.resolve(answer())
  return {
    OfflineError,
    ApiError,
    api: {
      open: () =>
        reach(() => ({
          revision: server.log.length + 1,
          plan: server.plan,
          changes: [...server.log].reverse(),
          left: [],
          role: server.role,
        })),
      stored: (_: string, uids: string[]) =>
        reach(() => uids.filter((u) => server.log.some((e) => e.uid === u))),
      changesSince: (_: string, revision: number) =>
        reach(() => server.log.filter((e) => e.revision > revision)),
      send: (_: string, sent: SentChange) =>
        reach(() => {
          const change = sent.change ?? server.log.find((e) => e.uid === sent.undoes)!.inverse
          const { plan, inverse } = applyChange(server.plan, change)
          server.plan = plan
          const entry = { ...sent, undoes: sent.undoes ?? null, change, inverse, at: '2027-03-01T00:00:00Z' }
          server.log.push({ ...entry, revision: server.log.length + 2 })
          return server.log.at(-1)!
        }),
      planWhenKept: (_: string, list: string, key: string) =>
        key === 'foreign'
          ? Promise.reject(new ApiError(404, { error: 'missing', message: 'it came with the file' }))
          : reach(() => ({ revision: 1, at: '2027-03-01T00:00:00Z', author: list, plan: START })),
      events: () => {
        const stream: Stream = {
          CLOSED: 2,
          readyState: 1,
          addEventListener: () => undefined,
          close: () => undefined,
        }
        streams.push(stream)
        return stream
      },
    },
  }
})

const { usePlanStore } = await import('./planStore.ts')
const START = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  activities: [
    { id: 'a', code: 'A10', name: 'Cut', duration: '1d' },
    { id: 'b', code: 'A20', name: 'Fit', duration: '1d' },
  ],
  links: [{ id: 'l', from: 'a', to: 'b' }],
  scenarios: [{ id: 's', name: 'Faster', changes: [] }],
}).plan
const duration = (minutes: number): Change => ({
  kind: 'set',
  list: 'activities',
  key: 'a',
  set: { duration: minutes },
})
const stored = async (plans: ReturnType<typeof usePlanStore>): Promise<void> => {
  await vi.waitFor(() => expect(plans.pending).toEqual([]))
}

describe('the open plan', () => {
  let plans: ReturnType<typeof usePlanStore>
  beforeEach(async () => {
    Object.assign(server, { plan: START, log: [], isAway: false, role: 'administrator' })
    kept.clear()
    setActivePinia(createPinia())
    plans = usePlanStore()
    await plans.open('p')
  })

  it('shows an edit at once, with the news of it, and says that it is stored when the server does', async () => {
    const before = plans.view!.projectFinish
    plans.edit(duration(2880))
    expect(plans.view!.projectFinish).toBe(before + 1440)
    expect(plans.news).toMatchObject({ label: 'A10 Cut, 1 d → 2 d', finishBefore: before, author: null })
    expect([plans.pending.length, plans.storedAt]).toEqual([1, null])
    await stored(plans)
    expect(plans.storedAt).toEqual(new Date('2027-03-01T00:00:00Z'))
    expect(writePlan(plans.base!)).toBe(writePlan(server.plan))
  })

  it('refuses what who looks may not change before it is made: nothing waits, in a scenario neither', async () => {
    for (const [role, why] of [
      ['reader', 'you may read this plan'],
      ['site', 'as planner on site'],
    ] as const) {
      plans.close()
      server.role = role
      await plans.open('p')
      expect(() => plans.edit(duration(2880))).toThrow(why)
      plans.viewScenario('s')
      expect(() => plans.edit(duration(720))).toThrow(why)
      expect([plans.pending, writePlan(plans.base!)]).toEqual([[], writePlan(START)])
    }
    plans.viewScenario(null)
    plans.edit({ kind: 'project', set: { statusDate: '2027-03-01T07:00' } })
    await stored(plans)
    expect(server.plan.project.statusDate).toBe('2027-03-01T07:00')
  })

  it('keeps an edit of a scenario in the scenario: the plan stands', async () => {
    plans.viewScenario('s')
    plans.edit(duration(720))
    expect(plans.plan!.activities[0]!.duration).toBe(720)
    expect(plans.base!.activities[0]!.duration).toBe(1440)
    await stored(plans)
    expect(server.plan.scenarioChanges).toMatchObject([{ scenario: 's', change: duration(720) }])
    plans.viewScenario(null)
    expect(plans.plan!.activities[0]!.duration).toBe(1440)
  })

  it('refuses in a scenario what the plan with it would refuse, and changes nothing', () => {
    plans.viewScenario('s')
    const loop = { id: 'x', from: 'b', to: 'a', type: 'FS', lag: 0 }
    expect(() => plans.edit({ kind: 'add', list: 'links', before: null, item: loop })).toThrow(PlanError)
    expect([plans.pending.length, plans.base!.scenarioChanges]).toEqual([0, []])
  })

  it('asks for its stream again where it was answered with an error; one that broke the browser opens itself', async () => {
    const before = streams.length
    const stream = streams.at(-1)!
    stream.onerror!()
    expect(plans.connection).toBe('offline')
    stream.readyState = stream.CLOSED
    stream.onerror!()
    await vi.waitFor(() => expect(streams.length).toBe(before + 1), { timeout: 5000 })
    streams.at(-1)!.onopen!()
    expect(plans.connection).toBe('online')
  })

  it('goes back to the plan when the scenario in view is removed', async () => {
    plans.viewScenario('s')
    plans.editPlan({ kind: 'remove', list: 'scenarios', key: 's' })
    expect([plans.scenarioId, plans.plan === plans.base]).toEqual([null, true])
    await stored(plans)
  })

  it('shows the plan as it was, where nothing can be changed, and comes back to what it has become', async () => {
    const item = { id: 'b1', name: 'Agreed', activities: {} }
    plans.edit({ kind: 'add', list: 'baselines', item, before: null })
    plans.edit(duration(2880))
    await stored(plans)
    expect(await plans.viewKept('baselines', 'b1')).toBe(true)
    expect([plans.kept!.name, plans.viewPlan!.activities[0]!.duration]).toEqual(['Agreed', 1440])
    expect(plans.meant).toEqual({ kept: 'baselines/b1' })
    for (const edit of [plans.edit, plans.editPlan])
      expect(() => edit(duration(60))).toThrow('Agreed is in view, the plan as it was')
    await plans.undo()
    expect(plans.refusal).toContain('nothing can be changed in it')
    // What was done meanwhile, here before and by others, is there afterwards, and never in what was kept.
    const { plan, inverse } = applyChange(server.plan, duration(5760))
    server.plan = plan
    const entry = {
      uid: 'theirs',
      client: 'x',
      author: 'Ana',
      base: 3,
      undoes: null,
      change: duration(5760),
      inverse,
    }
    server.log.push({ ...entry, at: '2027-03-01T00:00:00Z', revision: 4 })
    streams.at(-1)!.onerror!()
    streams.at(-1)!.onopen!()
    await vi.waitFor(() => expect(plans.revision).toBe(4))
    expect([plans.viewPlan!.activities[0]!.duration, plans.news]).toEqual([1440, null])
    plans.viewScenario(null)
    expect([plans.viewPlan!.activities[0]!.duration, plans.kept, plans.meant]).toEqual([5760, null, {}])
  })

  it('does not show a plan as it was that comes after another question', async () => {
    const item = { id: 'b1', name: 'Agreed', activities: {} }
    plans.edit({ kind: 'add', list: 'baselines', item, before: null })
    const opening = plans.viewKept('baselines', 'b1')
    plans.viewScenario('s')
    expect(await opening).toBe(false)
    expect([plans.kept, plans.scenarioId]).toEqual([null, 's'])
  })

  it('says why what came with a file cannot be opened, and stays where it is', async () => {
    const item = { id: 'foreign', name: 'Theirs', activities: {} }
    plans.edit({ kind: 'add', list: 'baselines', item, before: null })
    expect(await plans.viewKept('baselines', 'foreign')).toBe(false)
    expect(plans.keptProblem).toBe('Theirs cannot be opened: it came with the file')
    expect([plans.kept, plans.plan === plans.base]).toEqual([null, true])
  })

  it('takes back the last of one’s own, stored or not, and does it again', async () => {
    server.isAway = true
    plans.edit(duration(2880))
    await plans.undo()
    expect([plans.plan!.activities[0]!.duration, plans.pending.length]).toEqual([1440, 2])
    plans.redo()
    expect(plans.plan!.activities[0]!.duration).toBe(2880)
    expect(plans.news!.label).toMatch(/^Redone: /)
  })

  it('finds what waited when the plan is opened again in the same tab, and sends it', async () => {
    server.isAway = true
    plans.edit(duration(2880))
    await vi.waitFor(() => expect(plans.connection).toBe('offline'))
    plans.close()
    expect([plans.plan, plans.pending.length]).toEqual([null, 0])
    server.isAway = false
    await plans.open('p')
    await stored(plans)
    expect(server.plan.activities[0]!.duration).toBe(2880)
  })

  it('offers the days back when an activity comes to a calendar with longer ones', () => {
    const calendar = { id: 'short', dayMinutes: 480, week: { mon: ['08:00-16:00'] } }
    plans.edit({ kind: 'add', list: 'calendars', item: calendar, before: null })
    plans.edit({ kind: 'set', list: 'activities', key: 'a', set: { calendar: 'short' } })
    expect(plans.news!.offer).toMatchObject({
      label: 'Keep 1 d',
      change: { key: 'a', set: { duration: 480 } },
    })
  })
})
