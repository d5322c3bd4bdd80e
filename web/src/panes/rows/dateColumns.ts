import {
  constraintPhrase,
  instantOf,
  instantWords,
  NONE,
  readDate,
  shortDay,
  shortDurationWords,
  withStartLimit,
} from '@geodrome/core'
import { setActivity, type CellContext, type Column, type Understood } from './cellContext.ts'
import { daysOf } from './floatDays.ts'

/** A date in the list: the time only where it is not the edge of a working day, or when asked for. */
const dateCell = (
  { plan, calendars, allTimes }: CellContext,
  index: number,
  at: number,
  edge: 'start' | 'finish',
): string => {
  const calendar = calendars.of(plan.activities[index]!)
  if (allTimes || !calendars.isDayEdge(calendar, at, edge)) return instantWords(at, edge).slice(4)
  return shortDay(at, edge)
}

const float = (minutes: number, { plan, calendars }: CellContext, index: number): string =>
  minutes === NONE ? '' : shortDurationWords(minutes, calendars.lengthsOf(plan.activities[index]!))
const floatWords = (context: CellContext, index: number): string =>
  float(context.view.totalFloat[index]!, context, index)

/** A milestone stands at one instant, which is said as the edge that it marks in both columns. */
const edgeOf = ({ plan }: CellContext, i: number, column: 'start' | 'finish'): 'start' | 'finish' => {
  const { kind, edge } = plan.activities[i]!
  return kind === 'milestone' ? (edge ?? column) : column
}

/** Typing a date into a start or a finish sets a limit, not before it. */
const readLimit = (
  { plan, view, calendars }: CellContext,
  i: number,
  text: string,
  edge: 'start' | 'finish',
): Understood => {
  const activity = plan.activities[i]!
  if (activity.kind === 'hammock')
    return { ok: false, why: 'a hammock hangs from others and has no constraint of its own' }
  const scheduled = edge === 'start' ? view.start[i]! : view.finish[i]!
  const read = readDate(text, scheduled)
  if (!read.ok) return read
  const at = instantOf(read.date, edge)
  const calendar = calendars.of(activity)
  const isSame =
    edge === 'start'
      ? calendar.minuteAt(calendar.countBefore(at)) === scheduled
      : calendar.countBefore(at) === calendar.countBefore(scheduled)
  if (isSame) return { ok: true, words: 'as it is', change: null }
  const constraints =
    edge === 'start'
      ? withStartLimit(activity, read.date)
      : [
          ...activity.constraints.filter((c) => !(c.edge === 'finish' && c.rule === 'not-before')),
          { edge, rule: 'not-before', date: read.date, overrides: false },
        ]
  // What logic holds later anyway is said when it is typed, not found out afterwards.
  const isHeld =
    at < scheduled && !activity.constraints.some((c) => c.edge === edge && c.rule !== 'not-after')
  return {
    ok: true,
    words: `${edge} not before ${instantWords(at, edge)}${isHeld ? `; its links hold it until ${instantWords(scheduled, edge)}` : ''}`,
    change: setActivity(activity, { constraints }),
  }
}

/** What the schedule says. */
export const DATE_COLUMNS: readonly Column[] = [
  {
    id: 'start',
    title: 'Start',
    explains:
      'Scheduled start. Typing a date sets a constraint, not before it, which shows on the bar and can be removed.',
    width: 90,
    isDate: true,
    align: 'right',
    holds: 6,
    text: (context, i) => dateCell(context, i, context.view.start[i]!, edgeOf(context, i, 'start')),
    sortBy: ({ view }, i) => view.start[i]!,
    draft: (context, i) => instantWords(context.view.start[i]!, edgeOf(context, i, 'start')).slice(4),
    read: (context, i, text) => readLimit(context, i, text, 'start'),
  },
  {
    id: 'finish',
    title: 'Finish',
    explains: 'Scheduled finish. Typing a date sets a constraint, not before it.',
    width: 90,
    isDate: true,
    align: 'right',
    holds: 5,
    text: (context, i) => dateCell(context, i, context.view.finish[i]!, edgeOf(context, i, 'finish')),
    sortBy: ({ view }, i) => view.finish[i]!,
    draft: (context, i) => instantWords(context.view.finish[i]!, edgeOf(context, i, 'finish')).slice(4),
    read: (context, i, text) => readLimit(context, i, text, 'finish'),
  },
  {
    id: 'float',
    title: 'Float',
    explains:
      'Total float: how much later it can finish before a date is missed, in days of its own calendar. ≈: rounded here, exact in the Lens.',
    width: 68,
    align: 'right',
    holds: 7,
    text: floatWords,
    sortBy: (context, i) => daysOf(context, i, context.view.totalFloat[i]!),
  },
  {
    id: 'free',
    title: 'Free float',
    explains: 'How much later it can finish without moving anything else.',
    width: 76,
    align: 'right',
    holds: 3,
    text: (context, i) => float(context.view.freeFloat[i]!, context, i),
    sortBy: (context, i) => daysOf(context, i, context.view.freeFloat[i]!),
  },
  {
    id: 'late',
    title: 'Late finish',
    explains: 'The latest finish that misses no date.',
    width: 90,
    isDate: true,
    align: 'right',
    holds: 3,
    text: (context, i) =>
      context.view.totalFloat[i] === NONE
        ? ''
        : dateCell(context, i, context.view.lateFinish[i]!, edgeOf(context, i, 'finish')),
    sortBy: ({ view }, i) => view.lateFinish[i]!,
  },
  {
    id: 'limits',
    title: 'Constraints',
    explains:
      'Dates that hold it beside its links; set and removed in the Lens, or by typing a start or finish.',
    width: 170,
    align: 'left',
    holds: 2,
    text: ({ plan }, i) => plan.activities[i]!.constraints.map(constraintPhrase).join('; '),
  },
]
