import { compileNetwork } from '../../network/compileNetwork.ts'
import { State, type Network } from '../../network/network.ts'
import { instantOf } from '../../time/instant.ts'
import { scopeWidth } from '../../plan/scope.ts'
import type { Plan, Risk } from '../../plan/schema.ts'
import { ABSENT } from '../../schedule/forwardPass.ts'
import { scheduleNetwork, type Schedule } from '../../schedule/schedule.ts'
import { estimateQuantile, type Quantile } from '../estimate.ts'
import { isPromised } from '../isPromised.ts'
import { drawKey, stream, type Sampling } from '../random/draws.ts'
import { estimatesOf } from '../whichEstimate.ts'
import { withRiskWork } from './riskWork.ts'
import { WeatherCalendars } from './weather.ts'

/** One thing that forecasts draw. */
export interface Driver {
  readonly kind: 'spread' | 'factor' | 'risk' | 'weather'
  /** Id of the activity, factor, risk or weather. */
  readonly id: string
}

export interface SimulationOptions {
  readonly iterations: number
  /** Iterations of a batch, which the stratified sampling covers whole, one after the other; all of them where none is said. */
  readonly batch?: number | undefined
  readonly seed: number
  readonly sampling: Sampling
  /** Whether the risk register is drawn. */
  readonly risks: boolean
  /** Whether spreads, factors and weather are drawn; they are unless this says no. */
  readonly spread?: boolean
  /** What alone is fixed at its planned value, or absent: the run beside it tells what it is owed. */
  readonly without?: Driver | null
}

/** Uniform number of an iteration. */
type Draw = (iteration: number) => number

/** A value that differs from iteration to iteration. */
export interface Varying {
  readonly activity: number
  /** Remaining duration in an iteration, working minutes. */
  readonly at: (iteration: number) => number
}

/** Whether a risk happens, and what that costs. */
interface RiskDraw {
  readonly risk: Risk
  readonly happens: (iteration: number) => boolean
  /** In money, where it happens. */
  readonly cost: (iteration: number) => number
}

/** A network with what may vary, ready to be drawn. */
export interface SimulationModel {
  readonly plan: Plan
  /** The plan's activities, then the work of its risks. */
  readonly network: Network
  readonly options: SimulationOptions
  readonly iterations: number
  readonly varying: readonly Varying[]
  /** Activities that are there in some iterations only: the work of risks. */
  readonly mayBeAbsent: readonly number[]
  readonly risks: readonly RiskDraw[]
  /** Factors on durations that are drawn, by id. */
  readonly factors: ReadonlyMap<string, (iteration: number) => number>
  /** Makes the weather of an iteration hold in the network's calendars. */
  readonly drawWeather: ((iteration: number) => void) | null
  /** Uniform numbers of other draws: of prices. */
  readonly drawFor: (kind: string, id: string, part?: string) => Draw
  /** The plan as it is, without anything drawn; of the plan's activities only. */
  readonly planned: Schedule
}

/** What a risk adds to an activity, in working minutes; 0 in iterations in which it does not occur. */
type Delay = (iteration: number) => number

/** @throws RangeError for iterations below 1, or a part of a batch */
export const simulationModel = (given: Plan, options: SimulationOptions): SimulationModel => {
  const { iterations, seed, sampling, without = null, batch = iterations } = options
  if (!(iterations >= 1)) throw new RangeError(`simulationModel: ${iterations} iterations`)
  if (iterations % batch !== 0)
    throw new RangeError(`${iterations} iterations are no whole batches of ${batch}`)
  const drawFor = (kind: string, id: string, part = ''): Draw =>
    stream(sampling, drawKey(seed, kind, id, part), batch)
  const isFixed = (kind: Driver['kind'], id: string): boolean => without?.kind === kind && without.id === id
  const hasSpread = options.spread !== false

  const drawn: Plan = {
    ...given,
    risks: options.risks ? given.risks.filter(({ id }) => !isFixed('risk', id)) : [],
    factors: hasSpread ? given.factors.filter(({ id }) => !isFixed('factor', id)) : [],
    weather: hasSpread ? given.weather.filter(({ id }) => !isFixed('weather', id)) : [],
  }
  const { plan, works } = withRiskWork(drawn)
  const projectStart = instantOf(plan.project.start, 'start')
  const statusDate = plan.project.statusDate === null ? null : instantOf(plan.project.statusDate, 'start')
  const weather =
    plan.weather.length === 0
      ? null
      : new WeatherCalendars(plan, { seed, sampling, batch }, projectStart, statusDate)
  const network = compileNetwork(plan, weather)

  const factors = new Map(
    plan.factors.map(({ id, low, likely, high, shape }) => {
      const draw = drawFor('factor', id)
      const quantile = estimateQuantile({ low, likely, high, shape, ends: 'extremes' })
      return [id, (iteration: number) => Math.max(0, quantile(draw(iteration)))]
    }),
  )
  const risks = plan.risks.map((risk) => riskDraw(risk, drawFor))
  const happens = new Map(risks.map(({ risk, happens: when }) => [risk.id, when]))
  const delays = delaysOf(plan, network, happens, drawFor)

  const held = estimatesOf(plan)
  const widthOf = scopeWidth(plan)
  const varying: Varying[] = []
  given.activities.forEach((activity, i) => {
    if (network.state[i] === State.Finished) return
    const mayVary = activity.kind === 'work' && hasSpread && !isPromised(network, i)
    const estimate = mayVary && !isFixed('spread', activity.id) ? held(activity) : null
    const scaling = mayVary
      ? plan.factors
          .filter(({ scope }) => widthOf(scope, activity) !== null)
          .map(({ id }) => factors.get(id)!)
      : []
    const added = delays.get(i) ?? []
    const isEstimated = estimate !== null && estimate.from !== 'none'
    if (!isEstimated && scaling.length === 0 && added.length === 0) return
    const planned = network.remaining[i]!
    // Estimates are of the whole, draws are of what is left.
    const share = activity.duration === 0 ? 1 : planned / activity.duration
    const quantile: Quantile | null = isEstimated ? estimateQuantile(estimate.estimate) : null
    const draw = drawFor('activity', activity.id)
    varying.push({
      activity: i,
      at: (iteration) => {
        let remaining = quantile === null ? planned : Math.max(0, quantile(draw(iteration)) * share)
        for (const factor of scaling) remaining *= factor(iteration)
        for (const delay of added) remaining = Math.max(0, remaining + delay(iteration))
        return Math.round(remaining)
      },
    })
  })
  const mayBeAbsent: number[] = []
  for (const { risk, work, id } of works) {
    const i = network.indexOf.get(id)!
    const draw = drawFor('risk work', risk.id, `${work.after}\u0000${work.before}`)
    const quantile = estimateQuantile(work.duration)
    const scale = scaleOf(risk)
    const when = happens.get(risk.id)!
    mayBeAbsent.push(i)
    varying.push({
      activity: i,
      at: (iteration) =>
        when(iteration) ? Math.max(0, Math.round(quantile(draw(iteration)) * scale)) : ABSENT,
    })
  }
  return {
    plan: given,
    network,
    options,
    iterations,
    varying,
    mayBeAbsent,
    risks,
    factors,
    drawWeather: weather && ((iteration) => weather.draw(iteration)),
    drawFor,
    planned: scheduleNetwork(compileNetwork(given)),
  }
}

