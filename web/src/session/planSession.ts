import {
  applyChange,
  applyUnchecked,
  describeChange,
  keyOf,
  PlanError,
  SAID_IN,
  type Change,
  type Keeper,
  type LoggedChange,
  type Plan,
  type Role,
} from '@geodrome/core'
import { ApiError, OfflineError } from '../api/client.ts'
import type { Identity, Outbox, PendingChange, SetAside, Transport } from './sessionPorts.ts'

/** Before the server is asked again, one after the other. */
const RETRY_MS = [500, 1000, 2000, 4000, 8000]
/** Baselines and periods that are read one after the other before they are put into the plan together. */
const AT_ONCE = 8
/** How long a plan is given to be drawn when it is opened. */
const SEEN_MS = 2000
/** After so many errors of the server's own a change is set aside, and what waits behind it goes on. */
const MOST_TRIES = 4

/** What happened to the plan: the waiting changes made or rebuilt it, or others changed it. */
export type SessionEvent =
  | { readonly kind: 'opened' }
  /** One change on top of what was there: made here, or by others while nothing of one's own waited. */
  | { readonly kind: 'changed'; readonly change: Change; readonly by: PendingChange | LoggedChange }
  /** What did not come with the plan is there. */
  | { readonly kind: 'filled'; readonly change: Change }
  /** Built anew: waiting changes were put on top of others', or some no longer fit. */
  | { readonly kind: 'rebuilt'; readonly by: LoggedChange | null }

export interface SessionHost {
  readonly transport: Transport
  readonly outbox: Outbox
  readonly identity: Identity
  /** Runs something later. @returns what calls it off */
  readonly later: (run: () => void, ms: number) => () => void
  /** Called after each event that changes the plan, once everything in the session is as it will be. */
  readonly onEvent: (event: SessionEvent) => void
  /** Called after anything else: what waits, what is stored, whether the server is there. */
  readonly onState: () => void
}

/**
 * An open plan as this tab has it: what the server has confirmed, the changes waiting on top of it, and the sending of them, in
 * order, until the server says that they are committed. Knows no framework, no network and no clock: they are given to it.
 *
 * It holds to four things, which planSession.model.test.ts tries with three clients under loss and reordering:
 * - a change made here is in the log once, waits, or is set aside with the reason: never nowhere;
 * - whatever leaves the waiting list is kept elsewhere first;
 * - with nothing waiting, the plan is the server's at that revision;
 * - no answer of the server makes it ask again without a pause.
 */
export class PlanSession {
  readonly planId: string
  status: 'opening' | 'open' | 'failed' | 'removed' | 'closed' = 'opening'
  failure = ''
  confirmed: Plan | null = null
  revision = 0
  /** What who looks is in it. */
  role: Role = 'administrator'
  /** Stored changes that are here, oldest first. */
  log: readonly LoggedChange[] = []
  pending: readonly PendingChange[] = []
  setAside: readonly SetAside[] = []
  /** The confirmed plan with the waiting changes on it. */
  plan: Plan | null = null
  connection: 'online' | 'offline' = 'online'
  /** Baselines and periods whose entries are still on their way. */
  left: readonly (readonly [Keeper, string])[] = []
  /** Whether what waits would survive a reload. */
  keeps = true
  storedAt: Date | null = null

  private readonly host: SessionHost
  private sending = false
  private retry = 0
  private callOff: (() => void) | null = null
  private readonly failures = new Map<string, number>()

  constructor(planId: string, host: SessionHost) {
    this.planId = planId
    this.host = host
  }

  async open(): Promise<void> {
    const reading = this.readOutbox()
    try {
      const [opened, kept] = await Promise.all([this.host.transport.open(this.planId), reading])
      const uids = kept.pending.map((item) => item.uid)
      const stored = uids.length === 0 ? [] : await this.host.transport.stored(this.planId, uids)
      if (this.isClosed) return
      // All at once: until then nothing is heard, and nothing kept is written over.
      this.confirmed = opened.plan
      this.revision = opened.revision
      this.log = [...opened.changes].reverse()
      this.pending = kept.pending.filter((item) => !stored.includes(item.uid))
      this.setAside = kept.setAside
      this.left = opened.left
      this.role = opened.role
      this.status = 'open'
      this.build()
      this.host.onEvent({ kind: 'opened' })
      void this.flush()
      // Once the plan is seen: until then it would only be slower.
      if (this.left.length > 0) this.host.later(() => void this.readLeft(), SEEN_MS)
    } catch (error) {
      // What waits is counted even where it has nothing to stand on.
      const { pending, setAside } = await reading
      if (this.isClosed) return
      this.pending = pending
      this.setAside = setAside
      this.status = isGone(error) ? 'removed' : 'failed'
      this.failure = (error as Error).message
      this.host.onState()
    }
  }

