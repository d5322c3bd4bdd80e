import { State, type Network } from '../network/network.ts'
import { instantOf } from '../time/instant.ts'

/** Whether a promise fixes what is left of started work: then no estimate of it counts. */
export const isPromised = (network: Network, i: number): boolean => {
  const { promise } = network.plan.activities[i]!
  return (
    promise !== null &&
    network.state[i] === State.Started &&
    network.statusDate !== null &&
    instantOf(promise.finish, 'finish') > network.statusDate
  )
}
