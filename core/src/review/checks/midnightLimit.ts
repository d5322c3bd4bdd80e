import type { Change } from '../../plan/change.ts'
import { instantOf, MINUTES_PER_DAY } from '../../time/instant.ts'
import { dateWords } from '../../words/dates.ts'
import type { Check, Found } from '../check.ts'
import { withConstraint } from '../repairChanges.ts'

const isMidnight = (date: string): boolean => date.endsWith('T00:00')
/** The day that was probably meant, without a time: its end, for a finish. */
const dayMeant = (date: string): string => date.slice(0, 10)

/** Finish limits written at midnight, the beginning of the day that was probably meant as a whole: a day of float is lost. */
export const midnightLimit: Check = {
  id: 'midnight-limit',
  topic: 'Constraints',
  title: 'Due at midnight, before the day meant',
  clean: 'no finish is due at midnight',
  why: 'A finish at 00:00 falls at the beginning of that day, so the whole day cannot be worked. Whoever writes a date without a time means its end.',
  of: 'activities',
  bias: null,
  limit: null,
  find(context) {
    const { plan, schedule } = context
    const found: Found[] = []
    const calendar = schedule.network.calendars.get(plan.project.calendar)
    const add = (place: string, activities: string[], what: string, date: string, change: Change): void => {
      const at = instantOf(date, 'finish')
      const lost = calendar.countBefore(at + MINUTES_PER_DAY) - calendar.countBefore(at)
      found.push({
        place,
        facts: { date: date.replace('T', ' ') },
        severity: 'moves-answer',
        activities,
        links: [],
        message: `${what} at 00:00 on ${dateWords(dayMeant(date))}, so that day cannot be worked`,
        value: 1,
        threshold: 0,
        ...(activities.length > 0
          ? { without: change, otherwise: 'own-float' }
          : { effect: lost === 0 ? { kind: 'none' } : { kind: 'float', minutes: lost } }),
        repairs: [{ kind: 'whole-day', label: `Mean the whole of ${dateWords(dayMeant(date))}`, change }],
      })
    }
    const { project } = plan
    if (project.requiredFinish !== null && isMidnight(project.requiredFinish)) {
      const change: Change = { kind: 'project', set: { requiredFinish: dayMeant(project.requiredFinish) } }
      add('required finish', [], 'The project is due to finish', project.requiredFinish, change)
    }
    for (const i of context.constrained)
      for (const constraint of plan.activities[i]!.constraints) {
        const activity = plan.activities[i]!
        if (constraint.edge !== 'finish' || !isMidnight(constraint.date)) continue
        const change = withConstraint(activity, constraint, { date: dayMeant(constraint.date) })
        const rule = constraint.rule === 'not-after' ? '' : ` ${constraint.rule.replace('-', ' ')}`
        add(
          `${activity.id} ${constraint.rule}`,
          [activity.id],
          `${activity.code} is due to finish${rule}`,
          constraint.date,
          change,
        )
      }
    return found
  },
}
