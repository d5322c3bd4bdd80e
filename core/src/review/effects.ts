import { workBetween } from '../time/arithmetic.ts'
import { CalendarError } from '../time/calendar.ts'
import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import { reschedule } from '../schedule/reschedule.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Effect, Finding } from './check.ts'

/** Working minutes of the project calendar by which the finish moves later under a change; null where it cannot be scheduled. */
export const finishMovesBy = (plan: Plan, schedule: Schedule, change: Change): number | null => {
  try {
    const moved = reschedule(schedule, applyUnchecked(plan, change).plan, change).projectFinish
    return workBetween(schedule.network.calendars.get(plan.project.calendar), schedule.projectFinish, moved)
  } catch (error) {
    if (error instanceof CalendarError) return null
    throw error
  }
}

/** What a finding does to the finish, from where the finish would go without it. */
const effectOf = (moves: number | null): Effect => {
  if (moves === null) return { kind: 'unknown' }
  return moves === 0 ? { kind: 'none' } : { kind: 'finish', minutes: -moves }
}

/**
 * Measures the effects that are not known yet by scheduling the plan without each finding, the weightier first.
 * @param most - so many experiments at most; what is left stays `unmeasured`
 */
export const measureEffects = (
  plan: Plan,
  schedule: Schedule,
  findings: readonly Finding[],
  most = Infinity,
): Finding[] => {
  const waiting = findings.filter((f) => f.effect.kind === 'unmeasured')
  const chosen = new Set(
    waiting.length <= most
      ? waiting
      : [...waiting]
          .sort((a, b) => Number(b.severity === 'moves-answer') - Number(a.severity === 'moves-answer'))
          .slice(0, most),
  )
  const known = new Map<string, Effect>()
  return findings.map((finding) => {
    if (!chosen.has(finding) || !finding.without) return finding
    const key = JSON.stringify(finding.without)
    let effect = known.get(key)
    if (!effect) known.set(key, (effect = effectOf(finishMovesBy(plan, schedule, finding.without))))
    return { ...finding, effect }
  })
}
