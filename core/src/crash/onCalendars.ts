import { activityCosts } from '../cost/activityCosts.ts'
import { chargeFor, measuredFinish } from '../cost/damages.ts'
import { Kind, NONE } from '../network/network.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Instant } from '../time/instant.ts'
import { crashedSchedule, finishOfAsked, priceOf, type CrashPoint, type CrashResult } from './crash.ts'
import type { Shortening } from './eventNetwork.ts'

/** Costs that depend on when the work is done; money unrounded. */
export interface DependentCost {
  readonly crashing: number
  /** Hammocks, and what activities cost per day. */
  readonly time: number
  readonly damages: number
  readonly total: number
}

/** Why cheaper work is not crashed in a step: found by trying it. */
export interface NotUsed {
  readonly activity: number
  /** Money per day of its calendar. */
  readonly slope: number
  readonly why:
    | 'at-its-limit'
    /** Shortened instead, the finish does not move: it has float. */
    | 'has-float'
    /** Shortened instead, the finish does not move although it has no float: a calendar takes the time up. */
    | 'saves-nothing'
    /** It saves something, but less: another path is as long. */
    | 'saves-less'
  /** Working minutes of its calendar: its float, or what it would have saved of the finish, on the project calendar. */
  readonly minutes: number
}

/** A finish that crashing reaches on the real calendars, and the way to it from the one before. */
export interface CrashStep {
  readonly point: CrashPoint
  readonly finish: Instant
  readonly cost: DependentCost
  /** Activities by position with the minutes by which they are crashed further (or, negative, less) than in the step before. */
  readonly changes: readonly { readonly activity: number; readonly minutes: number }[]
  /** Money that crashing costs more than in the step before, per working day of the project calendar saved. */
  readonly perDay: number
  readonly notUsed: readonly NotUsed[]
}

/** Lengths looked at between the corners. */
const MOST_LENGTHS = 200

/** Costs that depend on the dates: semantics2.md section 15. */
export const dependentCost = (made: Schedule, crashing: number): DependentCost => {
  const { network } = made
  const { plan } = network
  const costs = activityCosts(made)
  let time = 0
  plan.activities.forEach((activity, i) => {
    if (network.kind[i] === Kind.Hammock) time += costs.atCompletion[i]!
    else if (activity.cost.perDay !== 0)
      time +=
        (activity.cost.perDay * costs.length[i]!) /
        lengthsOf(plan, calendarOf(plan.project, activity)).dayMinutes
  })
  const damages = plan.damages.reduce(
    (sum, clause) =>
      sum + chargeFor(clause, network.calendars.get(clause.calendar), measuredFinish(made, clause)).amount,
    0,
  )
  return { crashing, time, damages, total: crashing + time + damages }
}

/**
 * The finishes that crashing reaches on the real calendars, latest first, each for the least that crashing costs on the network in working
 * minutes: that optimum is proven, what the calendars make of it is found by scheduling, and what they make useless is not crashed.
 * @param to - id of the activity whose finish is asked for; null: the project's
 */
export const crashSteps = (result: CrashResult, to: string | null): CrashStep[] => {
  const { network } = result.network
  const { plan } = result.network
  const calendar = network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const steps: CrashStep[] = []
  let before: Reached | null = null
  for (const reached of cheapestFinishes(result, to)) {
    const { point, made, finish } = reached
    const saved = before ? calendar.countBefore(before.finish) - calendar.countBefore(finish) : 0
    const changes = before ? changesBetween(before.point, point) : []
    const extra = before ? point.crashCost - before.point.crashCost : 0
    steps.push({
      point,
      finish,
      cost: dependentCost(made, point.crashCost),
      changes,
      perDay: saved > 0 ? (extra * dayMinutes) / saved : 0,
      notUsed: before ? cheaperNotUsed(result, to, before, { changes, extra, saved }) : [],
    })
    before = reached
  }
  return steps
}

