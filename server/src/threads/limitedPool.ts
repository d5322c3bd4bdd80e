import type { Transferable } from 'node:worker_threads'
import { Piscina } from 'piscina'
import { areTooMany, EXEC_ARGV, fileOf, takesTooLong, takesTooMuch, type Limits } from './limits.ts'

/** Threads in which work runs whose size nobody knows: one that takes too much is given up, and the server goes on. */
export class LimitedPool<Task, Answer> {
  private readonly pool: Piscina
  private readonly limits: Limits

  constructor(limits: Limits & { readonly threads: number }) {
    this.limits = limits
    this.pool = new Piscina({
      filename: fileOf(limits.task).href,
      execArgv: [...EXEC_ARGV],
      minThreads: 0,
      maxThreads: limits.threads,
      maxQueue: limits.waiting,
      idleTimeout: limits.idleSeconds * 1000,
      resourceLimits: { maxOldGenerationSizeMb: limits.memoryMb, maxYoungGenerationSizeMb: 12 },
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
    const tooLong = AbortSignal.timeout(this.limits.seconds * 1000)
    try {
      return (await this.pool.run(task, {
        signal: gone ? AbortSignal.any([gone, tooLong]) : tooLong,
        ...(transferList && { transferList: [...transferList] as never }),
      })) as Answer
    } catch (error) {
      if (tooLong.aborted) throw takesTooLong(this.limits, error)
      const { code, message } = error as { code?: string; message: string }
      if (code === 'ERR_WORKER_OUT_OF_MEMORY') throw takesTooMuch(this.limits, error)
      if (message === 'Task queue is at limit') throw areTooMany(this.limits, error)
      throw error
    }
  }

  async stop(): Promise<void> {
    await this.pool.destroy()
  }
}
