import {
  col,
  fn,
  Op,
  QueryTypes,
  type Sequelize,
  type Transaction,
  where,
  type WhereAttributeHashValue,
} from 'sequelize'
import {
  addsItem,
  applyChange,
  applyUnchecked,
  changeSchema,
  planWhenAdded,
  sharedFacts,
  type CalendarsOfPlan,
  type Change,
  type Keeper,
  type KeptPlan,
  type LoggedChange,
  type Plan,
  type PlanFacts,
  type PlanSummary,
  type Role,
  type SentChange,
  whyNotChange,
} from '@geodrome/core'
import { BadRequestError, ConflictError, ForbiddenError, NotFoundError } from '../errors.ts'
import type { ChangeRow, Models, PlanRow } from './models.ts'
import { headColumns, type PlanRows } from './planRowsOf.ts'
import { insertPlan, loadPlan, writeChangedRows, type LoadedPlan } from './planRows.ts'
import { digest } from './secrets.ts'

/** Changes that are sent at once, and the most bytes of them. */
const PAGE_CHANGES = 100
const PAGE_BYTES = 1024 * 1024
/** Letters of the name of an import. */
const MOST_UID = 40
/** How long the database may take to say that it is there. */
const ANSWER_MS = 2000

const logged = (row: ChangeRow): LoggedChange => ({
  revision: row.revision,
  uid: row.uid,
  client: row.client,
  author: row.author,
  undoes: row.undoes,
  change: changeSchema.parse(JSON.parse(row.body)),
  inverse: changeSchema.parse(JSON.parse(row.inverse)),
  at: row.at.toISOString(),
})

/** What who asks is in each plan that they see; null: administrator of all. */
export type Roles = ReadonlyMap<string, Role> | null

/** The entry of a change that is sent again. @throws BadRequestError where something else is stored under its uid */
const sameAsSent = (entry: LoggedChange, { change, undoes }: SentChange): LoggedChange => {
  const isSame = undoes ? entry.undoes === undoes : JSON.stringify(entry.change) === JSON.stringify(change)
  if (isSame) return entry
  throw new BadRequestError(
    `another change is stored under "${entry.uid}"; give each change a uid of its own`,
  )
}

/**
 * Plans in MariaDB. A plan lately used is kept in memory beside its revision, which is compared with the locked row before every
 * use; nothing that matters lives here, and several servers may share one database.
 */
export class PlanRepository {
  private readonly sequelize: Sequelize
  private readonly models: Models
  private readonly lately = new Map<string, LoadedPlan>()
  private readonly keep: number

  constructor(sequelize: Sequelize, models: Models, { keep = 8 } = {}) {
    this.sequelize = sequelize
    this.models = models
    this.keep = keep
  }

  /** @param roles - what who asks is in the plans that they see; null: everything, in all of them */
  async list(roles: Roles = null): Promise<PlanSummary[]> {
    const rows = await this.models.plans.findAll({
      where: { removedAt: null, ...(roles && { id: [...roles.keys()] }) },
      attributes: ['id', 'code', 'name', 'revision', 'changedAt', 'archivedAt'],
      order: [['changedAt', 'DESC']],
    })
    return rows.map(({ id, code, name, revision, changedAt, archivedAt }) => ({
      id,
      code,
      name,
      revision,
      changedAt: changedAt.toISOString(),
      archived: archivedAt !== null,
      role: roles?.get(id) ?? 'administrator',
    }))
  }

  /** The calendars of every plan that who asks sees, without the rest of it. */
  async calendars(roles: Roles = null): Promise<CalendarsOfPlan[]> {
    const rows = await this.sequelize.query<{ id: string; name: string; code: string; body: string }>(
      "SELECT p.id, p.name, p.code, i.body FROM plans p JOIN plan_items i ON i.plan_id = p.id WHERE i.list = 'calendars' AND p.removed_at IS NULL ORDER BY p.changed_at DESC, p.id, i.place",
      { type: QueryTypes.SELECT },
    )
    const plans = new Map<string, CalendarsOfPlan>()
    for (const { id, name, code, body } of rows) {
      if (roles && !roles.has(id)) continue
      const known = plans.get(id) ?? { planId: id, plan: name || code, calendars: [] }
      known.calendars.push(JSON.parse(body) as Plan['calendars'][number])
      plans.set(id, known)
    }
    return [...plans.values()]
  }

