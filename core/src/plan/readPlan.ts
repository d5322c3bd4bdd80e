import type { z } from 'zod'
import { keyOf } from './change.ts'
import { CLOCK_ID } from '../time/calendar.ts'
import { durationMinutes, lengthsOf, type DayLengths } from './durations.ts'
import { overlongLists } from './fileLimits.ts'
import { expandGroupLinks } from './groupLinks.ts'
import { hostileNames } from './hostile.ts'
import { PlanError, pointer, type PlanIssue } from './issue.ts'
import { calendarOf, lagCalendarOf } from './lagCalendar.ts'
import {
  planFileSchema,
  planSchema,
  type Activity,
  type Link,
  type Plan,
  type PlanFile,
  type ScenarioChange,
} from './schema.ts'
import { shapeWords } from './shapeWords.ts'
import { unknownFields } from './unknownFields.ts'
import { validatePlan } from './validatePlan.ts'

/** Of a file with more wrong than this, the first are told. */
const MOST_ISSUES = 500

/** Of the largest plans a file has a quarter of it. Looked for before the text is taken apart, which needs memory for each. */
const MOST_OBJECTS = 4_000_000

/** A plan as read from a file, and what was noticed on the way that does not forbid its use. */
export interface PlanRead {
  readonly plan: Plan
  readonly notes: readonly PlanIssue[]
}

/** @throws PlanError where the text is not JSON */
export const parseJson = (text: string): unknown => {
  let opened = 0
  for (let k = 0; k < text.length; k++) if (text[k] === '{' || text[k] === '[') opened++
  if (opened > MOST_OBJECTS)
    throw new PlanError([
      {
        pointer: '',
        code: 'too-large',
        message: `more than ${MOST_OBJECTS / 1e6} million objects and lists in one file; split it`,
      },
    ])
  try {
    return JSON.parse(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text)
  } catch (error) {
    const reason = error instanceof RangeError ? 'nested too deeply' : (error as Error).message
    throw new PlanError([{ pointer: '', code: 'not-json', message: `not a JSON file: ${reason}` }])
  }
}

/**
 * Reads a plan file: shape, defaults, texts such as "10d" into minutes, links on groups into links on activities, and every
 * rule of {@link validatePlan}. Either the whole plan is good or nothing of it is taken.
 * @param json - the parsed JSON
 * @throws PlanError with all issues found, each with its JSON pointer
 */
export const readPlan = (json: unknown): PlanRead => {
  const refused = overlongLists(json)
  if (refused.length === 0) refused.push(...hostileNames(json))
  if (refused.length > 0) throw new PlanError(refused)
  const parsed = planFileSchema.safeParse(json)
  if (!parsed.success) {
    throw new PlanError(issuesOf(parsed.error.issues.slice(0, MOST_ISSUES), json))
  }
  const notes: PlanIssue[] = unknownFields(json)
  const plan = normalise(parsed.data, notes)
  const issues = validatePlan(plan)
  if (issues.length > 0) throw new PlanError(issues.slice(0, MOST_ISSUES))
  return { plan, notes }
}

const issuesOf = (issues: readonly z.core.$ZodIssue[], json: unknown): PlanIssue[] =>
  issues.map((issue) => ({
    pointer: pointer(...issue.path),
    code: 'shape' as const,
    message: shapeWords(issue, json),
  }))

const normalise = (file: PlanFile, notes: PlanIssue[]): Plan => {
  const projectCalendar =
    file.project.calendar ??
    (file.calendars.some((c) => c.id === 'day') ? 'day' : (file.calendars[0]?.id ?? CLOCK_ID))
  const { chain, ...parts } = file
  const project = {
    ...file.project,
    calendar: projectCalendar,
    chain: chain && minutesOfChain(chain, file, projectCalendar),
  }
  const activities = file.activities.map((activity, i) =>
    normaliseActivity(activity, i, project, file, notes),
  )
  const byId = new Map(activities.map((a) => [a.id, a]))
  const expanded = expandGroupLinks(file.links, file.groups, activities, notes)
  const links = nameLinks(expanded).map((link): Link => {
    const on = lagCalendarOf(project, link, byId.get(link.from), byId.get(link.to))
    return { ...link, lag: durationMinutes(link.lag ?? 0, lengthsOf(file, on)) }
  })
  const risks = file.risks.map((risk) => ({
    ...risk,
    impacts: risk.impacts.map((impact) => {
      const activity = byId.get(impact.activity)
      const lengths = lengthsOf(file, activity ? calendarOf(project, activity) : projectCalendar)
      return { ...impact, delay: minutesOfEstimate(impact.delay, lengths) }
    }),
    ...(risk.work && {
      work: risk.work.map((work) => {
        const activity = byId.get(work.after)
        const lengths = lengthsOf(file, activity ? calendarOf(project, activity) : projectCalendar)
        return { ...work, duration: minutesOfEstimate(work.duration, lengths) }
      }),
    }),
  }))
  // Once through the schema of held plans: fields then stand in one order, whether they were read or set by a change.
  const held = planSchema.safeParse({
    ...parts,
    project,
    activities,
    links,
    risks,
    assignments: nameAssignments(file.assignments),
    scenarios: file.scenarios.map(({ changes: _, was: __, ...scenario }) => scenario),
    scenarioChanges: scenarioChangesOf(file.scenarios),
  })
  if (held.success) return held.data as Plan
  // Texts can say more than minutes can hold: "10000000d".
  throw new PlanError(issuesOf(held.error.issues.slice(0, MOST_ISSUES), file))
}

