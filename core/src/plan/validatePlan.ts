import { CLOCK_ID } from '../time/calendar.ts'
import { instantOf } from '../time/instant.ts'
import { formatClock, parseShift } from '../time/shifts.ts'
import { WEEKDAYS } from '../time/workingDays.ts'
import { MAX_KEY, type Item } from './change.ts'
import { LIST_KEYS, LIST_NAMES, LISTS, type ListName } from './fields.ts'
import { checkForecastInputs, riskWorkLinks } from './forecastRules.ts'
import { findLoop } from './findLoop.ts'
import { pointer, type PlanIssue } from './issue.ts'

import type { Activity, Link, Plan, PlanCalendar } from './schema.ts'

/**
 * Every rule that a plan must keep to be scheduled, beyond the shape of its parts. Run on import and after every change.
 * @returns all issues found; empty for a sound plan. O(n log n)
 */
export const validatePlan = (plan: Plan): PlanIssue[] => {
  const issues: PlanIssue[] = []
  const calendars = indexById(plan.calendars, 'calendars', issues)
  const groups = indexById(plan.groups, 'groups', issues)
  const activities = indexById(plan.activities, 'activities', issues)
  for (const list of LIST_NAMES) if (!INDEXED.has(list)) checkKeys(plan, list, issues)

  checkCalendars(plan, calendars, issues)
  checkParents(plan.groups, groups, 'groups', 'group', issues)
  checkProject(plan, calendars, activities, issues)
  const usable = new Set<string>()
  plan.activities.forEach((activity, i) =>
    checkActivity(plan, activity, i, calendars, groups, usable, issues),
  )
  checkLinks(plan, calendars, activities, issues)
  checkReferences(plan, calendars, activities, issues)
  return issues
}

/** Lists whose ids are looked up by the rules. */
const INDEXED: ReadonlySet<ListName> = new Set(['calendars', 'groups', 'activities'])

/** What names an item names no other of its list. */
const checkKeys = (plan: Plan, list: ListName, issues: PlanIssue[]): void => {
  const seen = new Set<string>()
  const keyed = LIST_KEYS[list] as (item: Item) => string
  ;(plan[list] as readonly Item[]).forEach((item, i) => {
    const key = keyed(item)
    if (key.length > MAX_KEY)
      issues.push({
        pointer: pointer(list, i),
        code: 'too-large',
        message: `what names this ${LISTS[list].one} is longer than ${MAX_KEY} letters; shorten it`,
      })
    if (seen.has(key))
      issues.push({
        pointer: pointer(list, i, ...('id' in item ? ['id'] : [])),
        code: 'duplicate-id',
        message:
          'id' in item
            ? `id "${key}" is used twice in ${list}; give this one another`
            : `this ${LISTS[list].one} is there already; remove it`,
        ids: [key],
      })
    seen.add(key)
  })
}

const indexById = <T extends { id: string }>(
  items: readonly T[],
  list: string,
  issues: PlanIssue[],
): Map<string, T> => {
  const byId = new Map<string, T>()
  items.forEach((item, i) => {
    if (byId.has(item.id))
      issues.push({
        pointer: pointer(list, i, 'id'),
        code: 'duplicate-id',
        message: `id "${item.id}" is used twice in ${list}; give this one another`,
        ids: [item.id],
      })
    else byId.set(item.id, item)
  })
  return byId
}

const unknown = (at: string, what: string, id: string): PlanIssue => ({
  pointer: at,
  code: 'unknown-id',
  message: `there is no ${what} "${id}"; add it or name another`,
  ids: [id],
})

/** How deep groups and calendars may be nested. */
const MAX_NESTED = 200

/** Parents must exist, must not lead back to the item, and not too far up. O(items) */
const checkParents = (
  items: readonly { id: string; parent: string | null }[],
  byId: ReadonlyMap<string, { id: string; parent: string | null }>,
  list: string,
  what: string,
  issues: PlanIssue[],
  field = 'parent',
): void => {
  /** How many stand above an item; of one in a loop or below it, none. */
  const depths = new Map<string, number>()
  items.forEach((item, i) => {
    const at = pointer(list, i, field)
    if (item.parent !== null && !byId.has(item.parent)) issues.push(unknown(at, what, item.parent))
    if (depths.has(item.id)) return
    const way: string[] = []
    const onWay = new Set<string>()
    let next: string | null = item.id
    while (next !== null && byId.has(next) && !depths.has(next) && !onWay.has(next)) {
      way.push(next)
      onWay.add(next)
      next = byId.get(next)!.parent
    }
    if (next !== null && onWay.has(next)) {
      const loop = way.slice(way.indexOf(next))
      const first = items.findIndex(({ id }) => id === next)
      issues.push({
        pointer: pointer(list, first, field),
        code: 'loop',
        message: `${what} "${next}" is its own ancestor (${loop.slice(0, MAX_NAMED).join(' → ')} → ${loop.length > MAX_NAMED ? '…' : next}); give it another ${field}`,
        ids: loop,
      })
    }
    let depth = next === null ? -1 : (depths.get(next) ?? 0)
    for (const id of way.reverse()) depths.set(id, ++depth)
    if (depth > MAX_NESTED && depth - way.length <= MAX_NESTED)
      issues.push({
        pointer: at,
        code: 'too-large',
        message: `${what} "${item.id}" is nested ${depth} levels deep; at most ${MAX_NESTED} are possible`,
        ids: [item.id],
      })
  })
}
const MAX_NAMED = 20