  /**
   * @param asked - names the import: one that is sent again is not made again
   * @param maker - the account that becomes its administrator; null where nobody signs in
   * @returns the id of the plan
   */
  async create(plan: PlanRows, asked: string | null = null, maker: string | null = null): Promise<string> {
    // Each account names its own: what another one imported is not found by guessing.
    const uid = asked === null || maker === null ? asked : digest(`${maker} ${asked}`).slice(0, MOST_UID)
    const known = (): Promise<PlanRow | null> => (uid === null ? Promise.resolve(null) : this.imported(uid))
    const before = await known()
    if (before) return before.id
    try {
      return await insertPlan(this.sequelize, this.models, plan, uid, maker)
    } catch (error) {
      // Sent twice at once: the other was first.
      const other = (error as Error).name === 'SequelizeUniqueConstraintError' ? await known() : null
      if (other) return other.id
      throw error
    }
  }

  /** Whether a plan came in by an import of this name, removed ones counted. */
  async isImported(uid: string): Promise<boolean> {
    return (await this.imported(uid)) !== null
  }

  private imported(uid: string): Promise<PlanRow | null> {
    return this.models.plans.findOne({ where: { importUid: uid } })
  }

  /** Whether the database answers within a moment. */
  async answers(): Promise<boolean> {
    const timeout = new Promise<false>((resolve) => setTimeout(() => resolve(false), ANSWER_MS).unref())
    const asked = this.sequelize.query('SELECT 1', { type: QueryTypes.SELECT }).then(
      () => true,
      () => false,
    )
    return Promise.race([asked, timeout])
  }

  /** Whether the database never held a plan, removed ones counted. */
  async isNew(): Promise<boolean> {
    return (await this.models.plans.count()) === 0
  }

  /** Hides a plan, or brings it back: nothing stored is lost. */
  async setRemoved(id: string, removed: boolean): Promise<void> {
    const row = await this.models.plans.findByPk(id)
    if (!row) throw new NotFoundError(`there is no plan "${id}"`)
    await row.update({ removedAt: removed ? new Date() : null })
  }

  /** Puts a plan away, or back into the list that is looked at. @throws NotFoundError */
  async setArchived(id: string, archived: boolean): Promise<void> {
    const row = await this.models.plans.findOne({ where: { id, removedAt: null } })
    if (!row) throw new NotFoundError(`there is no plan "${id}"`)
    await row.update({ archivedAt: archived ? new Date() : null })
  }

  /** What was found about a plan at a revision; null where that was not kept. */
  async factsAt(id: string, revision: number): Promise<PlanFacts | null> {
    const row = await this.models.facts.findOne({ where: { planId: id, revision } })
    const kept = row && (JSON.parse(row.body) as PlanFacts)
    // What was kept before something was added to it says less.
    return kept && 'chain' in kept ? kept : null
  }

  async keepFacts(id: string, revision: number, facts: PlanFacts): Promise<void> {
    await this.models.facts.upsert({ planId: id, revision, body: JSON.stringify(facts) })
  }

  /** @throws NotFoundError */
  get(id: string): Promise<LoadedPlan> {
    return this.sequelize.transaction((transaction) => this.current(id, transaction))
  }

  /** A page of the changes after a revision, oldest first; empty at the end. */
  async changesSince(id: string, revision: number): Promise<LoggedChange[]> {
    return this.page(id, { [Op.gt]: revision }, 'ASC')
  }

  /** A page of the latest changes, newest first; of those before a revision where one is given. */
  async latestChanges(id: string, before?: number): Promise<LoggedChange[]> {
    return this.page(id, before === undefined ? { [Op.gt]: 0 } : { [Op.lt]: before }, 'DESC')
  }

