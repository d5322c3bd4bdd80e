import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  applyChange,
  PlanError,
  readPlan,
  saidBy,
  sharedFacts,
  writePlan,
  type Change,
  type Keeper,
  type LoggedChange,
  type Plan,
  type SentChange,
} from '@geodrome/core'
import { ApiError, OfflineError } from '../api/client.ts'
import { PlanSession } from './planSession.ts'
import type { KeptChanges, Transport } from './sessionPorts.ts'

const START: Plan = readPlan({
  format: 'geodrome-plan',
  version: 1,
  project: { start: '2027-03-01', calendar: 'clock' },
  activities: Array.from({ length: 4 }, (_, k) => ({ id: `a${k}`, code: `A${k}`, duration: 60 })),
  baselines: [{ id: 'k0', name: 'Agreed', activities: { a0: { finish: '2027-03-01T01:00' } } }],
  periods: [0, 1].map((k) => ({
    id: `k${k}`,
    statusDate: '2027-03-01',
    dates: { a0: ['2027-03-01', '2027-03-02', 0, k] },
  })),
}).plan
const KEPT = (['baselines', 'periods'] as const).flatMap((list) =>
  START[list].map(({ id }): [Keeper, string] => [list, id]),
)
/** A plan as the server opens it where much was kept: that is asked for afterwards. */
const light = (plan: Plan): Plan => ({
  ...plan,
  baselines: plan.baselines.map((one) => ({ ...one, activities: {} })),
  periods: plan.periods.map((one) => ({ ...one, dates: {} })),
})

/** What the server does, in one line each: a change is applied once, on what is there, and logged. */
class Server {
  plan = START
  log: LoggedChange[] = []
  isRemoved = false
  /** The server's own failure, once for each entry. */
  failing = 0

  send(sent: SentChange): LoggedChange {
    if (this.isRemoved) throw new ApiError(404, { error: 'not-found', message: 'there is no such plan' })
    if (this.failing > 0 && this.failing--) throw new ApiError(500, { message: 'something went wrong' })
    const known = this.log.find((entry) => entry.uid === sent.uid)
    if (known) return known
    const undone = sent.undoes === undefined ? null : this.log.find((e) => e.uid === sent.undoes)
    if (undone === undefined) throw new ApiError(404, { message: 'there is no such change to take back' })
    const change = undone ? undone.inverse : sent.change!
    const clashes = this.log
      .slice(undone ? this.log.indexOf(undone) + 1 : sent.base - 1)
      .filter((e) => (undone || e.client !== sent.client) && sharedFacts(change, e.change).length > 0)
    if (clashes.length > 0) throw new ApiError(409, { message: 'changed meanwhile', theirs: clashes })
    try {
      const { plan, inverse } = applyChange(this.plan, change)
      const { uid, client, author } = sent
      this.plan = plan
      this.log.push({
        revision: this.log.length + 2,
        uid,
        client,
        author,
        undoes: sent.undoes ?? null,
        change,
        inverse,
        at: '2027-03-01T00:00:00Z',
      })
      return this.log.at(-1)!
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      throw new ApiError(400, { message: error.issues[0]!.message })
    }
  }
  since(revision: number): LoggedChange[] {
    if (this.isRemoved) throw new ApiError(404, { error: 'not-found', message: 'there is no such plan' })
    return this.log.filter((entry) => entry.revision > revision)
  }
}

/** A world in which whatever is on its way arrives when it is let, or not at all. */
class World {
  readonly server = new Server()
  private readonly onTheWay: (() => void)[] = []

  /** Lets one thing arrive. @returns whether there was any */
  arrive(which: number): boolean {
    const [thing] = this.onTheWay.splice(which % Math.max(1, this.onTheWay.length), 1)
    thing?.()
    return thing !== undefined
  }
  later(run: () => void): () => void {
    this.onTheWay.push(run)
    return () => {
      const at = this.onTheWay.indexOf(run)
      if (at >= 0) this.onTheWay.splice(at, 1)
    }
  }
  /** A request: it may be lost before the server has it, or its answer after. */
  request<T>(ask: () => T, loss: () => 'none' | 'request' | 'answer'): Promise<T> {
    const lost = loss()
    return new Promise((resolve, reject) => {
      this.later(() => {
        if (lost === 'request') return reject(new OfflineError('lost'))
        let answer: () => void
        try {
          const value = structuredClone(ask())
          answer = () => resolve(value)
        } catch (error) {
          answer = () => reject(error as Error)
        }
        this.later(() => (lost === 'answer' ? reject(new OfflineError('lost')) : answer()))
      })
    })
  }
}

