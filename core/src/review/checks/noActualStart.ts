import { counted } from '../../words/counted.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

/** Progress without an actual start. */
export const noActualStart: Check = {
  id: 'no-actual-start',
  topic: 'Progress',
  title: 'Progress without an actual start',
  clean: 'all progress has an actual start',
  lacks: (plan) => (plan.project.statusDate === null ? 'no status date' : null),
  why: 'Work that is partly done has begun on some day. Without it the remaining work counts as not started, stands behind its links again, and nothing can be compared with the baseline.',
  of: 'activities',
  bias: { direction: 'either way', because: 'work in progress is planned as if it had not begun' },
  limit: null,
  find({ plan }) {
    return plan.activities.flatMap(({ id, code, duration, progress }): Found[] => {
      const { actualStart, actualFinish, remaining, percent } = progress
      if (actualStart !== null || (remaining === null && percent === 0 && actualFinish === null))
        return NOTHING
      const done =
        actualFinish !== null
          ? 'is finished'
          : percent > 0
            ? `is ${percent} % done`
            : `has ${counted(remaining!, 'minute')} of ${duration} left`
      return [
        {
          place: id,
          facts: { progress: done },
          severity: actualFinish === null ? 'moves-answer' : 'caution',
          activities: [id],
          links: [],
          message: `${code} ${done}, but has no actual start`,
          value: 1,
          threshold: 0,
          effect: { kind: 'unknown' },
          repairs:
            actualFinish === null
              ? [
                  {
                    kind: 'take-out',
                    label: 'It has not begun: take the progress out',
                    change: setActivity(id, { progress: { ...progress, remaining: null, percent: 0 } }),
                  },
                ]
              : [],
        },
      ]
    })
  },
}
