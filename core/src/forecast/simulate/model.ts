import { compileNetwork } from '../../network/compileNetwork.ts'
import { State, type Network } from '../../network/network.ts'
import { instantOf } from '../../time/instant.ts'
import type { Activity, Plan } from '../../plan/schema.ts'
import { stream, streamKey, type Sampling } from '../random/draws.ts'
import { estimateQuantile, type Quantile } from '../estimate.ts'

export interface SimulationOptions {
  readonly iterations: number
  readonly seed: number
  readonly sampling: Sampling
  /** Whether the risk register is drawn. */
  readonly risks: boolean
}

/** Uniform number of an iteration. */
type Draw = (iteration: number) => number

interface UncertainDuration {
  readonly activity: number
  readonly draw: Draw
  readonly quantile: Quantile
  /** Remaining ÷ planned duration: estimates are of the whole, draws are of what is left. */
  readonly share: number
}
interface UncertainRisk {
  readonly draw: Draw
  readonly probability: number
  readonly impacts: readonly {
    readonly activity: number
    readonly draw: Draw
    readonly quantile: Quantile
    readonly sign: 1 | -1
  }[]
}

/** A network with what may vary, ready to be drawn. */
export interface SimulationModel {
  readonly network: Network
  readonly options: SimulationOptions
  readonly durations: readonly UncertainDuration[]
  readonly risks: readonly UncertainRisk[]
}

/** Whether a promise fixes the remaining duration of started work. */
const isPromised = (activity: Activity, network: Network, i: number): boolean =>
  activity.promise !== null &&
  network.state[i] === State.Started &&
  network.statusDate !== null &&
  instantOf(activity.promise.finish, 'finish') > network.statusDate

/** @throws RangeError for iterations below 1 */
export const simulationModel = (plan: Plan, options: SimulationOptions): SimulationModel => {
  if (!(options.iterations >= 1)) throw new RangeError(`simulationModel: ${options.iterations} iterations`)
  const network = compileNetwork(plan)
  const drawFor = (id: string): Draw =>
    stream(options.sampling, streamKey(options.seed, id), options.iterations)
  const durations = network.activities.flatMap((activity, i): UncertainDuration[] => {
    if (activity.estimate === null || activity.kind !== 'work' || network.state[i] === State.Finished)
      return []
    if (isPromised(activity, network, i)) return []
    return [
      {
        activity: i,
        draw: drawFor(activity.id),
        quantile: estimateQuantile(activity.estimate),
        share: activity.duration === 0 ? 1 : network.remaining[i]! / activity.duration,
      },
    ]
  })
  const risks = !options.risks
    ? []
    : plan.risks.map((risk): UncertainRisk => ({
        draw: drawFor(`risk ${risk.id}`),
        probability: risk.probability,
        impacts: risk.impacts
          .map((impact) => ({ impact, i: network.indexOf.get(impact.activity)! }))
          .filter(({ i }) => network.state[i] !== State.Finished)
          .map(({ impact, i }) => ({
            activity: i,
            draw: drawFor(`risk ${risk.id} on ${impact.activity}`),
            quantile: estimateQuantile(impact.delay),
            sign: risk.sign === 'threat' ? (1 as const) : (-1 as const),
          })),
      }))
  return { network, options, durations, risks }
}

/** Remaining durations of one iteration, in working minutes. @param remaining - filled, length n */
export const drawDurations = (model: SimulationModel, iteration: number, remaining: Int32Array): void => {
  remaining.set(model.network.remaining)
  for (const { activity, draw, quantile, share } of model.durations)
    remaining[activity] = Math.max(0, Math.round(quantile(draw(iteration)) * share))
  for (const risk of model.risks) {
    if (risk.draw(iteration) >= risk.probability) continue
    for (const { activity, draw, quantile, sign } of risk.impacts) {
      const delay = Math.round(quantile(draw(iteration)))
      remaining[activity] = Math.max(0, remaining[activity]! + sign * delay)
    }
  }
}
