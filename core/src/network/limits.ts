import { lastMinuteFrom, nextWork, prevWork, settle } from '../time/arithmetic.ts'
import type { Calendar } from '../time/calendar.ts'
import { instantOf, type Instant } from '../time/instant.ts'
import type { Activity, Constraint } from '../plan/schema.ts'
import { NONE, State, UNLIMITED } from './network.ts'

/** The limits of one activity that do not come from links. */
export interface Limits {
  startFloor: Instant
  finishFloor: Instant
  startCeiling: Instant
  finishCeiling: Instant
  startPin: Instant
  finishPin: Instant
  startCut: Instant
  finishCut: Instant
}

/** Where the date of an `exactly` constraint stands in working time. */
export const exactInstant = (constraint: Constraint, calendar: Calendar): Instant => {
  const written = instantOf(constraint.date, constraint.edge)
  return constraint.edge === 'start' ? nextWork(calendar, written) : settle(calendar, written)
}

/**
 * Limits from project start, status date and constraints.
 * Finished work has none; started work keeps its finish constraints only, and its floor is the later of actual start and status date.
 */
export const limitsOf = (
  activity: Activity,
  state: State,
  actualStart: Instant,
  calendar: Calendar,
  projectStart: Instant,
  statusDate: Instant | null,
): Limits => {
  const limits: Limits = {
    startFloor: Math.max(state === State.Started ? actualStart : projectStart, statusDate ?? NONE),
    finishFloor: NONE,
    startCeiling: UNLIMITED,
    finishCeiling: UNLIMITED,
    startPin: NONE,
    finishPin: NONE,
    startCut: NONE,
    finishCut: NONE,
  }
  if (state === State.Finished || activity.kind === 'hammock') return limits
  for (const constraint of activity.constraints) {
    if (state === State.Started && constraint.edge === 'start') continue
    addConstraint(limits, constraint, calendar)
  }
  return limits
}

const addConstraint = (limits: Limits, constraint: Constraint, calendar: Calendar): void => {
  const isStart = constraint.edge === 'start'
  const floor = (at: Instant): void => {
    if (isStart) limits.startFloor = Math.max(limits.startFloor, at)
    else limits.finishFloor = Math.max(limits.finishFloor, at)
  }
  const ceiling = (at: Instant): void => {
    if (isStart) limits.startCeiling = Math.min(limits.startCeiling, at)
    else limits.finishCeiling = Math.min(limits.finishCeiling, at)
  }
  const written = instantOf(constraint.date, constraint.edge)
  switch (constraint.rule) {
    case 'not-before':
      floor(written)
      break
    case 'not-after': {
      ceiling(written)
      if (!constraint.overrides) break
      const at = isStart ? lastMinuteFrom(calendar, written) : prevWork(calendar, written)
      const cut = isStart ? 'startCut' : 'finishCut'
      limits[cut] = limits[cut] === NONE ? at : Math.min(limits[cut], at)
      break
    }
    case 'exactly': {
      const at = exactInstant(constraint, calendar)
      if (constraint.overrides) limits[isStart ? 'startPin' : 'finishPin'] = at
      else {
        floor(at)
        ceiling(at)
      }
    }
  }
}
