import { NONE } from '../../network/network.ts'
import { lengthsOf } from '../../plan/durations.ts'
import { calendarOf } from '../../plan/lagCalendar.ts'
import { arrangeRows } from '../../drawing/rows.ts'
import { instantWords } from '../../words/dates.ts'
import { durationWords } from '../../words/durations.ts'
import { row, said, table, type ReportBlock } from '../report.ts'
import type { ReportContext } from '../reportContext.ts'

const floatWords = (context: ReportContext, i: number): string => {
  const { plan, made } = context
  const float = made.float.total[i]!
  const lengths = lengthsOf(plan, calendarOf(plan.project, plan.activities[i]!))
  return float === NONE
    ? '–'
    : `${float < 0 ? '−' : ''}${float === 0 ? '0' : durationWords(Math.abs(float), lengths)}`
}

/** Milestones in the order of their dates, payments and decisions among them. */
export const milestones = (context: ReportContext): ReportBlock[] => {
  const { plan, made } = context
  const targets = context.varies ? context.run.summary.targets : {}
  const found = plan.activities
    .map((activity, i) => ({ activity, i }))
    .filter(({ activity }) => activity.kind === 'milestone')
    .sort((a, b) => made.start[a.i]! - made.start[b.i]! || a.i - b.i)
  if (found.length === 0) return [said('The plan has no milestones.')]
  const blocks = table(
    ['Code', 'Milestone', 'Planned', ...(context.varies ? ['P80'] : []), '>Total float'],
    found.map(({ activity: { id, code, name, edge }, i }) => {
      const sure = targets[id]?.percentiles['80']
      return row(
        code,
        name,
        instantWords(made.finish[i]!, edge === 'start' ? 'start' : 'finish'),
        ...(context.varies ? [typeof sure === 'string' ? context.day(sure) : '–'] : []),
        floatWords(context, i),
      )
    }),
  )
  return blocks
}

/** Every activity with its dates, under its group. */
export const activities = (context: ReportContext): ReportBlock[] => {
  const { plan, made } = context
  const { rows } = arrangeRows(plan, {
    collapsed: new Set(),
    keeps: null,
    compare: null,
    across: false,
    heading: null,
  })
  if (rows.length === 0) return [said('There is no activity in this plan yet.')]
  return table(
    ['Code', 'Activity', '>Duration', 'Start', 'Finish', '>Total float'],
    rows.map((one) => {
      if (one.kind === 'group') return { cells: [`${one.code} ${one.name}`.trim()], isHeading: true }
      const activity = plan.activities[one.index]!
      const lengths = lengthsOf(plan, calendarOf(plan.project, activity))
      return row(
        activity.code,
        activity.name,
        activity.kind === 'work' ? durationWords(activity.duration, lengths) : activity.kind,
        instantWords(made.start[one.index]!, 'start'),
        instantWords(made.finish[one.index]!, 'finish'),
        floatWords(context, one.index),
      )
    }),
  )
}