  /** Reads what did not come with the plan, some at a time; where the server is away, later. */
  private async readLeft(): Promise<void> {
    while (this.left.length > 0 && this.status === 'open') {
      const some = this.left.slice(0, AT_ONCE)
      const said: Change[] = []
      try {
        for (const [list, key] of some) {
          const item = await this.host.transport.said(this.planId, list, key).catch((error: unknown) => {
            // It was taken away meanwhile.
            if (isGone(error)) return null
            throw error
          })
          if (item) said.push({ kind: 'set', list, key, set: { [SAID_IN[list]]: item } })
        }
      } catch (error) {
        if (!(error instanceof OfflineError || error instanceof ApiError)) throw error
        this.host.later(() => void this.readLeft(), RETRY_MS.at(-1)!)
        return
      }
      if (this.status !== 'open') return
      this.left = this.left.slice(some.length)
      this.fill(said)
    }
  }
  /** Puts what was read into what is confirmed, and the waiting changes on top of it again. */
  private fill(said: readonly Change[]): void {
    const here = said.filter(
      (one) =>
        one.kind === 'set' && this.confirmed![one.list].some((item) => keyOf(one.list, item) === one.key),
    )
    const change: Change = { kind: 'all', changes: here }
    this.confirmed = applyUnchecked(this.confirmed!, change).plan
    this.build()
    // Where a waiting change took one of them away, what is in view cannot be filled in by itself.
    const isWhole = this.pending.length === 0
    this.host.onEvent(isWhole ? { kind: 'filled', change } : { kind: 'rebuilt', by: null })
  }

  /** Nothing is sent or heard any more; what waits stays in the outbox. */
  close(): void {
    this.status = 'closed'
    this.callOff?.()
  }
  private get isClosed(): boolean {
    return this.status === 'closed'
  }

  /**
   * Makes a change here. It waits until {@link flush}.
   * @throws PlanError if it breaks a rule; nothing is then changed
   */
  make(change: Change, label: string, undoes: string | null): PendingChange {
    const applied = applyChange(this.plan!, change)
    const { client, author, newUid } = this.host.identity
    const item: PendingChange = {
      uid: newUid(),
      client,
      author: author(),
      base: this.revision,
      change,
      undoes,
      label,
    }
    this.plan = applied.plan
    this.pending = [...this.pending, item]
    this.host.onEvent({ kind: 'changed', change, by: item })
    return item
  }

  /** Puts what waits where a reload finds it. A browser that keeps nothing is no reason not to send. */
  async keep(): Promise<void> {
    const kept = await this.host.outbox
      .write(this.planId, { pending: this.pending, setAside: this.setAside })
      .then(
        () => true,
        () => false,
      )
    if (kept === this.keeps) return
    this.keeps = kept
    this.host.onState()
  }

  /** Sends waiting changes in order, one at a time; each counts as stored when the server says that it is committed. */
  async flush(): Promise<void> {
    if (this.sending || this.status !== 'open') return
    this.sending = true
    try {
      while (this.pending.length > 0 && this.status === 'open') {
        const item = this.pending[0]!
        let entry: LoggedChange
        try {
          entry = await this.send(item)
        } catch (error) {
          if (this.isClosed || !(await this.goesOnAfter(item, error))) return
          continue
        }
        if (this.isClosed) return
        this.connection = 'online'
        this.retry = 0
        this.storedAt = new Date(entry.at)
        await this.receive([entry])
      }
    } finally {
      this.sending = false
      if (!this.isClosed) this.host.onState()
    }
  }

