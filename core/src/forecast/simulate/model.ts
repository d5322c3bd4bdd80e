import { compileNetwork } from '../../network/compileNetwork.ts'
import { State, type Network } from '../../network/network.ts'
import { instantOf } from '../../time/instant.ts'
import { scopeWidth } from '../../plan/scope.ts'
import type { Plan, Risk } from '../../plan/schema.ts'
import { ABSENT } from '../../schedule/forwardPass.ts'
import { ROW } from '../../schedule/kernelRows.ts'
import { scheduleNetwork, type Schedule } from '../../schedule/schedule.ts'
import { estimateQuantile, quantileRow } from '../estimate.ts'
import { isPromised } from '../isPromised.ts'
import { drawKey, stream, type Sampling, type Stream } from '../random/draws.ts'
import type { ShapedMinutes } from '../random/kernelDraws.ts'
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

/** Iterations that are drawn at once, at most. */
export const MOST_DRAWN = 1024

/**
 * Remaining durations of iterations first … first + width − 1, working minutes.
 * @param width - at most {@link MOST_DRAWN}
 * @param into - filled from its beginning
 */
type Fill = (first: number, width: number, into: Float64Array) => void

/** A duration that differs from iteration to iteration. */
export interface Varying {
  readonly activity: number
  readonly fill: Fill
  /** Where it is nothing but the minutes that a shape gives at the draws of a stream. */
  readonly alone: { readonly stream: Stream; readonly shape: ShapedMinutes } | null
}

/** Its minutes in iterations first … first + width − 1. @param into - filled from `at` on */
export const fillDurations = (
  { fill, alone }: Varying,
  first: number,
  width: number,
  into: Int32Array,
  at: number,
): void => {
  if (alone?.stream.fillMinutes(first, width, alone.shape, into, at)) return
  const minutes = new Float64Array(width)
  fill(first, width, minutes)
  into.set(minutes, at)
}

/** What a varying duration is in one iteration. */
export const durationIn = ({ fill }: Varying, iteration: number): number => {
  const one = new Float64Array(1)
  fill(iteration, 1, one)
  return one[0]!
}

/**
 * A value that several durations go by: of the iterations that are drawn beside each other it is made once for all of them.
 * @param made - of the draw of an iteration
 */
class SharedDraw {
  private readonly stream: Stream
  private readonly made: (u: number) => number
  private readonly values = new Float64Array(MOST_DRAWN)
  private first = -1
  private width = 0

  constructor(stream: Stream, made: (u: number) => number) {
    this.stream = stream
    this.made = made
  }

  at(iteration: number): number {
    return this.made(this.stream.at(iteration))
  }

  /** Of iterations first … first + width − 1; it holds until others are asked for. */
  of(first: number, width: number): Float64Array {
    if (first !== this.first || width !== this.width) {
      this.stream.fill(first, width, this.values)
      for (let k = 0; k < width; k++) this.values[k] = this.made(this.values[k]!)
      this.first = first
      this.width = width
    }
    return this.values
  }
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
  /** The network's calendars, where they have weather. */
  readonly weather: WeatherCalendars | null
  /** Uniform numbers of other draws: of prices. */
  readonly drawFor: (kind: string, id: string, part?: string) => Stream
  /** The plan as it is, without anything drawn; of the plan's activities only. */
  readonly planned: Schedule
}

/** Adds to durations what a risk does, in working minutes; nothing in iterations in which it does not occur. */
type Delay = Fill

