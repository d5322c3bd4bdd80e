import { drawnPlan } from '../drawing/drawnPlan.ts'
import { groundSvg } from '../drawing/groundSvg.ts'
import type { RowModel } from '../drawing/rows.ts'
import { DAYLIGHT } from '../drawing/tokens.ts'
import { REPORT_CSS } from '../report/reportHtml.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { counted } from '../words/counted.ts'
import { spanEnd, withYearsOf } from '../words/dates.ts'
import { xmlText } from '../words/xmlText.ts'
import { sharedView, type SharedChoice, type SharedView } from './sharedView.ts'

/** Rows that are drawn; of more the table is enough. */
const MOST_DRAWN = 120
const WIDTH = 860

/**
 * The page behind a link, for people who do not plan: what is to be done, when, and the latest date that still costs nothing. Without
 * any script. @param fonts - rules that bring its fonts @param calendar - the address of its calendar
 */
export const sharedPage = (made: Schedule, choice: SharedChoice, fonts: string, calendar: string): string => {
  const { plan } = made.network
  return withYearsOf(made.projectStart, spanEnd(made.projectFinish, plan.project.requiredFinish), () => {
    const view = sharedView(made, choice)
    return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="robots" content="noindex"><title>${xmlText(view.title)}</title><style>${fonts}body { margin: 0; background: ${DAYLIGHT.paper}; }${REPORT_CSS}.report .late { font-weight: 650; } .report .done { color: ${DAYLIGHT.softInk}; } .report a { color: ${DAYLIGHT.fjord}; }</style></head><body><main class="report"><header><h1>${xmlText(view.title)}</h1><p>${xmlText(headOf(view))}</p></header>${answerOf(view)}${drawingOf(made, view)}${tableOf(view)}<footer><a href="${xmlText(calendar)}">These dates for a diary (iCalendar)</a>. What is planned changes: this page shows it as it stands when it is opened.</footer></main></body></html>\n`
  })
}

const headOf = ({ owner, shows, asOf }: SharedView): string =>
  [
    shows === 'party'
      ? `The work of ${owner ?? ''}`
      : shows === 'milestones'
        ? 'Milestones and payments'
        : 'All activities',
    asOf,
  ].join(' · ')

const answerOf = ({ rows, finish, shows }: SharedView): string => {
  const open = rows.filter(({ state }) => state !== 'done')
  const late = open.filter(({ isLate }) => isLate)
  const next = open.find(({ state }) => state === 'to come')
  const said = [
    ...(finish === null ? [] : [`Planned to finish on ${finish}.`]),
    rows.length === 0
      ? shows === 'party'
        ? 'There is no work for this party in the plan.'
        : 'There is nothing to show yet.'
      : open.length === 0
        ? 'All of it is done.'
        : `${rows.length - open.length} of ${rows.length} done${next ? `; next is ${next.code} ${next.name}, ${next.start === '' ? 'on' : 'from'} ${next.start || next.finish}` : ''}.`,
    ...(late.length > 0
      ? [
          `${counted(late.length, 'date')} ${late.length === 1 ? 'is' : 'are'} planned later than what is asked of the whole.`,
        ]
      : []),
  ]
  return `<p class="answer">${xmlText(said.join(' '))}</p>`
}

const drawingOf = (made: Schedule, { rows }: SharedView): string => {
  if (rows.length === 0 || rows.length > MOST_DRAWN) return ''
  const drawn = drawnPlan(made)
  const model: RowModel = {
    rows: rows.map(({ index }) => ({
      kind: 'activity',
      id: drawn.plan.activities[index]!.id,
      depth: 0,
      index,
    })),
    position: new Map(),
    shown: rows.length,
    total: rows.length,
  }
  // Neither links nor pins nor dates that hold: they would tell of what is not shown. Only the time that these take is drawn.
  const [from, to] = [
    Math.min(...rows.map(({ index }) => made.start[index]!)),
    Math.max(...rows.map(({ index }) => made.finish[index]!)),
  ]
  const view = { ...drawn.view, projectStart: from, projectFinish: to }
  const plan = {
    ...drawn.plan,
    project: { ...drawn.plan.project, name: 'Over time' },
    activities: drawn.plan.activities.map((activity) => ({ ...activity, constraints: [] })),
    links: [],
  }
  const svg = groundSvg(model, { ...drawn, view, plan }, [], DAYLIGHT, { width: WIDTH })
  return `<figure role="img" aria-label="The same over time">${svg}</figure>`
}

const tableOf = ({ rows, shows }: SharedView): string => {
  if (rows.length === 0) return ''
  const hasGroups = rows.some(({ group }) => group !== null)
  const hasPayments = rows.some(({ payment }) => payment !== '')
  const heads = [
    'Code',
    shows === 'milestones' ? 'Milestone' : 'Activity',
    ...(hasGroups ? ['Group'] : []),
    'Start',
    'Finish',
    'Latest, at no cost',
    ...(hasPayments ? ['Payment'] : []),
    'State',
  ]
  const body = rows.map(({ code, name, group, start, finish, latest, isLate, payment, state }) => {
    const cells = [
      code,
      name,
      ...(hasGroups ? [group ?? ''] : []),
      start,
      finish,
      isLate ? `${latest}: planned later` : latest,
      ...(hasPayments ? [payment] : []),
      state,
    ]
    return `<tr class="${state === 'done' ? 'done' : isLate ? 'late' : ''}">${cells.map((cell) => `<td>${xmlText(cell)}</td>`).join('')}</tr>`
  })
  return `<table><thead><tr>${heads.map((head) => `<th scope="col">${head}</th>`).join('')}</tr></thead><tbody>${body.join('')}</tbody></table>`
}