  private send({ uid, client, author, base, change, undoes }: PendingChange): Promise<LoggedChange> {
    const what = undoes === null ? { change } : { undoes }
    return this.host.transport.send(this.planId, { uid, client, author, base, ...what })
  }

  /** What a refused or lost change means. @returns whether the next one is sent at once */
  private async goesOnAfter(item: PendingChange, error: unknown): Promise<boolean> {
    if (error instanceof OfflineError) return this.tryLater()
    if (!(error instanceof ApiError)) throw error
    if (error.status >= 500) {
      const count = (this.failures.get(item.uid) ?? 0) + 1
      this.failures.set(item.uid, count)
      if (error.status === 503 || count < MOST_TRIES) return this.tryLater()
    }
    if (error.status === 404 && !(await this.isThere())) return false
    // Kept aside before it leaves the waiting list, and both before anything else is asked of the server.
    this.putAside(item, error.message, error.theirs)
    this.pending = this.pending.filter((waiting) => waiting.uid !== item.uid)
    this.build()
    await this.keep()
    if (this.isClosed) return false
    this.host.onEvent({ kind: 'rebuilt', by: null })
    await this.catchUp()
    return true
  }

  private tryLater(): false {
    this.connection = 'offline'
    this.callOff?.()
    const wait = RETRY_MS[Math.min(this.retry++, RETRY_MS.length - 1)]!
    this.callOff = this.host.later(() => void this.flush(), wait)
    return false
  }

  /** Whether the plan still exists: a 404 may also mean the change that was to be taken back. */
  private async isThere(): Promise<boolean> {
    try {
      await this.host.transport.changesSince(this.planId, this.revision)
      return true
    } catch (error) {
      if (!isGone(error)) return true
      this.status = 'removed'
      this.failure = (error as Error).message
      return false
    }
  }

  /** Fetches what others did since. Where that fails it comes with the stream, or the next time. */
  async catchUp(): Promise<void> {
    try {
      // They come in pages; the last one is empty.
      for (let before = -1; before < this.revision && !this.isClosed;) {
        before = this.revision
        const entries = await this.host.transport.changesSince(this.planId, before)
        if (!this.isClosed) await this.receive(entries)
      }
    } catch (error) {
      if (error instanceof OfflineError || (error instanceof ApiError && error.status >= 500))
        this.connection = 'offline'
      else if (isGone(error)) {
        this.status = 'removed'
        this.failure = (error as Error).message
      } else throw error
      this.host.onState()
    }
  }

  /** Takes stored changes in, in the order of their revisions; own ones leave the waiting list, however late they are heard of. */
  async receive(entries: readonly LoggedChange[]): Promise<void> {
    if (this.status !== 'open' || this.confirmed === null) return
    const foreign: LoggedChange[] = []
    const hadPending = this.pending.length > 0
    let isGap = false
    let isToBuild = false
    for (const entry of entries) {
      const own = this.pending.find((item) => item.uid === entry.uid)
      if (entry.revision <= this.revision) {
        // It was stored before this tab opened, or was heard of twice: what is confirmed has it already.
        if (own) {
          this.settle(entry.uid)
          isToBuild = true
        }
        continue
      }
      isGap = entry.revision > this.revision + 1
      if (isGap) break
      // What alone waited here, and was made of what is confirmed, is what the plan has on top of it: it need not be made again.
      const isMade =
        own !== undefined &&
        this.pending.length === 1 &&
        own.undoes === null &&
        own.base === this.revision &&
        foreign.length === 0
      this.confirmed = isMade ? this.plan! : applyUnchecked(this.confirmed, entry.change).plan
      this.revision = entry.revision
      this.log = [...this.log, entry]
      if (!own) foreign.push(entry)
      else if (this.pending[0] !== own) isToBuild = true
      this.settle(entry.uid)
    }
    const last = foreign.at(-1)
    if (last && !hadPending) {
      this.plan = this.confirmed
      const change: Change =
        foreign.length === 1 ? last.change : { kind: 'all', changes: foreign.map((entry) => entry.change) }
      this.host.onEvent({ kind: 'changed', change, by: last })
    } else if (last || isToBuild) {
      this.build()
      this.host.onEvent({ kind: 'rebuilt', by: last ?? null })
    } else this.host.onState()
    await this.keep()
    // What came between is fetched, once what came before it is in view.
    if (isGap) await this.catchUp()
  }

