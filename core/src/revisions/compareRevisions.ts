import { CalendarError } from '../time/calendar.ts'
import { workBetween } from '../time/arithmetic.ts'
import { instantOf } from '../time/instant.ts'
import { applyChange } from '../plan/applyChange.ts'
import type { Change, Item } from '../plan/change.ts'
import { type DayLengths, lengthsOf, CLOCK_LENGTHS } from '../plan/durations.ts'
import { removeActivities } from '../plan/edits.ts'
import { PlanError } from '../plan/issue.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import type { Activity, Link, Plan } from '../plan/schema.ts'
import { reschedule } from '../schedule/reschedule.ts'
import { schedule as scheduleOf, type Schedule } from '../schedule/schedule.ts'
import { calendarName } from '../words/calendarName.ts'
import { constraintPhrase } from '../words/constraintWords.ts'
import { counted } from '../words/counted.ts'
import { dateWords } from '../words/dates.ts'
import { durationWords } from '../words/durations.ts'
import { linkPhrase } from '../words/links.ts'
import { estimateWords } from '../words/typedRange.ts'
import { calendarDifferences } from './calendarDifferences.ts'
import type { Difference, DifferenceKind, Draft } from './difference.ts'
import { measureUpdate } from './measureUpdate.ts'
import { matchRevisions, type Matched, type Matching } from './matchRevisions.ts'
import { translate, type Translated } from './translate.ts'

export interface RevisionComparison {
  readonly differences: readonly Difference[]
  /** How many activities were paired by what. */
  readonly matched: { readonly id: number; readonly code: number; readonly name: number }
  readonly finishBefore: number
  readonly finishAfter: number
  /** Of all differences together, working minutes of the earlier project calendar. */
  readonly moves: number
  /** Differences whose effect was not measured. */
  readonly unmeasured: number
}

/** Plans scheduled to measure effects, at most. */
const MOST_EXPERIMENTS = 400

/**
 * Two revisions of one network: what was added, deleted, recoded, and what differs in durations, logic, limits, calendars, progress and
 * project facts, each with its own effect on the finish. An update is measured as a whole, then its parts in their order
 * ({@link measureUpdate}).
 * @param before, after - sound plans; activities are paired by {@link matchRevisions}
 * @throws CalendarError where one of the two cannot be scheduled
 */
export const compareRevisions = (before: Plan, after: Plan): RevisionComparison => {
  const matching = matchRevisions(before, after)
  const schedule = scheduleOf(before)
  const finishAfter = scheduleOf(after).projectFinish
  const measured = measure(before, schedule, after, draftDifferences(before, after, matching))
  const calendar = schedule.network.calendars.get(before.project.calendar)
  const countBy = (by: Matched['by']): number => matching.matched.filter((m) => m.by === by).length
  return {
    differences: measured.sort(
      (a, b) =>
        Number(b.isAfterTheFact) - Number(a.isAfterTheFact) ||
        Math.abs(b.moves ?? 0) - Math.abs(a.moves ?? 0),
    ),
    matched: { id: countBy('id'), code: countBy('code'), name: countBy('name') },
    finishBefore: schedule.projectFinish,
    finishAfter,
    moves: workBetween(calendar, schedule.projectFinish, finishAfter),
    unmeasured: measured.filter((d) => d.moves === null).length,
  }
}

/** What differs, not measured. @param matching - of the activities of both */
export const draftDifferences = (before: Plan, after: Plan, matching: Matching): Draft[] => {
  const later = translate(before, after, matching)
  return [
    ...projectDifferences(before, after, later),
    ...calendarDifferences(before, later.calendars),
    ...matching.matched.flatMap((pair) => activityDifferences(before, later, pair)),
    ...linkDifferences(before, later, matching),
    ...addedDifferences(before, later),
    ...deletedDifferences(before, matching),
  ]
}

