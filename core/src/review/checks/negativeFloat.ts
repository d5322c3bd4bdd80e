import type { Change } from '../../plan/change.ts'
import { limitsFinish, NONE, State } from '../../network/network.ts'
import { linkLimit } from '../../schedule/forwardPass.ts'
import type { FloatCause } from '../../schedule/floatCause.ts'
import { nextWork } from '../../time/arithmetic.ts'
import { limitInstant } from '../../network/compileLimits.ts'
import { formatInstant } from '../../time/instant.ts'
import { dateWords, instantWords } from '../../words/dates.ts'
import { durationWords } from '../../words/durations.ts'
import { finishMovesBy } from '../effects.ts'
import type { Schedule } from '../../schedule/schedule.ts'
import type { Check, Found, Repair } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { setActivity, withConstraint, withoutConstraint } from '../repairChanges.ts'
import { crashableOf } from '../../crash/crashData.ts'
import { constraintWords } from '../../words/constraintWords.ts'
import { dateDecides } from './bindingConstraint.ts'

/** Where the plan stands at the causing date: the finish, or the edge that the constraint is on. */
const reachedAt = (schedule: Schedule, cause: FloatCause): number => {
  const i = schedule.network.indexOf.get(cause.activity)!
  if (cause.kind === 'required-finish') return schedule.projectFinish
  return cause.constraint.edge === 'start' ? logicStart(schedule, i) : schedule.early.finish[i]!
}
const limitAt = (schedule: Schedule, cause: FloatCause): number =>
  cause.kind === 'required-finish'
    ? schedule.target
    : limitInstant(
        cause.constraint,
        schedule.network.calendar[schedule.network.indexOf.get(cause.activity)!]!,
      )

/** Where its links alone would start an activity that a date holds. */
const logicStart = (schedule: Schedule, i: number): number => {
  const { network, early } = schedule
  let latest = early.start[i]!
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
    if (!limitsFinish(network.linkCode[k]!)) latest = Math.max(latest, linkLimit(network, early, k))
  return latest
}

interface Group {
  readonly cause: FloatCause
  readonly members: string[]
  worst: number
}

/** Negative float, grouped by the one date that causes it: the symptom may stand on forty activities, the cause is one. */
export const negativeFloat: Check = {
  id: 'negative-float',
  topic: 'Float',
  title: 'Negative float, by cause',
  clean: 'no negative float',
  lacks: ({ project, activities }) =>
    project.requiredFinish === null && activities.every(({ constraints }) => constraints.length === 0)
      ? 'no required finish and no constraints'
      : null,
  why: 'The plan cannot keep this date as it stands. Until it can, float and criticality along these activities are measured against a date that will not be met.',
  of: 'activities',
  bias: null,
  limit: null,
  find(context) {
    const { network, float } = context.schedule
    if (!float.total.some((total) => total !== NONE && total < 0)) return []
    const causes = context.floatCauses
    const byCause = new Map<string, Group>()
    network.activities.forEach((activity, i) => {
      const total = float.total[i]!
      if (total === NONE || total >= 0) return
      const cause = causes[i]!
      const key =
        cause.kind === 'constraint'
          ? `${cause.activity} ${cause.constraint.edge} ${cause.constraint.rule} ${cause.constraint.date}`
          : 'required finish'
      const group = byCause.get(key) ?? { cause, members: [], worst: 0 }
      group.members.push(activity.id)
      group.worst = Math.min(group.worst, total)
      byCause.set(key, group)
    })
    return [...byCause.values()].map((group) => finding(context, group))
  },
}

