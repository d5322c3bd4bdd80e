import { Op, QueryTypes, type Sequelize, type Transaction } from 'sequelize'
import type { MadeInvitation, PersonAccount, Welcome } from '@geodrome/core'
import { BadRequestError, NotFoundError } from '../errors.ts'
import type { AccountRow, Models } from './models.ts'
import { newId } from './planRows.ts'
import { digest, isPassword, keptPassword, newToken } from './secrets.ts'

const TOKEN_BYTES = 16
/** How long somebody has to choose a password. */
const WELCOME_MS = 7 * 24 * 3600_000

/** Two names that differ only in capitals or in the forms of their letters are one: neither signs as the other. */
const nameKey = (name: string): string => digest(name.normalize('NFKC').toLowerCase())

const GONE =
  'nothing is behind this link: it was used, has run out or was replaced; ask an administrator for a new one'

/** Who signs in, in MariaDB. */
export class Accounts {
  private readonly sequelize: Sequelize
  private readonly models: Models

  constructor(sequelize: Sequelize, models: Models) {
    this.sequelize = sequelize
    this.models = models
  }

  /** What opens the page on which the first administrator says who they are; null where there is one. Earlier ones open nothing then. */
  async firstToken(): Promise<string | null> {
    return this.sequelize.transaction(async (transaction) => {
      if (await this.hasAdministrator(transaction)) return null
      return (await this.newWelcome(null, transaction)).token
    })
  }

  async list(): Promise<PersonAccount[]> {
    return this.told()
  }

  /** Makes an account whose owner chooses a password by the link. @throws BadRequestError where the name is taken */
  async invite(name: string, administrator: boolean): Promise<MadeInvitation> {
    const id = newId()
    const made = await this.sequelize.transaction(async (transaction) => {
      await this.make({ id, name, administrator, password: null }, transaction)
      return this.newWelcome(id, transaction)
    })
    return { ...(await this.account(id)), ...made }
  }

  /** A link by which somebody chooses a password anew; an earlier one opens nothing any more. @throws NotFoundError, BadRequestError */
  async welcomeAgain(id: string): Promise<MadeInvitation> {
    const account = await this.account(id)
    if (account.state === 'closed')
      throw new BadRequestError(`${account.name} may not sign in; open the account first`)
    const made = await this.sequelize.transaction((transaction) => this.newWelcome(id, transaction))
    return { ...account, ...made }
  }

  /** @throws NotFoundError for whatever opens nothing (any more) */
  async welcome(token: string): Promise<Welcome> {
    const found = await this.welcomed(token)
    return { name: found?.name ?? null, again: found !== null && found.password !== null }
  }

  /**
   * Somebody chose a password by their link, once. @param name - of the first administrator
   * @returns the account
   * @throws NotFoundError, BadRequestError; the link then opens as before
   */
  async accept(token: string, name: string | undefined, password: string): Promise<string> {
    const kept = await keptPassword(password)
    return this.sequelize.transaction(async (transaction) => {
      const account = await this.welcomed(token, transaction)
      await this.models.welcomes.destroy({ where: { tokenHash: digest(token) }, transaction })
      if (account !== null) {
        await account.update({ password: kept }, { transaction })
        // Whoever was signed in with an earlier password is no longer.
        await this.models.sessions.destroy({ where: { account: account.id }, transaction })
        return account.id
      }
      if (name === undefined) throw new BadRequestError('say what you are called')
      if (await this.hasAdministrator(transaction)) throw new NotFoundError(GONE)
      const id = newId()
      await this.make({ id, name, administrator: true, password: kept }, transaction)
      return id
    })
  }

  /** @returns who signs in so; null where nobody does */
  async signedIn(name: string, password: string): Promise<AccountRow | null> {
    const row = await this.models.accounts.findOne({ where: { nameKey: nameKey(name) } })
    const isRight = await isPassword(password, row?.password ?? null)
    return isRight && row!.closedAt === null ? row : null
  }