/** A choice on the real calendars. */
interface Reached {
  readonly point: CrashPoint
  readonly made: Schedule
  readonly finish: Instant
}

/** Times that choices are taken a step further. */
const MOST_ROUNDS = 12

/**
 * By finish, latest first: the cheapest choice found for it. Begins with the optima of the network and goes on, as the calendars answer, by
 * one step more on the longest path: what saves a day in straight minutes may save three over a weekend, or none.
 */
const cheapestFinishes = (result: CrashResult, to: string | null): Reached[] => {
  const { plan } = result.network
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  let found = efficient(
    lengthsOfInterest(result, dayMinutes).map((minutes) => trimmed(result, to, result.at(minutes))),
  )
  const expanded = new Set<CrashPoint>()
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const further = found
      .filter(({ point }) => !expanded.has(point))
      .flatMap((reached) => {
        expanded.add(reached.point)
        return oneStepMore(result, reached)
      })
      .map((point) => trimmed(result, to, point))
    const next = efficient([...found, ...further])
    if (next.every((reached) => found.includes(reached))) break
    found = next
  }
  return found
}

/** Those of which none other finishes as early for less; latest finish first. */
const efficient = (reached: readonly Reached[]): Reached[] => {
  const kept: Reached[] = []
  let least = Infinity
  for (const one of [...reached].sort(
    (a, b) => a.finish - b.finish || a.point.crashCost - b.point.crashCost,
  )) {
    if (one.point.crashCost >= least - 1e-9) continue
    least = one.point.crashCost
    kept.push(one)
  }
  return kept.reverse()
}

/** Each activity on the longest path crashed by one step more. */
const oneStepMore = ({ network, whole }: CrashResult, { point, made }: Reached): CrashPoint[] =>
  network.shortenings.flatMap((one): CrashPoint[] => {
    const { activity: i, crashable, limit, rate } = one
    if (made.onLongestPath[i] !== 1) return []
    const amount = point.amounts.get(i) ?? 0
    const most = limit / rate
    const day = lengthsOf(network.plan, calendarOf(network.plan.project, crashable.activity)).dayMinutes
    const period = Math.round((whole ?? 1) * day)
    const next = crashable.options
      ? Math.min(...crashable.options.map(({ saves }) => saves).filter((saves) => saves > amount), Infinity)
      : whole === null
        ? Math.min(most, amount + period)
        : amount + period
    if (next > most + 1e-9 || next <= amount) return []
    return [{ ...point, amounts: new Map(point.amounts).set(i, next) }]
  })

/**
 * What the calendars make useless is not crashed: activity by activity, the dearest first, as little as keeps the finish. The network in
 * straight minutes may ask for a day before a weekend that no later work can use.
 */
const trimmed = (result: CrashResult, to: string | null, point: CrashPoint): Reached => {
  const { shortenings, network } = result.network
  const at = (amounts: ReadonlyMap<number, number>): { made: Schedule; finish: Instant } => {
    const made = crashedSchedule(result, { ...point, amounts })
    return { made, finish: finishOfAsked(network, to, made) }
  }
  let amounts: ReadonlyMap<number, number> = point.amounts
  let best = at(amounts)
  const crashed = shortenings
    .filter(({ activity }) => amounts.has(activity))
    .sort((a, b) => priceOf(b, amounts.get(b.activity)!) - priceOf(a, amounts.get(a.activity)!))
  for (const one of crashed)
    for (const less of lesserAmounts(result, one, amounts.get(one.activity)!)) {
      const tried = new Map(amounts)
      if (less > 0) tried.set(one.activity, less)
      else tried.delete(one.activity)
      const made = at(tried)
      if (made.finish > best.finish) continue
      amounts = tried
      best = made
      break
    }
  const crashCost = shortenings.reduce((sum, one) => {
    const minutes = amounts.get(one.activity)
    return minutes === undefined ? sum : sum + priceOf(one, minutes)
  }, 0)
  return { ...best, point: { ...point, amounts, crashCost } }
}

