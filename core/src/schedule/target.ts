import { instantOf, type Instant } from '../time/instant.ts'
import type { Network } from '../network/network.ts'

/** What late dates are measured against: the required finish, else the network's own. */
export const targetOf = (network: Network, networkFinish: Instant): Instant => {
  const { requiredFinish } = network.plan.project
  return requiredFinish === null ? networkFinish : instantOf(requiredFinish, 'finish')
}
