import { createHash } from 'node:crypto'
import type { Models } from './models.ts'

/** How the columns of a list with these heads are read. The mapping is the reader's own; here it is only kept. */
export interface SheetMapping {
  readonly heads: string
  /** Who sends such lists; '' where nobody was named. */
  readonly sender: string
  readonly mapping: Readonly<Record<string, unknown>>
}

const MOST = 500

/** Mappings of lists, latest first: whoever sends such a list again need not be told again, in whatever browser. */
export class SheetMappings {
  private readonly models: Models

  constructor(models: Models) {
    this.models = models
  }
  async latest(): Promise<SheetMapping[]> {
    const rows = await this.models.sheetMappings.findAll({ order: [['at', 'DESC']], limit: MOST })
    return rows.map(({ heads, sender, body }) => ({
      heads,
      sender,
      mapping: JSON.parse(body) as SheetMapping['mapping'],
    }))
  }
  async keep({ heads, sender, mapping }: SheetMapping): Promise<void> {
    const headsKey = createHash('sha256').update(heads).digest('hex')
    await this.models.sheetMappings.upsert({
      headsKey,
      sender,
      heads,
      body: JSON.stringify(mapping),
      at: new Date(),
    })
  }
}
