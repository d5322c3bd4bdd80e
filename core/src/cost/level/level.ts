import { jointSpans } from '../../time/jointSpans.ts'
import { formatInstant, MINUTES_PER_DAY, type Instant } from '../../time/instant.ts'
import { CLOCK_ID } from '../../time/calendar.ts'
import { applyUnchecked } from '../../plan/applyChange.ts'
import type { Change } from '../../plan/change.ts'
import { calendarOf, lagCalendarOf } from '../../plan/lagCalendar.ts'
import { lengthsOf } from '../../plan/durations.ts'
import type { Plan, Resource } from '../../plan/schema.ts'
import { mirrorNetwork } from '../../network/mirror.ts'
import { NONE, UNLIMITED, type Network } from '../../network/network.ts'
import { schedule, type Schedule } from '../../schedule/schedule.ts'
import { bestSteps, type FoundBy, type LevelProgress } from './best.ts'
import { lowerBound, type Bound } from './bound.ts'
import { writtenCalendar, type Horizon } from './jointPlan.ts'
import { Placing, type Placed, type Unresolved, type Waiting } from './placing.ts'
import { problemOf, provenFrom, type Problem, type Proven } from './problem.ts'
import { mirrorAvailability } from './profile.ts'
import { rankingBy, rankingOf, type LevelRule } from './rules.ts'
import { freeLink, Paths } from './scenarioLinks.ts'

export interface LevelOptions {
  readonly rule: LevelRule | 'best'
  readonly seed: number
  /** Keep the finish and all not-after dates, and leave overloaded what does not fit. */
  readonly insideFloat: boolean
}

/** A levelled plan: the scenario that gives it, its dates, and why each activity waits. */
export interface Levelled {
  /** As it was: by links and limits alone. */
  readonly before: Schedule
  /** The plan with the changes of the scenario, scheduled. */
  readonly after: Schedule
  /** What makes the scenario of the plan. */
  readonly changes: readonly Change[]
  /** The resources that there is a limit of; positions in the rest mean these. */
  readonly resources: readonly Resource[]
  readonly waited: ReadonlyMap<number, readonly Waiting[]>
  readonly pieces: ReadonlyMap<number, readonly (readonly [Instant, Instant])[]>
  readonly unresolved: readonly Unresolved[]
  /** Work without an hour in common with one of its resources. */
  readonly without: readonly { readonly activity: string; readonly resource: string }[]
  /** The longest path, or what a resource as a whole can hold. */
  readonly bound: Bound
  /** The same, and what windows prove beyond it. */
  readonly proven: Proven
  readonly foundBy: FoundBy
}

/** Levels a plan to the end. @throws LevelError, CalendarError */
export const level = (plan: Plan, options: LevelOptions): Levelled => {
  const steps = levelSteps(plan, options)
  for (;;) {
    const { done, value } = steps.next()
    if (done) return value
  }
}

/** One serial pass over a plan that is prepared already, again and again: what is measured. @returns the finish of a pass */
export const levelPass = (plan: Plan, rule: LevelRule): (() => Instant) => {
  const { network, demands, available, options, joint } = problemOf(plan, false)
  const placing = new Placing(network, demands, available, options)
  const { rank, byRank } = rankingOf(rule, joint)
  return () => placing.run(rank, byRank, false).finish
}

/**
 * The same step by step: what it yields is how far it has come, and sending `true` stops it with the best found so far.
 * @throws LevelError, CalendarError
 */
export function* levelSteps(
  plan: Plan,
  options: LevelOptions,
): Generator<LevelProgress, Levelled, boolean | undefined> {
  const problem = problemOf(plan, options.insideFloat)
  const placing = new Placing(problem.network, problem.demands, problem.available, problem.options)
  if (options.rule !== 'best') {
    const ranking = rankingOf(options.rule, problem.joint)
    return levelled(plan, problem, placing.run(ranking.rank, ranking.byRank, true), options.rule)
  }
  const { ranking, start, foundBy, proven } = yield* bestSteps(problem, placing, options.seed)
  const { rank, byRank } = ranking
  const settled = start === null ? null : placing.settle(start, byRank)
  return levelled(plan, problem, settled ?? placing.run(rank, byRank, true), foundBy, proven)
}

/** A plan placed backward from the finish that its logic gives it, with what its work needs; dates by position. */
export interface PlacedFromFinish {
  /** On joint calendars. */
  readonly plan: Plan
  readonly joint: Schedule
  readonly start: Int32Array
  readonly finish: Int32Array
  /** Of each resource that there is a limit of, who needs how much of it. */
  readonly needs: readonly {
    readonly resource: Resource
    readonly most: number
    readonly by: readonly { readonly activity: number; readonly amount: number }[]
  }[]
}

/**
 * Serial levelling in the mirror of time: from the finish of the logic on joint calendars, the latest late finish first, ties by id.
 * @throws LevelError, CalendarError
 */
