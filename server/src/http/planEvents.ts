import type { Response } from 'express'
import type { Logger } from 'pino'
import type { RunProgress } from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'
import { BusyError } from '../errors.ts'

const POLL_MS = 1_000
const HEARTBEAT_MS = 20_000
/** Streams that are open at once. */
const MOST_STREAMS = 300
/** Bytes that a listener may leave unread before it is told no more: it is told the rest when it has read them. */
const MOST_UNREAD = 256 * 1024
/** How long it may take to read them. */
const PATIENCE_MS = 60_000

interface Listener {
  readonly response: Response
  /** Whether it still may be told. */
  readonly may: () => Promise<boolean>
  /** Last revision that it was told. */
  revision: number
  /** Since when it reads nothing, though there is more; null while it reads. */
  stuckSince: number | null
}
interface Channel {
  readonly listeners: Set<Listener>
  fetching: Promise<void> | null
  again: boolean
}

/**
 * Tells every browser that has a plan open of each change, in order, without gaps: read from the log page by page, so changes made
 * through another server on the same database are told as well. Who does not read is not written to, and in the end let go.
 */
export class PlanEvents {
  private readonly plans: PlanRepository
  private readonly log: Logger
  private readonly channels = new Map<string, Channel>()
  private readonly timers: NodeJS.Timeout[]

  constructor(plans: PlanRepository, log: Logger) {
    this.plans = plans
    this.log = log
    this.timers = [
      setInterval(() => [...this.channels.keys()].forEach((id) => this.poke(id)), POLL_MS),
      setInterval(() => {
        this.beat()
        this.askAgain()
      }, HEARTBEAT_MS),
    ]
    this.timers.forEach((timer) => timer.unref())
  }

  /** Opens a stream that begins with the changes after `since`. @param may - asked again now and then @throws BusyError */
  open(id: string, since: number, response: Response, may: Listener['may']): void {
    if (this.count() >= MOST_STREAMS)
      throw new BusyError(`${MOST_STREAMS} pages listen already; close some of them`)
    // Gone before it began: nothing would ever close it.
    if (response.closed || response.destroyed) return
    const channel = this.channels.get(id) ?? { listeners: new Set(), fetching: null, again: false }
    const listener: Listener = { response, may, revision: since, stuckSince: null }
    this.channels.set(id, channel)
    channel.listeners.add(listener)
    response.on('close', () => {
      channel.listeners.delete(listener)
      if (channel.listeners.size === 0 && this.channels.get(id) === channel) this.channels.delete(id)
    })
    response.on('drain', () => this.poke(id))
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      Connection: 'keep-alive',
    })
    response.write('retry: 1000\n\n')
    this.poke(id)
  }

  /** Looks for new changes of a plan now. */
  poke(id: string): void {
    const channel = this.channels.get(id)
    if (!channel) return
    if (channel.fetching) {
      channel.again = true
      return
    }
    channel.fetching = this.tell(id, channel)
      .catch((error: unknown) => this.log.warn({ err: error as Error }, 'changes could not be read'))
      .finally(() => {
        channel.fetching = null
        if (channel.again) {
          channel.again = false
          this.poke(id)
        }
      })
  }

  tellRun(progress: RunProgress): void {
    for (const listener of this.channels.get(progress.planId)?.listeners ?? [])
      if (reads(listener)) send(listener.response, 'run', progress)
  }

  /** Lets go whoever may not be told any more: signed out, or without a part in the plan. */
  askAgain(): void {
    for (const { listeners } of this.channels.values())
      for (const { response, may } of listeners)
        may().then(
          (still) => void (still || response.end()),
          (error: unknown) => this.log.warn({ err: error as Error }, 'who listens could not be looked up'),
        )
  }

  stop(): void {
    this.timers.forEach((timer) => clearInterval(timer))
    for (const { listeners } of this.channels.values()) listeners.forEach(({ response }) => response.end())
  }

  /** How many pages listen. */
  count(): number {
    return [...this.channels.values()].reduce((sum, { listeners }) => sum + listeners.size, 0)
  }

  /** Tells whoever reads the next page, for as long as there is one. */
  private async tell(id: string, channel: Channel): Promise<void> {
    for (;;) {
      const ready = [...channel.listeners].filter(reads)
      if (ready.length === 0) return
      const told = Math.min(...ready.map(({ revision }) => revision))
      const page = await this.plans.changesSince(id, told)
      if (page.length === 0) return
      for (const change of page) {
        const text = eventText('change', change, change.revision)
        for (const listener of ready) {
          if (listener.revision >= change.revision) continue
          listener.revision = change.revision
          listener.response.write(text)
        }
      }
    }
  }

  private beat(): void {
    for (const { listeners } of this.channels.values())
      for (const listener of listeners) {
        if (reads(listener)) listener.response.write(': still here\n\n')
        else if (Date.now() - (listener.stuckSince ?? Date.now()) > PATIENCE_MS) listener.response.destroy()
      }
  }
}

/** Whether a listener has read enough of what it was told to be told more. */
const reads = (listener: Listener): boolean => {
  const isReading = !listener.response.destroyed && listener.response.writableLength < MOST_UNREAD
  listener.stuckSince = isReading ? null : (listener.stuckSince ?? Date.now())
  return isReading
}

const eventText = (event: string, data: unknown, id?: number): string =>
  `${id === undefined ? '' : `id: ${id}\n`}event: ${event}\ndata: ${JSON.stringify(data)}\n\n`

const send = (response: Response, event: string, data: unknown): void => {
  response.write(eventText(event, data))
}
