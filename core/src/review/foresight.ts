import { workBetween } from '../time/arithmetic.ts'
import { CalendarError } from '../time/calendar.ts'
import { applyChange } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import { PlanError } from '../plan/issue.ts'
import type { Plan } from '../plan/schema.ts'
import { scheduleDifference } from '../scenario/differences.ts'
import { reschedule } from '../schedule/reschedule.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Finding } from './check.ts'
import { review, type Review } from './review.ts'

/** What a repair would do, found by doing it to a copy. */
export type Foresight =
  /** It cannot be done: a loop, a calendar without hours. */
  | { readonly kind: 'refused'; readonly why: string }
  | {
      readonly kind: 'foreseen'
      readonly finishBefore: number
      readonly finishAfter: number
      /** Working minutes of the project calendar by which the finish moves later. */
      readonly moves: number
      readonly gainedFloat: number
      readonly lostFloat: number
      readonly joinedLongestPath: readonly string[]
      readonly leftLongestPath: readonly string[]
      readonly moved: number
      /** Findings that would be gone, and that would be new; null where they were not looked for. */
      readonly closes: readonly Finding[] | null
      readonly opens: readonly Finding[] | null
    }

/** @param before - the review of the plan as it is; null spares the review of the plan as it would be */
export const foresee = (
  plan: Plan,
  schedule: Schedule,
  change: Change,
  before: Pick<Review, 'findings'> | null,
): Foresight => {
  try {
    const after = applyChange(plan, change).plan
    const made = reschedule(schedule, after, change)
    const difference = scheduleDifference(schedule, made)
    const keysBefore = before && new Map(before.findings.map((f) => [keyOf(f), f]))
    const keysAfter =
      before && new Map(review(after, made, { experiments: 0 }).findings.map((f) => [keyOf(f), f]))
    return {
      kind: 'foreseen',
      finishBefore: schedule.projectFinish,
      finishAfter: made.projectFinish,
      moves: workBetween(
        schedule.network.calendars.get(plan.project.calendar),
        schedule.projectFinish,
        made.projectFinish,
      ),
      gainedFloat: difference.gainedFloat.length,
      lostFloat: difference.lostFloat.length,
      joinedLongestPath: difference.joinedLongestPath,
      leftLongestPath: difference.leftLongestPath,
      moved: new Set([...difference.moved, ...difference.changed]).size,
      closes: keysBefore && [...keysBefore].filter(([key]) => !keysAfter!.has(key)).map(([, f]) => f),
      opens: keysAfter && [...keysAfter].filter(([key]) => !keysBefore!.has(key)).map(([, f]) => f),
    }
  } catch (error) {
    if (error instanceof PlanError) return { kind: 'refused', why: error.issues[0]!.message }
    if (error instanceof CalendarError) return { kind: 'refused', why: error.message }
    throw error
  }
}

const keyOf = (finding: Finding): string => `${finding.check} ${finding.place}`
