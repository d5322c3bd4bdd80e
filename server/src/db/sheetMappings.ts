import { createHash } from 'node:crypto'
import type { SheetMapping } from '@geodrome/core'
import type { Models } from './models.ts'

const MOST = 500

/** Mappings of lists, latest first: whoever sends such a list again need not be told again, in whatever browser. */
export class SheetMappings {
  private readonly models: Models

  constructor(models: Models) {
    this.models = models
  }
  /** @param owner - whose they are; '' where nobody signs in */
  async latest(owner: string): Promise<SheetMapping[]> {
    const rows = await this.models.sheetMappings.findAll({
      where: { owner },
      order: [['at', 'DESC']],
      limit: MOST,
    })
    return rows.map(({ heads, sender, body }) => ({
      heads,
      sender,
      mapping: JSON.parse(body) as SheetMapping['mapping'],
    }))
  }
  async keep(owner: string, { heads, sender, mapping }: SheetMapping): Promise<void> {
    const headsKey = createHash('sha256').update(heads).digest('hex')
    await this.models.sheetMappings.upsert({
      owner,
      headsKey,
      sender,
      heads,
      body: JSON.stringify(mapping),
      at: new Date(),
    })
  }
}
