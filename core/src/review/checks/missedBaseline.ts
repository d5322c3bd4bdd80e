import { Kind } from '../../network/network.ts'
import type { Instant } from '../../time/instant.ts'
import { instantWords } from '../../words/dates.ts'
import { durationWords } from '../../words/durations.ts'
import type { Plan } from '../../plan/schema.ts'
import { counted } from '../../words/counted.ts'
import type { Check, Found } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { baselineOf, frozenBy } from '../../progress/baselines.ts'
import { rootsOf } from '../../progress/roots.ts'

/** Work that finished, or will finish, later than its baseline, with what is late only because it is. */
export const missedBaseline: Check = {
  id: 'missed-baseline',
  topic: 'Progress',
  title: 'Later than the baseline',
  clean: 'no baseline date missed',
  lacks: (plan) => (plan.baselines.length === 0 ? 'no baseline' : null),
  why: 'The agreed date has been or will be missed. One such activity is news for whoever waits for it; many are a plan that is no longer the one that was agreed.',
  of: 'activities',
  bias: null,
  limit: {
    default: 5,
    unit: 'days',
    label: 'finish later than the baseline by more than, in days of the project',
    min: 0,
    max: 10_000,
    reason: 'a working week can be made good; more rarely is',
  },
  find(context) {
    const { network, schedule, plan, limits, projectLengths } = context
    const limit = limits['missed-baseline']!
    const baseline = baselineOf(plan)
    if (!baseline) return []
    const calendar = network.calendars.get(plan.project.calendar)
    const agreed = frozenBy(baseline)
    const lateBy = new Map<number, number>()
    for (let i = 0; i < network.order.length; i++) {
      const date = agreed.get(network.activities[i]!.id)?.finish ?? null
      if (date === null || network.kind[i] === Kind.Hammock) continue
      const late = calendar.countBefore(schedule.finish[i]!) - calendar.countBefore(date)
      if (late > limit * projectLengths.dayMinutes) lateBy.set(i, late)
    }
    // What is late only because what drives it is late is a symptom of that.
    const roots = rootsOf(schedule, (i) => lateBy.has(i))
    return [...roots].map(([root, members]) =>
      finding(context, baseline, root, members, lateBy.get(root)!, limit),
    )
  },
}

const finding = (
  context: ReviewContext,
  baseline: Plan['baselines'][number],
  root: number,
  members: readonly number[],
  late: number,
  limit: number,
): Found => {
  const { network, schedule, projectLengths } = context
  const { id, code } = network.activities[root]!
  const date: Instant = frozenBy(baseline).get(id)!.finish!
  const isDone = context.isFinished(root)
  const others =
    members.length === 1 ? '' : `, and ${counted(members.length - 1, 'activity')} behind it with it`
  return {
    place: `${id} ${baseline.id}`,
    facts: {
      agreed: instantWords(date, 'finish'),
      [isDone ? 'finished' : 'planned']: instantWords(schedule.finish[root]!, 'finish'),
    },
    severity: 'caution',
    activities: members.map((i) => network.activities[i]!.id),
    links: [],
    message: `${code} ${isDone ? 'finished' : 'will finish'} ${durationWords(late, projectLengths)} after ${baseline.name || 'the baseline'} (${instantWords(date, 'finish')})${others}`,
    value: late / projectLengths.dayMinutes,
    threshold: limit,
    effect: isDone ? { kind: 'none' } : { kind: 'missed', minutes: late },
    repairs: [],
  }
}
