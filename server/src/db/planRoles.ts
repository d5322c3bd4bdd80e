import { QueryTypes, type Sequelize } from 'sequelize'
import type { PlanPeople, Role } from '@geodrome/core'
import { BadRequestError, NotFoundError } from '../errors.ts'
import type { Models } from './models.ts'
import type { SignedIn } from './sessions.ts'

/** What people are in plans, in MariaDB. An administrator of the server is one of every plan. */
export class PlanRoles {
  private readonly sequelize: Sequelize
  private readonly models: Models

  constructor(sequelize: Sequelize, models: Models) {
    this.sequelize = sequelize
    this.models = models
  }

  /** Null: no part in it, whether it exists or not. */
  async of(planId: string, { id, administrator }: SignedIn): Promise<Role | null> {
    if (administrator) return 'administrator'
    const row = await this.models.planRoles.findOne({ where: { planId, account: id } })
    return (row?.role as Role | undefined) ?? null
  }

  /** What somebody is in each plan that they have a part in. */
  async all(account: string): Promise<ReadonlyMap<string, Role>> {
    const rows = await this.models.planRoles.findAll({ where: { account } })
    return new Map(rows.map(({ planId, role }) => [planId, role as Role]))
  }

  /** Who has a part in a plan, by name, and who else may sign in. */
  async people(planId: string): Promise<PlanPeople> {
    const rows = await this.sequelize.query<{ id: string; name: string; role: Role | null; isClosed: 0 | 1 }>(
      `SELECT a.id, a.name, r.role, a.closed_at IS NOT NULL AS isClosed FROM accounts a
      LEFT JOIN plan_roles r ON r.account = a.id AND r.plan_id = :planId ORDER BY a.name`,
      { type: QueryTypes.SELECT, replacements: { planId } },
    )
    return {
      people: rows.flatMap(({ id, name, role }) => (role === null ? [] : [{ id, name, role }])),
      others: rows.flatMap(({ id, name, role, isClosed }) =>
        role === null && !isClosed ? [{ id, name }] : [],
      ),
    }
  }

  /**
   * Gives somebody a role in a plan, or takes it away (null). One administrator stays.
   * @throws NotFoundError, BadRequestError
   */
  async give(planId: string, account: string, role: Role | null): Promise<void> {
    await this.sequelize.transaction(async (transaction) => {
      await this.models.plans.findByPk(planId, {
        attributes: ['id'],
        lock: transaction.LOCK.UPDATE,
        transaction,
      })
      const known = await this.models.accounts.findByPk(account, { transaction })
      if (!known) throw new NotFoundError('there is no such account')
      if (known.closedAt !== null && role !== null)
        throw new BadRequestError(`${known.name} may not sign in any more`)
      const had = await this.models.planRoles.count({ where: { planId, role: 'administrator' }, transaction })
      if (role === null) await this.models.planRoles.destroy({ where: { planId, account }, transaction })
      else await this.models.planRoles.upsert({ planId, account, role }, { transaction })
      const left = await this.models.planRoles.count({
        where: { planId, role: 'administrator' },
        transaction,
      })
      if (had > 0 && left === 0)
        throw new BadRequestError('a plan keeps one administrator; make somebody else one first')
    })
  }
}
