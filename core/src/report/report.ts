/** A text, or one that begins a column of figures. */
export interface ReportColumn {
  readonly title: string
  /** Figures stand to the right. */
  readonly isFigure?: boolean
}
export interface ReportTable {
  readonly columns: readonly ReportColumn[]
  /** A row that says `heading` stands over those that follow; its first cell goes across. */
  readonly rows: readonly { readonly cells: readonly string[]; readonly isHeading?: boolean }[]
}

/** A piece of a part, from which a page and a printed document are made alike. */
export type ReportBlock =
  /** The sentence that answers. */
  | { readonly kind: 'answer'; readonly text: string }
  | { readonly kind: 'text'; readonly text: string; readonly isSoft?: boolean }
  | { readonly kind: 'heading'; readonly text: string }
  | { readonly kind: 'facts'; readonly facts: readonly (readonly [name: string, value: string])[] }
  | { readonly kind: 'list'; readonly items: readonly string[] }
  | ({ readonly kind: 'table' } & ReportTable)
  /** SVG 1.1, and what is seen in it; a sheet takes a page. */
  | { readonly kind: 'drawing'; readonly svg: string; readonly words: string; readonly isSheet?: boolean }

export interface ReportPart {
  /** Its name among {@link REPORT_PARTS}. */
  readonly name: string
  readonly title: string
  readonly blocks: readonly ReportBlock[]
}

/** A plan on paper: what it says, in the parts that were chosen. */
export interface Report {
  readonly title: string
  /** Code, scenario, status date: what it is a report of. */
  readonly subtitle: string
  /** When it was made, in words. */
  readonly made: string
  readonly parts: readonly ReportPart[]
}

export const answer = (text: string): ReportBlock => ({ kind: 'answer', text })
export const said = (text: string): ReportBlock => ({ kind: 'text', text })
export const aside = (text: string): ReportBlock => ({ kind: 'text', text, isSoft: true })
export const heading = (text: string): ReportBlock => ({ kind: 'heading', text })
/** A table, or nothing where it would have no row. @param columns - those that begin with ">" hold figures */
export const table = (columns: readonly string[], rows: ReportTable['rows']): ReportBlock[] =>
  rows.length === 0
    ? []
    : [
        {
          kind: 'table',
          columns: columns.map((title) =>
            title.startsWith('>') ? { title: title.slice(1), isFigure: true } : { title },
          ),
          rows,
        },
      ]
export const row = (...cells: string[]): ReportTable['rows'][number] => ({ cells })
