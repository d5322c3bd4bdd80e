import type { Check } from './check.ts'
import { actualAfterStatus } from './checks/actualAfterStatus.ts'
import { bindingConstraint } from './checks/bindingConstraint.ts'
import { calendarWait } from './checks/calendarWait.ts'
import { calendarWithoutWork } from './checks/calendarWithoutWork.ts'
import { contradictingConstraint } from './checks/contradictingConstraint.ts'
import { costWithoutTime } from './checks/costWithoutTime.ts'
import { danglingEnd } from './checks/danglingEnd.ts'
import { dayLengths } from './checks/dayLengths.ts'
import { estimateOff } from './checks/estimateOff.ts'
import { fewFinishStarts } from './checks/fewFinishStarts.ts'
import { floatFraction } from './checks/floatFraction.ts'
import { groupLink } from './checks/groupLink.ts'
import { hammockEnds } from './checks/hammockEnds.ts'
import { highFloat } from './checks/highFloat.ts'
import { impliedLink } from './checks/impliedLink.ts'
import { longDuration } from './checks/longDuration.ts'
import { longLag } from './checks/longLag.ts'
import { mergePoint } from './checks/mergePoint.ts'
import { midnightLimit } from './checks/midnightLimit.ts'
import { missedBaseline } from './checks/missedBaseline.ts'
import { missingEstimate } from './checks/missingEstimate.ts'
import { negativeFloat } from './checks/negativeFloat.ts'
import { negativeLag } from './checks/negativeLag.ts'
import { noActualStart } from './checks/noActualStart.ts'
import { noJointHours } from './checks/noJointHours.ts'
import { noPrice } from './checks/noPrice.ts'
import { noResources } from './checks/noResources.ts'
import { nothingDue } from './checks/nothingDue.ts'
import { offHoursLimit } from './checks/offHoursLimit.ts'
import { openEnd } from './checks/openEnd.ts'
import { outOfSequence } from './checks/outOfSequence.ts'
import { outsideHours } from './checks/outsideHours.ts'
import { overload } from './checks/overload.ts'
import { overridingConstraint } from './checks/overridingConstraint.ts'
import { plannedInPast } from './checks/plannedInPast.ts'
import { promiseTrap } from './checks/promiseTrap.ts'
import { serialChain } from './checks/serialChain.ts'
import { unconfirmedDuration } from './checks/unconfirmedDuration.ts'
import { unusedCalendar } from './checks/unusedCalendar.ts'
import { zeroDuration } from './checks/zeroDuration.ts'

/** Every check that Geodrome knows, by topic; a new one is added here and nowhere else. */
export const CHECKS: readonly Check[] = [
  // Logic
  openEnd,
  danglingEnd,
  impliedLink,
  groupLink,
  negativeLag,
  longLag,
  fewFinishStarts,
  serialChain,
  mergePoint,
  hammockEnds,
  // Float
  negativeFloat,
  highFloat,
  floatFraction,
  // Constraints
  overridingConstraint,
  bindingConstraint,
  contradictingConstraint,
  midnightLimit,
  offHoursLimit,
  // Calendars
  dayLengths,
  calendarWait,
  calendarWithoutWork,
  unusedCalendar,
  // Progress
  actualAfterStatus,
  plannedInPast,
  outOfSequence,
  promiseTrap,
  noActualStart,
  missedBaseline,
  // Estimates
  longDuration,
  unconfirmedDuration,
  zeroDuration,
  missingEstimate,
  estimateOff,
  // Cost
  noResources,
  costWithoutTime,
  overload,
  outsideHours,
  noJointHours,
  noPrice,
  nothingDue,
]

export const checkOf = (id: string): Check | undefined => CHECKS.find((check) => check.id === id)
