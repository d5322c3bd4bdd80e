import { DAYLIGHT, type ReportBlock, type Report, type ReportTable } from '@geodrome/core'
import type { Content, CustomTableLayout, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces.js'
import { fontRuns, type Family } from './fonts.ts'

/** A4 in points, and what is left of it. */
const MARGIN = 42
const WIDTH = 595 - 2 * MARGIN
/** A column whose cells are no longer than this is as wide as they are. */
const NARROW = 22

/** How far down a page a part, and a heading in it, may begin. */
const LAST_HEADING: Readonly<Record<number, number>> = { 1: 0.82, 2: 0.88 }

interface Look {
  readonly family?: Family
  readonly bold?: boolean
  readonly color?: string
  readonly fontSize?: number
}
/** A text in the fonts that have its letters. */
const worded = (text: string, { family = 'Instrument Sans', ...look }: Look = {}) =>
  fontRuns(text, family).map((run) => ({ text: run.text, font: run.family, ...look }))

const LINES: CustomTableLayout = {
  hLineWidth: (i, { table }) => (i === 0 ? 0 : i === table.headerRows ? 1 : 0.4),
  vLineWidth: () => 0,
  hLineColor: (i, { table }) => (i === table.headerRows ? DAYLIGHT.ink : DAYLIGHT.hairline),
  paddingLeft: () => 0,
  paddingRight: () => 8,
  paddingTop: () => 2,
  paddingBottom: () => 2,
}

/** A report as a document to be set: A4, upright. */
export const reportDocument = (report: Report): TDocumentDefinitions => ({
  info: { title: report.title, creator: 'Geodrome', producer: 'Geodrome' },
  language: 'en',
  pageSize: 'A4',
  pageMargins: [MARGIN, MARGIN, MARGIN, MARGIN + 8],
  defaultStyle: { font: 'Instrument Sans', fontSize: 9.5, lineHeight: 1.18, color: DAYLIGHT.ink },
  // A heading does not stand alone at the foot of a page.
  pageBreakBefore: ({ headlineLevel, startPosition }) =>
    headlineLevel !== undefined && startPosition.verticalRatio > LAST_HEADING[headlineLevel]!,
  footer: (page, pages) => ({
    margin: [MARGIN, 8, MARGIN, 0],
    fontSize: 8,
    color: DAYLIGHT.softInk,
    columns: [
      { text: worded(`${report.title} · made with Geodrome on ${report.made}`) },
      { text: `${page} of ${pages}`, alignment: 'right', width: 60 },
    ],
  }),
  content: [
    { text: worded(report.title, { family: 'Bricolage Grotesque', bold: true, fontSize: 22 }) },
    { text: worded(report.subtitle, { color: DAYLIGHT.softInk }), margin: [0, 2, 0, 10] },
    ...report.parts.flatMap(({ title, blocks }): Content[] => [
      {
        canvas: [{ type: 'line', x1: 0, y1: 0, x2: WIDTH, y2: 0, lineWidth: 1.4, lineColor: DAYLIGHT.ink }],
        margin: [0, 14, 0, 5],
        headlineLevel: 1,
        // What takes pages of its own begins on one.
        ...(blocks.some((block) => block.kind === 'drawing' && block.isSheet) && { pageBreak: 'before' }),
      },
      {
        text: worded(title, { family: 'Bricolage Grotesque', bold: true, fontSize: 14.5 }),
        margin: [0, 0, 0, 6],
      },
      ...blocks.map(content),
    ]),
  ],
})

const content = (block: ReportBlock): Content => {
  switch (block.kind) {
    case 'answer':
      return {
        text: worded(block.text, { family: 'Bricolage Grotesque', fontSize: 12.5 }),
        margin: [0, 0, 0, 6],
      }
    case 'text':
      return {
        text: worded(block.text, block.isSoft ? { color: DAYLIGHT.softInk } : {}),
        margin: [0, 0, 0, 5],
      }
    case 'heading':
      return {
        text: worded(block.text, { family: 'Bricolage Grotesque', bold: true, fontSize: 11 }),
        margin: [0, 8, 0, 3],
        headlineLevel: 2,
      }
    case 'list':
      return { ul: block.items.map((item) => ({ text: worded(item) })), margin: [0, 0, 0, 6] }
    case 'facts':
      return {
        layout: 'noBorders',
        margin: [-4, 0, 0, 6],
        table: {
          widths: ['auto', '*'],
          body: block.facts.map(([name, value]) => [
            { text: worded(name, { color: DAYLIGHT.softInk }), preserveLeadingSpaces: true },
            { text: worded(value) },
          ]),
        },
      }
    case 'table':
      return tableOf(block)
    case 'drawing':
      return { svg: withFallback(block.svg), width: WIDTH, margin: [0, 2, 0, 8] }
  }
}

const tableOf = ({ columns, rows }: ReportTable): Content => {
  const longest = columns.map(({ title }, k) =>
    rows.reduce(
      (most, { cells, isHeading }) => (isHeading ? most : Math.max(most, (cells[k] ?? '').length)),
      title.length,
    ),
  )
  const widest = Math.max(...longest)
  const cell = (text: string, k: number, bold: boolean): TableCell => ({
    text: worded(text, bold ? { bold } : {}),
    alignment: columns[k]?.isFigure ? 'right' : 'left',
  })
  const across = (text: string): TableCell[] => [
    { text: worded(text, { bold: true }), colSpan: columns.length, margin: [0, 5, 0, 0] },
    ...columns.slice(1).map(() => ''),
  ]
  return {
    layout: LINES,
    fontSize: 8,
    margin: [0, 0, 0, 8],
    table: {
      headerRows: 1,
      dontBreakRows: true,
      keepWithHeaderRows: 1,
      widths: longest.map((length) => (length > NARROW || length === widest ? '*' : 'auto')),
      body: [
        columns.map(({ title }, k) => cell(title, k, true)),
        ...rows.map(({ cells, isHeading }) =>
          isHeading ? across(cells[0] ?? '') : columns.map((_, k) => cell(cells[k] ?? '', k, false)),
        ),
      ],
    },
  }
}

/** Texts of a drawing are set in one font each: in the one that has all their letters. */
const withFallback = (svg: string): string =>
  svg.replace(/<text ([^>]*)>([^<]*)<\/text>/g, (whole, attributes: string, text: string) =>
    fontRuns(text.replace(/&#?\w+;/g, 'x')).every(({ family }) => family === 'Instrument Sans')
      ? whole
      : `<text font-family="DejaVu Sans" ${attributes.replace(/font-family="[^"]*"/, '')}>${text}</text>`,
  )
