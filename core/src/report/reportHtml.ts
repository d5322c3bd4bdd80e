import { DAYLIGHT } from '../drawing/tokens.ts'
import { xmlText } from '../words/xmlText.ts'
import type { Report, ReportBlock, ReportPart, ReportTable } from './report.ts'

/** The look of a report under an element of the class `report`: on the screen, on paper. */
export const REPORT_CSS = `
.report { color: ${DAYLIGHT.ink}; background: ${DAYLIGHT.raised}; font: 400 14px/1.45 'Instrument Sans', 'Instrument Sans Variable', sans-serif; max-width: 900px; margin: 0 auto; padding: 36px 44px; overflow-wrap: anywhere; }
.report h1, .report h2, .report h3, .report .answer { font-family: 'Bricolage Grotesque', 'Bricolage Grotesque Variable', sans-serif; line-height: 1.2; margin: 0; }
.report h1 { font-size: 30px; font-weight: 700; }
.report h2 { font-size: 20px; font-weight: 700; margin: 34px 0 10px; padding-top: 8px; border-top: 2px solid ${DAYLIGHT.ink}; }
.report h3 { font-size: 15px; font-weight: 600; margin: 18px 0 6px; }
.report .answer { font-size: 18px; font-weight: 600; margin: 0 0 10px; }
.report p { margin: 0 0 8px; }
.report .soft, .report header p { color: ${DAYLIGHT.softInk}; }
.report ul { margin: 0 0 10px; padding-left: 20px; }
.report table { border-collapse: collapse; width: 100%; margin: 0 0 12px; font-variant-numeric: tabular-nums; font-size: 12.5px; }
.report th, .report td { text-align: left; vertical-align: top; padding: 3px 10px 3px 0; border-bottom: 1px solid ${DAYLIGHT.hairline}; }
.report thead th { border-bottom: 1.5px solid ${DAYLIGHT.ink}; font-weight: 600; }
.report .figure { text-align: right; padding-right: 18px; }
.report th.over { padding-top: 10px; font-weight: 650; }
.report .facts { display: grid; grid-template-columns: max-content 1fr; gap: 3px 22px; margin: 0 0 12px; }
.report .facts dt { color: ${DAYLIGHT.softInk}; white-space: pre; }
.report .facts dd { margin: 0; font-weight: 500; }
.report figure { margin: 0 0 14px; }
.report figure svg { width: 100%; height: auto; display: block; }
.report footer { margin-top: 34px; color: ${DAYLIGHT.softInk}; font-size: 12px; border-top: 1px solid ${DAYLIGHT.hairline}; padding-top: 8px; }
@page { size: A4; margin: 16mm 14mm; }
@media print {
  .report { max-width: none; padding: 0; background: none; font-size: 10.5pt; }
  .report table { font-size: 8.5pt; }
  .report h2, .report h3 { break-after: avoid; }
  .report tr, .report figure, .report .facts { break-inside: avoid; }
  .report thead { display: table-header-group; }
}
`

/** A part as HTML: whatever stands in a plan is text there. */
export const partHtml = ({ name, title, blocks }: ReportPart): string =>
  `<section data-part="${name}"><h2>${xmlText(title)}</h2>${blocks.map(blockHtml).join('')}</section>`

const reportBody = ({ title, subtitle, made, parts }: Report): string =>
  `<article class="report"><header><h1>${xmlText(title)}</h1><p>${xmlText(subtitle)}</p></header>${parts
    .map(partHtml)
    .join(
      '',
    )}<footer>Made with Geodrome on ${xmlText(made)}. Every figure can be asked for its reasons in the plan itself.</footer></article>`

/** A report as a page of its own. @param fonts - rules that bring its fonts */
export const reportPage = (report: Report, fonts: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${xmlText(report.title)}</title><style>${fonts}body { margin: 0; background: ${DAYLIGHT.paper}; }${REPORT_CSS}</style></head><body>${reportBody(report)}</body></html>\n`

const blockHtml = (block: ReportBlock): string => {
  switch (block.kind) {
    case 'answer':
      return `<p class="answer">${xmlText(block.text)}</p>`
    case 'text':
      return `<p${block.isSoft ? ' class="soft"' : ''}>${xmlText(block.text)}</p>`
    case 'heading':
      return `<h3>${xmlText(block.text)}</h3>`
    case 'list':
      return `<ul>${block.items.map((item) => `<li>${xmlText(item)}</li>`).join('')}</ul>`
    case 'facts':
      return `<dl class="facts">${block.facts.map(([name, value]) => `<dt>${xmlText(name)}</dt><dd>${xmlText(value)}</dd>`).join('')}</dl>`
    case 'table':
      return tableHtml(block)
    case 'drawing':
      return `<figure role="img" aria-label="${xmlText(block.words)}">${block.svg}</figure>`
  }
}

const tableHtml = ({ columns, rows }: ReportTable): string => {
  const as = (k: number): string => (columns[k]?.isFigure ? ' class="figure"' : '')
  const head = columns.map(({ title }, k) => `<th scope="col"${as(k)}>${xmlText(title)}</th>`).join('')
  const body = rows.map(({ cells, isHeading }) =>
    isHeading
      ? `<tr><th class="over" scope="rowgroup" colspan="${columns.length}">${xmlText(cells[0] ?? '')}</th></tr>`
      : `<tr>${cells.map((cell, k) => `<td${as(k)}>${xmlText(cell)}</td>`).join('')}</tr>`,
  )
  return `<table><thead><tr>${head}</tr></thead><tbody>${body.join('')}</tbody></table>`
}
