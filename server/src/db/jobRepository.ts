import { Op, QueryTypes, type Sequelize, type WhereOptions } from 'sequelize'
import {
  runInFullSchema,
  runSchema,
  type Run,
  type RunInFull,
  type RunKind,
  type RunResult,
} from '@geodrome/core'
import { BadRequestError, NotFoundError } from '../errors.ts'
import type { JobRow, Models } from './models.ts'
import { newId } from './planRows.ts'
import { SERVER_IS_GONE } from './presence.ts'

/** A job that this server is to run. */
export type ClaimedJob = Run & {
  readonly weight: number
  /** Names this claim: who lost it writes nothing. */
  readonly owner: string
}
export interface NewJob {
  readonly kind: RunKind
  readonly input: unknown
  readonly total: number
  /** Numbers that it holds in memory. */
  readonly weight: number
  /** Of the plan that was looked at: that one is run, whatever is changed meanwhile. */
  readonly revision: number
}

const LEASE_MS = 15_000
/** How often a runner renews the lease of what it runs. */
export const HEARTBEAT_MS = 4_000
/** Servers that may stop while they run a job before it is taken to be what stops them. */
const MOST_ATTEMPTS = 3
/** Jobs of one plan that run beside each other on all servers, and that wait. */
const PLAN_AT_ONCE = 2
const PLAN_WAITING = 20
/** Ended jobs without a name that a plan keeps, and how many of its jobs are listed beside the named ones. */
const KEPT = 50
const LISTED = 20
/** Runs of a plan that have a name, at most. */
const NAMED = 100
/** What has waited so long goes before what is smaller. */
const PATIENCE_MS = 60_000
const NONE: ReadonlySet<string> = new Set()

/** SQL: true of a job that nobody runs any more. */
const IS_LAPSED = `(state = 'running' AND (lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3) OR ${SERVER_IS_GONE}))`

/** A row as it is told: a job whose server died waits for another. */
const told = (row: JobRow, lapsed: ReadonlySet<string>) => ({
  id: row.id,
  planId: row.planId,
  kind: row.kind,
  input: JSON.parse(row.input) as unknown,
  revision: row.revision,
  state: lapsed.has(row.id) ? ('queued' as const) : row.state,
  done: row.done,
  total: row.total,
  error: row.error,
  name: row.name,
  createdAt: row.createdAt.toISOString(),
})
const parsed = (text: string | null): unknown => (text === null ? null : JSON.parse(text))

const LISTED_COLUMNS = [
  'id',
  'planId',
  'kind',
  'input',
  'revision',
  'state',
  'done',
  'total',
  'error',
  'name',
  'createdAt',
] as const

/** Long work in MariaDB. A job is claimed with a lease that its runner renews; when a server dies or its lease ends, another takes the job up. */
export class JobRepository {
  private readonly sequelize: Sequelize
  private readonly models: Models
  private readonly server: string | null

  /** @param server - the name of this server's {@link Presence}; null if it runs none of the jobs */
  constructor(sequelize: Sequelize, models: Models, server: string | null = null) {
    this.sequelize = sequelize
    this.models = models
    this.server = server
  }

  /** @throws BadRequestError if so many jobs of the plan wait that another would only wait longer */
  async create(planId: string, { kind, input, total, weight, revision }: NewJob): Promise<Run> {
    const waiting = await this.models.jobs.count({ where: { planId, state: 'queued' } })
    if (waiting >= PLAN_WAITING)
      throw new BadRequestError(`${waiting} runs of this plan wait already; stop some of them first`)
    const row = await this.models.jobs.create({
      id: newId(),
      planId,
      kind,
      input: JSON.stringify(input),
      state: 'queued',
      done: 0,
      total,
      weight,
      attempts: 0,
      partial: null,
      result: null,
      error: null,
      leaseUntil: null,
      owner: null,
      server: null,
      revision,
      name: null,
      createdAt: new Date(),
    })
    await this.dropOld(planId)
    return runSchema.parse(told(row, NONE))
  }

  private async dropOld(planId: string): Promise<void> {
    const old = await this.models.jobs.findAll({
      where: { planId, name: null, state: ['done', 'failed', 'cancelled'] },
      attributes: ['id'],
      order: [['createdAt', 'DESC']],
      offset: KEPT,
      limit: 1000,
    })
    if (old.length > 0) await this.models.jobs.destroy({ where: { id: old.map(({ id }) => id) } })
  }

