import type { Transferable } from 'node:worker_threads'
import { Piscina } from 'piscina'
import { BadRequestError, BusyError } from '../errors.ts'

export interface PoolLimits {
  /** Where the task stands, without its ending: as source or as it was built. */
  readonly task: URL
  readonly threads: number
  /** What may wait while others run. */
  readonly waiting: number
  readonly idleSeconds: number
  /** What one task may take. */
  readonly memoryMb: number
  readonly seconds: number
  /** How it is said that there is too much of it: what takes too much, how to mend it, and what many are doing. */
  readonly words: { readonly one: string; readonly mend: string; readonly many: string }
}

/** Threads in which work runs whose size nobody knows: one that takes too much is given up, and the server goes on. */
export class LimitedPool<Task, Answer> {
  private readonly pool: Piscina
  private readonly limits: PoolLimits

  constructor(limits: PoolLimits) {
    this.limits = limits
    const isSource = import.meta.url.endsWith('.ts')
    this.pool = new Piscina({
      filename: `${limits.task.href}${isSource ? '.ts' : '.js'}`,
      execArgv: isSource ? ['--conditions=development', '--import', 'tsx'] : [],
      minThreads: 0,
      maxThreads: limits.threads,
      maxQueue: limits.waiting,
      idleTimeout: limits.idleSeconds * 1000,
      resourceLimits: { maxOldGenerationSizeMb: limits.memoryMb, maxYoungGenerationSizeMb: 32 },
    })
    // Of a thread that died the task says so.
    this.pool.on('error', () => undefined)
  }

  /**
   * @param gone - nobody waits for it any more
   * @throws BadRequestError where it takes too much; BusyError where too much waits
   */
  async run(
    task: Task,
    { gone, transferList }: { gone?: AbortSignal; transferList?: readonly Transferable[] } = {},
  ): Promise<Answer> {
    const { seconds, memoryMb, words } = this.limits
    const tooLong = AbortSignal.timeout(seconds * 1000)
    try {
      return (await this.pool.run(task, {
        signal: gone ? AbortSignal.any([gone, tooLong]) : tooLong,
        ...(transferList && { transferList: [...transferList] as never }),
      })) as Answer
    } catch (error) {
      if (tooLong.aborted)
        throw new BadRequestError(`${words.one} takes longer than ${seconds} seconds; ${words.mend}`, {
          cause: error,
        })
      const { code, message } = error as { code?: string; message: string }
      if (code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new BadRequestError(
          `${words.one} needs more memory than there is for one (${memoryMb} MB); ${words.mend}`,
          { cause: error },
        )
      if (message === 'Task queue is at limit')
        throw new BusyError(`${words.many} just now; try again in a moment`, { cause: error })
      throw error
    }
  }

  async stop(): Promise<void> {
    await this.pool.destroy()
  }
}