const checkCalendars = (plan: Plan, byId: ReadonlyMap<string, PlanCalendar>, issues: PlanIssue[]): void => {
  checkParents(plan.calendars, byId, 'calendars', 'calendar', issues)
  plan.calendars.forEach((calendar, i) => {
    if (calendar.id === CLOCK_ID)
      issues.push({
        pointer: pointer('calendars', i, 'id'),
        code: 'duplicate-id',
        message: '"clock" is the built-in calendar of all minutes; give this one another id',
      })
    const day = (shifts: readonly string[] | undefined, ...path: (string | number)[]): void =>
      checkShifts(shifts ?? [], pointer('calendars', i, ...path), calendar.id, issues)
    for (const name of WEEKDAYS) day(calendar.week?.[name], 'week', name)
    calendar.seasons.forEach((season, s) => {
      for (const name of WEEKDAYS) day(season.week[name], 'seasons', s, 'week', name)
      checkRange(season, pointer('calendars', i, 'seasons', s), calendar.id, issues)
    })
    calendar.exceptions.forEach((exception, e) => {
      day(exception.shifts, 'exceptions', e, 'shifts')
      checkRange(exception, pointer('calendars', i, 'exceptions', e), calendar.id, issues)
    })
    calendar.windows.forEach(([from, to], w) => {
      if (instantOf(to, 'finish') <= instantOf(from, 'start'))
        issues.push({
          pointer: pointer('calendars', i, 'windows', w),
          code: 'inverted-range',
          message: `window ends at ${to}, before it begins at ${from}; exchange them`,
          ids: [calendar.id],
        })
    })
  })
}

const checkShifts = (texts: readonly string[], at: string, calendar: string, issues: PlanIssue[]): void => {
  if (texts.length < 2) return
  const shifts = texts.map((text) => parseShift(text)!).sort((a, b) => a[0] - b[0])
  for (let k = 1; k < shifts.length; k++)
    if (shifts[k]![0] < shifts[k - 1]![1])
      issues.push({
        pointer: at,
        code: 'overlapping-shifts',
        message: `shifts overlap at ${formatClock(shifts[k]![0])} on calendar "${calendar}"; join them or leave a break`,
        ids: [calendar],
      })
}

const checkRange = (
  range: { from: string; to: string; yearly: boolean },
  at: string,
  calendar: string,
  issues: PlanIssue[],
): void => {
  const isShort = (text: string): boolean => text.length === 5
  if (!range.yearly && (isShort(range.from) || isShort(range.to)))
    issues.push({
      pointer: at,
      code: 'inverted-range',
      message: `${range.from} … ${range.to} has no year; add it, or set "yearly": true`,
      ids: [calendar],
    })
  else if (!range.yearly && range.to < range.from)
    issues.push({
      pointer: at,
      code: 'inverted-range',
      message: `ends on ${range.to}, before it begins on ${range.from}; exchange them`,
      ids: [calendar],
    })
}

/** Whether a calendar has any hours at all, its ancestors' included. */
const hasHours = (calendar: PlanCalendar, byId: ReadonlyMap<string, PlanCalendar>): boolean => {
  const seen = new Set<string>()
  let weekDecided = false
  for (let at: PlanCalendar | undefined = calendar; at && !seen.has(at.id); at = byId.get(at.parent ?? '')) {
    seen.add(at.id)
    if (at.exceptions.some((e) => e.shifts.length > 0) || at.windows.length > 0) return true
    if (weekDecided) continue
    const anyDay = (week: PlanCalendar['week']): boolean =>
      WEEKDAYS.some((day) => (week?.[day]?.length ?? 0) > 0)
    if (at.seasons.some((s) => anyDay(s.week)) || anyDay(at.week)) return true
    weekDecided = at.week !== null
  }
  return false
}

