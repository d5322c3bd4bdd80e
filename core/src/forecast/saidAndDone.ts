import type { ThreePoint } from '../plan/schema.ts'
import { State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { estimatesOf } from './whichEstimate.ts'

/** What was said of finished work, and what came of it; working minutes of its calendar. */
export interface SaidAndDone {
  /** Position in the plan. */
  readonly activity: number
  readonly estimate: ThreePoint
  readonly actual: number
  readonly lies: 'below' | 'inside' | 'above'
}

/** Finished work that has an estimate, in the order of the plan: the estimate that holds beside the time that it took. */
export const saidAndDone = ({ network }: Schedule): SaidAndDone[] => {
  const held = estimatesOf(network.plan)
  return network.plan.activities.flatMap((activity, i) => {
    if (network.state[i] !== State.Finished) return []
    const found = held(activity)
    if (found.from === 'none') return []
    const { estimate } = found
    const hours = network.calendar[i]!
    const actual = hours.countBefore(network.actualFinish[i]!) - hours.countBefore(network.actualStart[i]!)
    const lies = actual < estimate.low ? 'below' : actual > estimate.high ? 'above' : 'inside'
    return [{ activity: i, estimate, actual, lies } as const]
  })
}
