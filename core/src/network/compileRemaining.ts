import { isWorking, workBetween } from '../time/arithmetic.ts'
import type { Calendar } from '../time/calendar.ts'
import { formatInstant, instantOf, parseDate, type Instant } from '../time/instant.ts'
import type { Activity } from '../plan/schema.ts'
import { NONE, State, type Network, type ScheduleWarning } from './network.ts'

/**
 * What is left of an activity: its actual dates, and the remaining work from a promise, a remaining duration, a percentage or
 * the planned duration, first that applies. The planned duration is never touched.
 */
export const compileRemaining = (
  arrays: RemainingArrays,
  activity: Activity,
  i: number,
  calendar: Calendar,
  statusDate: Instant | null,
  warnings: ScheduleWarning[],
): void => {
  const { progress, promise } = activity
  const hasNothing = progress.actualStart === null && progress.actualFinish === null && promise === null
  if (hasNothing) {
    arrays.state[i] = State.NotStarted
    arrays.remaining[i] = activity.kind === 'work' ? unpromised(activity) : 0
    arrays.actualStart[i] = arrays.actualFinish[i] = NONE
    return
  }
  const work = reportedWork(activity, calendar, statusDate, warnings)
  arrays.state[i] = work.state
  arrays.remaining[i] = work.remaining
  arrays.actualStart[i] = work.actualStart
  arrays.actualFinish[i] = work.actualFinish
}

type RemainingArrays = Pick<Network, 'state' | 'remaining' | 'actualStart' | 'actualFinish'>
interface RemainingWork {
  readonly state: State
  readonly remaining: number
  readonly actualStart: Instant
  readonly actualFinish: Instant
}

/** The same for work with actual dates or a promise. */
const reportedWork = (
  activity: Activity,
  calendar: Calendar,
  statusDate: Instant | null,
  warnings: ScheduleWarning[],
): RemainingWork => {
  const warn = (code: ScheduleWarning['code'], message: string): void => {
    warnings.push({ code, activity: activity.id, message })
  }
  const { progress, promise } = activity
  const isPoint = activity.kind === 'milestone'
  let actualStart = progress.actualStart === null ? NONE : instantOf(progress.actualStart, 'start')
  let actualFinish = progress.actualFinish === null ? NONE : instantOf(progress.actualFinish, 'finish')
  if (isPoint && actualFinish === NONE) actualFinish = actualStart
  if (isPoint && actualFinish !== NONE) actualStart = actualFinish

  if (statusDate !== null)
    for (const at of [actualStart, actualFinish])
      if (at > statusDate) {
        warn(
          'actual-after-status-date',
          `${activity.code} has an actual date after the status date ${formatInstant(statusDate)}`,
        )
        break
      }

  if (actualFinish !== NONE) {
    if (actualStart === NONE) {
      actualStart = calendar.minuteAt(calendar.countBefore(actualFinish) - Math.max(1, activity.duration))
      warn('no-actual-start', `${activity.code} has an actual finish only; its start is counted back from it`)
    }
    return { state: State.Finished, remaining: 0, actualStart, actualFinish }
  }

  const state = actualStart === NONE ? State.NotStarted : State.Started
  const remaining = isPoint || activity.kind === 'hammock' ? 0 : unpromised(activity)
  if (promise === null || isPoint || statusDate === null)
    return { state, remaining, actualStart, actualFinish }

  const promised = instantOf(promise.finish, 'finish')
  if (state === State.NotStarted) {
    warn('promise-not-started', `the promise on ${activity.code} is left out: its work has not started`)
    return { state, remaining, actualStart, actualFinish }
  }
  if (promised <= statusDate) {
    warn(
      'promise-in-the-past',
      `the promise on ${activity.code} is left out: it is not after the status date`,
    )
    return { state, remaining, actualStart, actualFinish }
  }
  if (parseDate(promise.finish)!.hasTime && !isWorking(calendar, promised - 1))
    warn(
      'promise-off-hours',
      `the promise on ${activity.code} falls outside its working time, and means the end of the work before it`,
    )
  return {
    state,
    remaining: Math.max(1, workBetween(calendar, statusDate, promised)),
    actualStart,
    actualFinish,
  }
}

export const unpromised = ({ duration, progress: { remaining, percent } }: Activity): number => {
  if (remaining !== null) return remaining
  return percent > 0 ? Math.max(1, Math.round(duration * (1 - percent / 100))) : duration
}
