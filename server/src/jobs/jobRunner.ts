import { availableParallelism } from 'node:os'
import { Piscina } from 'piscina'
import type { Logger } from 'pino'
import {
  CalendarError,
  type LookKind,
  type Plan,
  type Run,
  type RunInput,
  type RunPartial,
  type RunProgress,
  type RunResult,
} from '@geodrome/core'
import { HEARTBEAT_MS, type ClaimedJob, type JobRepository } from '../db/jobRepository.ts'
import type { PlanRepository } from '../db/planRepository.ts'
import { BusyError, NotFoundError } from '../errors.ts'
import { EXEC_ARGV, fileOf } from '../threads/limits.ts'
import type { GiveBack, MemoryRoom } from '../threads/memoryRoom.ts'
import type { UnitRange } from './jobKind.ts'
import { JOB_KINDS } from './jobKinds.ts'
import { sharedJson, type JobTask } from './jobTask.ts'
import { KeptTables } from './keptTables.ts'

/** A job that was claimed waits for room that it was seen to have. */
const LONG_WAIT_MS = 10 * 60_000
const CLAIM_EVERY_MS = 2_000
const REPORT_EVERY_MS = 150
/** Jobs at once: their ranges take turns in the pool, so that a short one does not wait for a long one. */
const AT_ONCE = 3
/** Numbers to a megabyte, and what a job takes beside them. */
const NUMBERS_A_MB = 250_000
const BESIDE_MB = 20
const mbOf = (weight: number): number => BESIDE_MB + weight / NUMBERS_A_MB
/** Numbers that one range works through: short enough to stop and to take turns, long enough to be worth a message. */
const RANGE_NUMBERS = 1_500_000
/** Ranges of a job, at least: what it came to so far is shown between them. */
const FEWEST_RANGES = 10

/** Turns that each thread takes between two looks at whether what is sought is found: short enough to stop. */
const SEEK_TURNS = 4

/** Claims jobs and runs them on a pool of worker threads, several servers beside each other if need be. */
export class JobRunner {
  private readonly pool: Piscina
  private readonly jobs: JobRepository
  private readonly plans: PlanRepository
  private readonly log: Logger
  private readonly announce: (progress: RunProgress) => void
  private readonly timer: NodeJS.Timeout
  /** What the iterations of the latest runs gave, for what is asked of them. */
  private readonly tables = new KeptTables<Filled>(({ giveBack }) => giveBack())
  private readonly room: MemoryRoom
  private readonly running = new Map<string, { isWanted: boolean }>()
  private readonly ended = new Set<Promise<void>>()
  private claiming: Promise<void> | null = null
  private claimAgain = false
  private stopped = false

