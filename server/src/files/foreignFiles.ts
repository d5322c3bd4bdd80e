import { Piscina } from 'piscina'
import { PlanError } from '@geodrome/core'
import { BadRequestError, BusyError } from '../errors.ts'
import type { ForeignAnswer, ForeignTask, ReadPlanFile } from './foreignTask.ts'
import type { Sheet } from './readWorkbook.ts'

/** What reading one file may take. */
const MOST_MEMORY_MB = 420
const MOST_SECONDS = 20
/** Files that may wait while one is read. */
const MOST_WAITING = 8

/** Reads files that come from anywhere, in a thread that is given up when one of them takes too much. */
export class ForeignFiles {
  private readonly pool: Piscina

  constructor() {
    const isSource = import.meta.url.endsWith('.ts')
    this.pool = new Piscina({
      filename: new URL(isSource ? './foreignTask.ts' : './foreignTask.js', import.meta.url).href,
      execArgv: isSource ? ['--conditions=development', '--import', 'tsx'] : [],
      minThreads: 0,
      maxThreads: 1,
      maxQueue: MOST_WAITING,
      idleTimeout: 10_000,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB, maxYoungGenerationSizeMb: 32 },
    })
    // Of a thread that died the task says so.
    this.pool.on('error', () => undefined)
  }

  /** @throws PlanError, BadRequestError, BusyError */
  async plan(file: Uint8Array): Promise<ReadPlanFile> {
    const answer = await this.read({ kind: 'plan', file })
    if (!('plan' in answer)) throw new BadRequestError('this is not a plan file')
    return answer.plan
  }

  /** @throws BadRequestError, BusyError */
  async workbook(file: Uint8Array): Promise<readonly Sheet[]> {
    const answer = await this.read({ kind: 'workbook', file })
    if (!('sheets' in answer)) throw new BadRequestError('this is not a workbook')
    return answer.sheets
  }

  async stop(): Promise<void> {
    await this.pool.destroy()
  }

  private async read(task: ForeignTask): Promise<ForeignAnswer> {
    const tooLong = new AbortController()
    const timer = setTimeout(() => tooLong.abort(), MOST_SECONDS * 1000)
    try {
      const answer = (await this.pool.run(task, { signal: tooLong.signal })) as ForeignAnswer
      if ('issues' in answer) throw new PlanError(answer.issues)
      if ('refused' in answer) throw new BadRequestError(answer.refused)
      return answer
    } catch (error) {
      if (tooLong.signal.aborted)
        throw new BadRequestError(
          `this file takes longer than ${MOST_SECONDS} seconds to read; leave out what is not needed, or split it`,
        )
      const { code, message } = error as { code?: string; message: string }
      if (code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new BadRequestError(
          `this file needs more memory than there is for one (${MOST_MEMORY_MB} MB); leave out what is not needed, or split it`,
        )
      if (message === 'Task queue is at limit')
        throw new BusyError('many files are being read just now; try again in a moment')
      throw error
    } finally {
      clearTimeout(timer)
    }
  }
}
