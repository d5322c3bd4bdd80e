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

/** An activity whose remaining duration differs from iteration to iteration. */
interface VaryingDuration {
  readonly activity: number
  /** Remaining duration in an iteration, working minutes. */
  readonly at: (iteration: number) => number
}

/** A network with what may vary, ready to be drawn. */
export interface SimulationModel {
  readonly network: Network
  readonly options: SimulationOptions
  readonly varying: readonly VaryingDuration[]
}

/** Whether a promise fixes the remaining duration of started work. */
const isPromised = (activity: Activity, network: Network, i: number): boolean =>
  activity.promise !== null &&
  network.state[i] === State.Started &&
  network.statusDate !== null &&
  instantOf(activity.promise.finish, 'finish') > network.statusDate

/** What a risk adds to an activity, in working minutes; 0 in iterations in which it does not occur. */
type Delay = (iteration: number) => number

/** @throws RangeError for iterations below 1 */
export const simulationModel = (plan: Plan, options: SimulationOptions): SimulationModel => {
  if (!(options.iterations >= 1)) throw new RangeError(`simulationModel: ${options.iterations} iterations`)
  const network = compileNetwork(plan)
  const drawFor = (id: string): Draw =>
    stream(options.sampling, streamKey(options.seed, id), options.iterations)

  const delays = new Map<number, Delay[]>()
  for (const risk of options.risks ? plan.risks : []) {
    const occurs = drawFor(`risk ${risk.id}`)
    const sign = risk.sign === 'threat' ? 1 : -1
    for (const impact of risk.impacts) {
      const i = network.indexOf.get(impact.activity)!
      const draw = drawFor(`risk ${risk.id} on ${impact.activity}`)
      const quantile = estimateQuantile(impact.delay)
      const delay: Delay = (iteration) =>
        occurs(iteration) >= risk.probability ? 0 : sign * Math.round(quantile(draw(iteration)))
      delays.set(i, [...(delays.get(i) ?? []), delay])
    }
  }

  const varying = network.activities.flatMap((activity, i): VaryingDuration[] => {
    if (network.state[i] === State.Finished) return []
    const own = ownDuration(activity, network, i, drawFor)
    const added = delays.get(i)
    if (own === null && added === undefined) return []
    const planned = network.remaining[i]!
    return [
      {
        activity: i,
        at: (iteration) => {
          let remaining = own === null ? planned : own(iteration)
          for (const delay of added ?? []) remaining = Math.max(0, remaining + delay(iteration))
          return remaining
        },
      },
    ]
  })
  return { network, options, varying }
}

/** The remaining duration by the activity's own estimate, null where nothing of its own varies. */
const ownDuration = (
  activity: Activity,
  network: Network,
  i: number,
  drawFor: (id: string) => Draw,
): ((iteration: number) => number) | null => {
  if (activity.estimate === null || activity.kind !== 'work' || isPromised(activity, network, i)) return null
  const draw = drawFor(activity.id)
  const quantile: Quantile = estimateQuantile(activity.estimate)
  // Estimates are of the whole, draws are of what is left.
  const share = activity.duration === 0 ? 1 : network.remaining[i]! / activity.duration
  return (iteration) => Math.max(0, Math.round(quantile(draw(iteration)) * share))
}

/** Remaining durations of one iteration, in working minutes. @param remaining - filled, length n */
export const drawDurations = (model: SimulationModel, iteration: number, remaining: Int32Array): void => {
  remaining.set(model.network.remaining)
  for (const { activity, at } of model.varying) remaining[activity] = at(iteration)
}