  constructor(
    jobs: JobRepository,
    plans: PlanRepository,
    room: MemoryRoom,
    log: Logger,
    announce: (progress: RunProgress) => void,
  ) {
    this.room = room
    room.mayGiveUp(() => this.tables.giveUp())
    this.jobs = jobs
    this.plans = plans
    this.log = log
    this.announce = announce
    this.pool = new Piscina({
      filename: fileOf(new URL('./jobTask', import.meta.url)).href,
      execArgv: [...EXEC_ARGV],
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
    if (this.stopped) return
    if (this.claiming) {
      this.claimAgain = true
      return
    }
    this.claiming = this.claim()
      .catch((error: unknown) => this.log.warn({ err: error as Error }, 'no job could be claimed'))
      .finally(() => {
        this.claiming = null
        if (!this.claimAgain) return
        this.claimAgain = false
        this.kick()
      })
  }

  /** Stops a run at its next range; the stored state is changed by the caller. */
  cancel(id: string): void {
    const job = this.running.get(id)
    if (job) job.isWanted = false
  }

  async stop(): Promise<void> {
    this.stopped = true
    clearInterval(this.timer)
    await this.claiming
    await this.pool.destroy()
    await Promise.all(this.ended)
  }

  private async claim(): Promise<void> {
    while (!this.stopped && this.running.size < AT_ONCE) {
      // One alone may take all there is.
      const free =
        this.running.size === 0
          ? Number.MAX_SAFE_INTEGER
          : Math.floor((this.room.free - BESIDE_MB) * NUMBERS_A_MB) + this.tables.numbers
      const job = await this.jobs.claim(free)
      if (job === null) return
      const state = { isWanted: true }
      this.running.set(job.id, state)
      const end: Promise<void> = this.work(job, state).finally(() => {
        this.running.delete(job.id)
        this.ended.delete(end)
        this.kick()
      })
      this.ended.add(end)
    }
  }

  /** Runs a job to its end, whatever end that is. */
  private async work(job: ClaimedJob, state: { isWanted: boolean }): Promise<void> {
    const heartbeat = setInterval(() => {
      this.jobs.renew(job).then(
        (isOurs) => (state.isWanted &&= isOurs),
        () => undefined, // the database is away: the lease runs out, or it comes back in time
      )
    }, HEARTBEAT_MS)
    try {
      const ended = await this.run(job, state)
      if (this.stopped) return // the lease runs out and another server takes the job up
      if (ended === null || !(await this.jobs.finish(ended.job, ended.result)))
        this.tell(job, 'cancelled', job.done, null)
      else this.tell(ended.job, 'done', ended.job.total, null)
    } catch (error) {
      if (!this.stopped) await this.failed(job, error as Error)
    } finally {
      clearInterval(heartbeat)
    }
  }

  private async failed(job: ClaimedJob, error: Error): Promise<void> {
    const isKnown =
      error instanceof CalendarError || error instanceof RangeError || error instanceof NotFoundError
    if (!isKnown) this.log.error({ err: error, job: job.id }, 'a job failed')
    try {
      await this.jobs.fail(job, isKnown ? error.message : 'the run failed on the server')
      this.tell(job, 'failed', job.done, null)
    } catch (unstored) {
      this.log.warn({ err: unstored as Error, job: job.id }, 'the end of a job could not be stored')
    }
  }

  private tell(job: ClaimedJob, state: RunProgress['state'], done: number, partial: RunPartial | null): void {
    const { id, planId, kind, total } = job
    this.announce({ id, planId, kind, state, done, total, partial })
  }

  /** @returns null if it was stopped, or another has taken it up */
  private async run(
    job: ClaimedJob,
    state: { isWanted: boolean },
  ): Promise<{ readonly job: ClaimedJob; readonly result: RunResult } | null> {
    this.tell(job, 'running', 0, null)
    const found = await this.sought(job, state)
    if (found === null) return null
    const isSought = found !== job
    const giveBack = await this.room.wait(mbOf(found.weight), LONG_WAIT_MS)
    try {
      const step = await this.stepsOf(found)
      const memory = await this.fill(
        found,
        step,
        () => state.isWanted,
        // What it came to is in view already where it was sought first.
        isSought
          ? null
          : async (grown, done) => {
              const partial = (await step({ name: 'partial', ...grown })) as RunPartial
              await this.grew(job, state, done, partial)
            },
      )
      if (memory === null) {
        giveBack()
        return null
      }
      const result = (await step({ name: 'summary', memory })) as RunResult
      this.tables.keep(job.id, found.weight, { memory, step, giveBack })
      this.room.serve()
      return { job: found, result }
    } catch (error) {
      giveBack()
      throw error
    }
  }

  private async grew(
    job: ClaimedJob,
    state: { isWanted: boolean },
    done: number,
    partial: RunPartial,
  ): Promise<void> {
    state.isWanted &&= await this.jobs.progress(job, done, partial)
    if (state.isWanted) this.tell(job, 'running', done, partial)
  }

  /**
   * A job that finds by itself how many units it takes, with so many: from then on it is one like any other.
   * @returns the job as it is where nothing is to be found; null if it was stopped, or another has taken it up
   */
  private async sought(job: ClaimedJob, state: { isWanted: boolean }): Promise<ClaimedJob | null> {
    const kind = JOB_KINDS[job.kind]
    const { seek } = kind
    if (!seek?.isAsked(job.input)) return job
    const giveBack = await this.room.wait(BESIDE_MB, LONG_WAIT_MS)
    try {
      const plan = kind.subject(await this.plans.at(job.planId, job.revision), job.input)
      const most = seek.most(plan, job.input)
      const step = this.steps({ ...job, input: most }, plan)
      const memory = seek.memory(most)
      for (let done = 0; ;) {
        const next = seek.next(done)
        if (!(await this.seekTo(step, kind.together, memory, done, next, state))) return null
        done = next
        const { found, partial } = (await step({ name: 'sought', memory, done })) as {
          readonly found: RunInput | null
          readonly partial: RunPartial
        }
        await this.grew({ ...job, total: kind.total(most) }, state, done, partial)
        if (!state.isWanted) return null
        if (found === null) continue
        const settled = { input: found, total: kind.total(found), weight: kind.weight(plan, found) }
        return (await this.jobs.resize(job, settled)) ? { ...job, ...settled } : null
      }
    } finally {
      giveBack()
    }
  }

  /** Runs units of a job that is sought, in every thread. @returns false if it was stopped */
  private async seekTo(
    step: Step,
    together: number,
    memory: Int32Array,
    from: number,
    to: number,
    state: { isWanted: boolean },
  ): Promise<boolean> {
    const lanes = this.pool.options.maxThreads
    const width = Math.ceil((to - from) / (lanes * SEEK_TURNS) / together) * together
    let next = from
    const lane = async (): Promise<void> => {
      while (state.isWanted && !this.stopped && next < to) {
        const range = { from: next, to: Math.min(to, next + width) }
        next = range.to
        await step({ name: 'seek', memory, range })
      }
    }
    await Promise.all(Array.from({ length: lanes }, lane))
    return state.isWanted && !this.stopped
  }

  /**
   * What is asked of a run that has ended; its iterations are drawn again where they are no longer here.
   * @throws RangeError for what the run does not have
   */
  async look(job: Run & { readonly weight: number }, kind: LookKind, question: unknown): Promise<unknown> {
    const { memory, step } = await this.tables.get(job.id, job.weight, async () => {
      const giveBack = await this.room.wait(mbOf(job.weight))
      try {
        const steps = await this.stepsOf(job)
        const filled = await this.fill(job, steps, () => true)
        if (filled === null) throw new BusyError('the server is stopping; ask again')
        return { memory: filled, step: steps, giveBack }
      } catch (error) {
        giveBack()
        throw error
      }
    })
    this.room.serve()
    return step({ name: 'look', memory, kind, question })
  }

  /** Does the steps of a job in the pool, on the plan that was looked at when it was asked for: not what others made of it since. */
  private async stepsOf(job: Run): Promise<Step> {
    const { kind, planId, revision, input } = job
    return this.steps(job, JOB_KINDS[kind].subject(await this.plans.at(planId, revision), input))
  }
  private steps({ id, kind, input }: Run, plan: Plan): Step {
    const shared = sharedJson(plan)
    return (step) => this.pool.run({ job: id, kind, plan: shared, input, step } satisfies JobTask)
  }

  /**
   * Runs all ranges of a job into a memory of its own.
   * @param grows - told of what there is from time to time
   * @returns null if it was stopped
   */
  private async fill(
    { kind, total, weight }: Pick<ClaimedJob, 'kind' | 'total' | 'weight'>,
    step: Step,
    isWanted: () => boolean,
    grows: ((grown: { memory: unknown; ranges: UnitRange[] }, done: number) => Promise<void>) | null = null,
  ): Promise<unknown> {
    const memory = await step({ name: 'memory' })
    const perUnit = Math.max(1, weight / total)
    const { together } = JOB_KINDS[kind]
    const units = Math.min(total / FEWEST_RANGES, RANGE_NUMBERS / perUnit)
    const width = Math.max(1, Math.round(units / together)) * together
    const ranges: UnitRange[] = []
    let next = 0
    let done = 0
    let reportedAt = Date.now()
    const lane = async (): Promise<void> => {
      while (isWanted() && !this.stopped && next < total) {
        const range = { from: next, to: Math.min(total, next + width) }
        next = range.to
        await step({ name: 'run', memory, range })
        ranges.push(range)
        done += range.to - range.from
        if (grows === null || Date.now() - reportedAt < REPORT_EVERY_MS || done === total) continue
        reportedAt = Date.now()
        await grows({ memory, ranges: [...ranges] }, done)
      }
    }
    await Promise.all(Array.from({ length: this.pool.options.maxThreads }, lane))
    return isWanted() && done === total ? memory : null
  }
}

type Step = (step: JobTask['step']) => Promise<unknown>
/** A job whose ranges have all been run, and the room that it takes. */
interface Filled {
  readonly memory: unknown
  readonly step: Step
  readonly giveBack: GiveBack
}