  /** A change that is stored neither waits nor is set aside: it may have been on its way when it no longer seemed to fit. */
  private settle(uid: string): void {
    this.pending = this.pending.filter((item) => item.uid !== uid)
    this.setAside = this.setAside.filter((item) => item.uid !== uid)
    this.failures.delete(uid)
  }

  /** Puts the waiting changes on the confirmed plan; those that no longer fit are set aside, not lost. */
  private build(): void {
    let at = this.confirmed!
    const fitting: PendingChange[] = []
    for (const item of this.pending) {
      try {
        at = applyChange(at, item.change).plan
        fitting.push(item)
      } catch (error) {
        if (!(error instanceof PlanError)) throw error
        this.putAside(item, error.issues[0]!.message, [])
      }
    }
    if (fitting.length < this.pending.length) this.pending = fitting
    this.plan = at
  }

  private putAside(item: PendingChange, reason: string, theirs: readonly LoggedChange[]): void {
    const words = theirs.map((entry) => ({ author: entry.author, label: this.describe(entry) }))
    this.setAside = [...this.setAside, { ...item, reason, theirs: words }]
  }

  /** Decides about a change that was refused: put on top of theirs, or dropped. */
  resolveSetAside(uid: string, how: 'mine' | 'theirs'): void {
    const item = this.setAside.find((aside) => aside.uid === uid)
    if (!item) return
    const others = this.setAside.filter((aside) => aside.uid !== uid)
    if (how === 'theirs') this.setAside = others
    else {
      try {
        this.make(item.change, item.label, null)
        this.setAside = others
      } catch (error) {
        if (!(error instanceof PlanError)) throw error
        this.setAside = [...others, { ...item, reason: error.issues[0]!.message }]
      }
    }
    this.host.onState()
    void this.keep().then(() => this.flush())
  }

  /** What takes a change back, stored or waiting; null where it is not here. */
  inverseOf(uid: string): Change | null {
    const stored = this.log.find((entry) => entry.uid === uid)
    if (stored) return stored.inverse
    let at = this.confirmed!
    for (const item of this.pending) {
      const applied = applyUnchecked(at, item.change)
      if (item.uid === uid) return applied.inverse
      at = applied.plan
    }
    return null
  }

  /** Whether changes were made before those that are here. */
  get hasEarlier(): boolean {
    return (this.log[0]?.revision ?? 2) > 2
  }
  /** Fetches a page of earlier changes: what is listed and can be undone has no end but the first. @returns whether there was one */
  async loadEarlier(): Promise<boolean> {
    const first = this.log[0]
    if (!first) return false
    try {
      const page = await this.host.transport.changesBefore(this.planId, first.revision)
      if (this.isClosed || this.log[0] !== first) return false
      this.log = [...[...page].reverse(), ...this.log]
      this.host.onState()
      return page.length > 0
    } catch (error) {
      if (!(error instanceof OfflineError)) throw error
      this.connection = 'offline'
      this.host.onState()
      return false
    }
  }

  /** The stream of others' changes was lost. */
  streamLost(): void {
    this.connection = 'offline'
    this.host.onState()
  }
  /** The stream is there, again or for the first time. */
  streamOpened(): void {
    const wasOffline = this.connection === 'offline'
    this.connection = 'online'
    this.host.onState()
    if (wasOffline) void this.catchUp().then(() => this.flush())
  }

  /** A stored change in words, described on the plan as it was before. */
  describe(entry: LoggedChange): string {
    try {
      return describeChange(applyUnchecked(this.confirmed!, entry.inverse).plan, entry.change)
    } catch (error) {
      if (!(error instanceof PlanError)) throw error
      return describeChange(this.confirmed!, entry.change)
    }
  }

  private async readOutbox(): Promise<{ pending: readonly PendingChange[]; setAside: readonly SetAside[] }> {
    try {
      return await this.host.outbox.read(this.planId)
    } catch {
      this.keeps = false
      return { pending: [], setAside: [] }
    }
  }
}

const isGone = (error: unknown): boolean => error instanceof ApiError && error.status === 404
