import type { Plan, ChainSettings } from '../plan/schema.ts'
import { lengthsOf } from '../plan/durations.ts'
import { calendarOf } from '../plan/lagCalendar.ts'
import { estimateQuantile } from '../forecast/estimate.ts'
import { drawKey, stream } from '../forecast/random/draws.ts'
import { amountAt } from '../forecast/simulate/amounts.ts'
import { estimatesOf } from '../forecast/whichEstimate.ts'
import { focusedDuration, isChainWork } from './focused.ts'

/** Draws of a course whose buffer is sized by simulation. */
const DRAWS = 10_000
const SEED = 1

/**
 * Size of the buffer of a course in days, from what focusing takes off its activities (semantics2.md section 16, step 5): half their sum,
 * the root of the sum of their squares (Goldratt 1997; Newbold 1998), or the chosen percentile of its length less its focused length.
 * @param given - the plan before focusing
 * @param course - positions
 */
export const bufferDays = (
  given: Plan,
  settings: ChainSettings,
  course: readonly number[],
  cut: Float64Array,
): number => {
  const sum = course.reduce((total, i) => total + cut[i]!, 0)
  switch (settings.sizing) {
    case 'half':
      return sum / 2
    case 'root-squares':
      return Math.sqrt(course.reduce((total, i) => total + cut[i]! ** 2, 0))
    case 'simulated':
      return simulatedDays(given, settings, course)
  }
}

const simulatedDays = (
  given: Plan,
  { cut, confidence }: ChainSettings,
  course: readonly number[],
): number => {
  const held = estimatesOf(given)
  const length = new Float64Array(DRAWS)
  const drawn = new Float64Array(DRAWS)
  let focused = 0
  for (const i of course) {
    const activity = given.activities[i]!
    if (!isChainWork(activity)) continue
    const { dayMinutes } = lengthsOf(given, calendarOf(given.project, activity))
    const short = focusedDuration(activity, cut)
    focused += short / dayMinutes
    const found = held(activity)
    const estimate =
      found.from === 'none'
        ? {
            low: short,
            likely: short,
            high: Math.max(short, activity.duration),
            shape: 'pert' as const,
            ends: 'extremes' as const,
          }
        : found.estimate
    const quantile = estimateQuantile(estimate)
    const draw = stream('lhs', drawKey(SEED, 'activity', activity.id), DRAWS)
    draw.fill(0, DRAWS, drawn)
    for (let k = 0; k < DRAWS; k++) length[k]! += Math.max(0, quantile(drawn[k]!)) / dayMinutes
  }
  return Math.max(0, amountAt(length.sort(), 100 * confidence) - focused)
}
