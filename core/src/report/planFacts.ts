import { CalendarError } from '../time/calendar.ts'
import { formatInstant, instantOf } from '../time/instant.ts'
import { workBetween } from '../time/arithmetic.ts'
import { chainSettings, currentChain } from '../chain/index.ts'
import { LevelError } from '../cost/level/index.ts'
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
  const none = { finish: null, short: null, findings: null, movers: null, chain: null }
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
      chain: chainFacts(plan),
    }
  } catch (error) {
    if (!(error instanceof CalendarError)) throw error
    return { ...known, ...none, problem: error.message }
  }
}

/** More than that is used up many times over; what is written down has no infinity. */
const MOST_USED = 99

const chainFacts = (plan: Plan): PlanFacts['chain'] => {
  const settings = chainSettings(plan)
  const { agreed, thresholds } = settings
  const project = agreed?.buffers.find(({ kind }) => kind === 'project')
  if (!agreed || !project) return null
  try {
    const { buffers } = currentChain(plan, settings, agreed)
    const { progress, consumption, says } = buffers.find(({ id }) => id === project.id)!
    return {
      progress,
      consumption: Math.min(MOST_USED, consumption),
      says,
      act: buffers.filter((one) => one.says === 'act').length,
      promised: project.finish,
      thresholds: thresholds.map(([first, last]): [number, number] => [first, last]),
    }
  } catch (error) {
    if (error instanceof CalendarError || error instanceof LevelError) return { problem: error.message }
    throw error
  }
}
