import { CalendarError } from '../time/calendar.ts'
import { formatInstant, instantOf } from '../time/instant.ts'
import { workBetween } from '../time/arithmetic.ts'
import { lengthsOf } from '../plan/durations.ts'
import type { Plan } from '../plan/schema.ts'
import { review } from '../review/review.ts'
import { schedule } from '../schedule/schedule.ts'
import type { PlanFacts } from '../wire/index.ts'

/** What a list of plans says of one of them: its answer, or why it has none. */
export const planFacts = (plan: Plan): PlanFacts => {
  const { requiredFinish, calendar } = plan.project
  const known = {
    activities: plan.activities.length,
    required: requiredFinish,
    dayMinutes: lengthsOf(plan, calendar).dayMinutes,
  }
  const none = { finish: null, short: null, findings: null, movers: null }
  if (plan.activities.length === 0) return { ...known, ...none, problem: null }
  try {
    const made = schedule(plan)
    const { findings } = review(plan, made, { experiments: 0 })
    return {
      ...known,
      finish: formatInstant(made.projectFinish),
      short:
        requiredFinish === null
          ? null
          : workBetween(
              made.network.calendars.get(calendar),
              instantOf(requiredFinish, 'finish'),
              made.projectFinish,
            ),
      findings: findings.length,
      movers: findings.filter(({ severity }) => severity === 'moves-answer').length,
      problem: null,
    }
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
    return { ...known, ...none, problem: error.message }
  }
}
