import { NOTHING, type Check, type Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

/** Work that takes no time. */
export const zeroDuration: Check = {
  id: 'zero-duration',
  topic: 'Estimates',
  title: 'Work without a duration',
  clean: 'all work has a duration',
  why: 'Either its duration is missing, or it is an event and should be a milestone. Until then it costs no time, and what follows stands too early.',
  of: 'activities',
  bias: { direction: 'too early', because: 'work that takes time counts as none' },
  limit: null,
  find(context) {
    return context.network.activities.flatMap((activity, i): Found[] => {
      if (activity.kind !== 'work' || activity.duration > 0 || context.isFinished(i)) return NOTHING
      return [
        {
          place: activity.id,
          facts: { duration: '0' },
          severity: 'moves-answer',
          activities: [activity.id],
          links: [],
          message: `${activity.code} is work, but takes no time`,
          value: 0,
          threshold: 0,
          effect: { kind: 'unknown' },
          repairs: [
            {
              kind: 'milestone',
              label: 'It is an event: make it a milestone',
              change: setActivity(activity.id, { kind: 'milestone', edge: 'start' }),
            },
          ],
        },
      ]
    })
  },
}
