import { Kind, State } from '../../network/network.ts'
import { durationWords } from '../../words/durations.ts'
import { counted } from '../../words/counted.ts'
import type { Check, Found } from '../check.ts'

/** Work on or near the critical path whose duration has no spread. */
export const missingEstimate: Check = {
  id: 'missing-estimate',
  topic: 'Estimates',
  title: 'Critical work without an estimate',
  clean: 'all critical work has an estimate',
  why: 'Without a low and a high figure the duration stands as certain. Where it can decide the finish, the forecast comes out narrower than what is known.',
  of: 'activities',
  bias: { direction: 'too narrow', because: 'durations without a spread count as certain' },
  limit: null,
  find(context) {
    const { network, schedule, plan } = context
    const reach = plan.project.nearCriticalFloat
    const lacking = network.activities.filter((activity, i) => {
      const canDecide =
        schedule.onLongestPath[i] === 1 ||
        schedule.critical[i] === 1 ||
        (schedule.float.total[i]! <= reach && network.state[i] !== State.Finished)
      return (
        network.kind[i] === Kind.Work &&
        network.state[i] !== State.Finished &&
        activity.estimate === null &&
        activity.duration > 0 &&
        canDecide
      )
    })
    // A plan without any estimate has one thing missing, not as many as it has activities.
    if (lacking.length > 0 && plan.activities.every((a) => a.estimate === null))
      return [
        {
          place: 'project',
          facts: { estimates: 'none' },
          severity: 'caution',
          activities: lacking.map((a) => a.id),
          links: [],
          message: `No activity has an estimate; ${counted(lacking.length, 'activity')} could decide the finish`,
          value: lacking.length,
          threshold: 0,
          effect: { kind: 'unknown' },
          repairs: [],
        },
      ]
    return lacking.map((activity): Found => ({
      place: activity.id,
      facts: { duration: durationWords(activity.duration, context.lengthsOf(activity)) },
      severity: 'caution',
      activities: [activity.id],
      links: [],
      message: `${activity.code} can decide the finish, but has no estimate`,
      value: 1,
      threshold: 0,
      effect: { kind: 'unknown' },
      repairs: [],
    }))
  },
}
