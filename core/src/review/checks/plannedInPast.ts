import { Kind, State } from '../../network/network.ts'
import { constraintWords } from '../../words/constraintWords.ts'
import { instantWords } from '../../words/dates.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { withConstraint } from '../repairChanges.ts'

/** Unfinished work that stands before the status date, where nothing can be worked any more. */
export const plannedInPast: Check = {
  id: 'planned-in-past',
  topic: 'Progress',
  title: 'Unfinished work before the status date',
  clean: 'no unfinished work before the status date',
  lacks: (plan) => (plan.project.statusDate === null ? 'no status date' : null),
  why: 'The work is not done and its time has passed. What follows is planned on a day that has been and gone.',
  of: 'activities',
  bias: { direction: 'too early', because: 'work is planned in the past' },
  limit: null,
  find(context) {
    const { network, schedule } = context
    if (network.statusDate === null) return []
    return network.activities.flatMap((activity, i): Found[] => {
      if (
        network.kind[i] === Kind.Hammock ||
        network.state[i] === State.Finished ||
        schedule.early.begin[i]! >= network.statusDate!
      )
        return NOTHING
      const constraint = activity.constraints.find((c) => c.overrides)
      const without = constraint && withConstraint(activity, constraint, { overrides: false })
      return [
        {
          place: activity.id,
          facts: { stands: instantWords(schedule.early.begin[i]!, 'start', { year: true }) },
          severity: 'moves-answer',
          activities: [activity.id],
          links: [],
          message: `${activity.code} is not done, but stands ${instantWords(schedule.early.begin[i]!, 'start')}, before the status date${constraint ? `: ${constraintWords(constraint)}` : ''}`,
          value: 1,
          threshold: 0,
          ...(without
            ? { without, otherwise: { kind: 'hides', minutes: 0 } as const }
            : { effect: { kind: 'unknown' as const } }),
          repairs: without
            ? [{ kind: 'yield', label: 'Let the date yield to logic and status date', change: without }]
            : [],
        },
      ]
    })
  },
}