const checkUsable = (
  id: string,
  at: string,
  user: string,
  byId: ReadonlyMap<string, PlanCalendar>,
  issues: PlanIssue[],
): void => {
  if (id === CLOCK_ID) return
  const calendar = byId.get(id)
  if (!calendar) issues.push(unknown(at, 'calendar', id))
  else if (!hasHours(calendar, byId))
    issues.push({
      pointer: at,
      code: 'no-working-time',
      message: `calendar "${id}" has no working time, so ${user} could never be worked; give it hours or use another`,
      ids: [id],
    })
}

const checkProject = (
  plan: Plan,
  calendars: ReadonlyMap<string, PlanCalendar>,
  activities: ReadonlyMap<string, Activity>,
  issues: PlanIssue[],
): void => {
  const { project } = plan
  checkUsable(project.calendar, '/project/calendar', 'the project', calendars, issues)
  if (project.lagOn.startsWith('calendar:'))
    checkUsable(project.lagOn.slice(9), '/project/lagOn', 'lags', calendars, issues)
  if (project.direction === 'backward' && project.finish === null)
    issues.push({
      pointer: '/project/finish',
      code: 'missing',
      message:
        'a plan scheduled backward needs the date it must finish at; set project.finish or schedule forward',
    })
  for (const list of ['opens', 'closes'] as const)
    project[list].forEach((id, i) => {
      if (!activities.has(id)) issues.push(unknown(pointer('project', list, i), 'activity', id))
    })
}

const checkActivity = (
  plan: Plan,
  activity: Activity,
  i: number,
  calendars: ReadonlyMap<string, PlanCalendar>,
  groups: ReadonlyMap<string, unknown>,
  usable: Set<string>,
  issues: PlanIssue[],
): void => {
  if (activity.group !== null && !groups.has(activity.group))
    issues.push(unknown(pointer('activities', i, 'group'), 'group', activity.group))
  if (activity.calendar !== null && !usable.has(activity.calendar)) {
    const before = issues.length
    checkUsable(
      activity.calendar,
      pointer('activities', i, 'calendar'),
      `activity "${activity.code}"`,
      calendars,
      issues,
    )
    if (issues.length === before) usable.add(activity.calendar)
  }
  for (const issue of activityIssues(plan, activity, i)) issues.push(issue)
}

/** The rules on one activity that look at nothing but itself and the project. */
export const activityIssues = (plan: Plan, activity: Activity, i: number): PlanIssue[] => {
  const issues: PlanIssue[] = []
  const name = `activity "${activity.code}"`
  const add = (code: PlanIssue['code'], message: string, ...path: (string | number)[]): void => {
    issues.push({ pointer: pointer('activities', i, ...path), code, message, ids: [activity.id] })
  }
  if (activity.duration < 0) add('shape', `${name} has a negative duration; make it 0 or more`, 'duration')
  if (activity.kind !== 'work' && activity.duration !== 0)
    add('shape', `${name} is a ${activity.kind}, which takes no duration; make it 0`, 'duration')
  if (activity.kind === 'milestone' && activity.edge === undefined)
    add('missing', `${name} is a milestone; say whether it stands at a start or a finish`, 'edge')
  activity.constraints.forEach((constraint, c) => {
    if (constraint.rule === 'not-before' && constraint.overrides)
      add(
        'constraint',
        `"not-before" cannot override logic (${name}); use "exactly", or let it yield`,
        'constraints',
        c,
      )
  })
  const { estimate } = activity
  if (estimate && (estimate.low < 0 || estimate.low > estimate.likely || estimate.likely > estimate.high))
    add('estimate', `the estimate of ${name} must have 0 ≤ low ≤ likely ≤ high`, 'estimate')
  const { actualStart, actualFinish, remaining, percent } = activity.progress
  const hasProgress = actualStart !== null || actualFinish !== null || remaining !== null || percent > 0
  if (hasProgress && plan.project.statusDate === null)
    add(
      'progress',
      `${name} has progress, but the project has no status date; set project.statusDate`,
      'progress',
    )
  if (remaining !== null && remaining < 0)
    add('progress', `the remaining duration of ${name} is negative`, 'progress', 'remaining')
  if (
    actualStart !== null &&
    actualFinish !== null &&
    instantOf(actualFinish, 'finish') < instantOf(actualStart, 'start')
  )
    add(
      'progress',
      `${name} finished before it started; correct one of the two dates`,
      'progress',
      'actualFinish',
    )
  return issues
}