/** A tab: its session, and what its browser keeps over a reload. */
class Tab {
  readonly made: string[] = []
  kept: KeptChanges = { pending: [], setAside: [] }
  keepsNothing = false
  /** What was last told of the session's state. */
  told = ''
  session!: PlanSession
  private readonly world: World
  private readonly name: string
  private readonly loss: () => 'none' | 'request' | 'answer'
  private loads = 0

  constructor(world: World, name: string, loss: () => 'none' | 'request' | 'answer') {
    this.world = world
    this.name = name
    this.loss = loss
    this.load()
  }
  load(): void {
    this.session?.close()
    const { world } = this
    const { server } = world
    const transport: Transport = {
      open: () =>
        world.request(
          () => ({
            revision: server.log.length + 1,
            plan: light(server.plan),
            changes: server.log.slice(-3).reverse(),
            left: KEPT.filter(([list, id]) => server.plan[list].some((one) => one.id === id)),
            role: 'administrator' as const,
          }),
          this.loss,
        ),
      said: (_, list, key) =>
        world.request(() => {
          const item = server.plan[list].find(({ id }) => id === key)
          if (!item) throw new ApiError(404, { message: 'there is no such item' })
          return saidBy(list, item)
        }, this.loss),
      send: (_, sent) => world.request(() => server.send(sent), this.loss),
      stored: (_, uids) =>
        world.request(() => uids.filter((uid) => server.log.some((e) => e.uid === uid)), this.loss),
      changesSince: (_, revision) => world.request(() => server.since(revision), this.loss),
      changesBefore: () => Promise.resolve([]),
    }
    const session = new PlanSession('p', {
      transport,
      outbox: {
        read: () => (this.keepsNothing ? Promise.reject(new Error('no room')) : Promise.resolve(this.kept)),
        write: (_, kept) => {
          if (this.keepsNothing) return Promise.reject(new Error('no room'))
          this.kept = structuredClone(kept)
          return Promise.resolve()
        },
      },
      identity: {
        client: `${this.name} ${this.loads++}`,
        author: () => this.name,
        newUid: () => `${this.name}-${this.loads}-${this.made.length}`,
      },
      later: (run) => world.later(run),
      onEvent: () => undefined,
      onState: () => (this.told = this.session.status),
    })
    this.session = session
    void session.open()
  }
  edit(change: Change): void {
    if (this.session.status !== 'open') return
    try {
      this.made.push(this.session.make(change, 'edit', null).uid)
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      return
    }
    void this.session.keep().then(() => this.session.flush())
  }
  undo(): void {
    const own = this.session.log.findLast((entry) => entry.author === this.name)
    if (this.session.status !== 'open' || !own) return
    const inverse = this.session.inverseOf(own.uid)!
    try {
      this.made.push(this.session.make(inverse, 'undo', own.uid).uid)
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      return
    }
    void this.session.keep().then(() => this.session.flush())
  }
}

/** More of them: GEODROME_SESSIONS=20000. */
const RUNS = Number(process.env.GEODROME_SESSIONS ?? 1000)
const breath = (): Promise<void> => new Promise((resolve) => setImmediate(resolve))
/** Lets everything arrive, with streams that tell of what was missed, until nothing is on its way. */
const settle = async (world: World, tabs: readonly Tab[]): Promise<void> => {
  for (let round = 0; round < 400; round++) {
    await breath()
    if (world.arrive(0)) continue
    for (const tab of tabs) {
      if (tab.session.status === 'failed') tab.load()
      else await tab.session.receive(structuredClone(world.server.log))
      void tab.session.flush()
    }
    await breath()
    const isQuiet = tabs.every(
      ({ session: { status, pending, left } }) =>
        status !== 'opening' && pending.length === 0 && left.length === 0,
    )
    if (isQuiet && !world.arrive(0)) return
  }
  throw new Error('it never comes to rest')
}

