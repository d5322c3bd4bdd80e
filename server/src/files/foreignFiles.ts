import { PlanError } from '@geodrome/core'
import { BadRequestError } from '../errors.ts'
import { LimitedPool } from '../threads/limitedPool.ts'
import type { MemoryRoom } from '../threads/memoryRoom.ts'
import type { ForeignAnswer, ForeignTask, ReadPlanFile } from './foreignTask.ts'
import type { Sheet } from './readWorkbook.ts'

/** What one may take while it is read, of the memory for large work. */
const SHARE = 0.75

/** Reads files that come from anywhere, in a thread that is given up when one of them takes too much. */
export class ForeignFiles {
  /** Megabytes that one may take while it is read. */
  readonly mostMb: number
  private readonly pool: LimitedPool<ForeignTask, ForeignAnswer>

  constructor(room: MemoryRoom) {
    this.mostMb = Math.round(room.mb * SHARE)
    this.pool = new LimitedPool({
      task: new URL('./foreignTask', import.meta.url),
      threads: 1,
      waiting: 8,
      // What was read is large: the thread that has it goes, and its memory with it.
      idleSeconds: 0.5,
      memoryMb: this.mostMb,
      seconds: 20,
      words: {
        one: 'this file',
        mend: 'leave out what is not needed, or split it',
        many: 'many files are being read',
      },
    })
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

  stop(): Promise<void> {
    return this.pool.stop()
  }

  private async read(task: ForeignTask): Promise<ForeignAnswer> {
    // Handed over rather than copied, where it has its memory for itself.
    const { buffer } = task.file
    const isAlone = task.file.byteLength === buffer.byteLength && buffer instanceof ArrayBuffer
    const answer = await this.pool.run(task, isAlone ? { transferList: [buffer] } : {})
    if ('issues' in answer) throw new PlanError(answer.issues)
    if ('refused' in answer) throw new BadRequestError(answer.refused)
    return answer
  }
}