  /** @throws NotFoundError */
  async get(planId: string, id: string): Promise<RunInFull> {
    const row = await this.models.jobs.findOne({ where: { id, planId } })
    if (!row) throw new NotFoundError(`this plan has no run "${id}"`)
    const lapsed = await this.lapsed([row])
    return runInFullSchema.parse({
      ...told(row, lapsed),
      partial: parsed(row.partial),
      result: parsed(row.result),
    })
  }

  /** A run that has come to its end, with how much it holds. @throws NotFoundError, BadRequestError */
  async ended(planId: string, id: string): Promise<Run & { readonly weight: number }> {
    const row = await this.models.jobs.findOne({
      where: { id, planId },
      attributes: [...LISTED_COLUMNS, 'weight'],
    })
    if (!row) throw new NotFoundError(`this plan has no run "${id}"`)
    if (row.state !== 'done') throw new BadRequestError('this run has not come to its end')
    return { ...runSchema.parse(told(row, NONE)), weight: row.weight }
  }

  /** The latest jobs of a plan, newest first, then the older ones that have a name; without what came of them. */
  async ofPlan(planId: string): Promise<Run[]> {
    const find = (where: WhereOptions<JobRow>, limit: number): Promise<JobRow[]> =>
      this.models.jobs.findAll({
        where: { planId, ...where },
        attributes: [...LISTED_COLUMNS],
        order: [['createdAt', 'DESC']],
        limit,
      })
    const latest = await find({}, LISTED)
    const named = await find(
      { name: { [Op.not]: null }, id: { [Op.notIn]: latest.map(({ id }) => id) } },
      NAMED,
    )
    const rows = [...latest, ...named]
    const lapsed = await this.lapsed(rows)
    return rows.map((row) => runSchema.parse(told(row, lapsed)))
  }

  /** Those of the rows that nobody runs any more. */
  private async lapsed(rows: readonly JobRow[]): Promise<ReadonlySet<string>> {
    const ids = rows.filter(({ state }) => state === 'running').map(({ id }) => id)
    if (ids.length === 0) return NONE
    const found = await this.sequelize.query<{ id: string }>(
      `SELECT id FROM jobs WHERE id IN (:ids) AND ${IS_LAPSED}`,
      { type: QueryTypes.SELECT, replacements: { ids } },
    )
    return new Set(found.map(({ id }) => id))
  }

  /** The 80 % date of the newest simulation of a plan as it is, and the revision it was run on; null where there is none. */
  async latestForecast(planId: string): Promise<{ readonly revision: number; readonly p80: string } | null> {
    const rows = await this.models.jobs.findAll({
      where: { planId, kind: 'simulation', state: 'done' },
      attributes: ['id', 'input', 'revision'],
      order: [['createdAt', 'DESC']],
      limit: LISTED,
    })
    const newest = rows.find(
      ({ input }) => ((JSON.parse(input) as { scenario?: string | null }).scenario ?? null) === null,
    )
    if (!newest) return null
    const { result } = await this.get(planId, newest.id)
    const percentiles = (result as RunResult<'simulation'> | null)?.percentiles
    return percentiles?.['80'] === undefined ? null : { revision: newest.revision, p80: percentiles['80'] }
  }

  /**
   * Gives a run a name, by which it is kept; null takes it.
   * @throws NotFoundError; BadRequestError if the plan has too many of them
   */
  async rename(planId: string, id: string, name: string | null): Promise<RunInFull> {
    if (
      name !== null &&
      (await this.models.jobs.count({ where: { planId, id: { [Op.not]: id }, name: { [Op.not]: null } } })) >=
        NAMED
    )
      throw new BadRequestError(
        `${NAMED} runs of this plan are kept by name already; drop some of them first`,
      )
    await this.models.jobs.update({ name: name === '' ? null : name }, { where: { id, planId } })
    return this.get(planId, id)
  }

  /** Drops a run that has ended. @throws NotFoundError; BadRequestError while it is under way */
  async drop(planId: string, id: string): Promise<void> {
    const { state } = await this.get(planId, id)
    if (state === 'queued' || state === 'running')
      throw new BadRequestError('this run is under way; stop it first')
    await this.models.jobs.destroy({ where: { id, planId } })
  }