const edits: readonly ((k: number) => Change)[] = [
  (k) => ({ kind: 'set', list: 'activities', key: `a${k % 4}`, set: { duration: 60 + k } }),
  (k) => ({ kind: 'set', list: 'activities', key: `a${k % 4}`, set: { name: `name ${k}` } }),
  (k) => ({ kind: 'remove', list: 'activities', key: `a${k % 4}` }),
  (k) => ({ kind: 'add', list: 'groups', item: { id: `g${k}` }, before: null }),
  (k) => ({ kind: 'project', set: { name: `plan ${k}` } }),
  (k) => ({ kind: 'remove', list: KEPT[k % 3]![0], key: KEPT[k % 3]![1] }),
  (k) => ({ kind: 'set', list: KEPT[k % 3]![0], key: KEPT[k % 3]![1], set: { name: `name ${k}` } }),
]
const action = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({
      what: fc.constant('edit' as const),
      tab: fc.nat(2),
      k: fc.nat(40),
      how: fc.nat(6),
    }),
  },
  { weight: 1, arbitrary: fc.record({ what: fc.constant('undo' as const), tab: fc.nat(2) }) },
  { weight: 9, arbitrary: fc.record({ what: fc.constant('arrive' as const), which: fc.nat(20) }) },
  { weight: 1, arbitrary: fc.record({ what: fc.constant('reload' as const), tab: fc.nat(2) }) },
  {
    weight: 2,
    arbitrary: fc.record({ what: fc.constant('told' as const), tab: fc.nat(2), from: fc.nat(6) }),
  },
  { weight: 1, arbitrary: fc.record({ what: fc.constant('fail' as const) }) },
)

describe('three tabs on one plan, with requests and answers lost, late and out of order', () => {
  it('come to the server’s plan, and no change is lost or made twice', async () => {
    let stored = 0
    let aside = 0
    await fc.assert(
      fc.asyncProperty(
        fc.array(action, { minLength: 10, maxLength: 60 }),
        fc.array(fc.constantFrom('none' as const, 'none' as const, 'request' as const, 'answer' as const), {
          minLength: 5,
          maxLength: 40,
        }),
        async (actions, losses) => {
          const world = new World()
          let at = 0
          let isCalm = true
          const loss = () => (isCalm ? 'none' : losses[at++ % losses.length]!)
          const tabs = ['Ana', 'Ben', 'Cleo'].map((name) => new Tab(world, name, loss))
          await settle(world, tabs)
          isCalm = false
          for (const step of actions) {
            await breath()
            if (step.what === 'edit') tabs[step.tab]!.edit(edits[step.how]!(step.k))
            else if (step.what === 'undo') tabs[step.tab]!.undo()
            else if (step.what === 'arrive') world.arrive(step.which)
            else if (step.what === 'reload') tabs[step.tab]!.load()
            else if (step.what === 'fail') world.server.failing = 1
            else void tabs[step.tab]!.session.receive(structuredClone(world.server.log.slice(-step.from - 1)))
          }
          isCalm = true
          await settle(world, tabs)
          const uids = world.server.log.map((entry) => entry.uid)
          expect(new Set(uids).size).toBe(uids.length)
          for (const tab of tabs) {
            expect(writePlan(tab.session.plan!)).toBe(writePlan(world.server.plan))
            expect(tab.session.revision).toBe(world.server.log.length + 1)
            const kept = tab.session.setAside.map((item) => item.uid)
            expect(tab.kept.setAside.map((item) => item.uid)).toEqual(kept)
            for (const uid of tab.made) expect(uids.includes(uid) !== kept.includes(uid), uid).toBe(true)
            stored += tab.made.length - kept.length
            aside += kept.length
          }
        },
      ),
      { numRuns: RUNS },
    )
    expect(stored).toBeGreaterThan(2 * RUNS)
    expect(aside).toBeGreaterThan(RUNS / 5)
  })
})

