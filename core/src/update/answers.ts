import { instantOf } from '../time/instant.ts'
import { instantWords } from '../words/dates.ts'
import { stepsOf } from '../progress/steps.ts'
import type { Change, Item } from '../plan/change.ts'
import type { Activity, Plan } from '../plan/schema.ts'

/** What somebody says of one activity; what is left out stays as it is, null takes it away. */
export interface Answer {
  readonly start?: string | null
  readonly finish?: string | null
  /** Working minutes that are left. */
  readonly remaining?: number | null
  readonly percent?: number
  readonly cost?: number | null
  /** All stretches in which it stood still; the last may be open. */
  readonly suspended?: readonly { readonly from: string; readonly to: string | null }[]
  readonly promise?: { readonly finish: string; readonly by: string } | null
  /** Which lines of its checklist are done, in their order. */
  readonly steps?: readonly boolean[]
  /** It is as the plan has it: asked, and nothing new. */
  readonly unchanged?: true
}
export type Answers = Readonly<Record<string, Answer>>

/** What an activity says of its progress once it was answered. */
export const answered = (
  activity: Activity,
  answer: Answer,
): Pick<Activity, 'progress' | 'promise' | 'checklist'> => {
  const { progress } = activity
  const next = { ...progress }
  if (answer.start !== undefined) next.actualStart = answer.start
  if (answer.finish !== undefined) {
    next.actualFinish = answer.finish
    // A point has one instant.
    if (activity.kind === 'milestone') next.actualStart = answer.finish
    next.percent = answer.finish === null ? (progress.percent === 100 ? 0 : progress.percent) : 100
    next.remaining = null
  }
  if (answer.remaining !== undefined && answer.finish == null) {
    next.remaining = answer.remaining
    if (answer.remaining !== null)
      next.percent = Math.max(
        0,
        Math.min(99, Math.round((1 - answer.remaining / Math.max(1, activity.duration)) * 100)),
      )
  }
  if (answer.percent !== undefined && answer.finish == null) {
    next.percent = answer.percent
    next.remaining = null
  }
  if (answer.cost !== undefined) next.actualCost = answer.cost
  if (answer.suspended !== undefined) {
    if (answer.suspended.length === 0) delete next.suspended
    else next.suspended = answer.suspended.map((stretch) => ({ ...stretch }))
  }
  const { steps } = answer
  return {
    progress: next,
    promise: answer.promise === undefined ? activity.promise : answer.promise,
    checklist:
      steps === undefined
        ? activity.checklist
        : stepsOf(activity).map((step, k) => ({ ...step, done: steps[k] ?? step.done })),
  }
}

/** What no work can do: finish before it starts. Null where an answer says nothing of the kind. */
export const contradictionIn = (activity: Activity, answer: Answer): string | null => {
  const { actualStart, actualFinish } = answered(activity, answer).progress
  if (actualStart === null || actualFinish === null) return null
  const [start, finish] = [instantOf(actualStart, 'start'), instantOf(actualFinish, 'finish')]
  return finish < start
    ? `it cannot finish ${instantWords(finish, 'finish')}, before it started ${instantWords(start, 'start')}; mend one of the two`
    : null
}

/** The change that makes an update: the status date, and what was said. */
export const updateChange = (plan: Plan, statusDate: string, answers: Answers): Change => {
  const changes: Change[] = []
  for (const activity of plan.activities) {
    const answer = answers[activity.id]
    if (answer === undefined) continue
    const next = answered(activity, answer)
    const set: Item = {}
    for (const field of ['progress', 'promise', 'checklist'] as const)
      if (JSON.stringify(next[field]) !== JSON.stringify(activity[field])) set[field] = next[field]
    if (Object.keys(set).length > 0) changes.push({ kind: 'set', list: 'activities', key: activity.id, set })
  }
  if (plan.project.statusDate !== statusDate) changes.unshift({ kind: 'project', set: { statusDate } })
  return { kind: 'all', changes }
}
