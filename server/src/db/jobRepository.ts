import { Op, type Sequelize } from 'sequelize'
import { NotFoundError } from '../errors.ts'
import type { JobRow, Models } from './models.ts'
import { newId } from './planRows.ts'

export interface Job {
  readonly id: string
  readonly planId: string
  readonly kind: string
  readonly input: unknown
  readonly state: JobRow['state']
  readonly done: number
  readonly total: number
  readonly result: unknown
  readonly error: string | null
  readonly createdAt: string
}
/** A job that this server is to run. */
export interface ClaimedJob extends Job {
  readonly owner: string
  readonly revision: number | null
}

const job = (row: JobRow): Job => ({
  id: row.id,
  planId: row.planId,
  kind: row.kind,
  input: JSON.parse(row.input) as unknown,
  state: row.state,
  done: row.done,
  total: row.total,
  result: row.result === null ? null : (JSON.parse(row.result) as unknown),
  error: row.error,
  createdAt: row.createdAt.toISOString(),
})

const LEASE_MS = 15_000

/** Long work in MariaDB. A job is claimed with a lease that its runner renews; when a server dies, another takes it up. */
export class JobRepository {
  private readonly sequelize: Sequelize
  private readonly models: Models

  constructor(sequelize: Sequelize, models: Models) {
    this.sequelize = sequelize
    this.models = models
  }

  /** @param revision - of the plan that was looked at: that one is run, whatever is changed meanwhile */
  async create(planId: string, kind: string, input: unknown, total: number, revision: number): Promise<Job> {
    const row = await this.models.jobs.create({
      id: newId(),
      planId,
      kind,
      input: JSON.stringify(input),
      state: 'queued',
      done: 0,
      total,
      result: null,
      error: null,
      leaseUntil: null,
      owner: null,
      revision,
      createdAt: new Date(),
    })
    return job(row)
  }

  /** @throws NotFoundError */
  async get(id: string): Promise<Job> {
    const row = await this.models.jobs.findByPk(id)
    if (!row) throw new NotFoundError(`there is no run "${id}"`)
    return job(row)
  }

  /** The latest jobs of a plan, newest first. */
  async ofPlan(planId: string, limit: number): Promise<Job[]> {
    const rows = await this.models.jobs.findAll({ where: { planId }, order: [['createdAt', 'DESC']], limit })
    return rows.map(job)
  }

  /** Takes the oldest job that waits, or whose lease has run out. @returns null if there is none */
  claim(): Promise<ClaimedJob | null> {
    return this.sequelize.transaction(async (transaction) => {
      const row = await this.models.jobs.findOne({
        where: { [Op.or]: [{ state: 'queued' }, { state: 'running', leaseUntil: { [Op.lt]: new Date() } }] },
        order: [['createdAt', 'ASC']],
        lock: transaction.LOCK.UPDATE,
        skipLocked: true,
        transaction,
      })
      if (!row) return null
      const owner = newId()
      const leaseUntil = new Date(Date.now() + LEASE_MS)
      await row.update({ state: 'running', leaseUntil, owner }, { transaction })
      return { ...job(row), owner, revision: row.revision }
    })
  }

  /** Renews the lease. @returns false if the job is no longer to be run: cancelled, or taken by another */
  async progress({ id, owner }: ClaimedJob, done: number): Promise<boolean> {
    const where = { id, owner, state: 'running' as const }
    await this.models.jobs.update({ done, leaseUntil: new Date(Date.now() + LEASE_MS) }, { where })
    return (await this.models.jobs.count({ where })) === 1
  }

  /** Who wakes up late and has lost the job writes nothing. */
  async finish({ id, owner }: ClaimedJob, result: unknown, total: number): Promise<void> {
    await this.models.jobs.update(
      { state: 'done', done: total, result: JSON.stringify(result), leaseUntil: null },
      { where: { id, owner, state: 'running' } },
    )
  }

  async fail({ id, owner }: ClaimedJob, message: string): Promise<void> {
    await this.models.jobs.update(
      { state: 'failed', error: message, leaseUntil: null },
      { where: { id, owner, state: 'running' } },
    )
  }

  /** @throws NotFoundError */
  async cancel(id: string): Promise<void> {
    await this.models.jobs.update(
      { state: 'cancelled', leaseUntil: null },
      { where: { id, state: ['queued', 'running'] } },
    )
    await this.get(id)
  }
}
