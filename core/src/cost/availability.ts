import { instantOf, type Instant } from '../time/instant.ts'
import type { Resource } from '../plan/schema.ts'

/** How much of a resource there is, as steps: `amount[k]` from `from[k]` on. */
export interface Availability {
  readonly from: readonly Instant[]
  readonly amount: readonly number[]
}

/** Before every instant of a plan. */
const ALWAYS: Instant = -(1 << 30)

/** Nothing before the first step, no limit without any. */
export const availabilityOf = (resource: Resource): Availability => {
  const steps = resource.available
  if (steps.length === 0) return { from: [ALWAYS], amount: [Infinity] }
  const from = steps.map((step) => (step.from === null ? ALWAYS : instantOf(step.from, 'start')))
  const amount = steps.map((step) => step.amount)
  return from[0] === ALWAYS ? { from, amount } : { from: [ALWAYS, ...from], amount: [0, ...amount] }
}

/** Position of the step that holds at an instant. */
export const stepAt = ({ from }: Availability, t: Instant): number => {
  let k = from.length - 1
  while (from[k]! > t) k--
  return k
}

export const availableAt = (availability: Availability, t: Instant): number =>
  availability.amount[stepAt(availability, t)]!

/** The most there ever is. */
export const mostAvailable = ({ amount }: Availability): number => Math.max(...amount)
/** Whether a resource is at work for a time, and can be taken twice: material and fees are not. */
export const isWorker = ({ kind }: Resource): boolean => kind === 'people' || kind === 'plant'
