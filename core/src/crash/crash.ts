import { formatInstant, instantOf, type Instant } from '../time/instant.ts'
import { State, type Network } from '../network/network.ts'
import { lengthsOf } from '../plan/durations.ts'
import { setDuration } from '../plan/edits.ts'
import { applyChange } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'
import {
  eventNetwork,
  finishOf,
  SINK,
  SOURCE,
  startOf,
  type Basis,
  type EventNetwork,
  type Shortening,
} from './eventNetwork.ts'
import { Programme, type Solver } from './solver.ts'
import { timeCostCurve, type TimeCostCurve } from './timeCostCurve.ts'

/** What is asked of crashing. Without a deadline and a budget: the curve. */
export interface CrashAsk {
  /** Date, as in the plan file, or a length in working minutes of the project calendar. */
  readonly deadline?: { readonly date: string } | { readonly minutes: number } | null
  /** Money that crashing may cost. */
  readonly budget?: number | null
  /** Id of the activity whose finish is asked for; null: the project's. */
  readonly to?: string | null
  /** Amounts are whole multiples of so many days of each activity's calendar; null: minutes. */
  readonly whole?: number | null
  /** Whether the whole curve is wanted beside an answer. */
  readonly curve?: boolean
  /** `minutes` unless this says otherwise. */
  readonly basis?: Basis
}

/** One choice: what is crashed by how much, and what it comes to. */
export interface CrashPoint {
  /** Length of the network in its minutes. */
  readonly minutes: number
  readonly crashCost: number
  /** Working minutes of its calendar by which an activity is crashed, by position; those not crashed are not in it. */
  readonly amounts: ReadonlyMap<number, number>
}

export interface CrashResult {
  readonly network: EventNetwork
  /** Whole periods, in days; null: fractions. */
  readonly whole: number | null
  /** Whether the deadline, or the budget, can be kept at all. */
  readonly feasible: boolean
  /** The answer; the normal plan where only the curve is asked for, the shortest where the deadline cannot be kept. */
  readonly point: CrashPoint
  readonly normal: CrashPoint
  readonly shortest: CrashPoint
  /** Ids of the activities of a longest path with all at their crash durations. */
  readonly blocking: readonly string[]
  /** From normal to shortest; null where it was not asked for. */
  readonly curve: readonly CrashPoint[] | null
  /** What normal durations cost, of all activities with crash data. */
  readonly normalCost: number
  /** The cheapest way to a length, in working minutes; the shortest where there is none so short. */
  readonly at: (minutes: number) => CrashPoint
}

/** Whether an answer needs whole numbers, and so the solver. */
export const needsSolver = (network: EventNetwork, whole: number | null): boolean =>
  whole !== null || network.shortenings.some(({ crashable }) => crashable.options !== null)

/**
 * The least that crashing costs for a deadline, the earliest finish for a budget, or the whole curve (semantics.md section 9, semantics2.md
 * section 15). The optimum is proven: by the flow that bounds it, or by the solver where amounts or options are whole.
 * @param solver - needed where {@link needsSolver} says so
 * @throws PlanError for crash data that cannot be; RangeError for a deadline or budget below zero
 */
export const crash = (plan: Plan, ask: CrashAsk, solver: Solver | null = null): CrashResult => {
  const network = eventNetwork(plan, ask.to ?? null, ask.basis)
  const whole = ask.whole ?? null
  const budget = ask.budget ?? null
  if (budget !== null && !(budget >= 0)) throw new RangeError(`crash: a budget of ${budget}`)
  if (whole !== null && !(whole > 0)) throw new RangeError(`crash: whole periods of ${whole} days`)
  const deadline = deadlineMinutes(network, ask.to ?? null, ask.deadline ?? null)
  const wantsCurve = ask.curve === true || (deadline === null && budget === null)
  const choices: Choices =
    needsSolver(network, whole) && network.shortenings.length > 0
      ? new WholeChoices(network, whole, solver)
      : new FlowChoices(network)
  const { normal, shortest } = choices
  let point: CrashPoint | null = normal
  if (deadline !== null) point = deadline < shortest.minutes ? null : choices.by(deadline)
  else if (budget !== null) point = choices.within(budget)
  return {
    network,
    whole,
    feasible: point !== null,
    point: point ?? shortest,
    normal,
    shortest,
    blocking: choices.blocking(),
    curve: wantsCurve ? choices.curve() : null,
    at: (minutes) => (minutes <= shortest.minutes ? shortest : choices.by(minutes)),
    normalCost: plan.activities.reduce(
      (sum, { crash: data, kind }) => sum + (kind === 'work' && data ? data.normalCost : 0),
      0,
    ),
  }
}

