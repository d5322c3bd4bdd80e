import {
  groupVariance,
  instantOf,
  instantWords,
  NONE,
  readDate,
  shortDay,
  shortDurationWords,
  type Frozen,
} from '@geodrome/core'
import { same, setActivity, type CellContext, type Column, type Understood } from './cellContext.ts'

/** What a group says of what was agreed of it: from the first start to the last finish that the baseline has of its activities. */
export const groupAgreed = (context: CellContext, members: readonly number[], column: string): string => {
  if (!['agreed-finish', 'start-variance', 'finish-variance'].includes(column)) return ''
  const found = groupVariance(members, (i) => agreed(context, i), context.view, context.calendars.project)
  if (found === null) return ''
  if (column === 'agreed-finish') return shortDay(found.agreedFinish, 'finish')
  return signed(column === 'start-variance' ? found.start : found.finish, project(context))
}

const agreed = (context: CellContext, i: number): Frozen | undefined =>
  context.frozen?.get(context.plan.activities[i]!.id)

/** "+2 d", "−1.5 d", "0"; nothing where the baseline does not say. */
const signed = (minutes: number | null, lengths: { readonly dayMinutes: number }): string => {
  if (minutes === null) return ''
  if (minutes === 0) return '0'
  return `${minutes > 0 ? '+' : '−'}${shortDurationWords(Math.abs(minutes), lengths)}`
}
/** Working minutes of the project calendar by which a date is later than was agreed; null where nothing was. */
const late = ({ calendars }: CellContext, now: number, then: number | null | undefined): number | null =>
  then == null ? null : calendars.project.countBefore(now) - calendars.project.countBefore(then)
const project = ({ calendars }: CellContext): { readonly dayMinutes: number } => calendars.projectLengths

const startBy = (context: CellContext, i: number): number | null =>
  late(context, context.view.start[i]!, agreed(context, i)?.start)
const finishBy = (context: CellContext, i: number): number | null =>
  late(context, context.view.finish[i]!, agreed(context, i)?.finish)
const durationBy = (context: CellContext, i: number): number | null => {
  const then = agreed(context, i)?.duration ?? null
  return then === null ? null : context.plan.activities[i]!.duration - then
}
const floatBy = (context: CellContext, i: number): number | null => {
  const then = agreed(context, i)?.totalFloat ?? null
  const now = context.view.totalFloat[i]!
  return then === null || now === NONE ? null : now - then
}
const own = ({ plan, calendars }: CellContext, i: number): { readonly dayMinutes: number } =>
  calendars.lengthsOf(plan.activities[i]!)

const variance = (
  id: string,
  title: string,
  explains: string,
  by: (context: CellContext, i: number) => number | null,
  lengths: (context: CellContext, i: number) => { readonly dayMinutes: number },
): Column => ({
  id,
  title,
  explains: `${explains} Against the baseline that the plan is compared with; empty where it does not say.`,
  width: 78,
  align: 'right',
  holds: 2,
  text: (context, i) => signed(by(context, i), lengths(context, i)),
  sortBy: (context, i) => by(context, i) ?? -Infinity,
})

/** A share done as it is shown. */
export const doneWords = (share: number): string => `${Math.floor(share * 100)} %`

/** What is done, what was agreed, what is other since, and what is promised. */
export const VARIANCE_COLUMNS: readonly Column[] = [
  {
    id: 'done',
    title: 'Done',
    explains:
      'How much of it is done: what is not left of its duration. Of a group its activities together, weighed as Progress says at its foot.',
    width: 62,
    align: 'right',
    holds: 2,
    text: ({ done, view }, i) => (done === null || view.state[i] === 0 ? '' : doneWords(done.share[i]!)),
    sortBy: ({ done }, i) => done?.share[i] ?? 0,
  },
  {
    id: 'agreed-finish',
    title: 'Agreed',
    explains: 'Finish in the baseline that the plan is compared with.',
    width: 90,
    isDate: true,
    align: 'right',
    holds: 2,
    text: (context, i) => {
      const at = agreed(context, i)?.finish ?? null
      return at === null ? '' : shortDay(at, 'finish')
    },
    sortBy: (context, i) => agreed(context, i)?.finish ?? -Infinity,
  },
  variance(
    'start-variance',
    'Start ±',
    'By how much it starts later (+) or earlier (−), in days of the project.',
    startBy,
    project,
  ),
  variance(
    'finish-variance',
    'Finish ±',
    'By how much it finishes later (+) or earlier (−), in days of the project.',
    finishBy,
    project,
  ),
  variance(
    'duration-variance',
    'Duration ±',
    'By how much its duration is longer, in days of its own calendar.',
    durationBy,
    own,
  ),
  variance(
    'float-variance',
    'Float ±',
    'How much total float it has gained (+) or lost (−), in days of its own calendar.',
    floatBy,
    own,
  ),
  {
    id: 'promise',
    title: 'Promised',
    explains:
      'The finish that whoever does the work has promised. On work under way what is left follows from it; emptied, it is withdrawn without a trace.',
    width: 90,
    isDate: true,
    align: 'right',
    holds: 2,
    text: ({ plan }, i) => {
      const { promise } = plan.activities[i]!
      return promise === null ? '' : shortDay(instantOf(promise.finish, 'finish'), 'finish')
    },
    sortBy: ({ plan }, i) => {
      const { promise } = plan.activities[i]!
      return promise === null ? Infinity : instantOf(promise.finish, 'finish')
    },
    draft: ({ plan }, i) => {
      const { promise } = plan.activities[i]!
      return promise === null ? '' : instantWords(instantOf(promise.finish, 'finish'), 'finish').slice(4)
    },
    read: ({ plan, view }, i, text): Understood => {
      const activity = plan.activities[i]!
      if (text.trim() === '')
        return activity.promise === null
          ? same
          : { ok: true, words: 'withdrawn', change: setActivity(activity, { promise: null }) }
      if (activity.kind === 'hammock')
        return { ok: false, why: 'a hammock ends where what it hangs from does' }
      const read = readDate(text, view.finish[i]!)
      if (!read.ok) return read
      const { statusDate } = plan.project
      const at = instantOf(read.date, 'finish')
      if (activity.progress.actualFinish !== null)
        return { ok: false, why: `${activity.code} is finished; there is nothing left to promise` }
      if (statusDate !== null && at <= instantOf(statusDate, 'start'))
        return {
          ok: false,
          why: `${instantWords(at, 'finish')} is not after the status date: nothing would be left; give it its actual finish`,
        }
      const trap = activity.progress.actualStart === null ? ', a wish until the work has begun' : ''
      return {
        ok: true,
        words: `promised for ${instantWords(at, 'finish')}${trap}`,
        change: setActivity(activity, {
          promise: { finish: read.date, by: activity.promise?.by || (activity.owner ?? '') },
        }),
      }
    },
  },
]
