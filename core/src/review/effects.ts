import { workBetween } from '../time/arithmetic.ts'
import { CalendarError } from '../time/calendar.ts'
import { NONE } from '../network/network.ts'
import { applyUnchecked } from '../plan/applyChange.ts'
import type { Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import { reschedule } from '../schedule/reschedule.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Effect, Finding } from './check.ts'

/** The plan under a change; null where it cannot be scheduled. */
const scheduledUnder = (plan: Plan, schedule: Schedule, change: Change): Schedule | null => {
  try {
    return reschedule(schedule, applyUnchecked(plan, change).plan, change)
  } catch (error) {
    if (error instanceof CalendarError) return null
    throw error
  }
}

/** Working minutes of the project calendar by which the finish moves later under a change; null where it cannot be scheduled. */
export const finishMovesBy = (plan: Plan, schedule: Schedule, change: Change): number | null => {
  const moved = scheduledUnder(plan, schedule, change)
  return moved && movesBetween(plan, schedule, moved)
}
const movesBetween = (plan: Plan, { network, projectFinish }: Schedule, moved: Schedule): number =>
  workBetween(network.calendars.get(plan.project.calendar), projectFinish, moved.projectFinish)

/** What a finding does, from the plan scheduled without it. */
const effectOf = (plan: Plan, schedule: Schedule, { without, otherwise, activities }: Finding): Effect => {
  const moved = scheduledUnder(plan, schedule, without!)
  if (!moved) return { kind: 'unknown' }
  const minutes = -movesBetween(plan, schedule, moved)
  if (minutes !== 0) return { kind: 'finish', minutes }
  if (otherwise !== 'own-float') return otherwise ?? { kind: 'none' }
  const gained = floatOf(moved, activities[0]!) - floatOf(schedule, activities[0]!)
  return gained > 0 ? { kind: 'float', minutes: gained } : { kind: 'none' }
}
const floatOf = ({ network, float }: Schedule, id: string): number => {
  const i = network.indexOf.get(id)
  const total = i === undefined ? NONE : float.total[i]!
  return total === NONE ? 0 : total
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
    const key = JSON.stringify([finding.without, finding.otherwise ?? null])
    let effect = known.get(key)
    if (!effect) known.set(key, (effect = effectOf(plan, schedule, finding)))
    // A date that takes neither days nor float off is written oddly, and costs nothing.
    const isHarmless = effect.kind === 'none' && finding.otherwise === 'own-float'
    return { ...finding, effect, ...(isHarmless ? { severity: 'caution' as const } : {}) }
  })
}
