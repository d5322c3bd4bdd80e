import { formatInstant } from '../time/instant.ts'
import { roundMoney } from '../plan/money.ts'
import type { Baseline } from '../plan/schema.ts'
import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activityCosts } from '../cost/activityCosts.ts'
import { goneSince, varianceOf } from './variance.ts'

/** Variance as the command line writes it: minutes, money to cents; null where the baseline does not say. */
export interface VarianceReport {
  readonly baseline: string
  readonly finish: number | null
  readonly agreedFinish: string | null
  readonly activities: Readonly<
    Record<
      string,
      {
        readonly start: number | null
        readonly finish: number | null
        readonly duration: number | null
        readonly totalFloat: number | null
        readonly cost: number | null
      }
    >
  >
  /** Activities of the baseline that the plan does not have. */
  readonly gone: readonly string[]
}

const minutes = (value: number): number | null => (value === NONE ? null : value)

export const varianceReport = (schedule: Schedule, baseline: Baseline): VarianceReport => {
  const found = varianceOf(schedule, baseline, activityCosts(schedule))
  return {
    baseline: baseline.id,
    finish: minutes(found.projectFinish),
    agreedFinish: found.agreedProjectFinish === NONE ? null : formatInstant(found.agreedProjectFinish),
    activities: Object.fromEntries(
      schedule.network.activities.map(({ id }, i) => [
        id,
        {
          start: minutes(found.start[i]!),
          finish: minutes(found.finish[i]!),
          duration: minutes(found.duration[i]!),
          totalFloat: minutes(found.float[i]!),
          cost: Number.isNaN(found.cost[i]) ? null : roundMoney(found.cost[i]!),
        },
      ]),
    ),
    gone: goneSince(schedule, baseline).map(([id]) => id),
  }
}
