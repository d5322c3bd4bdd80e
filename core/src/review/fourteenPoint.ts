import { lengthsOf } from '../plan/durations.ts'
import { workBetween } from '../time/arithmetic.ts'
import { Kind, NONE, State } from '../network/network.ts'
import type { Plan } from '../plan/schema.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { baselineOf, frozenBy } from '../progress/baselines.ts'
import { integrityCandidates, integrityTest } from './integrity.ts'

/** One of the fourteen points: what was counted, of how many, and the limit that it must keep. */
export interface Point {
  readonly number: number
  readonly name: string
  readonly what: string
  readonly count: number
  readonly of: number
  /** A share for points 1–12 and an index for 13 and 14; null where the plan has nothing to measure it on. */
  readonly value: number | null
  readonly limit: number
  readonly rule: 'at most' | 'at least'
  readonly passes: boolean | null
  readonly activities: readonly string[]
  readonly links: readonly string[]
}

export interface FourteenPoints {
  readonly points: readonly Point[]
  /** (remaining length of the longest path + total float of the finish) ÷ remaining length; 1 or more keeps the required finish. */
  readonly pathLengthIndex: number | null
  /** Activities finished ÷ activities that the baseline had finished by the status date. */
  readonly baselineExecutionIndex: number | null
}

/** The public limits: shares for 1–12, indexes for 13 and 14, and the days that points 6 and 8 count from. */
export const POINT_LIMITS: Readonly<Record<string, number>> = {
  1: 0.05,
  2: 0,
  3: 0.05,
  4: 0.9,
  5: 0.05,
  6: 0.05,
  7: 0,
  8: 0.05,
  9: 0,
  10: 0,
  11: 0.05,
  12: 0,
  13: 0.95,
  14: 0.95,
  '6 days': 44,
  '8 days': 44,
}

/** Why a limit of a point cannot be set to a value; null if it can. */
export const pointLimitProblem = (name: string, value: number): string | null => {
  const [least, most] = name.endsWith('days') ? [1, 10_000] : Number(name) > 12 ? [0, 10] : [0, 1]
  if (!(name in POINT_LIMITS)) return 'there is no such point'
  if (!Number.isFinite(value)) return 'a limit is a number'
  return value < least || value > most
    ? `give a figure from ${most === 1 ? '0 to 100 %' : `${least} to ${most}`}`
    : null
}

/**
 * The public 14-point assessment of a schedule, with its index measures. Counted on unfinished work, without milestones and hammocks,
 * but for links (all of unfinished successors) and points 11 and 14 (all work with a baseline).
 */
