import { limitsFinish, NONE, State } from '../../network/network.ts'
import { linkLimit } from '../../schedule/forwardPass.ts'
import { exactInstant, limitInstant } from '../../network/compileLimits.ts'
import type { Constraint } from '../../plan/schema.ts'
import { constraintWords } from '../../words/constraintWords.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { withoutConstraint } from '../repairChanges.ts'

/** Dates that yield to logic but decide where an activity stands. */
export const bindingConstraint: Check = {
  id: 'binding-constraint',
  topic: 'Constraints',
  title: 'Dates, not logic, set a start or finish',
  clean: 'no date, but logic, sets starts and finishes',
  why: 'The work stands where it does because of a date, not because of the work before it. If the date is a wish, the plan is later than it need be; if it is a fact, it deserves a reason.',
  of: 'activities',
  bias: {
    direction: 'too narrow',
    because: 'work that waits for a date does not vary with what comes before it',
  },
  limit: null,
  find(context) {
    const { network } = context
    return context.constrained.flatMap((i) => {
      const activity = network.activities[i]!
      if (network.state[i] !== State.NotStarted) return NOTHING
      return activity.constraints.flatMap((constraint): Found[] => {
        if (constraint.overrides || constraint.rule === 'not-after' || !dateDecides(context, i, constraint))
          return NOTHING
        const without = withoutConstraint(activity, constraint)
        return [
          {
            place: `${activity.id} ${constraint.edge} ${constraint.rule}`,
            facts: { date: constraintWords(constraint) },
            severity: 'caution',
            activities: [activity.id],
            links: [],
            message: `A date, not logic, sets the ${constraint.edge} of ${activity.code}: ${constraintWords(constraint)}`,
            value: 1,
            threshold: 0,
            without,
            repairs: [{ kind: 'remove-date', label: 'Remove the date', change: without }],
          },
        ]
      })
    })
  },
}

/** Whether no link and not the project start asks for as much as the date does. */
export const dateDecides = (
  { network, schedule }: ReviewContext,
  i: number,
  constraint: Constraint,
): boolean => {
  const { early } = schedule
  const calendar = network.calendar[i]!
  const remaining = network.remaining[i]!
  const ask = (limit: number, onFinish: boolean): number =>
    onFinish ? calendar.countBefore(limit) - remaining : calendar.countBefore(limit)
  let others = calendar.countBefore(Math.max(network.projectStart, network.statusDate ?? NONE))
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
    others = Math.max(others, ask(linkLimit(network, early, k), limitsFinish(network.linkCode[k]!)))
  const at =
    constraint.rule === 'exactly' ? exactInstant(constraint, calendar) : limitInstant(constraint, calendar)
  const asked = ask(at, constraint.edge === 'finish')
  return asked > others && asked >= early.beginCount[i]!
}
