import { drawnPlan } from '../../drawing/drawnPlan.ts'
import { groundSvg } from '../../drawing/groundSvg.ts'
import { pinsOf } from '../../drawing/pins.ts'
import { arrangeRows, type RowModel } from '../../drawing/rows.ts'
import { DAYLIGHT } from '../../drawing/tokens.ts'
import { counted } from '../../words/counted.ts'
import { aside, said, type ReportBlock } from '../report.ts'
import type { ReportContext } from '../reportContext.ts'

/** Rows that are readable on one sheet, and its width in the drawing's own pixels. */
const ROWS_ON_A_SHEET = 36
const WIDTH = 880
/** Beyond this the whole list would be a book: its groups are drawn instead. */
const MOST_ROWS = 400

/** The network over time, sheet by sheet. */
export const ground = (context: ReportContext): ReportBlock[] => {
  const { plan, made } = context
  if (plan.activities.length === 0) return [said('There is nothing to draw yet.')]
  const all = rowsOf(plan, false)
  const isLong = all.rows.length > MOST_ROWS
  const model = isLong ? rowsOf(plan, true) : all
  const p80 = context.varies ? context.run.summary.percentiles['80']! : null
  const pins = pinsOf(plan, made.projectFinish, p80)
  const sheets = sheetsOf(model)
  return [
    aside(
      'Less float, more ink: full where there is none, hatched where there is little, open where there is room, notched where a date is missed; the dashed slot behind is that room. The longest path is underlined, and links that drive are dark. Finished work is stone.',
    ),
    ...(isLong
      ? [
          aside(
            `${counted(plan.activities.length, 'activity')} are more than can be read here: groups and the milestones outside them are drawn.`,
          ),
        ]
      : []),
    ...sheets.map((sheet, k): ReportBlock => ({
      kind: 'drawing',
      svg: groundSvg(sheet, drawnPlan(made), pins, DAYLIGHT, { width: WIDTH }),
      words: `The network over time, sheet ${k + 1} of ${sheets.length}`,
      isSheet: true,
    })),
  ]
}

const rowsOf = (plan: ReportContext['plan'], folded: boolean): RowModel =>
  arrangeRows(plan, {
    collapsed: new Set(folded ? plan.groups.map(({ id }) => id) : []),
    keeps: null,
    compare: null,
    across: false,
    heading: null,
  })

const sheetsOf = ({ rows, shown, total }: RowModel): RowModel[] =>
  Array.from({ length: Math.ceil(rows.length / ROWS_ON_A_SHEET) }, (_, k) => {
    const own = rows.slice(k * ROWS_ON_A_SHEET, (k + 1) * ROWS_ON_A_SHEET)
    const position = new Map(own.flatMap((one, at) => (one.kind === 'activity' ? [[one.id, at]] : [])))
    return { rows: own, position, shown, total }
  })