  /** Changes by number and by size: one may hold thousands of pasted rows, and one always fits. */
  private async page(
    id: string,
    revision: WhereAttributeHashValue<number>,
    order: 'ASC' | 'DESC',
  ): Promise<LoggedChange[]> {
    const sizes = (await this.models.changes.findAll({
      where: { planId: id, revision },
      attributes: [
        'revision',
        [fn('LENGTH', col('body')), 'body'],
        [fn('LENGTH', col('inverse')), 'inverse'],
      ],
      order: [['revision', order]],
      limit: PAGE_CHANGES,
      raw: true,
    })) as unknown as { revision: number; body: number; inverse: number }[]
    let bytes = 0
    const fits = sizes.filter(({ body, inverse }, k) => (bytes += body + inverse) <= PAGE_BYTES || k === 0)
    const rows = await this.models.changes.findAll({
      where: { planId: id, revision: fits.map((row) => row.revision) },
      order: [['revision', order]],
    })
    return rows.map(logged)
  }

  /** Which of these changes are in the log of the plan. @throws NotFoundError */
  async storedOf(id: string, uids: readonly string[]): Promise<string[]> {
    await this.get(id)
    const rows = await this.models.changes.findAll({
      where: { planId: id, uid: [...uids] },
      attributes: ['uid'],
    })
    return rows.map(({ uid }) => uid)
  }

  /** The plan as it was at an earlier revision: as it is, with everything since taken back. @throws NotFoundError */
  async at(id: string, revision: number): Promise<Plan> {
    return this.sequelize.transaction(async (transaction) => {
      const current = await this.current(id, transaction)
      if (revision > current.revision)
        throw new NotFoundError(
          `plan "${id}" has no revision ${revision} yet; its latest is ${current.revision}`,
        )
      const since = await this.models.changes.findAll({
        where: { planId: id, revision: { [Op.gt]: revision } },
        order: [['revision', 'DESC']],
        transaction,
      })
      return since.reduce((plan, row) => applyUnchecked(plan, logged(row).inverse).plan, current.plan)
    })
  }

  /**
   * The plan as it was when a baseline was frozen or an update was kept: at the change in the log that first added it.
   * @throws NotFoundError where there is no such item, or where it came with a file and nothing is known of the plan behind it
   */
  async kept(id: string, list: Keeper, key: string): Promise<KeptPlan> {
    const { plan } = await this.get(id)
    const item = plan[list].find((one) => one.id === key)
    if (!item)
      throw new NotFoundError(`the plan has no ${list === 'baselines' ? 'baseline' : 'period'} "${key}"`)
    const rows = await this.models.changes.findAll({
      where: {
        [Op.and]: [
          { planId: id, undoes: null },
          where(fn('INSTR', col('body'), JSON.stringify(list)), Op.gt, 0),
          where(fn('INSTR', col('body'), JSON.stringify(key)), Op.gt, 0),
        ],
      },
      attributes: ['revision'],
      order: [['revision', 'ASC']],
    })
    for (const { revision } of rows) {
      const row = await this.models.changes.findOne({ where: { planId: id, revision } })
      const entry = row && logged(row)
      if (!entry || !addsItem(entry.change, list, key)) continue
      const before = await this.at(id, revision - 1)
      const { at, author } = entry
      return { revision, at, author, plan: planWhenAdded(before, entry.change, list, key) }
    }
    throw new NotFoundError(
      `${item.name || key} came with the file: it holds dates, and not the plan that they came of`,
    )
  }

