import { availableParallelism } from 'node:os'
import { Piscina } from 'piscina'
import type { Logger } from 'pino'
import {
  CalendarError,
  scenarioPlan,
  writePlan,
  runInputSchema,
  type IterationRange,
  type JobProgress,
  type PartialResult,
  type RunResult,
  type SimulationOptions,
} from '@geodrome/core'
import type { ClaimedJob, Job, JobRepository } from '../db/jobRepository.ts'
import type { PlanRepository } from '../db/planRepository.ts'
import { partialResult, plannedFinish, shareableText, type SimulationTask } from './simulationTask.ts'

/** Values that one run may hold: activities × iterations. */
const MAX_VALUES = 60_000_000
const CLAIM_EVERY_MS = 2_000
const REPORT_EVERY_MS = 150

/** Claims jobs and runs them on a pool of worker threads, several servers beside each other if need be. */
export class JobRunner {
  private readonly pool: Piscina
  private readonly jobs: JobRepository
  private readonly plans: PlanRepository
  private readonly log: Logger
  private readonly announce: (progress: JobProgress) => void
  private readonly timer: NodeJS.Timeout
  private readonly cancelled = new Set<string>()
  private busy: Promise<void> | null = null
  private stopped = false

  constructor(
    jobs: JobRepository,
    plans: PlanRepository,
    log: Logger,
    announce: (progress: JobProgress) => void,
  ) {
    this.jobs = jobs
    this.plans = plans
    this.log = log
    this.announce = announce
    const isSource = import.meta.url.endsWith('.ts')
    this.pool = new Piscina({
      filename: new URL(isSource ? './simulationTask.ts' : './simulationTask.js', import.meta.url).href,
      execArgv: isSource ? ['--conditions=development', '--import', 'tsx'] : [],
      minThreads: 0,
      maxThreads: Math.max(2, availableParallelism()),
      idleTimeout: 30_000,
    })
    this.pool.on('error', (error: Error) => this.log.error({ err: error }, 'a worker failed'))
    this.timer = setInterval(() => this.kick(), CLAIM_EVERY_MS)
    this.timer.unref()
  }

  /** Looks for work now. */
  kick(): void {
    if (this.busy || this.stopped) return
    this.busy = this.work()
      .catch((error: unknown) => this.log.warn({ err: error as Error }, 'no job could be claimed'))
      .finally(() => (this.busy = null))
  }

  /** Stops a run at its next range; the stored state is changed by the caller. */
  cancel(id: string): void {
    this.cancelled.add(id)
  }

  async stop(): Promise<void> {
    this.stopped = true
    clearInterval(this.timer)
    await this.pool.destroy()
    await this.busy
  }

  private async work(): Promise<void> {
    for (let job = await this.jobs.claim(); job && !this.stopped; job = await this.jobs.claim()) {
      try {
        await this.simulate(job)
      } catch (error) {
        if (this.stopped) return // the lease runs out and another server takes the job up
        const known = error instanceof CalendarError || error instanceof RangeError
        if (!known) this.log.error({ err: error as Error, job: job.id }, 'a job failed')
        await this.jobs.fail(job, known ? error.message : 'the run failed on the server')
        this.announce({
          id: job.id,
          planId: job.planId,
          state: 'failed',
          done: job.done,
          total: job.total,
          partial: null,
        })
      } finally {
        this.cancelled.delete(job.id)
      }
    }
  }

  private async simulate(job: ClaimedJob): Promise<void> {
    const input = runInputSchema.parse(job.input)
    // The plan that was looked at when the run was asked for, not what others made of it while it waited.
    const revision = job.revision ?? (await this.plans.get(job.planId)).revision
    const base = await this.plans.at(job.planId, revision)
    const plan = input.scenario === null ? base : scenarioPlan(base, input.scenario).plan
    const { iterations } = input
    if (plan.activities.length * iterations > MAX_VALUES)
      throw new RangeError(
        `${plan.activities.length} activities × ${iterations} iterations is more than one run can hold; take fewer iterations`,
      )
    const options: SimulationOptions = {
      iterations,
      seed: input.seed,
      sampling: input.sampling,
      risks: input.risks,
    }
    const shared = shareableText(writePlan(plan))
    const planned = plannedFinish(plan)
    const report = (state: Job['state'], done: number, partial: PartialResult | null): void =>
      this.announce({ id: job.id, planId: job.planId, state, done, total: iterations, partial })
    report('running', 0, null)

    const task = (part: object): SimulationTask =>
      ({ key: job.id, plan: shared, options, ...part }) as SimulationTask
    const ranges: IterationRange[] = []
    const finishes = new Int32Array(iterations)
    const width = Math.max(1, Math.min(250, Math.ceil(iterations / 20)))
    let next = 0
    let done = 0
    let reportedAt = Date.now()
    let isWanted = true
    const lane = async (): Promise<void> => {
      while (isWanted && next < iterations) {
        const from = next
        next = Math.min(iterations, from + width)
        const range = (await this.pool.run(task({ kind: 'range', from, to: next }))) as IterationRange
        ranges.push(range)
        finishes.set(range.finish, done)
        done += range.finish.length
        if (this.cancelled.has(job.id)) isWanted = false
        if (Date.now() - reportedAt < REPORT_EVERY_MS) continue
        reportedAt = Date.now()
        isWanted &&= await this.jobs.progress(job, done)
        if (isWanted) report('running', done, partialResult(finishes.subarray(0, done), planned))
      }
    }
    await Promise.all(Array.from({ length: this.pool.options.maxThreads }, lane))
    if (!isWanted || !(await this.jobs.progress(job, done))) return report('cancelled', done, null)
    const summary = (await this.pool.run(task({ kind: 'summary', ranges }))) as Omit<
      RunResult,
      'revision' | 'scenario'
    >
    await this.jobs.finish(
      job,
      { ...summary, revision, scenario: input.scenario } satisfies RunResult,
      iterations,
    )
    report('done', iterations, null)
  }
}