/**
 * The length that a deadline allows. A date asks to save as much working time of the project calendar as lies between it and the finish
 * as planned: on one calendar that is the date itself, on several it is what the network has to give.
 */
const deadlineMinutes = (
  { plan, network, early }: EventNetwork,
  to: string | null,
  deadline: CrashAsk['deadline'] | null,
): number | null => {
  if (deadline === null || deadline === undefined) return null
  if ('minutes' in deadline) {
    if (!(deadline.minutes >= 0)) throw new RangeError(`crash: a deadline of ${deadline.minutes} minutes`)
    return deadline.minutes
  }
  const calendar = network.calendars.get(plan.project.calendar)
  const planned = finishOfAsked(network, to, schedule(plan))
  return (
    early[SINK]! + calendar.countBefore(instantOf(deadline.date, 'finish')) - calendar.countBefore(planned)
  )
}

/** Ways to shorten the network, each the cheapest of its length. */
interface Choices {
  readonly normal: CrashPoint
  readonly shortest: CrashPoint
  /** @param minutes - not below the shortest */
  by(minutes: number): CrashPoint
  within(budget: number): CrashPoint
  curve(): CrashPoint[]
  blocking(): string[]
}

const kept = (network: EventNetwork, amounts: ArrayLike<number>): Map<number, number> =>
  network.shortenings.reduce(
    (found, { activity, rate }, k) => (amounts[k]! > 1e-6 ? found.set(activity, amounts[k]! / rate) : found),
    new Map<number, number>(),
  )
const costOf = (shortenings: readonly Shortening[], amounts: ArrayLike<number>): number =>
  shortenings.reduce((sum, { slope }, k) => sum + (amounts[k]! > 1e-6 ? slope * amounts[k]! : 0), 0)

/** Any amounts: read off the curve. */
class FlowChoices implements Choices {
  private readonly network: EventNetwork
  private readonly found: TimeCostCurve
  readonly normal: CrashPoint
  readonly shortest: CrashPoint

  constructor(network: EventNetwork) {
    this.network = network
    this.found = timeCostCurve(network)
    const { corners } = this.found
    this.normal = this.pointOf(corners[0]!.length)
    this.shortest = this.pointOf(corners.at(-1)!.length)
  }
  private pointOf(length: number): CrashPoint {
    const amounts = this.found.amountsAt(length)
    return {
      minutes: length,
      crashCost: costOf(this.network.shortenings, amounts),
      amounts: kept(this.network, amounts),
    }
  }
  by(minutes: number): CrashPoint {
    return minutes >= this.normal.minutes ? this.normal : this.pointOf(minutes)
  }
  within(budget: number): CrashPoint {
    const { corners } = this.found
    const k = corners.findLastIndex(({ cost }) => cost <= budget + 1e-9)
    const corner = corners[k]!
    if (k === corners.length - 1) return this.shortest
    // Whole minutes, so that the budget is kept.
    const saved = corner.slope <= 0 ? Infinity : Math.floor((budget - corner.cost) / corner.slope + 1e-9)
    return this.pointOf(Math.max(corner.length - saved, corners[k + 1]!.length))
  }
  curve(): CrashPoint[] {
    return this.found.corners.map(({ length }) => this.pointOf(length))
  }
  blocking(): string[] {
    return this.found.blocking.map((i) => this.network.plan.activities[i]!.id)
  }
}

/** Whole periods, or one of several options: a whole-number programme. */
class WholeChoices implements Choices {
  private readonly network: EventNetwork
  private readonly whole: number | null
  private readonly solver: Solver
  readonly normal: CrashPoint
  readonly shortest: CrashPoint

  constructor(network: EventNetwork, whole: number | null, solver: Solver | null) {
    if (solver === null) throw new Error('crash: whole amounts and options need a solver')
    this.network = network
    this.whole = whole
    this.solver = solver
    const longest = network.early[SINK]!
    this.normal = { minutes: longest, crashCost: 0, amounts: new Map() }
    const least = this.solve({ goal: 'length', length: longest, cost: Infinity })!
    this.shortest = this.cheapestAt(least.minutes)
  }

