import { MessageChannel } from 'node:worker_threads'
import type { Plan, PlanFacts, ReportLine, ReportOptions } from '@geodrome/core'
import { BadRequestError } from '../errors.ts'
import { LimitedPool } from '../threads/limitedPool.ts'
import type { MemoryRoom } from '../threads/memoryRoom.ts'
import type { AnalysisTask, ReportAnswer } from './analysisTask.ts'

/** Megabytes that are expected of one: by itself and by activity. */
const REPORT_MB = 100
const REPORT_ROW_MB = 0.08
const FACTS_MB = 30
const FACTS_ROW_MB = 0.01

/** Reports and reviews plans in threads of its own; what nobody waits for any more is given up. */
export class Analyst {
  private readonly pool: LimitedPool<AnalysisTask, ReportAnswer | PlanFacts>
  private readonly room: MemoryRoom

  constructor(room: MemoryRoom) {
    this.room = room
    this.pool = new LimitedPool({
      task: new URL('./analysisTask', import.meta.url),
      threads: 2,
      waiting: 64,
      idleSeconds: 30,
      memoryMb: room.mb,
      seconds: 180,
      words: {
        one: 'this report',
        mend: 'choose fewer parts or iterations',
        many: 'many reports are being made',
      },
    })
  }

  /**
   * @param heard - told how far it is
   * @param gone - nobody waits for it any more
   * @throws BadRequestError, BusyError
   */
  async report(
    asked: { readonly plan: Plan; readonly options: ReportOptions; readonly to: 'pdf' | 'html' },
    heard: (line: ReportLine) => void,
    gone: AbortSignal,
  ): Promise<Uint8Array> {
    const giveBack = await this.room.wait(REPORT_MB + asked.plan.activities.length * REPORT_ROW_MB)
    const { port1, port2 } = new MessageChannel()
    // What it says last may come after its answer: null ends it.
    const heardAll = new Promise<void>((resolve) =>
      port1.on('message', (line: ReportLine | null) => (line === null ? resolve() : heard(line))),
    )
    try {
      const answer = (await this.pool.run(
        { kind: 'report', ...asked, port: port2 },
        { gone, transferList: [port2] },
      )) as ReportAnswer
      await heardAll
      if ('refused' in answer) throw new BadRequestError(answer.refused)
      return answer.file
    } finally {
      port1.close()
      giveBack()
    }
  }

  /** What the list of plans says of one. */
  async facts(plan: Plan): Promise<PlanFacts> {
    const giveBack = await this.room.wait(FACTS_MB + plan.activities.length * FACTS_ROW_MB)
    try {
      return (await this.pool.run({ kind: 'facts', plan })) as PlanFacts
    } finally {
      giveBack()
    }
  }

  stop(): Promise<void> {
    return this.pool.stop()
  }
}
