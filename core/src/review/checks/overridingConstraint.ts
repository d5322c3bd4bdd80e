import { linkLimit } from '../../schedule/forwardPass.ts'
import { limitsFinish } from '../../network/network.ts'
import { limitInstant } from '../../network/compileLimits.ts'
import type { Constraint } from '../../plan/schema.ts'
import type { ReviewContext } from '../context.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { constraintWords } from '../../words/constraintWords.ts'
import { withConstraint, withoutConstraint } from '../repairChanges.ts'

/** Constraints that override logic: the date stands whatever its predecessors do. */
export const overridingConstraint: Check = {
  id: 'overriding-constraint',
  topic: 'Constraints',
  title: 'Dates that override logic',
  clean: 'no date overrides logic',
  why: 'The date stands even when the work before it is late, so a delay upstream never reaches the finish. Every forecast that passes through it is too good.',
  of: 'activities',
  bias: { direction: 'too early', because: 'delays upstream stop at the date and go no further' },
  limit: null,
  find(context) {
    return context.constrained.flatMap((i) => {
      const activity = context.network.activities[i]!
      return activity.constraints.flatMap((constraint): Found[] => {
        if (!constraint.overrides) return NOTHING
        const yielding = withConstraint(activity, constraint, { overrides: false })
        return [
          {
            place: `${activity.id} ${constraint.edge} ${constraint.rule}`,
            facts: { date: constraintWords(constraint) },
            severity: 'moves-answer',
            activities: [activity.id],
            links: [],
            message: `${activity.code} is held: ${constraintWords(constraint)}, whatever comes before`,
            value: 1,
            threshold: 0,
            without: yielding,
            otherwise: { kind: 'hides', minutes: hiddenBy(context, i, constraint) },
            repairs: [
              { kind: 'yield', label: 'Let the date yield to logic', change: yielding },
              {
                kind: 'remove-date',
                label: 'Remove the date',
                change: withoutConstraint(activity, constraint),
              },
            ],
          },
        ]
      })
    })
  },
}

/** Working minutes of the project calendar by which the work before it comes later than the date allows. */
const hiddenBy = ({ network, schedule, plan }: ReviewContext, i: number, constraint: Constraint): number => {
  if (constraint.rule === 'not-before' || network.isMirror) return 0
  const own = network.calendar[i]!
  const { early } = schedule
  const onStart = constraint.edge === 'start'
  const limit = limitInstant(constraint, own)
  let latest = limit
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
    const asked = linkLimit(network, early, k)
    const edge = limitsFinish(network.linkCode[k]!)
    const at =
      edge === !onStart
        ? asked
        : onStart
          ? own.minuteAt(own.countBefore(asked) - network.remaining[i]!)
          : own.minuteAt(own.countBefore(asked) + network.remaining[i]! - 1) + 1
    latest = Math.max(latest, at)
  }
  const calendar = network.calendars.get(plan.project.calendar)
  return Math.max(0, calendar.countBefore(latest) - calendar.countBefore(limit))
}
