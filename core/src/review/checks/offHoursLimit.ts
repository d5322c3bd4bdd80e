import { isWorking, nextWork, prevWork } from '../../time/arithmetic.ts'
import { instantOf, MINUTES_PER_DAY, parseDate } from '../../time/instant.ts'
import { constraintWords } from '../../words/constraintWords.ts'
import { instantWords, shortDay } from '../../words/dates.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { withConstraint } from '../repairChanges.ts'

const dayOf = (at: number): number => Math.floor(at / MINUTES_PER_DAY)

/** Dates with a time at which the day's work is already over, or has not begun: the day that was meant does not count. */
export const offHoursLimit: Check = {
  id: 'off-hours-limit',
  topic: 'Constraints',
  title: 'Times of day that miss the day meant',
  clean: 'no time of day misses its day',
  why: 'A start after the last shift means the next working day; a finish before the first shift means the day before. Whoever wrote the date most likely meant the day itself.',
  of: 'activities',
  bias: null,
  limit: null,
  find(context) {
    const { network } = context
    return context.constrained.flatMap((i) => {
      const activity = network.activities[i]!
      return activity.constraints.flatMap((constraint): Found[] => {
        const { edge, rule, date } = constraint
        // Midnight has a check of its own; a date without a time means its whole day.
        if (!parseDate(date)!.hasTime || (edge === 'finish' && date.endsWith('T00:00'))) return NOTHING
        const calendar = network.calendar[i]!
        const at = instantOf(date, edge)
        const day = dayOf(at) * MINUTES_PER_DAY
        const worksThatDay = calendar.countBefore(day + MINUTES_PER_DAY) > calendar.countBefore(day)
        if (!worksThatDay) return NOTHING
        const means =
          edge === 'start' && rule !== 'not-after'
            ? nextWork(calendar, at)
            : edge === 'finish' && rule !== 'not-before'
              ? prevWork(calendar, at)
              : at
        if (
          isWorking(calendar, edge === 'start' ? at : at - 1) ||
          dayOf(edge === 'start' ? means : means - 1) === dayOf(at)
        )
          return NOTHING
        const whole = withConstraint(activity, constraint, { date: date.slice(0, 10) })
        return [
          {
            place: `${activity.id} ${edge} ${rule}`,
            facts: { date: constraintWords(constraint) },
            severity: 'moves-answer',
            activities: [activity.id],
            links: [],
            message: `${activity.code}: ${constraintWords(constraint)} means ${instantWords(means, edge)} on ${context.calendarName(calendar.id)}`,
            value: 1,
            threshold: 0,
            without: whole,
            otherwise: 'own-float',
            repairs: [{ kind: 'whole-day', label: `Mean the whole of ${shortDay(day)}`, change: whole }],
          },
        ]
      })
    })
  },
}
