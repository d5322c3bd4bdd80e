import { workBetween } from '../time/arithmetic.ts'
import { CalendarError } from '../time/calendar.ts'
import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import { schedule as scheduleOf, type Schedule } from '../schedule/schedule.ts'
import type { Check, Finding } from './check.ts'
import { midnightLimit } from './checks/midnightLimit.ts'
import { negativeFloat } from './checks/negativeFloat.ts'
import { negativeLag } from './checks/negativeLag.ts'
import { openEnds } from './checks/openEnds.ts'
import { overridingConstraint } from './checks/overridingConstraint.ts'

/** Every check that Geodrome knows; a new one is added here and nowhere else. */
export const CHECKS: readonly Check[] = [openEnds, negativeLag, overridingConstraint, midnightLimit, negativeFloat]

export interface Review {
  readonly findings: readonly Finding[]
  /** Number of findings by check, zeros included. */
  readonly counts: Readonly<Record<string, number>>
}

/** Runs every check; findings with the greatest effect on the finish first. */
export const review = (plan: Plan, schedule: Schedule): Review => {
  const calendar = schedule.network.calendars.get(plan.project.calendar)
  const finishMovesBy = (change: Change): number | null => {
    try {
      const moved = scheduleOf(applyUnchecked(plan, change).plan).projectFinish
      return workBetween(calendar, schedule.projectFinish, moved)
    } catch (error) {
      if (error instanceof CalendarError) return null
      throw error
    }
  }
  const findings = CHECKS.flatMap((check) => check.find({ plan, schedule, finishMovesBy }))
  return {
    findings: findings.sort((a, b) => weight(b) - weight(a)),
    counts: Object.fromEntries(CHECKS.map((check) => [check.id, findings.filter((f) => f.check === check.id).length])),
  }
}

/** Order of the sheet: what moves the answer, then by known effect; an unknown effect stands above none. */
const weight = (finding: Finding): number => {
  const { effect } = finding
  const size = effect.kind === 'finish' || effect.kind === 'short' || effect.kind === 'float' ? 2 + Math.abs(effect.minutes) : effect.kind === 'unknown' ? 1 : 0
  return (finding.severity === 'moves-answer' ? 1e9 : 0) + size
}