  /**
   * Applies one change in one transaction: the rows it touches, the log entry and the new revision, or nothing.
   * A change made on an older revision is applied all the same where nobody wrote the same facts since.
   * @param role - of who sends it
   * @throws NotFoundError, ConflictError, PlanError, ForbiddenError
   */
  async change(id: string, sent: SentChange, role: Role = 'administrator'): Promise<LoggedChange> {
    const result = await this.sequelize.transaction(async (transaction) => {
      const row = await this.models.plans.findOne({
        where: { id, removedAt: null },
        lock: transaction.LOCK.UPDATE,
        transaction,
      })
      if (!row) throw new NotFoundError(`there is no plan "${id}"`)
      const known = await this.models.changes.findOne({ where: { planId: id, uid: sent.uid }, transaction })
      if (known) return { entry: sameAsSent(logged(known), sent), loaded: null }

      const current = await this.current(id, transaction, row.revision)
      const change = await this.changeToApply(id, sent, transaction)
      const whyNot = whyNotChange(role, change)
      if (whyNot !== null) throw new ForbiddenError(whyNot)
      if (!sent.undoes) await this.refuseConflicts(id, sent, change, transaction)
      const { plan, inverse } = applyChange(current.plan, change)
      const revision = current.revision + 1
      const places = await writeChangedRows(this.models, id, change, plan, current.places, transaction)
      const at = new Date()
      await this.models.plans.update(
        { ...headColumns(plan), revision, changedAt: at },
        { where: { id }, transaction },
      )
      await this.models.changes.create(
        {
          planId: id,
          revision,
          uid: sent.uid,
          client: sent.client,
          author: sent.author,
          undoes: sent.undoes ?? null,
          body: JSON.stringify(change),
          inverse: JSON.stringify(inverse),
          at,
        },
        { transaction },
      )
      const entry: LoggedChange = {
        revision,
        uid: sent.uid,
        client: sent.client,
        author: sent.author,
        undoes: sent.undoes ?? null,
        change,
        inverse,
        at: at.toISOString(),
      }
      return { entry, loaded: { plan, revision, places } }
    })
    // Only now is it committed and durable.
    if (result.loaded) this.remember(id, result.loaded)
    return result.entry
  }

  private async changeToApply(id: string, sent: SentChange, transaction: Transaction): Promise<Change> {
    if (!sent.undoes) return sent.change!
    const row = await this.models.changes.findOne({ where: { planId: id, uid: sent.undoes }, transaction })
    if (!row) throw new NotFoundError(`there is no change "${sent.undoes}" to take back`)
    const undone = logged(row)
    const later = (
      await this.models.changes.findAll({
        where: { planId: id, revision: { [Op.gt]: undone.revision } },
        transaction,
      })
    ).map(logged)
    // A change and what took it back cancel out; what is left must not rest on the facts that undoing restores.
    const takenBack = new Set(
      later.flatMap((entry) => (entry.undoes === null ? [] : [entry.undoes, entry.uid])),
    )
    if (later.some((entry) => entry.undoes === undone.uid))
      throw new ConflictError('this change has been taken back already', [], [])
    const resting = later.filter(
      (entry) => !takenBack.has(entry.uid) && sharedFacts(undone.inverse, entry.change).length > 0,
    )
    if (resting.length > 0)
      throw new ConflictError(
        `later changes rest on this one (by ${[...new Set(resting.map((entry) => entry.author))].join(', ')}); take those back first`,
        resting.flatMap((entry) => sharedFacts(undone.inverse, entry.change)),
        resting,
      )
    return undone.inverse
  }

  private async refuseConflicts(
    id: string,
    sent: SentChange,
    change: Change,
    transaction: Transaction,
  ): Promise<void> {
    const rows = await this.models.changes.findAll({
      where: { planId: id, revision: { [Op.gt]: sent.base }, client: { [Op.ne]: sent.client } },
      order: [['revision', 'ASC']],
      transaction,
    })
    const clashes = rows.map(logged).filter((entry) => sharedFacts(change, entry.change).length > 0)
    if (clashes.length === 0) return
    throw new ConflictError(
      `${clashes.at(-1)!.author} changed the same thing meanwhile`,
      [...new Set(clashes.flatMap((entry) => sharedFacts(change, entry.change)))],
      clashes,
    )
  }

  private async current(id: string, transaction: Transaction, revision?: number): Promise<LoadedPlan> {
    const lately = this.lately.get(id)
    const now =
      revision ??
      (
        await this.models.plans.findOne({
          where: { id, removedAt: null },
          attributes: ['revision'],
          transaction,
        })
      )?.revision
    if (now === undefined) throw new NotFoundError(`there is no plan "${id}"`)
    if (lately && lately.revision === now) return lately
    const loaded = await loadPlan(this.sequelize, this.models, id, transaction)
    if (!loaded) throw new NotFoundError(`there is no plan "${id}"`)
    this.remember(id, loaded)
    return loaded
  }

  private remember(id: string, loaded: LoadedPlan): void {
    this.lately.delete(id)
    this.lately.set(id, loaded)
    for (const oldest of this.lately.keys()) {
      if (this.lately.size <= this.keep) break
      this.lately.delete(oldest)
    }
  }
}