/** @throws RangeError for iterations below 1, or a part of a batch */
export const simulationModel = (given: Plan, options: SimulationOptions): SimulationModel => {
  const { iterations, seed, sampling, without = null, batch = iterations } = options
  if (!(iterations >= 1)) throw new RangeError(`simulationModel: ${iterations} iterations`)
  if (iterations % batch !== 0)
    throw new RangeError(`${iterations} iterations are no whole batches of ${batch}`)
  const drawFor = (kind: string, id: string, part = ''): Stream =>
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
      const quantile = estimateQuantile({ low, likely, high, shape, ends: 'extremes' })
      return [id, new SharedDraw(drawFor('factor', id), (u) => Math.max(0, quantile(u)))]
    }),
  )
  /** 1 in iterations in which a risk happens, else 0. */
  const happens = new Map(
    plan.risks.map((risk) => {
      const chance = chanceOf(risk)
      return [risk.id, new SharedDraw(drawFor('risk', risk.id), (u) => (u < chance ? 1 : 0))]
    }),
  )
  const risks = plan.risks.map((risk) => riskDraw(risk, happens.get(risk.id)!, drawFor))
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
    const quantiles = isEstimated ? quantileRow(estimate.estimate) : null
    const draw = drawFor('activity', activity.id)
    const shape = scaling.length === 0 && added.length === 0 ? quantiles?.minutes(share) : null
    varying.push({
      activity: i,
      alone: shape ? { stream: draw, shape } : null,
      fill: (first, width, into) => {
        if (quantiles === null) into.fill(planned, 0, width)
        else {
          draw.fill(first, width, into)
          quantiles.values(into, width)
          for (let k = 0; k < width; k++) into[k] = Math.max(0, into[k]! * share)
        }
        for (const factor of scaling) {
          const by = factor.of(first, width)
          for (let k = 0; k < width; k++) into[k]! *= by[k]!
        }
        for (const delay of added) delay(first, width, into)
        for (let k = 0; k < width; k++) into[k] = Math.round(into[k]!)
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
      alone: null,
      fill: (first, width, into) => {
        draw.fill(first, width, into)
        const is = when.of(first, width)
        for (let k = 0; k < width; k++)
          into[k] = is[k] === 1 ? Math.max(0, Math.round(quantile(into[k]!) * scale)) : ABSENT
      },
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
    factors: new Map([...factors].map(([id, factor]) => [id, (iteration: number) => factor.at(iteration)])),
    weather,
    drawFor,
    planned: scheduleNetwork(compileNetwork(given)),
  }
}

/** Factor on the delays and the work of a risk: of a mitigation that is done. */
const scaleOf = ({ mitigation }: Risk): number => (mitigation?.done === true ? mitigation.scale : 1)

/** The chance that a risk happens, by its mitigation where that is done. */
export const chanceOf = ({ probability, mitigation }: Risk): number =>
  mitigation?.done === true ? mitigation.probability : probability

const riskDraw = (risk: Risk, happens: SharedDraw, drawFor: SimulationModel['drawFor']): RiskDraw => {
  const { cost } = risk
  const amount = cost && estimateQuantile({ ...cost, ends: 'extremes' })
  const draw = drawFor('risk cost', risk.id)
  return {
    risk,
    happens: (iteration) => happens.at(iteration) === 1,
    cost: (iteration) => (amount ? Math.max(0, amount(draw.at(iteration))) : 0),
  }
}

/** What risks add to activities, by position. */
const delaysOf = (
  plan: Plan,
  network: Network,
  happens: ReadonlyMap<string, SharedDraw>,
  drawFor: SimulationModel['drawFor'],
): Map<number, Delay[]> => {
  const delays = new Map<number, Delay[]>()
  const u = new Float64Array(MOST_DRAWN)
  for (const risk of plan.risks) {
    const factor = (risk.sign === 'threat' ? 1 : -1) * scaleOf(risk)
    const shared = drawFor('risk', risk.id, '\u0000shared')
    const when = happens.get(risk.id)!
    for (const impact of risk.impacts) {
      const i = network.indexOf.get(impact.activity)!
      const draw = impact.share === true ? shared : drawFor('risk', risk.id, impact.activity)
      const quantile = estimateQuantile(impact.delay)
      const delay: Delay = (first, width, into) => {
        const is = when.of(first, width)
        draw.fill(first, width, u)
        for (let k = 0; k < width; k++)
          if (is[k] === 1) into[k] = Math.max(0, into[k]! + factor * Math.max(0, quantile(u[k]!)))
      }
      delays.set(i, [...(delays.get(i) ?? []), delay])
    }
  }
  return delays
}

/**
 * Remaining durations of several iterations, in working minutes. One activity after the other: the table of a shape, read for one iteration
 * of each activity in turn, would be out of reach again before the next.
 */
export class DrawnBlock {
  /** Durations by iteration of the block, each of length n. */
  readonly columns: readonly Int32Array[]
  private readonly all: Int32Array
  private readonly n: number
  private readonly varying: readonly Varying[]
  private readonly values = new Int32Array(ROW)

  constructor({ network, varying }: SimulationModel) {
    const { remaining } = network
    this.n = remaining.length
    this.varying = varying
    this.all = new Int32Array(this.n * ROW)
    this.columns = Array.from({ length: ROW }, (_, column) => {
      const one = this.all.subarray(column * this.n, (column + 1) * this.n)
      one.set(remaining)
      return one
    })
  }

  /** Draws iterations first … first + width − 1. @param width - at most {@link ROW} */
  draw(first: number, width: number): void {
    const { all, n, values } = this
    for (const one of this.varying) {
      fillDurations(one, first, width, values, 0)
      for (let column = 0; column < width; column++) all[column * n + one.activity] = values[column]!
    }
  }
}

/** Remaining durations of one iteration, in working minutes. @param remaining - filled, length n */
export const drawDurations = (model: SimulationModel, iteration: number, remaining: Int32Array): void => {
  remaining.set(model.network.remaining)
  for (const one of model.varying) remaining[one.activity] = durationIn(one, iteration)
}
