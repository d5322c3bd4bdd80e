import { Op, QueryTypes, type Sequelize } from 'sequelize'
import type { Models } from './models.ts'
import { digest, newToken } from './secrets.ts'

const TOKEN_BYTES = 32
/** How long somebody stays signed in who does nothing, and at most. */
const IDLE_MS = 7 * 24 * 3600_000
export const SESSION_MS = 30 * 24 * 3600_000
/** When it is noted again that somebody is there. */
const SEEN_MS = 5 * 60_000

/** Who is signed in. */
export interface SignedIn {
  readonly id: string
  readonly name: string
  readonly administrator: boolean
}

/** Browsers in which somebody is signed in, in MariaDB. */
export class Sessions {
  private readonly sequelize: Sequelize
  private readonly models: Models

  constructor(sequelize: Sequelize, models: Models) {
    this.sequelize = sequelize
    this.models = models
  }

  /** @returns what the browser keeps */
  async begin(account: string): Promise<string> {
    const now = new Date()
    const token = newToken(TOKEN_BYTES)
    await this.models.sessions.destroy({
      where: { since: { [Op.lt]: new Date(now.getTime() - SESSION_MS) } },
    })
    await this.models.sessions.create({ tokenHash: digest(token), account, since: now, seenAt: now })
    return token
  }

  /** Who is signed in by it; null where nobody is (any more). */
  async find(token: string): Promise<SignedIn | null> {
    const tokenHash = digest(token)
    const now = Date.now()
    const [row] = await this.sequelize.query<{
      id: string
      name: string
      administrator: 0 | 1
      seenAt: Date
    }>(
      `SELECT a.id, a.name, a.administrator, s.seen_at AS seenAt FROM sessions s JOIN accounts a ON a.id = s.account
      WHERE s.token_hash = :tokenHash AND a.closed_at IS NULL AND s.since > :began AND s.seen_at > :idle`,
      {
        type: QueryTypes.SELECT,
        replacements: { tokenHash, began: new Date(now - SESSION_MS), idle: new Date(now - IDLE_MS) },
      },
    )
    if (!row) return null
    if (now - row.seenAt.getTime() > SEEN_MS)
      await this.models.sessions.update({ seenAt: new Date(now) }, { where: { tokenHash } })
    return { id: row.id, name: row.name, administrator: Boolean(row.administrator) }
  }

  async end(token: string): Promise<void> {
    await this.models.sessions.destroy({ where: { tokenHash: digest(token) } })
  }
}