export const placedFromFinish = (plan: Plan): PlacedFromFinish => {
  const problem = problemOf(plan, false)
  const { network, joint, demands, available, resources } = problem
  const mirrored = new Placing(
    mirrorNetwork(network, joint.projectFinish),
    demands,
    available.map(mirrorAvailability),
    { latestStart: null, mayPause: null, shortestPiece: problem.options.shortestPiece },
  )
  const { rank, byRank } = rankingBy(
    network,
    joint.late.finish.map((at) => (at === NONE ? UNLIMITED : -at)),
  )
  const { dates } = mirrored.run(rank, byRank, false)
  const turned = (values: Int32Array): Int32Array => values.map((at) => (at === NONE ? NONE : -at))
  return {
    plan: network.plan,
    joint,
    start: turned(dates.finish),
    finish: turned(dates.begin),
    needs: resources.map((resource, r) => ({
      resource,
      most: Math.max(0, ...available[r]!.amount.filter(Number.isFinite)),
      by: network.activities.flatMap((_, i) => {
        for (let d = demands.first[i]!; d < demands.first[i + 1]!; d++)
          if (demands.resource[d] === r) return [{ activity: i, amount: demands.amount[d]! }]
        return []
      }),
    })),
  }
}

/** Makes the scenario of a placed plan, and schedules it. */
const levelled = (
  plan: Plan,
  problem: Problem,
  placed: Placed,
  foundBy: FoundBy,
  known: Proven | null = null,
): Levelled => {
  const { network } = problem
  const changes: Change[] = [...problem.jointChanges]
  const links = freeLink(plan)
  const paths = placed.isInOrder ? null : new Paths(network)
  for (const [i, waits] of placed.waited) {
    const freeAt = placed.releasedAt[i]!
    if (freeAt === NONE) continue
    const { id } = network.activities[i]!
    const last = waits.at(-1)!
    const before = last.heldBy.find(
      (j) =>
        placed.dates.finish[j] === freeAt &&
        !placed.pieces.has(j) &&
        placed.placedAs[j]! >= 0 &&
        placed.placedAs[j]! < placed.placedAs[i]! &&
        !paths?.lead(i, j),
    )
    if (before !== undefined) {
      paths?.add(before, i)
      const code = problem.resources[last.resource]!.code || problem.resources[last.resource]!.name
      changes.push(links(network.activities[before]!.id, id, `${code} is handed over`))
    } else changes.push(notBefore(plan, id, freeAt))
  }
  for (const [i, pieces] of placed.pieces) changes.push(...pausing(network, i, pieces, problem.horizon))
  const after = schedule(changes.length === 0 ? plan : applyUnchecked(plan, { kind: 'all', changes }).plan)
  const leftOut = new Set(placed.unresolved.map(({ activity }) => activity))
  const bound = lowerBound(problem.joint, problem.demands, problem.available, leftOut)
  return {
    before: problem.before,
    after,
    changes,
    resources: problem.resources,
    waited: placed.waited,
    pieces: placed.pieces,
    unresolved: placed.unresolved,
    without: problem.without,
    bound,
    proven: known ?? provenFrom(problem, bound, leftOut, after.projectFinish),
    foundBy,
  }
}

const notBefore = (plan: Plan, id: string, at: Instant): Change => ({
  kind: 'set',
  list: 'activities',
  key: id,
  set: {
    constraints: [
      ...plan.activities.find((a) => a.id === id)!.constraints,
      { edge: 'start', rule: 'not-before', date: formatInstant(at), overrides: false },
    ],
  },
})

/** A calendar of its own for work that pauses: its joint one without the time between its pieces. */
const pausing = (
  network: Network,
  i: number,
  pieces: readonly (readonly [Instant, Instant])[],
  horizon: Horizon,
): Change[] => {
  const { plan } = network
  const activity = plan.activities[i]!
  const id = calendarOf(plan.project, activity)
  const own = network.calendars.get(id)
  const spans = jointSpans([own], horizon.firstDay * MINUTES_PER_DAY, horizon.endDay * MINUTES_PER_DAY)
  const pauses = pieces.slice(1).map(([resume], p) => [pieces[p]![1], resume] as const)
  const kept: number[] = []
  for (let s = 0; s < spans.length; s += 2) {
    const to = spans[s + 1]!
    let from = spans[s]!
    for (const [pause, resume] of pauses) {
      if (resume <= from || pause >= to) continue
      if (pause > from) kept.push(from, pause)
      from = resume
    }
    if (to > from) kept.push(from, to)
  }
  const item = writtenCalendar(
    {
      ...lengthsOf(plan, id),
      id: `${id} paused ${activity.id}`.slice(0, 190),
      name: `${activity.code}, with its pauses`,
    },
    Int32Array.from(kept),
    horizon,
  )
  return [
    { kind: 'add', list: 'calendars', item, before: null },
    { kind: 'set', list: 'activities', key: activity.id, set: { calendar: item.id } },
    ...lagsKept(plan, activity.id),
  ]
}

/** Lags go on counting on the calendar that they count on, whatever calendar an activity is given. */
const lagsKept = (plan: Plan, id: string): Change[] => {
  const activityOf = (of: string) => plan.activities.find((a) => a.id === of)
  return plan.links.flatMap((link): Change[] => {
    if (link.lag === 0 || (link.from !== id && link.to !== id)) return []
    const counted = lagCalendarOf(plan.project, link, activityOf(link.from), activityOf(link.to))
    const lagOn = counted === CLOCK_ID ? 'clock' : `calendar:${counted}`
    return link.lagOn === lagOn ? [] : [{ kind: 'set', list: 'links', key: link.id, set: { lagOn } }]
  })
}
