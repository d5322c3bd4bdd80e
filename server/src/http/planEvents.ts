import type { Request, Response } from 'express'
import type { Logger } from 'pino'
import type { RunProgress, LoggedChange } from '@geodrome/core'
import type { PlanRepository } from '../db/planRepository.ts'

const POLL_MS = 1_000
const HEARTBEAT_MS = 20_000

interface Channel {
  readonly listeners: Set<Response>
  /** Last revision that was told. */
  revision: number
  fetching: Promise<void> | null
  again: boolean
}

/**
 * Tells every browser that has a plan open of each change, in order, without gaps: read from the log, so changes made through
 * another server on the same database are told as well.
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
      setInterval(() => this.everyone((response) => response.write(': still here\n\n')), HEARTBEAT_MS),
    ]
    this.timers.forEach((timer) => timer.unref())
  }

  /** Opens a stream that begins with the changes after `since`. */
  async open(id: string, since: number, request: Request, response: Response): Promise<void> {
    const missed = await this.plans.changesSince(id, since)
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      Connection: 'keep-alive',
    })
    response.write('retry: 1000\n\n')
    for (const change of missed) send(response, 'change', change)
    const last = missed.at(-1)?.revision ?? since
    const channel = this.channels.get(id) ?? {
      listeners: new Set(),
      revision: last,
      fetching: null,
      again: false,
    }
    this.channels.set(id, channel)
    // A newcomer may have read further than the channel has told: what it hears twice it knows by the revision.
    channel.revision = Math.min(channel.revision, last)
    channel.listeners.add(response)
    request.on('close', () => {
      channel.listeners.delete(response)
      if (channel.listeners.size === 0) this.channels.delete(id)
    })
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
    channel.fetching = this.fetch(id, channel)
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
    this.channels.get(progress.planId)?.listeners.forEach((response) => send(response, 'run', progress))
  }

  stop(): void {
    this.timers.forEach((timer) => clearInterval(timer))
    this.everyone((response) => response.end())
  }

  private async fetch(id: string, channel: Channel): Promise<void> {
    const changes: LoggedChange[] = await this.plans.changesSince(id, channel.revision)
    for (const change of changes) channel.listeners.forEach((response) => send(response, 'change', change))
    channel.revision = changes.at(-1)?.revision ?? channel.revision
  }

  private everyone(act: (response: Response) => void): void {
    for (const { listeners } of this.channels.values()) listeners.forEach(act)
  }
}

const send = (response: Response, event: string, data: unknown): void => {
  response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`)
}
