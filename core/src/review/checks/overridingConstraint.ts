import type { Change } from '../../plan/change.ts'
import { dateWords } from '../../words/dates.ts'
import { effectOf, type Check } from '../check.ts'

const RULE_WORDS = { 'not-before': 'not before', 'not-after': 'not after', exactly: 'exactly on' } as const

/** Constraints that override logic: the date stands whatever its predecessors do. */
export const overridingConstraint: Check = {
  id: 'overriding-constraint',
  topic: 'Constraints',
  title: 'Dates that override logic',
  clean: 'no date overrides logic',
  why: 'The date stands even when the work before it is late, so a delay upstream never reaches the finish. Every forecast that passes through it is too good.',
  bias: 'too good',
  find({ plan, finishMovesBy }) {
    return plan.activities.flatMap((activity) =>
      activity.constraints.flatMap((constraint, c) => {
        if (!constraint.overrides) return []
        const others = activity.constraints.filter((_, other) => other !== c)
        const yielding: Change = {
          kind: 'set',
          list: 'activities',
          key: activity.id,
          set: { constraints: activity.constraints.with(c, { ...constraint, overrides: false }) },
        }
        return [
          {
            check: this.id,
            topic: this.topic,
            severity: 'moves-answer' as const,
            activities: [activity.id],
            links: [],
            message: `${activity.code} is held: ${constraint.edge} ${RULE_WORDS[constraint.rule]} ${dateWords(constraint.date, constraint.edge)}, whatever comes before`,
            value: 1,
            threshold: 0,
            effect: effectOf(finishMovesBy(yielding)),
            fingerprint: `${this.id} ${activity.id} ${JSON.stringify(constraint)}`,
            repairs: [
              { label: 'Let the date yield to logic', change: yielding },
              {
                label: 'Remove the date',
                change: { kind: 'set' as const, list: 'activities' as const, key: activity.id, set: { constraints: others } },
              },
            ],
          },
        ]
      }),
    )
  },
}
