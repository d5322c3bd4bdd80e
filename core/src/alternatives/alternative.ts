import { workBetween } from '../time/arithmetic.ts'
import { instantOf, type Instant } from '../time/instant.ts'
import { complexity } from '../network/complexity.ts'
import { roundMoney } from '../plan/money.ts'
import type { Plan } from '../plan/schema.ts'
import { activityCosts } from '../cost/activityCosts.ts'
import { chargeFor, measuredFinish } from '../cost/damages.ts'
import { pert } from '../forecast/pert.ts'
import { review, type Review } from '../review/review.ts'
import { scheduleDifference, type ScheduleDifference } from '../scenario/differences.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'

/** What a state of a plan is compared by: the plan itself, or the plan as a scenario sees it. */
export interface Alternative {
  readonly finish: Instant
  /** Working minutes of the project calendar by which the required finish is missed; negative: to spare; null without one. */
  readonly short: number | null
  /** At completion, and damages; money. Null where nothing costs anything. */
  readonly cost: { readonly work: number; readonly damages: number } | null
  /** Ids, in order of start. */
  readonly longestPath: readonly string[]
  readonly complexity: number
  readonly findings: number
  /** The finish on expected durations, and the probability of the required finish by it; null without one. */
  readonly pert: { readonly finish: string; readonly probability: number | null }
}

/** One alternative beside the plan. */
export interface AlternativeBeside extends Alternative {
  readonly difference: ScheduleDifference
  /** Working minutes of the project calendar by which it finishes later than the plan. */
  readonly later: number
  readonly opened: readonly string[]
  readonly closed: readonly string[]
  /** What the difference in cost is made of, the most first; adds up to it but for cents. */
  readonly money: readonly { readonly what: string; readonly amount: number }[]
  /** Start and finish here and in the plan, of what changed or moved; null where it is not there. */
  readonly moves: readonly {
    readonly activity: string
    readonly isChanged: boolean
    readonly here: readonly [Instant, Instant] | null
    readonly plan: readonly [Instant, Instant] | null
  }[]
}

/** The plan, scheduled and reviewed once for all that stand beside it. */
export interface ComparedPlan {
  readonly plan: Plan
  readonly made: Schedule
  readonly found: Review
  readonly itself: Alternative
}

/** @throws CalendarError where it cannot be scheduled */
export const comparedPlan = (plan: Plan): ComparedPlan => {
  const made = schedule(plan)
  const found = review(plan, made, { experiments: 0 })
  return { plan, made, found, itself: alternative(plan, made, found) }
}

const alternative = (plan: Plan, made: Schedule, found: Review): Alternative => {
  const { network, projectFinish, onLongestPath, start } = made
  const calendar = network.calendars.get(plan.project.calendar)
  const { requiredFinish } = plan.project
  const costs = activityCosts(made).atCompletion
  const work = costs.reduce((sum, cost) => sum + cost, 0)
  const damages = damagesOf(made).reduce((sum, { amount }) => sum + amount, 0)
  const { finish, probability } = pert(plan)
  return {
    finish: projectFinish,
    short:
      requiredFinish === null
        ? null
        : workBetween(calendar, instantOf(requiredFinish, 'finish'), projectFinish),
    cost:
      work === 0 && plan.damages.length === 0
        ? null
        : { work: roundMoney(work), damages: roundMoney(damages) },
    longestPath: network.activities
      .flatMap(({ id }, i) => (onLongestPath[i] === 1 ? [{ id, start: start[i]! }] : []))
      .sort((a, b) => a.start - b.start)
      .map(({ id }) => id),
    complexity: complexity(plan).number,
    findings: found.findings.length,
    pert: { finish, probability },
  }
}

const damagesOf = (made: Schedule): { what: string; amount: number }[] =>
  made.network.plan.damages.map((clause) => ({
    what: clause.name || 'Damages',
    amount: chargeFor(clause, made.network.calendars.get(clause.calendar), measuredFinish(made, clause))
      .amount,
  }))

/** @throws CalendarError where the alternative cannot be scheduled */
export const alternativeBeside = (
  { plan: base, made: before, found: reviewed }: ComparedPlan,
  plan: Plan,
): AlternativeBeside => {
  const made = schedule(plan)
  const found = review(plan, made, { experiments: 0 })
  const difference = scheduleDifference(before, made)
  const calendar = before.network.calendars.get(base.project.calendar)
  const keys = (of: Review): Map<string, string> =>
    new Map(of.findings.map(({ check, place, message }) => [`${check} ${place}`, message]))
  const [was, is] = [keys(reviewed), keys(found)]
  return {
    ...alternative(plan, made, found),
    difference,
    later: workBetween(calendar, before.projectFinish, made.projectFinish),
    opened: [...is].flatMap(([key, message]) => (was.has(key) ? [] : [message])),
    closed: [...was].flatMap(([key, message]) => (is.has(key) ? [] : [message])),
    money: moneyBetween(before, made),
    moves: movesBetween(before, made, difference),
  }
}

const movesBetween = (
  before: Schedule,
  after: Schedule,
  { changed, moved, added, removed }: ScheduleDifference,
): AlternativeBeside['moves'] => {
  const own = new Set([...changed, ...added, ...removed])
  const spanIn = ({ network, start, finish }: Schedule, id: string): readonly [Instant, Instant] | null => {
    const i = network.indexOf.get(id)
    return i === undefined ? null : [start[i]!, finish[i]!]
  }
  return [...new Set([...own, ...moved])]
    .map((activity) => ({
      activity,
      isChanged: own.has(activity),
      here: spanIn(after, activity),
      plan: spanIn(before, activity),
    }))
    .sort(
      (a, b) =>
        Number(b.isChanged) - Number(a.isChanged) ||
        (a.here ?? a.plan)![0] - (b.here ?? b.plan)![0] ||
        (a.activity < b.activity ? -1 : 1),
    )
}

/** Single sources of cost that are named; what is less than the least of them is one sum. */
const MOST_NAMED = 4

const moneyBetween = (before: Schedule, after: Schedule): { what: string; amount: number }[] => {
  const sources = new Map<string, { what: string; amount: number }>()
  const add = (key: string, what: string, amount: number): void => {
    const known = sources.get(key)
    sources.set(key, { what, amount: (known?.amount ?? 0) + amount })
  }
  for (const [made, sign] of [
    [before, -1],
    [after, 1],
  ] as const) {
    const { atCompletion } = activityCosts(made)
    made.network.activities.forEach(({ id, code, name }, i) =>
      add(`a ${id}`, [code, name].filter(Boolean).join(' '), sign * atCompletion[i]!),
    )
    damagesOf(made).forEach(({ what, amount }, d) =>
      add(`d ${made.network.plan.damages[d]!.id}`, what, sign * amount),
    )
  }
  const differing = [...sources.values()]
    .map(({ what, amount }) => ({ what, amount: roundMoney(amount) }))
    .filter(({ amount }) => amount !== 0)
    .sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount) || (a.what < b.what ? -1 : 1))
  const rest = differing.slice(MOST_NAMED)
  if (rest.length < 2) return differing
  const amount = roundMoney(rest.reduce((sum, one) => sum + one.amount, 0))
  return [...differing.slice(0, MOST_NAMED), { what: `${rest.length} more activities`, amount }]
}
