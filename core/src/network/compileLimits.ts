import { lastMinuteFrom, nextWork, prevWork, settle } from '../time/arithmetic.ts'
import type { Calendar } from '../time/calendar.ts'
import { instantOf, MINUTES_PER_DAY, parseDate, type Instant } from '../time/instant.ts'
import type { Activity, Constraint } from '../plan/schema.ts'
import { NONE, State, UNLIMITED, type Network } from './network.ts'

type LimitArrays = Pick<
  Network,
  | 'state'
  | 'actualStart'
  | 'startFloor'
  | 'finishFloor'
  | 'startCeiling'
  | 'finishCeiling'
  | 'startPin'
  | 'finishPin'
  | 'startCut'
  | 'finishCut'
>

/**
 * The instant that the date of a constraint means. One without a time means the whole day: its beginning for a start, its end as the
 * latest finish, and for a finish on that day or not before it the end of that day's work on the activity's calendar, 24:00 where it
 * has none. semantics.md section 1.
 * @throws CalendarError where the calendar has no work by then
 */
export const limitInstant = ({ date, edge, rule }: Constraint, calendar: Calendar): Instant => {
  const written = instantOf(date, edge)
  if (edge === 'start' || rule === 'not-after' || parseDate(date)!.hasTime) return written
  const from = written - MINUTES_PER_DAY
  return calendar.countBefore(written) === calendar.countBefore(from) ? written : prevWork(calendar, written)
}

/** Where the date of an `exactly` constraint stands in working time. */
export const exactInstant = (constraint: Constraint, calendar: Calendar): Instant => {
  const written = limitInstant(constraint, calendar)
  return constraint.edge === 'start' ? nextWork(calendar, written) : settle(calendar, written)
}

/**
 * Limits from project start, status date and constraints.
 * Finished work has none; started work keeps its finish constraints only, and its floor is the later of actual start and status date.
 */
export const compileLimits = (
  arrays: LimitArrays,
  activity: Activity,
  i: number,
  calendar: Calendar,
  projectStart: Instant,
  statusDate: Instant | null,
): void => {
  const isStarted = arrays.state[i] === State.Started
  arrays.startFloor[i] = Math.max(isStarted ? arrays.actualStart[i]! : projectStart, statusDate ?? NONE)
  arrays.finishFloor[i] = NONE
  arrays.startCeiling[i] = arrays.finishCeiling[i] = UNLIMITED
  arrays.startPin[i] = arrays.finishPin[i] = arrays.startCut[i] = arrays.finishCut[i] = NONE
  if (arrays.state[i] === State.Finished || activity.kind === 'hammock') return
  for (const constraint of activity.constraints)
    if (!(isStarted && constraint.edge === 'start')) addConstraint(arrays, i, constraint, calendar)
}

const addConstraint = (arrays: LimitArrays, i: number, constraint: Constraint, calendar: Calendar): void => {
  const isStart = constraint.edge === 'start'
  const floors = isStart ? arrays.startFloor : arrays.finishFloor
  const ceilings = isStart ? arrays.startCeiling : arrays.finishCeiling
  const written = limitInstant(constraint, calendar)
  switch (constraint.rule) {
    case 'not-before':
      floors[i] = Math.max(floors[i]!, written)
      break
    case 'not-after': {
      ceilings[i] = Math.min(ceilings[i]!, written)
      if (!constraint.overrides) break
      const at = isStart ? lastMinuteFrom(calendar, written) : prevWork(calendar, written)
      const cuts = isStart ? arrays.startCut : arrays.finishCut
      cuts[i] = cuts[i] === NONE ? at : Math.min(cuts[i]!, at)
      break
    }
    case 'exactly': {
      const at = exactInstant(constraint, calendar)
      if (constraint.overrides) (isStart ? arrays.startPin : arrays.finishPin)[i] = at
      else {
        floors[i] = Math.max(floors[i]!, at)
        ceilings[i] = Math.min(ceilings[i]!, at)
      }
    }
  }
}