describe('a session', () => {
  const begin = async (): Promise<{
    world: World
    tab: Tab
    lost: { next: 'none' | 'request' | 'answer' }
  }> => {
    const world = new World()
    const lost = { next: 'none' as 'none' | 'request' | 'answer' }
    const tab = new Tab(world, 'Ana', () => lost.next)
    await settle(world, [tab])
    return { world, tab, lost }
  }
  const duration = (minutes: number): Change => ({
    kind: 'set',
    list: 'activities',
    key: 'a0',
    set: { duration: minutes },
  })

  it('keeps a refused change aside before it asks for what others did, and over the next edit', async () => {
    const { world, tab, lost } = await begin()
    world.server.send({ uid: 'theirs', client: 'x', author: 'Ben', base: 1, change: duration(99) })
    tab.edit(duration(70))
    await breath()
    // The answer 409 arrives, then the server is gone.
    world.arrive(0)
    lost.next = 'request'
    world.arrive(0)
    await breath()
    expect(tab.kept.setAside.map((item) => item.change)).toEqual([duration(70)])
    tab.edit({ kind: 'project', set: { name: 'Next' } })
    await breath()
    expect(tab.kept.setAside).toHaveLength(1)
    lost.next = 'none'
    await settle(world, [tab])
    expect(world.server.plan.project.name).toBe('Next')
    expect(tab.session.setAside[0]).toMatchObject({
      reason: 'changed meanwhile',
      theirs: [{ author: 'Ben' }],
    })
  })

  it('settles a change that was stored long ago, without asking again and again', async () => {
    const { world, tab, lost } = await begin()
    lost.next = 'answer'
    tab.edit(duration(70))
    await breath()
    world.arrive(0)
    tab.session.close()
    lost.next = 'none'
    for (let k = 0; k < 10; k++)
      world.server.send({
        uid: `other ${k}`,
        client: 'x',
        author: 'Ben',
        base: world.server.log.length + 1,
        change: { kind: 'project', set: { name: `${k}` } },
      })
    let sends = 0
    const send = world.server.send.bind(world.server)
    world.server.send = (sent) => (sends++, send(sent))
    tab.load()
    await settle(world, [tab])
    expect([sends, tab.session.pending.length, world.server.log.length]).toEqual([0, 0, 11])
    expect(writePlan(tab.session.plan!)).toBe(writePlan(world.server.plan))
  })

  it('sends where the browser keeps nothing, and says so', async () => {
    const { world, tab } = await begin()
    tab.keepsNothing = true
    tab.edit(duration(70))
    await settle(world, [tab])
    expect(world.server.plan.activities[0]!.duration).toBe(70)
    expect(tab.session.keeps).toBe(false)
    tab.load()
    await settle(world, [tab])
    expect([tab.session.status, tab.session.keeps]).toEqual(['open', false])
  })

  it('keeps what waits when the plan is removed, and says that it is', async () => {
    const { world, tab } = await begin()
    world.server.isRemoved = true
    tab.edit(duration(70))
    for (let k = 0; k < 20; k++) {
      await breath()
      world.arrive(0)
    }
    expect(tab.session).toMatchObject({ status: 'removed', failure: 'there is no such plan' })
    expect(tab.kept.pending.map((item) => item.change)).toEqual([duration(70)])
    tab.load()
    for (let k = 0; k < 20; k++) {
      await breath()
      world.arrive(0)
    }
    expect(tab.session).toMatchObject({ status: 'removed', pending: [{ change: duration(70) }] })
    world.server.isRemoved = false
    tab.load()
    await settle(world, [tab])
    expect(world.server.plan.activities[0]!.duration).toBe(70)
  })

  it('says that the plan is removed when it finds out by the stream alone', async () => {
    const { world, tab } = await begin()
    tab.session.streamLost()
    world.server.isRemoved = true
    tab.session.streamOpened()
    for (let k = 0; k < 6; k++) {
      await breath()
      world.arrive(0)
    }
    expect(tab.told).toBe('removed')
  })

  it('sets a change aside that the server always fails on, and sends what waits behind it', async () => {
    const { world, tab } = await begin()
    world.server.failing = 4
    tab.edit(duration(70))
    tab.edit({ kind: 'project', set: { name: 'Behind' } })
    await settle(world, [tab])
    expect(world.server.plan.project.name).toBe('Behind')
    expect(tab.session.setAside.map((item) => item.reason)).toEqual(['something went wrong'])
  })
})
