import { PlanError } from '@geodrome/core'
import { BadRequestError } from '../errors.ts'
import { LimitedProcess } from '../threads/limitedProcess.ts'
import type { MemoryRoom } from '../threads/memoryRoom.ts'
import type { ForeignAnswer, ForeignKind, ReadPlanFile } from './foreignTask.ts'
import type { Sheet } from './readWorkbook.ts'

/** What one may take while it is read, of the memory for large work. */
const SHARE = 0.75
/** What a process takes before it has read anything. */
const BARE_MB = 50

/** Reads files that come from anywhere, in a process that is given up when one of them takes too much. */
export class ForeignFiles {
  /** Megabytes that one may take while it is read. */
  readonly mostMb: number
  private readonly process: LimitedProcess<ForeignAnswer>

  constructor(room: MemoryRoom) {
    this.mostMb = Math.round(room.mb * SHARE)
    this.process = new LimitedProcess({
      task: new URL('./foreignTask', import.meta.url),
      waiting: 8,
      idleSeconds: 5,
      memoryMb: this.mostMb - BARE_MB,
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
    const answer = await this.read('plan', file)
    if (!('plan' in answer)) throw new BadRequestError('this is not a plan file')
    return answer.plan
  }

  /** @throws BadRequestError, BusyError */
  async workbook(file: Uint8Array): Promise<readonly Sheet[]> {
    const answer = await this.read('workbook', file)
    if (!('sheets' in answer)) throw new BadRequestError('this is not a workbook')
    return answer.sheets
  }

  stop(): Promise<void> {
    return this.process.stop()
  }

  private async read(kind: ForeignKind, file: Uint8Array): Promise<ForeignAnswer> {
    const answer = await this.process.run(kind, file)
    if ('issues' in answer) throw new PlanError(answer.issues)
    if ('refused' in answer) throw new BadRequestError(answer.refused)
    return answer
  }
}