const finding = (context: ReviewContext, { cause, members, worst }: Group): Found => {
  const { schedule, plan } = context
  const calendar = schedule.network.calendars.get(plan.project.calendar)
  const missed = Math.max(
    0,
    calendar.countBefore(reachedAt(schedule, cause)) - calendar.countBefore(limitAt(schedule, cause)),
  )
  const date = cause.kind === 'constraint' ? cause.constraint.date : plan.project.requiredFinish!
  const edge = cause.kind === 'constraint' ? cause.constraint.edge : 'finish'
  return {
    // Without the date: one that is moved is the same finding on other facts.
    place:
      cause.kind === 'constraint' ? `${cause.activity} ${edge} ${cause.constraint.rule}` : 'required finish',
    facts: { date: dateWords(date, edge), 'missed by': durationWords(missed, context.projectLengths) },
    severity: 'moves-answer',
    activities: members,
    links: [],
    message:
      cause.kind === 'constraint'
        ? `${context.code(cause.activity)} cannot keep its date: ${edge} ${cause.constraint.rule.replace('-', ' ')} ${dateWords(date, edge)}`
        : `The required finish ${dateWords(date, 'finish')} cannot be kept`,
    value: worst,
    threshold: 0,
    effect: { kind: cause.kind === 'required-finish' ? 'short' : 'missed', minutes: missed },
    repairs: repairsOf(context, cause),
  }
}

const MOST_WAYS = 4
/** So many are tried, those that save most first. */
const MOST_TRIED = 12

/**
 * What brings the finish forward along the longest path: a date let go that holds it, work shortened as far as its crash data say; what
 * brings most first. What a tide or another path takes up again is not among them.
 */
const waysToTheDate = (context: ReviewContext): Repair[] => {
  const { schedule, network } = context
  const ways: { saves: number; repair: Repair }[] = []
  network.activities.forEach((activity, i) => {
    if (schedule.onLongestPath[i] !== 1 || network.state[i] !== State.NotStarted) return
    for (const constraint of activity.constraints)
      if (!constraint.overrides && constraint.rule !== 'not-after' && dateDecides(context, i, constraint))
        ways.push({
          saves: Infinity,
          repair: {
            kind: `let-go ${activity.id}`,
            label: `Let go of a date: ${activity.code} ${constraintWords(constraint)}`,
            change: withoutConstraint(activity, constraint),
          },
        })
    const crashable = crashableOf(activity, i)
    if (!crashable || 'pointer' in crashable || crashable.limit <= 0) return
    const duration = activity.duration - crashable.limit
    const lengths = context.lengthsOf(activity)
    ways.push({
      saves: crashable.limit / lengths.dayMinutes,
      repair: {
        kind: `shorten ${activity.id}`,
        label: `Do ${activity.code} in ${durationWords(duration, lengths)} instead of ${durationWords(activity.duration, lengths)}, its shortest`,
        change: setActivity(activity.id, { duration }),
      },
    })
  })
  return ways
    .sort((a, b) => b.saves - a.saves)
    .slice(0, MOST_TRIED)
    .map(({ repair }) => ({ repair, moves: finishMovesBy(context.plan, schedule, repair.change) ?? 0 }))
    .filter(({ moves }) => moves < 0)
    .sort((a, b) => a.moves - b.moves)
    .slice(0, MOST_WAYS)
    .map(({ repair }) => repair)
}

const repairsOf = (context: ReviewContext, cause: FloatCause): Repair[] => {
  const { schedule, network } = context
  const reached = reachedAt(schedule, cause)
  if (cause.kind === 'required-finish') {
    const change: Change = { kind: 'project', set: { requiredFinish: formatInstant(reached) } }
    return [
      ...waysToTheDate(context),
      {
        kind: 'move-date',
        label: `Ask for ${instantWords(reached, 'finish')}, which the plan keeps`,
        change,
      },
    ]
  }
  const i = network.indexOf.get(cause.activity)!
  const activity = network.activities[i]!
  const { constraint } = cause
  // A start at the end of a working day would mean the next one.
  const kept = constraint.edge === 'start' ? nextWork(network.calendar[i]!, reached) : reached
  // Where the date is reached as it stands, and only floats of others fall short of it, moving it would repair nothing.
  const isReached = kept === limitInstant(constraint, network.calendar[i]!)
  return [
    ...(isReached
      ? []
      : [
          {
            kind: 'move-date',
            label: `Move the date to ${instantWords(kept, constraint.edge)}, which the plan keeps`,
            change: withConstraint(activity, constraint, { date: formatInstant(kept) }),
          },
        ]),
    ...(constraint.overrides
      ? [
          {
            kind: 'yield',
            label: 'Let the date yield to logic',
            change: withConstraint(activity, constraint, { overrides: false }),
          },
        ]
      : []),
  ]
}