/** Puts each difference alone into the earlier revision and schedules it; what an update brings is measured together. */
const measure = (before: Plan, schedule: Schedule, after: Plan, drafts: readonly Draft[]): Difference[] => {
  const calendar = schedule.network.calendars.get(before.project.calendar)
  const { difference, whole } = updateDifference(before, schedule, after, drafts.filter(isOfUpdate))
  let experiments = 0
  const alone = drafts
    .filter((draft) => !isOfUpdate(draft))
    .map(({ change, isAfterTheFact = false, ...draft }): Difference => {
      if (change === null) return { ...draft, isAfterTheFact, moves: 0 }
      // What was corrected afterwards is corrected in the plan as it was updated.
      const from = draft.kind === 'actuals' ? whole : schedule
      if (from === null || experiments++ >= MOST_EXPERIMENTS) return { ...draft, isAfterTheFact, moves: null }
      return { ...draft, isAfterTheFact, moves: movesBy(from.network.plan, from, calendar, change) }
    })
  return difference ? [...alone, difference] : alone
}

const isStatusDate = ({ change }: Draft): boolean => change?.kind === 'project' && 'statusDate' in change.set
const isOfUpdate = (draft: Draft): boolean => draft.kind === 'progress' || isStatusDate(draft)

/** All that an update brings as one difference, with its parts; null where nothing was reported. @returns also the plan with it */
const updateDifference = (
  before: Plan,
  schedule: Schedule,
  after: Plan,
  drafts: readonly Draft[],
): { difference: Difference | null; whole: Schedule | null } => {
  if (drafts.length === 0) return { difference: null, whole: schedule }
  const calendar = schedule.network.calendars.get(before.project.calendar)
  const startOf = ({ change }: Draft): string => {
    const progress =
      change?.kind === 'set' ? (change.set.progress as Activity['progress'] | undefined) : undefined
    return progress?.actualStart ?? '~'
  }
  const reports = drafts
    .filter((draft) => !isStatusDate(draft))
    .sort((a, b) => (startOf(a) < startOf(b) ? -1 : startOf(a) > startOf(b) ? 1 : 0))
  const status = drafts.find(isStatusDate)
  const measured =
    reports.length > MOST_EXPERIMENTS
      ? null
      : measureUpdate(
          before,
          schedule,
          after.project.statusDate,
          reports.map(({ change }) => change!),
        )
  const finishes = measured ? [schedule.projectFinish, ...measured.finishes] : []
  const parts = [...reports, ...(status ? [status] : [])].map(
    ({ change: _change, ...draft }, k): Difference => ({
      ...draft,
      isAfterTheFact: false,
      moves: measured ? workBetween(calendar, finishes[k]!, finishes[k + 1]!) : null,
    }),
  )
  const whole = measured?.whole ?? null
  if (parts.length === 1) return { difference: parts[0]!, whole }
  const { statusDate } = after.project
  return {
    difference: {
      kind: 'progress',
      activities: [...new Set(parts.flatMap(({ activities }) => activities))],
      what:
        status && statusDate !== null
          ? `Update to ${dateWords(statusDate, 'start', { year: true })}`
          : 'Progress',
      before: status?.before ?? '',
      after: `${counted(reports.length, 'report')}${status ? ', and what was not reported waits' : ''}`,
      moves: measured ? workBetween(calendar, schedule.projectFinish, measured.finish) : null,
      isAfterTheFact: false,
      parts,
    },
    whole,
  }
}

