import type { Calendar } from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'
import type { Frozen } from './baselines.ts'

/** What several activities together span, now and as was agreed. */
export interface GroupVariance {
  readonly agreedStart: Instant
  readonly agreedFinish: Instant
  /** Working minutes by which the first start and the last finish are later than agreed. */
  readonly start: number
  readonly finish: number
}

/**
 * From the first start to the last finish: of all of them now, against those that a baseline has; null where it has none of them.
 * @param calendar - the project's
 */
export const groupVariance = (
  members: readonly number[],
  agreed: (activity: number) => Pick<Frozen, 'start' | 'finish'> | undefined,
  now: { readonly start: Int32Array; readonly finish: Int32Array },
  calendar: Calendar,
): GroupVariance | null => {
  let [agreedStart, agreedFinish, start, finish] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const i of members) {
    const then = agreed(i)
    if (then?.start != null) agreedStart = Math.min(agreedStart, then.start)
    if (then?.finish != null) agreedFinish = Math.max(agreedFinish, then.finish)
    start = Math.min(start, now.start[i]!)
    finish = Math.max(finish, now.finish[i]!)
  }
  if (agreedStart === Infinity || agreedFinish === -Infinity) return null
  const between = (from: Instant, to: Instant): number =>
    calendar.countBefore(to) - calendar.countBefore(from)
  return {
    agreedStart,
    agreedFinish,
    start: between(agreedStart, start),
    finish: between(agreedFinish, finish),
  }
}
