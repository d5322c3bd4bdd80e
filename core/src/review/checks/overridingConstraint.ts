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