/** An assignment is named by activity and resource; a second one of the same gets a name of its own. */
const nameAssignments = (assignments: PlanFile['assignments']): PlanFile['assignments'] => {
  const counts = new Map<string, number>()
  return assignments.map((assignment) => {
    if (assignment.id !== undefined) return assignment
    const pair = keyOf('assignments', assignment)
    const count = (counts.get(pair) ?? 0) + 1
    counts.set(pair, count)
    return count === 1 ? assignment : { ...assignment, id: `${pair}|${count}` }
  })
}

/** The changes of scenarios as items; each is named by its place in its scenario. */
const scenarioChangesOf = (scenarios: PlanFile['scenarios']): ScenarioChange[] => {
  const counts = new Map<string, number>()
  return scenarios.flatMap(({ id, changes, was }) =>
    changes.map((change, k) => {
      const place = (counts.get(id) ?? 0) + 1
      counts.set(id, place)
      const found = was?.[k]
      return { id: String(place), scenario: id, change, ...(found && { was: found }) }
    }),
  )
}

type EstimateText = NonNullable<PlanFile['activities'][number]['estimate']>

const minutesOfEstimate = (estimate: EstimateText, lengths: DayLengths) => ({
  ...estimate,
  low: durationMinutes(estimate.low, lengths),
  likely: durationMinutes(estimate.likely, lengths),
  high: durationMinutes(estimate.high, lengths),
})

/** Sizes count on the calendar of the buffers, the lead on the project's. */
const minutesOfChain = (
  { lead, buffers, ...chain }: NonNullable<PlanFile['chain']>,
  file: Pick<PlanFile, 'calendars'>,
  projectCalendar: string,
) => {
  const lengths = lengthsOf(file, chain.calendar ?? projectCalendar)
  return {
    ...chain,
    ...(lead !== undefined && { lead: durationMinutes(lead, lengthsOf(file, projectCalendar)) }),
    buffers: Object.fromEntries(
      Object.entries(buffers).map(([id, buffer]) => [
        id,
        { ...buffer, size: durationMinutes(buffer.size, lengths) },
      ]),
    ),
  }
}

type CrashText = NonNullable<PlanFile['activities'][number]['crash']>

const minutesOfCrash = ({ options, limit, ...crash }: CrashText, lengths: DayLengths) => ({
  ...crash,
  duration: durationMinutes(crash.duration, lengths),
  ...(options && {
    options: options.map((option) => ({ ...option, duration: durationMinutes(option.duration, lengths) })),
  }),
  ...(limit !== undefined && { limit: limit === null ? null : durationMinutes(limit, lengths) }),
})

const normaliseActivity = (
  activity: PlanFile['activities'][number],
  index: number,
  project: { calendar: string },
  file: Pick<PlanFile, 'calendars'>,
  notes: PlanIssue[],
): Activity => {
  const lengths = lengthsOf(file, calendarOf(project, activity))
  const given = activity.duration === undefined ? undefined : durationMinutes(activity.duration, lengths)
  if (activity.kind !== 'work' && given) {
    notes.push({
      pointer: pointer('activities', index, 'duration'),
      code: 'shape',
      message: `a ${activity.kind} takes no duration; ${JSON.stringify(activity.duration)} was left out`,
      ids: [activity.id],
    })
  }
  const { progress, buffer, ...rest } = activity
  return {
    ...rest,
    ...(buffer !== undefined && { buffer: buffer === null ? null : durationMinutes(buffer, lengths) }),
    code: activity.code ?? activity.id,
    ...(activity.kind === 'milestone' ? { edge: activity.edge ?? 'start' } : {}),
    duration: activity.kind === 'work' ? (given ?? 0) : 0,
    confirmed: activity.confirmed ?? (activity.kind !== 'work' || given !== undefined),
    estimate: activity.estimate && minutesOfEstimate(activity.estimate, lengths),
    crash: activity.crash && minutesOfCrash(activity.crash, lengths),
    focused: activity.focused === null ? null : durationMinutes(activity.focused, lengths),
    progress: {
      ...progress,
      remaining: progress.remaining === null ? null : durationMinutes(progress.remaining, lengths),
    },
  }
}

/** Gives links without an id one that no other link has. */
const nameLinks = <L extends { id?: string }>(links: readonly L[]): (L & { id: string })[] => {
  const taken = new Set(links.map((link) => link.id))
  let next = 1
  return links.map((link) => {
    if (link.id !== undefined) return link as L & { id: string }
    while (taken.has(`l${next}`)) next++
    taken.add(`l${next}`)
    return { ...link, id: `l${next}` }
  })
}
