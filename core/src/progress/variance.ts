import type { Instant } from '../time/instant.ts'
import type { Baseline } from '../plan/schema.ts'
import { Kind, NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { ActivityCosts } from '../cost/activityCosts.ts'
import { costAt } from '../cost/activityCosts.ts'
import { agreedFinishOf, frozenBy, type Frozen } from './baselines.ts'

/** Now − baseline, by position of the activity; NONE (of money NaN) where the baseline does not say. Negative: earlier, shorter, less. */
export interface Variance {
  readonly baseline: Baseline
  /** What was agreed, NONE where nothing was. */
  readonly agreedStart: Int32Array
  readonly agreedFinish: Int32Array
  /** Working minutes of the project calendar. */
  readonly start: Int32Array
  readonly finish: Int32Array
  /** Working minutes of the activity's calendar. */
  readonly duration: Int32Array
  readonly float: Int32Array
  /** In the project's currency, unrounded. */
  readonly cost: Float64Array
  /** Activities without a frozen value. */
  readonly added: number
  /** The latest finish that was agreed; NONE where no finish was. */
  readonly agreedProjectFinish: Instant
  /** Working minutes of the project calendar by which the finish is later; NONE where there is nothing to compare with. */
  readonly projectFinish: number
}

/**
 * Variance of every activity against a baseline (semantics2.md section 12).
 * @param costs - null where money is not asked for
 */
export const varianceOf = (schedule: Schedule, baseline: Baseline, costs: ActivityCosts | null): Variance => {
  const { network } = schedule
  const n = network.activities.length
  const frozen = frozenBy(baseline)
  const calendar = network.calendars.get(network.plan.project.calendar)
  const by = (now: Instant, then: Instant | null): number =>
    then === null ? NONE : calendar.countBefore(now) - calendar.countBefore(then)
  const array = (): Int32Array => new Int32Array(n).fill(NONE)
  const [agreedStart, agreedFinish, start, finish, duration, float] = [
    array(),
    array(),
    array(),
    array(),
    array(),
    array(),
  ]
  const cost = new Float64Array(n).fill(NaN)
  let added = 0
  const agreedProjectFinish = agreedFinishOf(network.plan, baseline) ?? NONE
  for (let i = 0; i < n; i++) {
    const { id, duration: planned } = network.activities[i]!
    const then = frozen.get(id)
    if (then === undefined) {
      if (network.kind[i] !== Kind.Hammock) added++
      continue
    }
    agreedStart[i] = then.start ?? NONE
    agreedFinish[i] = then.finish ?? NONE
    start[i] = by(schedule.start[i]!, then.start)
    finish[i] = by(schedule.finish[i]!, then.finish)
    if (then.duration !== null) duration[i] = planned - then.duration
    if (then.totalFloat !== null && schedule.float.total[i] !== NONE)
      float[i] = schedule.float.total[i]! - then.totalFloat
    if (costs && then.cost !== null) cost[i] = costAt(costs, i).atCompletion - then.cost
  }
  return {
    baseline,
    agreedStart,
    agreedFinish,
    start,
    finish,
    duration,
    float,
    cost,
    added,
    agreedProjectFinish,
    projectFinish: agreedProjectFinish === NONE ? NONE : by(schedule.projectFinish, agreedProjectFinish),
  }
}

/** Activities that a baseline knows and the plan does not have any more. */
export const goneSince = (schedule: Schedule, baseline: Baseline): [id: string, was: Frozen][] =>
  [...frozenBy(baseline)].filter(([id]) => !schedule.network.indexOf.has(id))
