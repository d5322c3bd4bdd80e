import { MessageChannel } from 'node:worker_threads'
import { Piscina } from 'piscina'
import { type Plan, type PlanFacts, type ReportLine, type ReportOptions } from '@geodrome/core'
import { BadRequestError, BusyError } from '../errors.ts'
import type { AnalysisTask, ReportAnswer } from './analysisTask.ts'

/** What making one report may take. */
const MOST_MEMORY_MB = 420
const MOST_SECONDS = 180
/** What may wait while others are made. */
const MOST_WAITING = 64

/** Reports and reviews plans in threads of its own; what nobody waits for any more is given up. */
export class Analyst {
  private readonly pool: Piscina

  constructor() {
    const isSource = import.meta.url.endsWith('.ts')
    this.pool = new Piscina({
      filename: new URL(isSource ? './analysisTask.ts' : './analysisTask.js', import.meta.url).href,
      execArgv: isSource ? ['--conditions=development', '--import', 'tsx'] : [],
      minThreads: 0,
      maxThreads: 2,
      maxQueue: MOST_WAITING,
      idleTimeout: 30_000,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB, maxYoungGenerationSizeMb: 64 },
    })
    // Of a thread that died the task says so.
    this.pool.on('error', () => undefined)
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
    const { port1, port2 } = new MessageChannel()
    // What it says last may come after its answer: null ends it.
    const heardAll = new Promise<void>((resolve) =>
      port1.on('message', (line: ReportLine | null) => (line === null ? resolve() : heard(line))),
    )
    const tooLong = AbortSignal.timeout(MOST_SECONDS * 1000)
    const task: AnalysisTask = { kind: 'report', ...asked, port: port2 }
    try {
      const answer = (await this.pool.run(task, {
        signal: AbortSignal.any([gone, tooLong]),
        transferList: [port2],
      })) as ReportAnswer
      await heardAll
      if ('refused' in answer) throw new BadRequestError(answer.refused)
      return answer.file
    } catch (error) {
      if (tooLong.aborted)
        throw new BadRequestError(
          `this report takes longer than ${MOST_SECONDS} seconds; choose fewer parts or iterations`,
        )
      const { code, message } = error as { code?: string; message: string }
      if (code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new BadRequestError(
          `this report needs more memory than there is for one (${MOST_MEMORY_MB} MB); choose fewer parts or iterations`,
        )
      if (message === 'Task queue is at limit')
        throw new BusyError('many reports are being made just now; try again in a moment')
      throw error
    } finally {
      port1.close()
    }
  }

  /** What the list of plans says of one. */
  async facts(plan: Plan): Promise<PlanFacts> {
    return (await this.pool.run({ kind: 'facts', plan } satisfies AnalysisTask)) as PlanFacts
  }

  async stop(): Promise<void> {
    await this.pool.destroy()
  }
}