/** Factor on the delays and the work of a risk: of a mitigation that is done. */
const scaleOf = ({ mitigation }: Risk): number => (mitigation?.done === true ? mitigation.scale : 1)

/** The chance that a risk happens, by its mitigation where that is done. */
export const chanceOf = ({ probability, mitigation }: Risk): number =>
  mitigation?.done === true ? mitigation.probability : probability

const riskDraw = (risk: Risk, drawFor: SimulationModel['drawFor']): RiskDraw => {
  const occurs = drawFor('risk', risk.id)
  const chance = chanceOf(risk)
  const { cost } = risk
  const amount = cost && estimateQuantile({ ...cost, ends: 'extremes' })
  const draw = drawFor('risk cost', risk.id)
  return {
    risk,
    happens: (iteration) => occurs(iteration) < chance,
    cost: (iteration) => (amount ? Math.max(0, amount(draw(iteration))) : 0),
  }
}

/** What risks add to activities, by position. */
const delaysOf = (
  plan: Plan,
  network: Network,
  happens: ReadonlyMap<string, (iteration: number) => boolean>,
  drawFor: SimulationModel['drawFor'],
): Map<number, Delay[]> => {
  const delays = new Map<number, Delay[]>()
  for (const risk of plan.risks) {
    const factor = (risk.sign === 'threat' ? 1 : -1) * scaleOf(risk)
    const shared = drawFor('risk', risk.id, '\u0000shared')
    const when = happens.get(risk.id)!
    for (const impact of risk.impacts) {
      const i = network.indexOf.get(impact.activity)!
      const draw = impact.share === true ? shared : drawFor('risk', risk.id, impact.activity)
      const quantile = estimateQuantile(impact.delay)
      const delay: Delay = (iteration) =>
        when(iteration) ? factor * Math.max(0, quantile(draw(iteration))) : 0
      delays.set(i, [...(delays.get(i) ?? []), delay])
    }
  }
  return delays
}

/** Remaining durations of one iteration, in working minutes. @param remaining - filled, length n */
export const drawDurations = (model: SimulationModel, iteration: number, remaining: Int32Array): void => {
  remaining.set(model.network.remaining)
  for (const { activity, at } of model.varying) remaining[activity] = at(iteration)
}

/** Iterations that are drawn beside each other: what a quantile is read from is then at hand for all of them. */
export const BLOCK = 32

/**
 * Remaining durations of several iterations, in working minutes. One activity after the other: the table of a shape, read for one iteration
 * of each activity in turn, would be out of reach again before the next.
 * @param width - of them, at most {@link BLOCK}
 * @param block - filled: activity × {@link BLOCK} + iteration − first, for what varies; the rest stays
 */
export const drawBlock = (
  { varying }: SimulationModel,
  first: number,
  width: number,
  block: Int32Array,
): void => {
  for (const { activity, at } of varying) {
    const row = activity * BLOCK
    for (let column = 0; column < width; column++) block[row + column] = at(first + column)
  }
}

/** The durations of one iteration out of a block. @param remaining - filled, length n */
export const takeColumn = (
  { varying }: SimulationModel,
  block: Int32Array,
  column: number,
  remaining: Int32Array,
): void => {
  for (const { activity } of varying) remaining[activity] = block[activity * BLOCK + column]!
}
