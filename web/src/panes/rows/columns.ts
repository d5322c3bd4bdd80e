import { durationWords, instantOf, NONE, readDate, readDuration, setDuration, shortDay, shortDurationWords, instantWords, type Activity, type Change, type Constraint, type Plan } from '@geodrome/core'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'

/** What a cell needs to know to show and to read itself. */
export interface CellContext {
  readonly plan: Plan
  readonly view: ScheduleView
  readonly calendars: CalendarLookup
  readonly allTimes: boolean
}

/** What was understood of a typed value: a change and its words, or why not. */
export type Understood = { readonly ok: true; readonly words: string; readonly change: Change | null } | { readonly ok: false; readonly why: string }

export interface Column {
  readonly id: string
  readonly title: string
  readonly explains: string
  readonly width: number | null
  readonly align: 'left' | 'right'
  text(context: CellContext, index: number): string
  /** The text that editing begins with; absent for cells that are computed. */
  draft?(context: CellContext, index: number): string
  read?(context: CellContext, index: number, text: string): Understood
}

const setActivity = (activity: Activity, set: Record<string, unknown>): Change => ({ kind: 'set', list: 'activities', key: activity.id, set })

/** A date in the list: the time only where it is not the edge of a working day, or when asked for. */
export const dateCell = ({ plan, calendars, allTimes }: CellContext, index: number, at: number, edge: 'start' | 'finish'): string => {
  const calendar = calendars.of(plan.activities[index]!)
  if (allTimes || !calendars.isDayEdge(calendar, at, edge)) return instantWords(at, edge).slice(4)
  return shortDay(at, edge)
}

export const floatWords = ({ plan, view, calendars }: CellContext, index: number): string => {
  const minutes = view.totalFloat[index]!
  return minutes === NONE ? '' : shortDurationWords(minutes, calendars.lengthsOf(plan.activities[index]!))
}

/** The constraint that typing a start makes: it yields to logic, and replaces an earlier one of its kind. */
export const withStartLimit = (activity: Activity, date: string): Constraint[] => [
  ...activity.constraints.filter((c) => !(c.edge === 'start' && c.rule === 'not-before')),
  { edge: 'start', rule: 'not-before', date, overrides: false },
]

/** The columns as a CSS grid; the one without a width takes what is left. */
export const gridTemplate = (columns: readonly Column[]): string => columns.map((c) => (c.width === null ? 'minmax(80px, 1fr)' : `${c.width}px`)).join(' ')

/** What a list of a width can hold with readable names: the finish gives way first, then the start, which the Ground shows as well. */
export const columnsFor = (width: number): readonly Column[] => {
  const hidden = width >= 450 ? [] : width >= 400 ? ['finish'] : ['finish', 'start']
  return COLUMNS.filter((c) => !hidden.includes(c.id))
}

export const COLUMNS: readonly Column[] = [
  {
    id: 'code',
    title: 'Code',
    explains: 'What people call the activity by; changing it changes nothing else.',
    width: 46,
    align: 'left',
    text: ({ plan }, i) => plan.activities[i]!.code,
    draft: ({ plan }, i) => plan.activities[i]!.code,
    read: ({ plan }, i, text) => {
      const code = text.trim()
      const activity = plan.activities[i]!
      if (code === '') return { ok: false, why: 'a code is needed' }
      if (/\s/.test(code)) return { ok: false, why: 'a code has no spaces' }
      if (plan.activities.some((a) => a.code === code && a.id !== activity.id)) return { ok: false, why: `${code} is another activity` }
      return { ok: true, words: code, change: code === activity.code ? null : setActivity(activity, { code }) }
    },
  },
  {
    id: 'name',
    title: 'Activity',
    explains: 'What is done, or for a milestone, what has been achieved.',
    width: null,
    align: 'left',
    text: ({ plan }, i) => plan.activities[i]!.name,
    draft: ({ plan }, i) => plan.activities[i]!.name,
    read: ({ plan }, i, text) => {
      const name = text.trim()
      const activity = plan.activities[i]!
      return { ok: true, words: name, change: name === activity.name ? null : setActivity(activity, { name }) }
    },
  },
  {
    id: 'duration',
    title: 'Duration',
    explains: 'Working time of the activity’s own calendar. A question mark: nobody has confirmed it yet.',
    width: 66,
    align: 'right',
    text: ({ plan, calendars, view }, i) => {
      const activity = plan.activities[i]!
      if (activity.kind === 'milestone') return '—'
      if (activity.kind === 'hammock') {
        const calendar = calendars.of(activity)
        return durationWords(calendar.countBefore(view.finish[i]!) - calendar.countBefore(view.start[i]!), calendars.lengthsOf(activity))
      }
      return `${activity.confirmed ? '' : '? '}${shortDurationWords(activity.duration, calendars.lengthsOf(activity))}`
    },
    draft: ({ plan, calendars }, i) => {
      const activity = plan.activities[i]!
      return activity.kind === 'work' ? durationWords(activity.duration, calendars.lengthsOf(activity)) : ''
    },
    read: ({ plan, calendars }, i, text) => {
      const activity = plan.activities[i]!
      if (activity.kind !== 'work') return { ok: false, why: `a ${activity.kind} has no duration of its own` }
      const lengths = calendars.lengthsOf(activity)
      const read = readDuration(text, lengths)
      if (!read.ok) return read
      if (read.minutes < 0) return { ok: false, why: 'a duration cannot be negative' }
      const words = `${durationWords(read.minutes, lengths)}, ${calendars.name(calendars.idOf(activity))}`
      if (read.minutes === activity.duration && activity.confirmed) return { ok: true, words, change: null }
      return { ok: true, words, change: setDuration(activity, read.minutes) }
    },
  },
  {
    id: 'start',
    title: 'Start',
    explains: 'Scheduled start. Typing a date sets a limit, not before it, which shows on the bar and can be removed.',
    width: 88,
    align: 'right',
    text: (context, i) => dateCell(context, i, context.view.start[i]!, 'start'),
    draft: (context, i) => instantWords(context.view.start[i]!, 'start').slice(4),
    read: ({ plan, view, calendars }, i, text) => {
      const activity = plan.activities[i]!
      if (activity.kind === 'hammock') return { ok: false, why: 'a hammock hangs from others and has no limit of its own' }
      const read = readDate(text, view.start[i]!)
      if (!read.ok) return read
      const at = instantOf(read.date, 'start')
      const calendar = calendars.of(activity)
      if (calendar.minuteAt(calendar.countBefore(at)) === view.start[i]) return { ok: true, words: 'as it is', change: null }
      return {
        ok: true,
        words: `start not before ${instantWords(at, 'start')}`,
        change: setActivity(activity, { constraints: withStartLimit(activity, read.date) }),
      }
    },
  },
  {
    id: 'finish',
    title: 'Finish',
    explains: 'Scheduled finish.',
    width: 88,
    align: 'right',
    text: (context, i) => {
      const { kind, edge } = context.plan.activities[i]!
      return dateCell(context, i, context.view.finish[i]!, kind === 'milestone' && edge === 'start' ? 'start' : 'finish')
    },
  },
  {
    id: 'float',
    title: 'Float',
    explains: 'Total float: how much later it can finish before a date is missed, in days of its own calendar. ≈: rounded here, exact in the Lens.',
    width: 76,
    align: 'right',
    text: (context, i) => floatWords(context, i),
  },
]