export const fourteenPoints = (plan: Plan, schedule: Schedule): FourteenPoints => {
  const { network, float } = schedule
  const own = plan.project.review?.points ?? {}
  const limitOf = (name: string | number): number => {
    const value = own[name]
    return value !== undefined && pointLimitProblem(String(name), value) === null
      ? value
      : POINT_LIMITS[name]!
  }
  const isOpen = (i: number): boolean => network.kind[i] === Kind.Work && network.state[i] !== State.Finished
  const open = network.activities.map((_, i) => i).filter(isOpen)
  const ids = (of: readonly number[]): string[] => of.map((i) => network.activities[i]!.id)
  const day = (i: number): number => lengthsOf(plan, network.calendar[i]!.id).dayMinutes
  const links = network.links
    .map((_, k) => k)
    .filter((k) => network.state[network.linkTo[k]!] !== State.Finished)
  const linkIds = (of: readonly number[]): string[] => of.map((k) => network.links[k]!.id)
  const status = network.statusDate

  const ends = new Set([...plan.project.opens, ...plan.project.closes])
  const loose = open.filter(
    (i) =>
      (network.inStart[i] === network.inStart[i + 1] || network.outStart[i] === network.outStart[i + 1]) &&
      !ends.has(network.activities[i]!.id),
  )
  const leads = links.filter((k) => network.linkLag[k]! < 0)
  const lags = links.filter((k) => network.linkLag[k]! > 0)
  const finishStarts = links.filter((k) => network.links[k]!.type === 'FS')
  const hard = open.filter((i) =>
    network.activities[i]!.constraints.some((c) => c.overrides || c.rule !== 'not-before'),
  )
  const high = open.filter((i) => float.total[i]! !== NONE && float.total[i]! > limitOf('6 days') * day(i))
  const negative = open.filter((i) => float.total[i]! !== NONE && float.total[i]! < 0)
  const long = open.filter((i) => network.activities[i]!.duration > limitOf('8 days') * day(i))
  const isWrong = (i: number): boolean =>
    status !== null &&
    (network.actualStart[i]! > status ||
      network.actualFinish[i]! > status ||
      (network.state[i] !== State.Finished && schedule.early.begin[i]! < status))
  const invalid = network.activities
    .map((_, i) => i)
    .filter((i) => network.kind[i] !== Kind.Hammock && isWrong(i))
  const assigned = new Set(plan.assignments.map((a) => a.activity))
  const withTime = open.filter((i) => network.activities[i]!.duration >= day(i))
  const bare = withTime.filter((i) => !assigned.has(network.activities[i]!.id))
  const baseline = baselineOf(plan)
  const agreed = new Map<string, number>()
  for (const [id, { finish }] of baseline ? frozenBy(baseline) : [])
    if (finish !== null) agreed.set(id, finish)
  const due = network.activities
    .map((_, i) => i)
    .filter((i) => {
      const date = agreed.get(network.activities[i]!.id)
      return network.kind[i] === Kind.Work && date !== undefined && status !== null && date <= status
    })
  const missed = due.filter(
    (i) =>
      network.state[i] !== State.Finished || schedule.finish[i]! > agreed.get(network.activities[i]!.id)!,
  )
  const done = network.activities.filter(
    (a, i) => network.kind[i] === Kind.Work && agreed.has(a.id) && network.state[i] === State.Finished,
  )

  // One delay on the first critical work carries or it does not.
  const first = integrityCandidates(schedule).find(
    (id) => schedule.onLongestPath[network.indexOf.get(id)!] === 1,
  )
  const test = first === undefined ? null : integrityTest(plan, schedule, first)

  const pathLengthIndex = pathLength(plan, schedule)
  const execution = due.length === 0 ? null : done.length / due.length

  const share = (
    number: number,
    name: string,
    what: string,
    counted: readonly number[],
    of: number,
  ): Point => {
    const limit = limitOf(number)
    const value = of === 0 ? null : counted.length / of
    return {
      number,
      name,
      what,
      count: counted.length,
      of,
      value,
      limit,
      rule: 'at most',
      passes: value === null ? null : value <= limit,
      activities: ids(counted),
      links: [],
    }
  }
  const ofLinks = (
    number: number,
    name: string,
    what: string,
    counted: readonly number[],
    rule: Point['rule'],
  ): Point => {
    const limit = limitOf(number)
    const value = links.length === 0 ? null : counted.length / links.length
    const passes = value === null ? null : rule === 'at most' ? value <= limit : value >= limit
    return {
      number,
      name,
      what,
      count: counted.length,
      of: links.length,
      value,
      limit,
      rule,
      passes,
      activities: [],
      links: linkIds(counted),
    }
  }
  const index = (
    number: number,
    name: string,
    what: string,
    value: number | null,
    count: number,
    of: number,
  ): Point => ({
    number,
    name,
    what,
    count,
    of,
    value,
    limit: limitOf(number),
    rule: 'at least',
    passes: value === null ? null : value >= limitOf(number),
    activities: [],
    links: [],
  })
  return {
    points: [
      share(1, 'Logic', 'without predecessor or successor', loose, open.length),
      ofLinks(2, 'Leads', 'links with a lead', leads, 'at most'),
      ofLinks(3, 'Lags', 'links with a lag', lags, 'at most'),
      ofLinks(4, 'Link types', 'links finish to start', finishStarts, 'at least'),
      share(5, 'Hard constraints', 'held by a date that logic cannot move freely', hard, open.length),
      share(6, 'High float', `more than ${limitOf('6 days')} d of total float`, high, open.length),
      share(7, 'Negative float', 'less than no float', negative, open.length),
      share(8, 'High duration', `longer than ${limitOf('8 days')} d`, long, open.length),
      share(
        9,
        'Invalid dates',
        'actual dates ahead of the status date, or plans behind it',
        invalid,
        network.activities.length,
      ),
      share(10, 'Resources', 'of a day or more, with nobody assigned', bare, withTime.length),
      share(11, 'Missed dates', 'due by the baseline and late or not done', missed, due.length),
      {
        number: 12,
        name: 'Critical path test',
        what: 'a long delay on the first critical work that does not arrive',
        rule: 'at most',
        limit: 0,
        links: [],
        count: test && test.carries === 'lost' ? 1 : 0,
        of: test ? 1 : 0,
        value: test ? (test.carries === 'lost' ? 1 : 0) : null,
        passes: test ? test.carries !== 'lost' : null,
        activities: test ? [test.activity] : [],
      },
      index(
        13,
        'Path length index',
        '(length of the critical path + its total float) ÷ length',
        pathLengthIndex,
        0,
        0,
      ),
      index(
        14,
        'Baseline execution index',
        'finished ÷ due by the baseline',
        execution,
        done.length,
        due.length,
      ),
    ],
    pathLengthIndex,
    baselineExecutionIndex: execution,
  }
}

/** Length from the status date, else the project's start, to the finish, with what is left to the required finish, in working time of the project. */
const pathLength = (plan: Plan, schedule: Schedule): number | null => {
  if (schedule.network.order.length === 0) return null
  const calendar = schedule.network.calendars.get(plan.project.calendar)
  const from = Math.max(schedule.network.projectStart, schedule.network.statusDate ?? NONE)
  const length = workBetween(calendar, from, schedule.projectFinish)
  if (length <= 0) return null
  return (length + workBetween(calendar, schedule.projectFinish, schedule.target)) / length
}