  by(minutes: number): CrashPoint {
    return minutes >= this.normal.minutes ? this.normal : this.cheapestAt(minutes)
  }
  /** The cheapest of at most so many minutes, and of those the shortest. */
  private cheapestAt(minutes: number): CrashPoint {
    const cheapest = this.solve({ goal: 'cost', length: minutes, cost: Infinity })!
    return this.solve({ goal: 'length', length: minutes, cost: cheapest.crashCost }) ?? cheapest
  }
  within(budget: number): CrashPoint {
    const shortest = this.solve({ goal: 'length', length: this.normal.minutes, cost: budget })!
    return this.cheapestAt(shortest.minutes)
  }
  curve(): CrashPoint[] {
    const points = [this.normal]
    // Fractions beside options have no end of points: then whole days of the project calendar.
    const { plan } = this.network
    const span = this.normal.minutes - this.shortest.minutes
    const least = this.whole === null ? lengthsOf(plan, plan.project.calendar).dayMinutes : 1
    const step = Math.max(least, Math.ceil(span / MOST_POINTS))
    for (;;) {
      const last = points.at(-1)!
      if (last.minutes <= this.shortest.minutes) return points
      points.push(this.cheapestAt(Math.max(this.shortest.minutes, last.minutes - step)))
    }
  }
  blocking(): string[] {
    // With every activity at its shortest, by the curve without whole amounts.
    return new FlowChoices(this.network).blocking()
  }

  private solve(ask: { goal: 'cost' | 'length'; length: number; cost: number }): CrashPoint | null {
    const { shortenings } = this.network
    const programme = new Programme()
    const time = Array.from({ length: this.network.nodes }, (_, node) =>
      programme.variable({
        lower: node === SOURCE ? 0 : -Infinity,
        upper: node === SOURCE ? 0 : node === SINK ? ask.length : Infinity,
        cost: node === SINK && ask.goal === 'length' ? 1 : 0,
      }),
    )
    for (const { from, to, length } of this.network.arcs)
      programme.row(
        [
          [time[to]!, 1],
          [time[from]!, -1],
        ],
        length,
        Infinity,
      )
    const priced: (readonly [number, number])[] = []
    const chosen = shortenings.map((one) => this.choose(programme, one, ask.goal === 'cost', priced))
    shortenings.forEach(({ activity, normal }, k) =>
      // Worked in its normal time less what is crashed, no shorter.
      programme.row(
        [
          [time[finishOf(activity)]!, 1],
          [time[startOf(activity)]!, -1],
          ...chosen[k]!.map(({ variable, saves }) => [variable, saves] as const),
        ],
        normal,
        normal,
      ),
    )
    if (ask.cost < Infinity && priced.length > 0) programme.row(priced, -Infinity, ask.cost + 1e-7)
    const optimum = this.solver.minimise(programme)
    if (optimum === null) return null
    const amounts = new Map<number, number>()
    let crashCost = 0
    shortenings.forEach(({ activity }, k) => {
      for (const { variable, price, own, isWhole } of chosen[k]!) {
        const value = optimum.values[variable]!
        const count = isWhole ? Math.round(value) : value
        if (count < 1e-6) continue
        crashCost += count * price
        if (own > 0) amounts.set(activity, (amounts.get(activity) ?? 0) + count * own)
      }
    })
    return { minutes: Math.round(optimum.values[time[SINK]!]!), crashCost, amounts }
  }

  /** The variables that shorten an activity. */
  private choose(
    programme: Programme,
    { normal, limit, crashable, slope, rate }: Shortening,
    isPriced: boolean,
    priced: (readonly [number, number])[],
  ): readonly Choice[] {
    const made = (own: number, price: number, upper: number, isWhole: boolean): Choice => {
      const variable = programme.variable({ lower: 0, upper, isWhole, cost: isPriced ? price : 0 })
      if (price > 0) priced.push([variable, price])
      return { variable, saves: own * rate, own, price, isWhole }
    }
    const { options } = crashable
    if (options !== null) {
      // Of work under way an option saves in proportion to what is left.
      const share = normal / rate / crashable.normal
      const variables = options.map(({ saves, extra }) => made(Math.round(saves * share), extra, 1, true))
      programme.row(
        variables.map(({ variable }) => [variable, 1] as const),
        0,
        1,
      )
      return variables
    }
    const { plan } = this.network
    const calendar = crashable.activity.calendar ?? plan.project.calendar
    if (this.whole === null) return [made(1, slope * rate, limit / rate, false)]
    const period = Math.max(1, Math.round(this.whole * lengthsOf(plan, calendar).dayMinutes))
    return [made(period, slope * rate * period, Math.floor(limit / rate / period + 1e-9), true)]
  }
}

