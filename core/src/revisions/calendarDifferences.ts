import { instantOf } from '../time/instant.ts'
import type { Item } from '../plan/change.ts'
import type { Plan, PlanCalendar } from '../plan/schema.ts'
import { calendarName } from '../words/calendarName.ts'
import { exceptionWords } from '../words/calendarWords.ts'
import { counted } from '../words/counted.ts'
import { daysWords, instantWords } from '../words/dates.ts'
import { durationWords } from '../words/durations.ts'
import { weekWords } from '../words/weekWords.ts'
import type { Draft } from './difference.ts'

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
const HOURS_ONLY = { dayMinutes: 1e9 }
const MOST_NAMED = 4

/** What of a calendar can differ: what it is called, and how each state of it reads beside the other. */
const FIELDS: Readonly<
  Record<
    'week' | 'seasons' | 'rota' | 'windows' | 'exceptions' | 'parent' | 'dayMinutes',
    {
      readonly title: string
      readonly words: (one: PlanCalendar, other: PlanCalendar, names: (id: string) => string) => string
    }
  >
> = {
  week: { title: 'hours', words: ({ week }) => (week === null ? 'none of its own' : weekWords(week)) },
  seasons: {
    title: 'seasons',
    words: ({ seasons }) =>
      seasons
        .map(({ from, to, week, yearly }) =>
          yearly
            ? `${daysWords(from.slice(-5), to.slice(-5))}, every year: ${weekWords(week)}`
            : `${daysWords(from, to)}: ${weekWords(week)}`,
        )
        .join('; ') || 'none',
  },
  rota: { title: 'rota', words: ({ rota }) => (rota ? `${rota.on} days on, ${rota.off} off` : 'none') },
  windows: {
    title: 'windows',
    words: ({ windows }, other) => {
      const known = new Set(other.windows.map((window) => JSON.stringify(window)))
      return only(
        windows.filter((window) => !known.has(JSON.stringify(window))),
        ([from]) => `the one of ${instantWords(instantOf(from, 'start'), 'start', { year: true })}`,
        windows.length === 0 ? 'none' : `${counted(windows.length, 'window')}, all of them there too`,
      )
    },
  },
  exceptions: {
    title: 'days of its own',
    words: ({ exceptions }, other) => {
      const known = new Set(other.exceptions.map((one) => JSON.stringify(one)))
      return only(
        exceptions.filter((one) => !known.has(JSON.stringify(one))),
        exceptionWords,
        'none of these',
      )
    },
  },
  parent: {
    title: 'takes its days off from',
    words: ({ parent }, _other, names) => (parent === null ? 'none' : names(parent)),
  },
  dayMinutes: { title: 'a day counts as', words: ({ dayMinutes }) => durationWords(dayMinutes, HOURS_ONLY) },
}

const only = <T>(list: readonly T[], words: (one: T) => string, none: string): string =>
  list.length === 0
    ? none
    : list.slice(0, MOST_NAMED).map(words).join('; ') +
      (list.length > MOST_NAMED ? ` and ${list.length - MOST_NAMED} more` : '')

/** Calendars that differ, each in one of its facts, as they read before and after. @param later - by ids of the earlier revision */
export const calendarDifferences = (before: Plan, later: ReadonlyMap<string, PlanCalendar>): Draft[] => {
  const known = new Map(before.calendars.map((c) => [c.id, c]))
  const names = (id: string): string => calendarName(id, [...before.calendars, ...later.values()])
  return [...later.values()].flatMap((is): Draft[] => {
    const was = known.get(is.id)
    if (!was)
      return [
        {
          kind: 'calendars',
          activities: [],
          what: `Calendar ${is.name || is.id}`,
          before: 'not there',
          after: 'new',
          change: null,
        },
      ]
    return (Object.keys(FIELDS) as (keyof typeof FIELDS)[])
      .filter((field) => !same(was[field], is[field]))
      .map((field): Draft => {
        const { title, words } = FIELDS[field]
        const set: Item = { [field]: is[field] }
        return {
          kind: 'calendars',
          activities: [],
          what: `Calendar ${was.name || was.id}: ${title}`,
          before: words(was, is, names),
          after: words(is, was, names),
          change: { kind: 'set', list: 'calendars', key: was.id, set },
        }
      })
  })
}
