import type { Instant } from '../time/instant.ts'
import type { Payment } from '../plan/schema.ts'
import { Kind, State } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'

/** A payment of a milestone, and when it falls due. */
export interface DuePayment extends Pick<Payment, 'amount' | 'direction'> {
  readonly activity: number
  readonly at: Instant
  /** Its milestone has been reached. */
  readonly isMade: boolean
}

/** Payments in order of time. */
export const paymentsOf = (schedule: Schedule): DuePayment[] => {
  const { network, finish } = schedule
  const found: DuePayment[] = []
  network.activities.forEach(({ payment }, activity) => {
    if (payment === null || network.kind[activity] === Kind.Hammock) return
    found.push({
      activity,
      at: finish[activity]!,
      amount: payment.amount,
      direction: payment.direction ?? 'in',
      isMade: network.state[activity] === State.Finished,
    })
  })
  return found.sort((a, b) => a.at - b.at || a.activity - b.activity)
}