  /**
   * Takes a job that waits, or that nobody runs any more: the smallest first, so that nobody waits hours for seconds, but what has
   * waited long before all others; and few of one plan at once, so that no plan waits for another.
   * @param room - numbers that it may hold
   * @returns null if there is none
   */
  async claim(room: number): Promise<ClaimedJob | null> {
    for (;;) {
      const row = await this.next(room)
      if (row === null) return null
      const owner = newId()
      const [taken] = await this.models.jobs.update(
        {
          state: 'running',
          owner,
          server: this.server,
          attempts: row.attempts + 1,
          leaseUntil: new Date(Date.now() + LEASE_MS),
        },
        // Nobody else took it meanwhile.
        { where: { id: row.id, state: row.state, owner: row.owner, attempts: row.attempts } },
      )
      if (taken === 0) continue
      const job: ClaimedJob = { ...runSchema.parse(told(row, NONE)), weight: row.weight, owner }
      if (row.attempts < MOST_ATTEMPTS) return job
      await this.fail(
        job,
        `the server stopped ${row.attempts} times while it ran this; it is not begun again`,
      )
    }
  }

  private async next(room: number): Promise<JobRow | null> {
    const [row] = await this.sequelize.query<{ id: string }>(
      `SELECT id FROM jobs WHERE (state = 'queued' OR ${IS_LAPSED}) AND weight <= :room
         AND plan_id NOT IN (SELECT plan_id FROM jobs WHERE state = 'running' AND NOT ${IS_LAPSED}
                             GROUP BY plan_id HAVING COUNT(*) >= :atOnce)
       ORDER BY created_at < :longAgo DESC, weight, created_at LIMIT 1`,
      {
        type: QueryTypes.SELECT,
        replacements: { room, atOnce: PLAN_AT_ONCE, longAgo: new Date(Date.now() - PATIENCE_MS) },
      },
    )
    return row ? this.models.jobs.findByPk(row.id) : null
  }

  /** Renews the lease. @returns false if the job is no longer to be run: cancelled, or taken by another */
  async renew(job: ClaimedJob): Promise<boolean> {
    return this.write(job, { leaseUntil: new Date(Date.now() + LEASE_MS) })
  }

  /** Keeps what there is so far, and renews the lease. @returns as {@link renew} */
  async progress(job: ClaimedJob, done: number, partial: unknown): Promise<boolean> {
    return this.write(job, {
      done,
      partial: JSON.stringify(partial),
      leaseUntil: new Date(Date.now() + LEASE_MS),
    })
  }

  /** A job that has found how many units it takes is one of so many from now on. @returns as {@link renew} */
  async resize(
    job: ClaimedJob,
    { input, total, weight }: { readonly input: unknown; readonly total: number; readonly weight: number },
  ): Promise<boolean> {
    return this.write(job, { input: JSON.stringify(input), total, weight })
  }

  /** @returns whether it is kept: who wakes up late and has lost the job writes nothing */
  async finish(job: ClaimedJob, result: unknown): Promise<boolean> {
    return this.write(job, {
      state: 'done',
      done: job.total,
      partial: null,
      result: JSON.stringify(result),
      leaseUntil: null,
    })
  }

  async fail(job: ClaimedJob, message: string): Promise<boolean> {
    return this.write(job, { state: 'failed', partial: null, error: message, leaseUntil: null })
  }

  /** @throws NotFoundError */
  async cancel(planId: string, id: string): Promise<RunInFull> {
    await this.models.jobs.update(
      { state: 'cancelled', partial: null, leaseUntil: null },
      { where: { id, planId, state: ['queued', 'running'] } },
    )
    return this.get(planId, id)
  }

  private async write(
    { id, owner }: ClaimedJob,
    values: Partial<
      Pick<
        JobRow,
        'state' | 'done' | 'partial' | 'result' | 'error' | 'leaseUntil' | 'input' | 'total' | 'weight'
      >
    >,
  ): Promise<boolean> {
    const where = { id, owner, state: 'running' as const }
    const [changed] = await this.models.jobs.update(values, { where })
    // A row that said the same already does not count as changed.
    return changed === 1 || (await this.models.jobs.count({ where })) === 1
  }
}
