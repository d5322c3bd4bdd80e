import type { Change, Item } from '../plan/change.ts'
import type { KeptReview, Plan } from '../plan/schema.ts'
import { formatInstant } from '../time/instant.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Finding } from './check.ts'
import { hashOf } from '../plan/hash.ts'
import type { Review } from './review.ts'

/** Findings that a kept review names one by one; beyond that it keeps their number by check only. */
const MOST_NAMED = 5000

/** Keeps the review as it is now in the plan, so that the next one can be compared with it. */
export const keepReview = (
  plan: Plan,
  schedule: Schedule,
  review: Review,
  by: string,
  at: string,
  note = '',
): Change => {
  const item: Item = {
    id: `v${hashOf(`${at} ${by} ${plan.reviews.length}`)}`,
    at,
    by,
    note,
    finish: formatInstant(schedule.projectFinish),
    counts: Object.fromEntries(Object.entries(review.counts).filter(([, count]) => count > 0)),
    accepted: review.accepted.length,
    open: review.findings.slice(0, MOST_NAMED).map((f) => [f.check, f.place]),
  }
  return { kind: 'add', list: 'reviews', item, before: null }
}

/** How the findings of a check stand against an earlier review. */
export interface Trend {
  readonly check: string
  readonly before: number
  readonly now: number
  /** Open now and not then, and the other way round; null where the earlier review did not name all of its findings. */
  readonly appeared: readonly Finding[] | null
  readonly gone: number | null
}

/** The review against an earlier one, check by check; only checks that have or had findings. */
export const trendSince = (review: Pick<Review, 'findings' | 'counts'>, kept: KeptReview): Trend[] => {
  const total = Object.values(kept.counts).reduce((sum, count) => sum + count, 0)
  const isNamed = kept.open.length === total
  const then = new Set(kept.open.map(([check, place]) => `${check} ${place}`))
  const now = new Set(review.findings.map((f) => `${f.check} ${f.place}`))
  const checks = new Set([...Object.keys(kept.counts), ...Object.keys(review.counts)])
  return [...checks].flatMap((check): Trend[] => {
    const before = kept.counts[check] ?? 0
    const count = review.counts[check] ?? 0
    if (before === 0 && count === 0) return []
    return [
      {
        check,
        before,
        now: count,
        appeared: isNamed
          ? review.findings.filter((f) => f.check === check && !then.has(`${f.check} ${f.place}`))
          : null,
        gone: isNamed
          ? kept.open.filter(([c, place]) => c === check && !now.has(`${c} ${place}`)).length
          : null,
      },
    ]
  })
}
