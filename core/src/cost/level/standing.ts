import type { Instant } from '../../time/instant.ts'
import { NONE, State, type Network } from '../../network/network.ts'
import { isPinned, type EarlyDates } from '../../schedule/forwardPass.ts'

/** Work under way, and dates that override: they are where they are, and wait for no resource. */
export const standsWhereItIs = (network: Network, i: number): boolean =>
  network.state[i] !== State.NotStarted ||
  isPinned(network, i) ||
  network.startCut[i] !== NONE ||
  network.finishCut[i] !== NONE

/** From when on work holds what it needs: of work under way from the status date. */
export const heldFrom = (network: Network, dates: Pick<EarlyDates, 'begin'>, i: number): Instant =>
  network.state[i] === State.Started && network.statusDate !== null
    ? Math.min(network.statusDate, dates.begin[i]!)
    : dates.begin[i]!
