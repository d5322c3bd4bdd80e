import { instantOf, type Instant } from '../time/instant.ts'
import { CalendarError } from '../time/calendar.ts'
import { applyChange, applyUnchecked } from '../plan/applyChange.ts'
import { PlanError } from '../plan/issue.ts'
import type { Change } from '../plan/change.ts'
import { Kind, NONE, State } from '../network/network.ts'
import { schedule as scheduleOf, type Schedule } from '../schedule/schedule.ts'
import { reschedule } from '../schedule/reschedule.ts'
import { rootsOf } from '../progress/roots.ts'
import { review } from '../review/review.ts'
import { checkOf } from '../review/registry.ts'
import type { Finding, Repair } from '../review/check.ts'
import type { Answers } from './answers.ts'

/** Activities that an update moves, with what moves because they do, first whose account it is on. */
export interface MovedTogether {
  /** Positions, first the one that the others follow. */
  readonly activities: readonly number[]
  /** Working minutes of the project calendar by which the first one finishes later. */
  readonly by: number
}

/** Something odd about an answer, and the finish with each way of mending it; null where that cannot be scheduled. */
export interface OddAnswer {
  readonly finding: Finding
  readonly ways: readonly { readonly repair: Repair; readonly finish: Instant | null }[]
}

/** What an update would do, before it is kept. Activities by position. */
export interface UpdatePreview {
  readonly finishBefore: Instant
  readonly finish: Instant
  /** Working minutes of the project calendar, later is positive. */
  readonly finishMoves: number
  readonly later: readonly MovedTogether[]
  readonly earlier: readonly MovedTogether[]
  readonly moved: number
  readonly joinedLongestPath: readonly number[]
  readonly leftLongestPath: readonly number[]
  /** What is odd about what was said, each with ways of mending it that were tried. */
  readonly odd: readonly OddAnswer[]
  /** Unfinished work that would be on dates before the status date. */
  readonly behind: readonly number[]
  /** Out-of-sequence work: the finish with the other reading of the project's rule; null where there is none. */
  readonly otherReading: { readonly rule: 'hold' | 'follow'; readonly finish: Instant } | null
  /** Promises that fall due up to the status date. */
  readonly promises: readonly { readonly activity: number; readonly kept: boolean }[]
}

/** What is asked in place, where it is answered. */
const ODD = ['actual-after-status', 'no-actual-start', 'out-of-sequence', 'promise-trap', 'planned-in-past']

/**
 * Schedules an update beside the plan and says what it moves. Pure.
 * @throws CalendarError where the plan with it cannot be scheduled
 */
export const previewUpdate = (before: Schedule, change: Change, answers: Answers): UpdatePreview => {
  const plan = applyUnchecked(before.network.plan, change).plan
  const after = reschedule(before, plan, change)
  const { network } = after
  const calendar = network.calendars.get(plan.project.calendar)
  const by = (i: number): number =>
    calendar.countBefore(after.finish[i]!) - calendar.countBefore(before.finish[i]!)
  const isMoved = (i: number, sign: 1 | -1): boolean => network.kind[i] !== Kind.Hammock && by(i) * sign > 0
  const together = (sign: 1 | -1): MovedTogether[] =>
    [...rootsOf(after, (i) => isMoved(i, sign))]
      .map(([root, activities]) => ({ activities, by: by(root) }))
      .sort((a, b) => Math.abs(b.by) - Math.abs(a.by))
  const positions = network.activities.map((_, i) => i)
  const statusDate = network.statusDate ?? NONE
  const { findings } = review(plan, after, { checks: ODD.map((id) => checkOf(id)!) })
  const odd = findings
    .filter(({ activities }) => activities[0]! in answers)
    .map((finding) => ({
      finding,
      ways: finding.repairs.map((repair) => ({ repair, finish: finishWith(after, repair.change) })),
    }))
  const isOutOfSequence = findings.some(({ check }) => check === 'out-of-sequence')
  const rule = plan.project.outOfSequence === 'hold' ? 'follow' : 'hold'
  return {
    finishBefore: before.projectFinish,
    finish: after.projectFinish,
    finishMoves: calendar.countBefore(after.projectFinish) - calendar.countBefore(before.projectFinish),
    later: together(1),
    earlier: together(-1),
    moved: positions.filter((i) => by(i) !== 0 && network.kind[i] !== Kind.Hammock).length,
    joinedLongestPath: positions.filter((i) => after.onLongestPath[i] === 1 && before.onLongestPath[i] === 0),
    leftLongestPath: positions.filter((i) => after.onLongestPath[i] === 0 && before.onLongestPath[i] === 1),
    odd,
    behind: positions.filter(
      (i) =>
        network.kind[i] !== Kind.Hammock &&
        network.state[i] !== State.Finished &&
        after.early.begin[i]! < statusDate,
    ),
    otherReading: isOutOfSequence
      ? {
          rule,
          finish: scheduleOf({ ...plan, project: { ...plan.project, outOfSequence: rule } }).projectFinish,
        }
      : null,
    promises: positions.flatMap((i) => {
      const promise = before.network.activities[i]!.promise
      if (promise === null || before.network.state[i] === State.Finished) return []
      const due = instantOf(promise.finish, 'finish')
      if (due > statusDate) return []
      return [{ activity: i, kept: network.state[i] === State.Finished && network.actualFinish[i]! <= due }]
    }),
  }
}

const finishWith = (made: Schedule, change: Change): Instant | null => {
  try {
    return reschedule(made, applyChange(made.network.plan, change).plan, change).projectFinish
  } catch (error) {
    if (error instanceof PlanError || error instanceof CalendarError) return null
    throw error
  }
}
