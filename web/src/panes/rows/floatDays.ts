import { NONE } from '@geodrome/core'
import type { CellContext } from './cellContext.ts'

type Context = Pick<CellContext, 'plan' | 'view' | 'calendars'>

/**
 * Floats of different calendars are compared as they are shown, in days of the activity's own calendar: a minute of a calendar that works
 * an hour a day is worth more than one of a calendar that never stops.
 * @returns days; Infinity where there is no float
 */
export const daysOf = (
  { plan, calendars }: Pick<Context, 'plan' | 'calendars'>,
  i: number,
  minutes: number,
): number => (minutes === NONE ? Infinity : minutes / calendars.lengthsOf(plan.activities[i]!).dayMinutes)

/** The one of several activities with the least total float; -1 where none has any. */
export const tightestOf = (context: Context, members: readonly number[]): number => {
  let [least, tightest] = [Infinity, -1]
  for (const i of members) {
    const days = daysOf(context, i, context.view.totalFloat[i]!)
    if (days < least) [least, tightest] = [days, i]
  }
  return tightest
}