/** What an activity could be crashed by instead, least first. */
const lesserAmounts = (
  { whole, network: { plan } }: CrashResult,
  { crashable }: Shortening,
  amount: number,
): number[] => {
  if (crashable.options)
    return [0, ...crashable.options.map(({ saves }) => saves)]
      .filter((saves) => saves < amount)
      .sort((a, b) => a - b)
  if (whole === null) return [0, 0.25, 0.5, 0.75].map((share) => Math.round(share * amount))
  const period = Math.round(whole * lengthsOf(plan, calendarOf(plan.project, crashable.activity)).dayMinutes)
  return Array.from({ length: Math.max(0, Math.ceil(amount / period - 1e-9)) }, (_, k) => k * period)
}

/** Corners of the curve and, between those of a curve that has some, whole days; longest first. */
const lengthsOfInterest = (
  { normal, shortest, curve, whole, network }: CrashResult,
  dayMinutes: number,
): number[] => {
  const lengths = new Set((curve ?? [normal, shortest]).map(({ minutes }) => minutes))
  const hasCorners =
    whole === null && network.shortenings.every(({ crashable }) => crashable.options === null)
  const span = normal.minutes - shortest.minutes
  const step = Math.max(dayMinutes, Math.ceil(span / MOST_LENGTHS))
  for (let saved = step; hasCorners && saved < span; saved += step)
    lengths.add(Math.round(normal.minutes - saved))
  return [...lengths].sort((a, b) => b - a)
}

const changesBetween = (before: CrashPoint, after: CrashPoint): { activity: number; minutes: number }[] =>
  [...new Set([...before.amounts.keys(), ...after.amounts.keys()])]
    .map((activity) => ({
      activity,
      minutes: (after.amounts.get(activity) ?? 0) - (before.amounts.get(activity) ?? 0),
    }))
    .filter(({ minutes }) => Math.abs(minutes) > 1e-6)

/** Work that would cost less a day than the step does, with what came of trying it instead. */
const cheaperNotUsed = (
  result: CrashResult,
  to: string | null,
  before: { readonly point: CrashPoint; readonly made: Schedule; readonly finish: Instant },
  step: { readonly changes: readonly { activity: number }[]; readonly extra: number; readonly saved: number },
): NotUsed[] => {
  const { plan, shortenings, network } = result.network
  const calendar = network.calendars.get(plan.project.calendar)
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const perDay = step.saved > 0 ? (step.extra * dayMinutes) / step.saved : 0
  const used = new Set(step.changes.map(({ activity }) => activity))
  return shortenings.flatMap(({ activity: i, slope, limit, rate }): NotUsed[] => {
    const own = lengthsOf(plan, calendarOf(plan.project, plan.activities[i]!)).dayMinutes
    if (used.has(i) || slope * rate * own >= perDay) return []
    const already = before.point.amounts.get(i) ?? 0
    const one = { activity: i, slope: slope * rate * own }
    if (limit / rate - already < 1) return [{ ...one, why: 'at-its-limit', minutes: 0 }]
    const more = Math.min(limit / rate - already, Math.max(1, step.saved / rate))
    const amounts = new Map(before.point.amounts).set(i, already + more)
    const tried = finishOfAsked(network, to, crashedSchedule(result, { ...before.point, amounts }))
    const gained = calendar.countBefore(before.finish) - calendar.countBefore(tried)
    if (gained >= step.saved) return []
    if (gained > 0) return [{ ...one, why: 'saves-less', minutes: gained }]
    const float = before.made.float.total[i]!
    // Float is measured against the required finish; against the finish itself it is what the longest path does not have.
    const hasFloat = before.made.onLongestPath[i] !== 1 && float !== NONE
    return [{ ...one, why: hasFloat ? 'has-float' : 'saves-nothing', minutes: hasFloat ? float : 0 }]
  })
}
