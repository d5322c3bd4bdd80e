import type { MadeShare, Share, ShareAsked } from '@geodrome/core'
import { BadRequestError, NotFoundError } from '../errors.ts'
import type { Models, ShareRow } from './models.ts'
import { newId } from './planRows.ts'
import { digest, newToken } from './secrets.ts'

/** Bytes of what opens a link: 128 bits cannot be guessed. */
const TOKEN_BYTES = 16
/** Links of one plan that are in use. */
const MOST = 100

const today = (): string => new Date().toISOString().slice(0, 10)

const told = ({
  id,
  shows,
  owner,
  scenario,
  title,
  madeBy,
  madeAt,
  untilDay,
  openedAt,
}: ShareRow): Share => ({
  id,
  shows: shows as Share['shows'],
  owner,
  scenario,
  title,
  by: madeBy,
  madeAt: madeAt.toISOString(),
  until: untilDay,
  openedAt: openedAt?.toISOString() ?? null,
})

/** Links by which others see a plan, in MariaDB. What opens a link is told once and kept nowhere. */
export class ShareRepository {
  private readonly models: Models

  constructor(models: Models) {
    this.models = models
  }

  /** The links of a plan that were not revoked, the latest first; expired ones among them. */
  async ofPlan(planId: string): Promise<Share[]> {
    const rows = await this.models.shares.findAll({
      where: { planId, revokedAt: null },
      order: [['madeAt', 'DESC']],
    })
    return rows.map(told)
  }

  /** @throws BadRequestError for a day that is past, or one link too many */
  async make(planId: string, { shows, owner, scenario, title, by, until }: ShareAsked): Promise<MadeShare> {
    if (until !== null && until < today())
      throw new BadRequestError('the last day of this link is past; choose today or a later one')
    if ((await this.models.shares.count({ where: { planId, revokedAt: null } })) >= MOST)
      throw new BadRequestError(`the plan has ${MOST} links; revoke some that are not needed any more`)
    const token = newToken(TOKEN_BYTES)
    const row = await this.models.shares.create({
      id: newId(),
      tokenHash: digest(token),
      planId,
      scenario,
      shows,
      owner: shows === 'party' ? owner : null,
      title,
      madeBy: by,
      madeAt: new Date(),
      untilDay: until,
      revokedAt: null,
      openedAt: null,
    })
    return { ...told(row), token }
  }

  /** @throws NotFoundError */
  async revoke(planId: string, id: string): Promise<void> {
    const [revoked] = await this.models.shares.update(
      { revokedAt: new Date() },
      { where: { id, planId, revokedAt: null } },
    )
    if (revoked === 0) throw new NotFoundError('there is no such link')
  }

  /** What a link opens; null where it opens nothing (any more), whatever the reason. */
  async opened(token: string): Promise<{ readonly planId: string; readonly share: Share } | null> {
    const row = await this.models.shares.findOne({ where: { tokenHash: digest(token), revokedAt: null } })
    if (!row || (row.untilDay !== null && row.untilDay < today())) return null
    await row.update({ openedAt: new Date() })
    return { planId: row.planId, share: told(row) }
  }
}
