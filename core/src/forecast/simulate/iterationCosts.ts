import { ACCRUALS } from '../../cost/accruals.ts'
import { activityCosts, ratesOf, type Rates } from '../../cost/activityCosts.ts'
import { chargeFor, measuredFinish } from '../../cost/damages.ts'
import { workPeriods } from '../../cost/workPeriods.ts'
import { Kind, NONE, State } from '../../network/network.ts'
import type { Calendar } from '../../time/calendar.ts'
import type { PlacedDates } from '../../schedule/engine.ts'
import { estimateQuantile } from '../estimate.ts'
import type { SimulationModel } from './model.ts'

/** Money of one iteration. */
export interface IterationMoney {
  /** Activities, risks that happened, mitigations that are done, and damages. */
  cost: number
  /** Of it what hammocks cost, and what risks that happened cost themselves. */
  overhead: number
  risks: number
  /** By clause, in the order of the plan. */
  readonly damages: Float64Array
}

/** To be filled by {@link IterationCosts.of}. @param clauses - of damages */
export const emptyMoney = (clauses: number): IterationMoney => ({
  cost: 0,
  overhead: 0,
  risks: 0,
  damages: new Float64Array(clauses),
})

/** What the cost of an activity follows from, beside its length. */
interface Costly {
  readonly activity: number
  readonly kind: 'hammock' | 'finished' | 'work'
  /** Working minutes done by the status date, and in all by the plan. */
  readonly worked: number
  readonly plannedLength: number
  /** Where an actual cost is given, only what had not accrued by the status date is to come. */
  readonly actual: number | null
  readonly isStarted: boolean
}

/** What one source brings to the cost of one activity. */
interface Part {
  readonly of: Costly
  /** Position of that in the list of what costs. */
  readonly at: number
  readonly rates: Rates
  /** Of what has no actual cost: all that accrues, whenever. */
  readonly lump: number
  readonly perMinute: number
}

/** One source of cost, whose prices one draw moves together. */
interface Source {
  readonly rates: Rates
  readonly factor: (iteration: number) => number
}

const known = new WeakMap<SimulationModel, IterationCosts>()
/** Those of a model, made once: every range of a run asks for them. */
export const iterationCosts = (model: SimulationModel): IterationCosts => {
  let costs = known.get(model)
  if (!costs) known.set(model, (costs = new IterationCosts(model)))
  return costs
}

/**
 * The cost of iterations (semantics2.md section 14): activities with the durations drawn and hammocks as they came out, at prices drawn once
 * for a resource; what risks that happened and mitigations that are done cost; damages. Days lost to the weather are paid for.
 */
export class IterationCosts {
  private readonly model: SimulationModel
  private readonly costly: readonly Costly[]
  private readonly lengths: Float64Array
  private readonly sources: readonly (Source & { readonly parts: readonly Part[] })[]
  private readonly mitigations: number
  /** Damages by clause and measured finish. */
  private readonly charged: readonly Map<number, number>[]
  /** What the plan as it is costs, with its damages; of it what hammocks cost; and the damages by clause. */
  readonly planned: number
  readonly plannedOverhead: number
  readonly plannedDamages: Float64Array
  /** Whether nothing costs anything: then no iteration need be looked at. */
  readonly isFree: boolean

  constructor(model: SimulationModel) {
    this.model = model
    const { plan, planned } = model
    const spread = plan.resources.filter(
      ({ priceSpread }) => priceSpread !== null && model.options.spread !== false,
    )
    const isSpread = new Set(spread.map(({ id }) => id))
    const sources: Source[] = [
      { rates: ratesOf(planned, (resource) => !resource || !isSpread.has(resource.id)), factor: () => 1 },
      ...spread.map(({ id, priceSpread }): Source => {
        const quantile = estimateQuantile({ ...priceSpread!, ends: 'extremes' })
        const draw = model.drawFor('price', id)
        return {
          rates: ratesOf(planned, (resource) => resource?.id === id),
          factor: (iteration) => Math.max(0, quantile(draw.at(iteration))),
        }
      }),
    ]
    this.costly = costlyOf(model, sources)
    this.lengths = new Float64Array(this.costly.length)
    this.sources = sources.map((source) => ({ ...source, parts: partsOf(source.rates, this.costly) }))
    this.mitigations = plan.risks.reduce(
      (sum, { mitigation }) => sum + (mitigation?.done === true ? mitigation.cost : 0),
      0,
    )
    this.charged = plan.damages.map(() => new Map())
    const { atCompletion } = activityCosts(planned)
    const sum = (amounts: Float64Array): number => amounts.reduce((all, amount) => all + amount, 0)
    this.plannedOverhead = sum(atCompletion.filter((_, i) => planned.network.kind[i] === Kind.Hammock))
    this.plannedDamages = Float64Array.from(plan.damages, (clause, d) =>
      this.chargeAt(d, measuredFinish(planned, clause)),
    )
    this.planned = sum(atCompletion) + this.mitigations + sum(this.plannedDamages)
    this.isFree =
      this.costly.length === 0 &&
      this.mitigations === 0 &&
      plan.damages.length === 0 &&
      model.risks.every(({ risk }) => risk.cost === null)
  }