const checkLinks = (
  plan: Plan,
  calendars: ReadonlyMap<string, PlanCalendar>,
  activities: ReadonlyMap<string, Activity>,
  issues: PlanIssue[],
): void => {
  const before = issues.length
  plan.links.forEach((link, i) => {
    const from = activities.get(link.from)
    const to = activities.get(link.to)
    if (!from) issues.push(unknown(pointer('links', i, 'from'), 'activity', link.from))
    if (!to) issues.push(unknown(pointer('links', i, 'to'), 'activity', link.to))
    if (link.from === link.to)
      issues.push({
        pointer: pointer('links', i),
        code: 'self-link',
        message: `link "${link.id}" ties "${from?.code ?? link.from}" to itself; remove it`,
        ids: [link.id],
      })
    if (to?.kind === 'hammock' && link.type !== 'SS' && link.type !== 'FF')
      issues.push({
        pointer: pointer('links', i, 'type'),
        code: 'hammock-link',
        message: `a hammock ("${to.code}") is hung from SS and FF links only; this one is ${link.type}`,
        ids: [link.id, to.id],
      })
    if (link.lagOn?.startsWith('calendar:'))
      checkUsable(link.lagOn.slice(9), pointer('links', i, 'lagOn'), 'the lag', calendars, issues)
  })
  if (issues.length > before) return
  const loop = findLoop({ activities: plan.activities, links: [...plan.links, ...riskWorkLinks(plan)] })
  if (loop) issues.push(loopIssue(plan, loop, activities))
}

const loopIssue = (
  plan: Plan,
  loop: readonly Link[],
  activities: ReadonlyMap<string, Activity>,
): PlanIssue => {
  const codes = [...loop.map((link) => link.from), loop[0]!.from].map((id) => activities.get(id)!.code)
  return {
    pointer: pointer('links', plan.links.indexOf(loop.at(-1)!)),
    code: 'loop',
    message: `these activities wait for each other: ${codes.join(' → ')}; remove or turn one of the links`,
    ids: loop.map((link) => link.from),
  }
}

const stepAt = (date: string): number => instantOf(date, 'start')

const checkReferences = (
  plan: Plan,
  calendars: ReadonlyMap<string, PlanCalendar>,
  activities: ReadonlyMap<string, Activity>,
  issues: PlanIssue[],
): void => {
  const resources = new Set(plan.resources.map((r) => r.id))
  plan.resources.forEach((resource, i) => {
    if (resource.calendar !== null)
      checkUsable(
        resource.calendar,
        pointer('resources', i, 'calendar'),
        `resource "${resource.code}"`,
        calendars,
        issues,
      )
    resource.available.forEach((step, k) => {
      const before = resource.available[k - 1]
      if (
        before &&
        (step.from === null || (before.from !== null && stepAt(step.from) <= stepAt(before.from)))
      )
        issues.push({
          pointer: pointer('resources', i, 'available', k, 'from'),
          code: 'inverted-range',
          message: `the availability of "${resource.code}" has a step that is not after the one before it; put its steps in the order of their dates`,
          ids: [resource.id],
        })
    })
  })
  plan.damages.forEach((damages, i) => {
    const named = `damages "${damages.name || damages.id}"`
    if (damages.measures !== null && !activities.has(damages.measures))
      issues.push(unknown(pointer('damages', i, 'measures'), 'activity', damages.measures))
    checkUsable(damages.calendar, pointer('damages', i, 'calendar'), named, calendars, issues)
    damages.steps.forEach((step, k) => {
      if (k > 0 && step.from <= damages.steps[k - 1]!.from)
        issues.push({
          pointer: pointer('damages', i, 'steps', k, 'from'),
          code: 'inverted-range',
          message: `a step of ${named} is not after the one before it; put its steps in order`,
          ids: [damages.id],
        })
    })
  })
  const { baseline } = plan.project
  if (baseline !== null && !plan.baselines.some(({ id }) => id === baseline))
    issues.push({
      pointer: pointer('project', 'baseline'),
      code: 'unknown-id',
      message: `the plan is compared with a baseline that is not there; compare it with another first, or with none`,
      ids: [],
    })
  const bases = plan.scenarios.map(({ id, base }) => ({ id, parent: base ?? null }))
  checkParents(bases, new Map(bases.map((one) => [one.id, one])), 'scenarios', 'scenario', issues, 'base')
  const scenarios = new Set(plan.scenarios.map((s) => s.id))
  plan.scenarioChanges.forEach(({ scenario }, i) => {
    if (!scenarios.has(scenario))
      issues.push(unknown(pointer('scenarioChanges', i, 'scenario'), 'scenario', scenario))
  })
  plan.assignments.forEach((assignment, i) => {
    if (!activities.has(assignment.activity))
      issues.push(unknown(pointer('assignments', i, 'activity'), 'activity', assignment.activity))
    if (!resources.has(assignment.resource))
      issues.push(unknown(pointer('assignments', i, 'resource'), 'resource', assignment.resource))
  })
  checkForecastInputs(plan, {
    has: (id) => activities.has(id),
    usable: (id, at, user) => checkUsable(id, at, user, calendars, issues),
    unknown: (at, what, id) => issues.push(unknown(at, what, id)),
    add: (issue) => issues.push(issue),
  })
}
