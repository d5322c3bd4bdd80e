import { NONE, State, UNLIMITED } from '../../network/network.ts'
import { exactInstant, limitInstant } from '../../network/compileLimits.ts'
import type { Constraint } from '../../plan/schema.ts'
import { constraintWords } from '../../words/constraintWords.ts'
import { durationWords } from '../../words/durations.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { withoutConstraint } from '../repairChanges.ts'

interface Asked {
  readonly constraint: Constraint
  /** Working count of the begin that the date asks for at least, or allows at most. */
  readonly count: number
}

/** Dates of one activity that cannot both be kept, whatever the network does. */
export const contradictingConstraint: Check = {
  id: 'contradicting-constraint',
  topic: 'Constraints',
  title: 'Dates that contradict each other',
  clean: 'no dates contradict each other',
  why: 'One of the two cannot be kept even if everything before it were finished today. The float of everything upstream is measured against a date that nobody can meet.',
  of: 'activities',
  bias: null,
  limit: null,
  find(context) {
    const { network } = context
    return context.constrained.flatMap((i): Found[] => {
      const activity = network.activities[i]!
      if (activity.constraints.length < 2) return NOTHING
      const { earliest, latest } = bounds(context, i)
      if (!earliest || !latest || earliest.count <= latest.count) return NOTHING
      const missed = earliest.count - latest.count
      return [
        {
          place: activity.id,
          facts: {
            dates: `${constraintWords(earliest.constraint)}; ${constraintWords(latest.constraint)}`,
            'in between': durationWords(network.remaining[i]!, context.lengthsOf(activity)),
          },
          severity: 'moves-answer',
          activities: [activity.id],
          links: [],
          message: `${activity.code} cannot keep both: ${constraintWords(earliest.constraint)}, and ${constraintWords(latest.constraint)}`,
          value: missed,
          threshold: 0,
          effect: { kind: 'missed', minutes: missed },
          repairs: [
            {
              kind: 'remove-latest',
              label: `Remove “${constraintWords(latest.constraint)}”`,
              change: withoutConstraint(activity, latest.constraint),
            },
            {
              kind: 'remove-earliest',
              label: `Remove “${constraintWords(earliest.constraint)}”`,
              change: withoutConstraint(activity, earliest.constraint),
            },
          ],
        },
      ]
    })
  },
}

/** The latest begin that a date asks for, and the earliest that another allows. */
const bounds = ({ network }: ReviewContext, i: number): { earliest: Asked | null; latest: Asked | null } => {
  const calendar = network.calendar[i]!
  let earliest: Asked | null = null
  let latest: Asked | null = null
  let low: number = NONE
  let high: number = UNLIMITED
  for (const constraint of network.activities[i]!.constraints) {
    if (constraint.edge === 'start' && network.state[i] === State.Started) continue
    const at =
      constraint.rule === 'exactly' ? exactInstant(constraint, calendar) : limitInstant(constraint, calendar)
    const onStart = constraint.edge === 'start'
    if (constraint.rule !== 'not-after') {
      const count = calendar.countBefore(at) - (onStart ? 0 : network.remaining[i]!)
      if (count > low) {
        low = count
        earliest = { constraint, count }
      }
    }
    if (constraint.rule !== 'not-before') {
      const count = onStart
        ? calendar.countBefore(at + 1) - 1
        : calendar.countBefore(at) - network.remaining[i]!
      if (count < high) {
        high = count
        latest = { constraint, count }
      }
    }
  }
  return { earliest, latest }
}