  /**
   * @param remaining - as drawn
   * @param placed - as the engine placed it
   * @param into - filled
   * @param byActivity - filled too, where given: by position in the plan
   */
  of(
    iteration: number,
    remaining: Int32Array,
    placed: PlacedDates,
    into: IterationMoney,
    byActivity: Float64Array | null = null,
  ): void {
    const { plan, network, risks } = this.model
    let cost = this.mitigations
    let overhead = 0
    let ownCost = 0
    for (let c = 0; c < this.costly.length; c++)
      this.lengths[c] = this.lengthOf(this.costly[c]!, remaining, placed)
    for (const source of this.sources) {
      const factor = source.factor(iteration)
      for (const part of source.parts) {
        const one = part.of
        const amount = factor * costIn(part, this.lengths[part.at]!)
        cost += amount
        if (one.kind === 'hammock') overhead += amount
        if (byActivity) byActivity[one.activity]! += amount
      }
    }
    for (const one of this.costly) {
      if (one.actual === null) continue
      cost += one.actual
      if (one.kind === 'hammock') overhead += one.actual
      if (byActivity) byActivity[one.activity]! += one.actual
    }
    for (const risk of risks) if (risk.risk.cost && risk.happens(iteration)) ownCost += risk.cost(iteration)
    cost += ownCost
    const measured = {
      network,
      finish: placed.finish,
      early: placed.early,
      projectFinish: placed.projectFinish,
    }
    plan.damages.forEach((clause, d) => {
      const amount = this.chargeAt(d, measuredFinish(measured, clause))
      into.damages[d] = amount
      cost += amount
    })
    into.cost = cost
    into.overhead = overhead
    into.risks = ownCost
  }

  private chargeAt(clause: number, finish: number): number {
    const known = this.charged[clause]!.get(finish)
    if (known !== undefined) return known
    const damages = this.model.plan.damages[clause]!
    const calendar = this.model.planned.network.calendars.get(damages.calendar)
    const { amount } = chargeFor(damages, calendar, finish)
    this.charged[clause]!.set(finish, amount)
    return amount
  }

  /** Working minutes that are paid for: days lost to the weather among them. */
  private lengthOf(one: Costly, remaining: Int32Array, { start, finish }: PlacedDates): number {
    const { network, planned } = this.model
    const i = one.activity
    const hours = planned.network.calendar[i]!
    if (one.kind === 'finished') return one.plannedLength
    if (one.kind === 'hammock') return between(hours, start[i]!, finish[i]!)
    const left = remaining[i]!
    const own = network.calendar[i]!
    if (own === hours || left === 0) return one.worked + left
    return one.worked + between(hours, own.minuteAt(own.countBefore(finish[i]!) - left), finish[i]!)
  }
}

const between = (calendar: Calendar, from: number, to: number): number =>
  Math.max(0, calendar.countBefore(to) - calendar.countBefore(from))

const costlyOf = ({ planned }: SimulationModel, sources: readonly Source[]): Costly[] => {
  const { network } = planned
  const costs = activityCosts(planned)
  const { doneFrom, doneTo } = workPeriods(planned, 'placed')
  return network.activities.flatMap((activity, i): Costly[] => {
    const actual = activity.progress.actualCost ?? null
    const hasRate = sources.some(({ rates }) =>
      ACCRUALS.some((when) => rates.lump[when][i] !== 0 || rates.perMinute[when][i] !== 0),
    )
    if (!hasRate && actual === null) return []
    const isHammock = network.kind[i] === Kind.Hammock
    const calendar = network.calendar[i]!
    return [
      {
        activity: i,
        kind: isHammock ? 'hammock' : network.state[i] === State.Finished ? 'finished' : 'work',
        worked: doneFrom[i] === NONE ? 0 : between(calendar, doneFrom[i]!, doneTo[i]!),
        plannedLength: costs.length[i]!,
        actual,
        isStarted: isHammock ? doneFrom[i] !== NONE : network.state[i] !== State.NotStarted,
      },
    ]
  })
}

const partsOf = (rates: Rates, costly: readonly Costly[]): Part[] =>
  costly.flatMap((of, at) => {
    const sum = (by: Rates['lump']): number => ACCRUALS.reduce((all, when) => all + by[when][of.activity]!, 0)
    const [lump, perMinute] = [sum(rates.lump), sum(rates.perMinute)]
    return lump === 0 && perMinute === 0 ? [] : [{ of, at, rates, lump, perMinute }]
  })

/** The part of an activity's cost that one source brings: all of it, or, where an actual cost is given, what is still to come. */
const costIn = ({ of, rates, lump, perMinute }: Part, length: number): number => {
  if (of.actual === null) return lump + perMinute * length
  let cost = 0
  for (const when of ACCRUALS) {
    const whole = rates.lump[when][of.activity]! + rates.perMinute[when][of.activity]! * length
    if (whole !== 0) cost += whole * (1 - accruedOf(of, when, length))
  }
  return cost
}

const accruedOf = (one: Costly, when: (typeof ACCRUALS)[number], length: number): number => {
  if (one.kind === 'finished') return 1
  if (when === 'even') return length === 0 ? 0 : Math.min(1, one.worked / length)
  return when === 'start' && one.isStarted ? 1 : 0
}
