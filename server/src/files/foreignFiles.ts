import { PlanError } from '@geodrome/core'
import { BadRequestError } from '../errors.ts'
import { LimitedPool } from '../threads/limitedPool.ts'
import type { ForeignAnswer, ForeignTask, ReadPlanFile } from './foreignTask.ts'
import type { Sheet } from './readWorkbook.ts'

/** Reads files that come from anywhere, in a thread that is given up when one of them takes too much. */
export class ForeignFiles {
  private readonly pool = new LimitedPool<ForeignTask, ForeignAnswer>({
    task: new URL('./foreignTask', import.meta.url),
    threads: 1,
    waiting: 8,
    idleSeconds: 10,
    memoryMb: 420,
    seconds: 20,
    words: {
      one: 'this file',
      mend: 'leave out what is not needed, or split it',
      many: 'many files are being read',
    },
  })

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

  stop(): Promise<void> {
    return this.pool.stop()
  }

  private async read(task: ForeignTask): Promise<ForeignAnswer> {
    const answer = await this.pool.run(task)
    if ('issues' in answer) throw new PlanError(answer.issues)
    if ('refused' in answer) throw new BadRequestError(answer.refused)
    return answer
  }
}
