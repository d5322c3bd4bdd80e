import { instantOf } from '../../time/instant.ts'
import { dateWords } from '../../words/dates.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

/** Actual dates in the future. */
export const actualAfterStatus: Check = {
  id: 'actual-after-status',
  topic: 'Progress',
  title: 'Actual dates after the status date',
  clean: 'no actual dates ahead of the status date',
  lacks: (plan) => (plan.project.statusDate === null ? 'no status date' : null),
  why: 'An actual date says what has happened. One after the status date is a wish or a slip of the pen, and the plan takes it as done.',
  of: 'activities',
  bias: { direction: 'too early', because: 'work that is not done counts as done' },
  limit: null,
  find({ plan, network }) {
    const status = network.statusDate
    if (status === null) return []
    return plan.activities.flatMap(({ id, code, progress }): Found[] => {
      const isAhead = (date: string | null, edge: 'start' | 'finish'): boolean =>
        date !== null && instantOf(date, edge) > status
      const start = isAhead(progress.actualStart, 'start')
      const finish = isAhead(progress.actualFinish, 'finish')
      if (!start && !finish) return NOTHING
      const date = start
        ? dateWords(progress.actualStart!, 'start')
        : dateWords(progress.actualFinish!, 'finish')
      const without = setActivity(id, {
        progress: { ...progress, ...(start ? { actualStart: null } : {}), actualFinish: null },
      })
      return [
        {
          place: id,
          facts: {
            start: progress.actualStart === null ? 'none' : dateWords(progress.actualStart, 'start'),
            finish: progress.actualFinish === null ? 'none' : dateWords(progress.actualFinish, 'finish'),
            'status date': dateWords(plan.project.statusDate!, 'start'),
          },
          severity: 'moves-answer',
          activities: [id],
          links: [],
          message: `${code} is said to have ${start ? 'started' : 'finished'} on ${date}, after the status date ${dateWords(plan.project.statusDate!, 'start')}`,
          value: 1,
          threshold: 0,
          without,
          otherwise: { kind: 'hides', minutes: 0 },
          repairs: [
            {
              kind: 'take-out',
              label: start ? 'Take the actual dates out' : 'Take the actual finish out',
              change: without,
            },
          ],
        },
      ]
    })
  },
}