/** A variable that shortens an activity: by `own` working minutes of its calendar, `saves` of the network's time, for `price`. */
interface Choice {
  readonly variable: number
  readonly saves: number
  readonly own: number
  readonly price: number
  readonly isWhole: boolean
}
/** Points of a curve that has no corners of its own, at most. */
const MOST_POINTS = 200

/** What it costs to crash an activity by so many working minutes of its calendar. */
export const priceOf = ({ slope, rate, crashable }: Shortening, minutes: number): number => {
  const option = crashable.options?.find(({ saves }) => saves === minutes)
  return option ? option.extra : slope * rate * minutes
}

/** The changes that crash activities: shorter, with what that costs as a cost of their own. */
export const crashChange = ({ network }: CrashResult, point: CrashPoint): Change => ({
  kind: 'all',
  changes: network.shortenings.flatMap((one): Change[] => {
    const { activity: i, crashable } = one
    const saved = point.amounts.get(i)
    if (saved === undefined) return []
    const { activity } = crashable
    const extra = priceOf(one, saved)
    const { progress, cost } = activity
    const isStarted = network.network.state[i] === State.Started
    const remaining = Math.max(0, network.network.remaining[i]! - Math.round(saved))
    const shorter: Change = isStarted
      ? { kind: 'set', list: 'activities', key: activity.id, set: { progress: { ...progress, remaining } } }
      : setDuration(activity, Math.max(0, activity.duration - Math.round(saved)))
    return [
      shorter,
      {
        kind: 'set',
        list: 'activities',
        key: activity.id,
        set: { cost: { ...cost, fixed: Math.round((cost.fixed + extra) * 100) / 100 } },
      },
    ]
  }),
})

/** The plan with activities crashed, on its real calendars. */
export const crashedSchedule = (result: CrashResult, point: CrashPoint): Schedule =>
  schedule(applyChange(result.network.plan, crashChange(result, point)).plan)

/** The finish asked for, in a schedule. */
export const finishOfAsked = (network: Network, to: string | null, made: Schedule): Instant =>
  to === null ? made.projectFinish : made.finish[network.indexOf.get(to)!]!

/** The shape is that of the command line: lengths and amounts in days of the project calendar. */
export interface CrashReport {
  readonly feasible: boolean
  /** Re-scheduled on the real calendars. */
  readonly finish: string
  readonly duration: number
  readonly crashCost: number
  readonly totalCost: number
  readonly crashed: Readonly<Record<string, number>>
  readonly shortest: number
  /** Why it is no shorter: a longest path with all at their crash durations; null where the deadline is kept. */
  readonly blocking?: readonly string[]
  readonly curve?: readonly {
    readonly duration: number
    readonly crashCost: number
    readonly totalCost: number
  }[]
}

const cents = (amount: number): number => Math.round(amount * 100) / 100

export const crashReport = (result: CrashResult, ask: CrashAsk): CrashReport => {
  const { plan } = result.network
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const { point, curve, normalCost } = result
  const days = (minutes: number): number => minutes / dayMinutes
  return {
    feasible: result.feasible,
    finish: formatInstant(
      finishOfAsked(result.network.network, ask.to ?? null, crashedSchedule(result, point)),
    ),
    duration: days(point.minutes),
    crashCost: cents(point.crashCost),
    totalCost: cents(normalCost + point.crashCost),
    crashed: Object.fromEntries(
      [...point.amounts].map(([i, minutes]) => [plan.activities[i]!.id, days(minutes)]),
    ),
    shortest: days(result.shortest.minutes),
    ...(!result.feasible && { blocking: result.blocking }),
    ...(curve && {
      curve: curve.map(({ minutes, crashCost }) => ({
        duration: days(minutes),
        crashCost: cents(crashCost),
        totalCost: cents(normalCost + crashCost),
      })),
    }),
  }
}