const movesBy = (
  plan: Plan,
  schedule: Schedule,
  calendar: Parameters<typeof workBetween>[0],
  change: Change,
): number | null => {
  try {
    return workBetween(
      calendar,
      schedule.projectFinish,
      reschedule(schedule, applyChange(plan, change).plan, change).projectFinish,
    )
  } catch (error) {
    // A loop, a calendar that is not there: it stands only together with others.
    if (error instanceof PlanError || error instanceof CalendarError) return null
    throw error
  }
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
const lengthsIn = (plan: Plan, calendar: string | null): DayLengths =>
  lengthsOf(plan, calendar ?? plan.project.calendar)
const dateOrNone = (date: string | null, edge: 'start' | 'finish'): string =>
  date === null ? 'none' : dateWords(date, edge, { year: true })

/** A calendar by its name. */
const calendarWords = (id: string | null, calendars: Iterable<Plan['calendars'][number]>): string =>
  id === null ? 'the project’s calendar' : calendarName(id, calendars)

const PROJECT_FIELDS = {
  start: 'Project start',
  requiredFinish: 'Required finish',
  statusDate: 'Status date',
  finish: 'Finish scheduled back from',
  direction: 'Direction',
  calendar: 'Project calendar',
  lagOn: 'Lags count on',
  outOfSequence: 'Out-of-sequence work',
  criticalFloat: 'Critical up to',
} as const

const projectDifferences = (before: Plan, after: Plan, later: Translated): Draft[] =>
  (Object.keys(PROJECT_FIELDS) as (keyof typeof PROJECT_FIELDS)[]).flatMap((field): Draft[] => {
    const was = before.project[field]
    const raw = after.project[field]
    const is =
      field === 'calendar'
        ? later.calendarId(raw as string)
        : field === 'lagOn'
          ? later.lagOn(raw as string)
          : raw
    if (was === is) return []
    const words = (value: unknown): string =>
      field === 'calendar'
        ? calendarWords(String(value), [...before.calendars, ...later.calendars.values()])
        : value === null
          ? 'none'
          : ['start', 'requiredFinish', 'statusDate', 'finish'].includes(field)
            ? dateWords(String(value), field === 'start' || field === 'statusDate' ? 'start' : 'finish', {
                year: true,
              })
            : String(value)
    return [
      {
        kind: 'project',
        activities: [],
        what: PROJECT_FIELDS[field],
        before: words(was),
        after: words(is),
        change: { kind: 'project', set: { [field]: is } },
      },
    ]
  })

const activityDifferences = (before: Plan, later: Translated, { before: was, by }: Matched): Draft[] => {
  const is = later.activities.get(was.id)!
  const drafts: Draft[] = []
  const set = (fields: Item): Change => ({ kind: 'set', list: 'activities', key: was.id, set: fields })
  const add = (
    kind: DifferenceKind,
    what: string,
    from: string,
    to: string,
    change: Change | null,
    isAfterTheFact = false,
  ): void => {
    drafts.push({
      kind,
      activities: [was.id],
      what: `${was.code} ${what}`,
      before: from,
      after: to,
      change,
      isAfterTheFact,
    })
  }
  if (was.code !== is.code)
    add('recoded', `is recoded${by === 'name' ? ' (known by its name)' : ''}`, was.code, is.code, null)
  if (was.name !== is.name) add('other', 'is renamed', was.name, is.name, null)
  if (was.duration !== is.duration && was.kind === 'work')
    add(
      'durations',
      'duration',
      durationWords(was.duration, lengthsIn(before, was.calendar)),
      durationWords(
        is.duration,
        later.calendars.get(is.calendar ?? before.project.calendar) ?? CLOCK_LENGTHS,
      ),
      set({ duration: is.duration }),
    )
  if (was.calendar !== is.calendar)
    add(
      'calendars',
      'works on',
      calendarWords(was.calendar, before.calendars),
      calendarWords(is.calendar, later.calendars.values()),
      set({ calendar: is.calendar }),
    )
  if (was.kind !== is.kind || was.edge !== is.edge)
    add('other', 'is', was.kind, is.kind, set({ kind: is.kind, edge: is.edge }))
  if (!same(was.constraints, is.constraints))
    add(
      'limits',
      'dates',
      was.constraints.map(constraintPhrase).join('; ') || 'none',
      is.constraints.map(constraintPhrase).join('; ') || 'none',
      set({ constraints: is.constraints }),
    )
  if (was.place !== is.place) add('other', 'is placed', was.place, is.place, set({ place: is.place }))
  drafts.push(...progressDifferences(before, was, is))
  if (!same(was.promise, is.promise))
    add(
      'progress',
      'promise',
      dateOrNone(was.promise?.finish ?? null, 'finish'),
      dateOrNone(is.promise?.finish ?? null, 'finish'),
      set({ promise: is.promise }),
    )
  if (!same(was.estimate, is.estimate))
    add(
      'other',
      'estimate',
      was.estimate ? estimateWords(was.estimate, lengthsIn(before, was.calendar)) : 'none',
      is.estimate ? estimateWords(is.estimate, lengthsIn(before, was.calendar)) : 'none',
      set({ estimate: is.estimate }),
    )
  return drafts
}

/** What was reported anew, and what was reported then and reads otherwise now. */
const progressDifferences = (before: Plan, was: Activity, is: Activity): Draft[] => {
  if (same(was.progress, is.progress)) return []
  const status = before.project.statusDate === null ? null : instantOf(before.project.statusDate, 'start')
  const change: Change = { kind: 'set', list: 'activities', key: was.id, set: { progress: is.progress } }
  const altered: string[] = []
  for (const [field, edge, words] of [
    ['actualStart', 'start', 'start'],
    ['actualFinish', 'finish', 'finish'],
  ] as const) {
    const [old, now] = [was.progress[field], is.progress[field]]
    if (old === now) continue
    if (old !== null) altered.push(`actual ${words} ${now === null ? 'taken out' : 'altered'}`)
    else if (status !== null && instantOf(now!, edge) <= status)
      altered.push(`actual ${words} put in afterwards`)
  }
  const words = ({ actualStart, actualFinish, remaining, percent }: Activity['progress']): string => {
    if (actualFinish !== null && actualStart === actualFinish)
      return dateWords(actualFinish, 'finish', { year: true })
    if (actualFinish !== null)
      return `${actualStart === null ? '' : `${dateWords(actualStart, 'start')} to `}${dateWords(actualFinish, 'finish', { year: true })}`
    const left =
      remaining !== null
        ? `${durationWords(remaining, lengthsIn(before, was.calendar))} left`
        : percent > 0
          ? `${percent} %`
          : ''
    return [
      actualStart === null ? 'not started' : `since ${dateWords(actualStart, 'start', { year: true })}`,
      left,
    ]
      .filter(Boolean)
      .join(', ')
  }
  const isAfterTheFact = altered.length > 0
  return [
    {
      kind: isAfterTheFact ? 'actuals' : 'progress',
      activities: [was.id],
      what: `${was.code} ${isAfterTheFact ? altered.join(', ') : 'progress'}`,
      before: words(was.progress),
      after: words(is.progress),
      change,
      isAfterTheFact,
    },
  ]
}

const keyOf = (l: Link): string => `${l.from} ${l.to} ${l.type}`

const linkDifferences = (before: Plan, later: Translated, matching: Matching): Draft[] => {
  const kept = new Set(matching.matched.map((m) => m.before.id))
  const between = (l: Link): boolean => kept.has(l.from) && kept.has(l.to)
  const [was, is] = [before.links.filter(between), later.links.filter(between)]
  const byId = new Map(before.activities.map((a) => [a.id, a]))
  const words = (l: Link): string => {
    const calendar = lagCalendarOf(before.project, l, byId.get(l.from), byId.get(l.to))
    return linkPhrase(l, byId.get(l.from)!.code, lengthsOf(before, calendar))
  }
  // Links pair by what they tie and how; then those of the same ends that tie otherwise.
  const left = new Set(was)
  const right = new Set(is)
  const pairs: [Link, Link][] = []
  for (const key of [keyOf, (l: Link): string => `${l.from} ${l.to}`]) {
    const open = new Map<string, Link[]>()
    for (const l of left) open.set(key(l), [...(open.get(key(l)) ?? []), l])
    for (const l of [...right]) {
      const twin = open.get(key(l))?.shift()
      if (!twin) continue
      pairs.push([twin, l])
      left.delete(twin)
      right.delete(l)
    }
  }
  const what = (l: Link): string => `${byId.get(l.to)!.code}`
  const taken = new Set(before.links.map((l) => l.id))
  return [
    ...pairs.flatMap(([a, b]): Draft[] =>
      a.type === b.type && a.lag === b.lag && a.lagOn === b.lagOn
        ? []
        : [
            {
              kind: 'logic',
              activities: [a.to, a.from],
              what: `${what(a)} link`,
              before: words(a),
              after: words(b),
              change: {
                kind: 'set',
                list: 'links',
                key: a.id,
                set: { type: b.type, lag: b.lag, lagOn: b.lagOn },
              },
            },
          ],
    ),
    ...[...left].map((l): Draft => ({
      kind: 'logic',
      activities: [l.to, l.from],
      what: `${what(l)} link removed`,
      before: words(l),
      after: 'none',
      change: { kind: 'remove', list: 'links', key: l.id },
    })),
    ...[...right].map((l): Draft => ({
      kind: 'logic',
      activities: [l.to, l.from],
      what: `${what(l)} link added`,
      before: 'none',
      after: words(l),
      change: { kind: 'add', list: 'links', item: withFreeId(l, taken), before: null },
    })),
  ]
}

const withFreeId = (link: Link, taken: Set<string>): Item => {
  let id = link.id
  while (taken.has(id)) id += '+'
  taken.add(id)
  return { ...link, id }
}

/** Added activities that are linked with each other stand and fall together: each such cluster is one difference. */
const addedDifferences = (before: Plan, later: Translated): Draft[] => {
  const old = new Set(before.activities.map((a) => a.id))
  const added = [...later.activities.values()].filter((a) => !old.has(a.id))
  const taken = new Set(before.links.map((l) => l.id))
  return clusters(
    added.map((a) => a.id),
    later.links,
  ).map((ids): Draft => {
    const chosen = added.filter((a) => ids.has(a.id))
    const links = later.links.filter(
      (l) =>
        (ids.has(l.from) || ids.has(l.to)) &&
        (ids.has(l.from) || old.has(l.from)) &&
        (ids.has(l.to) || old.has(l.to)),
    )
    const changes: Change[] = [
      ...chosen.map((a): Change => ({
        kind: 'add',
        list: 'activities',
        item: a as unknown as Item,
        before: null,
      })),
      ...links.map((l): Change => ({ kind: 'add', list: 'links', item: withFreeId(l, taken), before: null })),
    ]
    return {
      kind: 'added',
      activities: [...ids],
      what: nameThem(chosen, 'added'),
      before: 'not there',
      after: counted(links.length, 'link'),
      change: { kind: 'all', changes },
    }
  })
}

const deletedDifferences = (before: Plan, matching: Matching): Draft[] => {
  const gone = new Set(matching.deleted.map((a) => a.id))
  return clusters([...gone], before.links).map((ids): Draft => {
    const chosen = matching.deleted.filter((a) => ids.has(a.id))
    const links = before.links.filter((l) => ids.has(l.from) || ids.has(l.to))
    return {
      kind: 'deleted',
      activities: [...ids],
      what: nameThem(chosen, 'deleted'),
      before: counted(links.length, 'link'),
      after: 'gone',
      change: removeActivities(before, [...ids]),
    }
  })
}

const nameThem = (activities: readonly Activity[], word: string): string =>
  activities.length === 1
    ? `${activities[0]!.code} ${activities[0]!.name} ${word}`
    : `${counted(activities.length, 'activity')} ${word}: ${activities
        .slice(0, 4)
        .map((a) => a.code)
        .join(', ')}${activities.length > 4 ? ' …' : ''}`

/** Sets of ids that links among them hold together. */
const clusters = (ids: readonly string[], links: readonly Link[]): Set<string>[] => {
  const root = new Map(ids.map((id) => [id, id]))
  const find = (id: string): string => {
    let at = id
    while (root.get(at) !== at) at = root.get(at)!
    root.set(id, at)
    return at
  }
  for (const { from, to } of links) if (root.has(from) && root.has(to)) root.set(find(from), find(to))
  const found = new Map<string, Set<string>>()
  for (const id of ids) {
    const key = find(id)
    const cluster = found.get(key)
    if (cluster) cluster.add(id)
    else found.set(key, new Set([id]))
  }
  return [...found.values()]
}
