import {
  baselineOf,
  frozenBy,
  outlineNumbers,
  positionsOf,
  type Done,
  type Frozen,
  type Activity,
  type Change,
  type Link,
  type Plan,
} from '@geodrome/core'
import { linkIndex } from '../../composables/linkIndex.ts'
import type { CalendarLookup } from '../../composables/useCalendars.ts'
import type { ScheduleView } from '../../workers/scheduleProtocol.ts'

/** What a cell needs to know to show and to read itself. */
export interface CellContext {
  readonly plan: Plan
  readonly view: ScheduleView
  readonly calendars: CalendarLookup
  readonly allTimes: boolean
  /** Outline numbers by id of activity or group. */
  readonly numbers: ReadonlyMap<string, string>
  readonly linksIn: ReadonlyMap<string, readonly Link[]>
  readonly linksOut: ReadonlyMap<string, readonly Link[]>
  readonly byCode: ReadonlyMap<string, Activity>
  /** What the baseline says that the plan is compared with, by activity; null without one. */
  readonly frozen: ReadonlyMap<string, Frozen> | null
  /** What is done of each activity; null while it is not known, or not shown. */
  readonly done: Done | null
  /** Whether a link drives its successor. */
  drives(link: Pick<Link, 'id'>): boolean
  activity(id: string): Activity | undefined
}

/** What was understood of a typed value: a change and its words, or why not. */
export type Understood =
  | { readonly ok: true; readonly words: string; readonly change: Change | null }
  | { readonly ok: false; readonly why: string }

export interface Column {
  readonly id: string
  readonly title: string
  readonly explains: string
  /** Pixels; null for the one that takes what is left. */
  readonly width: number | null
  readonly align: 'left' | 'right'
  /** Holds a date, which needs more room where years are said. */
  readonly isDate?: boolean
  /** Lower ones give way first in a narrow list. */
  readonly holds: number
  text(context: CellContext, index: number): string
  /** What rows are sorted by; the text where absent. */
  sortBy?(context: CellContext, index: number): number | string
  /** The text that editing begins with; absent for cells that are computed. */
  draft?(context: CellContext, index: number): string
  read?(context: CellContext, index: number, text: string): Understood
  /** Values to choose from while typing. */
  offers?(context: CellContext): readonly string[]
}

const memo = <T>(make: () => T): (() => T) => {
  let made: { value: T } | null = null
  return () => (made ??= { value: make() }).value
}

/** The context of a plan and its schedule; look-ups are made when a column first asks for them. */
export const cellContext = (
  plan: Plan,
  view: ScheduleView,
  calendars: CalendarLookup,
  allTimes: boolean,
  done: Done | null = null,
): CellContext => {
  const numbers = memo(() => outlineNumbers(plan))
  const links = memo(() => linkIndex(plan.links))
  const frozen = memo(() => {
    const baseline = baselineOf(plan)
    return baseline && frozenBy(baseline)
  })
  const byCode = memo(() => new Map(plan.activities.map((a) => [a.code.toLowerCase(), a])))
  return {
    plan,
    view,
    calendars,
    allTimes,
    done,
    get numbers() {
      return numbers()
    },
    get linksIn() {
      return links().into
    },
    get linksOut() {
      return links().out
    },
    get frozen() {
      return frozen()
    },
    get byCode() {
      return byCode()
    },
    activity: (id) => plan.activities[positionsOf(plan.activities).get(id) ?? -1],
    drives: ({ id }) => view.drives[links().position.get(id) ?? -1] === 1,
  }
}

export const setActivity = (activity: Activity, set: Record<string, unknown>): Change => ({
  kind: 'set',
  list: 'activities',
  key: activity.id,
  set,
})
export const same: Understood = { ok: true, words: 'as it is', change: null }