  /**
   * Opens or closes an account, makes it an administrator or not. One administrator stays.
   * @throws NotFoundError, BadRequestError
   */
  async change(
    id: string,
    {
      closed,
      administrator,
    }: { readonly closed?: boolean | undefined; readonly administrator?: boolean | undefined },
  ): Promise<PersonAccount> {
    await this.sequelize.transaction(async (transaction) => {
      // All administrators are locked: two that go at once would leave none.
      await this.models.accounts.findAll({
        where: { administrator: true },
        lock: transaction.LOCK.UPDATE,
        transaction,
      })
      const row = await this.models.accounts.findByPk(id, { lock: transaction.LOCK.UPDATE, transaction })
      if (!row) throw new NotFoundError('there is no such account')
      await row.update(
        {
          ...(administrator !== undefined && { administrator }),
          ...(closed !== undefined && { closedAt: closed ? (row.closedAt ?? new Date()) : null }),
        },
        { transaction },
      )
      if (!(await this.hasAdministrator(transaction)))
        throw new BadRequestError('one administrator must stay who can sign in; make somebody else one first')
      if (closed === true) {
        await this.models.sessions.destroy({ where: { account: id }, transaction })
        await this.models.welcomes.destroy({ where: { account: id }, transaction })
      }
    })
    return this.account(id)
  }

  private async make(
    { id, name, administrator, password }: Pick<AccountRow, 'id' | 'name' | 'administrator' | 'password'>,
    transaction: Transaction,
  ): Promise<void> {
    try {
      await this.models.accounts.create(
        { id, name, nameKey: nameKey(name), administrator, password, since: new Date(), closedAt: null },
        { transaction },
      )
    } catch (error) {
      if ((error as Error).name !== 'SequelizeUniqueConstraintError') throw error
      throw new BadRequestError(`there is an account of that name; add what tells the two apart`)
    }
  }

  private async newWelcome(
    account: string | null,
    transaction: Transaction,
  ): Promise<{ readonly token: string; readonly until: string }> {
    await this.models.welcomes.destroy({ where: { account }, transaction })
    const token = newToken(TOKEN_BYTES)
    const until = new Date(Date.now() + WELCOME_MS)
    await this.models.welcomes.create({ tokenHash: digest(token), account, until }, { transaction })
    return { token, until: until.toISOString() }
  }

  /** Whose link it is; null: the first administrator's. @throws NotFoundError */
  private async welcomed(token: string, transaction?: Transaction): Promise<AccountRow | null> {
    const row = await this.models.welcomes.findOne({
      where: { tokenHash: digest(token), until: { [Op.gt]: new Date() } },
      ...(transaction && { lock: transaction.LOCK.UPDATE, transaction }),
    })
    if (!row) throw new NotFoundError(GONE)
    if (row.account === null) return null
    return this.models.accounts.findByPk(row.account, {
      ...(transaction && { transaction }),
      rejectOnEmpty: true,
    })
  }

  private async hasAdministrator(transaction: Transaction): Promise<boolean> {
    const where = { administrator: true, closedAt: null, password: { [Op.ne]: null } }
    return (await this.models.accounts.count({ where, transaction })) > 0
  }

  private async account(id: string): Promise<PersonAccount> {
    const [account] = await this.told(id)
    if (!account) throw new NotFoundError('there is no such account')
    return account
  }

  private async told(id: string | null = null): Promise<PersonAccount[]> {
    const rows = await this.sequelize.query<{
      id: string
      name: string
      administrator: 0 | 1
      isInvited: 0 | 1
      since: Date
      closedAt: Date | null
      seenAt: Date | null
      plans: number
    }>(
      `SELECT a.id, a.name, a.administrator, a.password IS NULL AS isInvited, a.since, a.closed_at AS closedAt,
        (SELECT MAX(seen_at) FROM sessions WHERE account = a.id) AS seenAt,
        (SELECT COUNT(*) FROM plan_roles r JOIN plans p ON p.id = r.plan_id WHERE r.account = a.id AND p.removed_at IS NULL) AS plans
      FROM accounts a WHERE :id IS NULL OR a.id = :id ORDER BY a.closed_at IS NOT NULL, a.name`,
      { type: QueryTypes.SELECT, replacements: { id } },
    )
    return rows.map(({ id: key, name, administrator, isInvited, since, closedAt, seenAt, plans }) => ({
      id: key,
      name,
      administrator: Boolean(administrator),
      state: closedAt !== null ? 'closed' : isInvited ? 'invited' : 'open',
      since: since.toISOString(),
      seenAt: seenAt?.toISOString() ?? null,
      plans: Number(plans),
    }))
  }
}
