import { Kind } from '../../network/network.ts'
import { durationWords } from '../../words/durations.ts'
import { NOTHING, type Check, type Found } from '../check.ts'

/** Activities too long to be followed. */
export const longDuration: Check = {
  id: 'long-duration',
  topic: 'Estimates',
  title: 'Long durations',
  clean: 'no duration too long to follow',
  why: 'For weeks nobody can say whether such work is late. It also hides the hand-overs inside it, so that what follows waits for all of it.',
  of: 'activities',
  bias: {
    direction: 'too narrow',
    because: 'one long piece of work varies as one; its parts would vary more',
  },
  limit: {
    default: 20,
    unit: 'days',
    label: 'durations more than, in days of its calendar',
    min: 1,
    max: 10_000,
    reason: 'four weeks: twice the usual time between two updates',
  },
  find(context) {
    const { network, limits } = context
    const limit = limits['long-duration']!
    return network.activities.flatMap((activity, i): Found[] => {
      if (
        activity.duration <= limit * context.dayMinutes[i]! ||
        network.kind[i] !== Kind.Work ||
        context.isFinished(i)
      )
        return NOTHING
      const lengths = context.lengthsOf(activity)
      return [
        {
          place: activity.id,
          facts: { duration: durationWords(activity.duration, lengths) },
          severity: 'caution',
          activities: [activity.id],
          links: [],
          message: `${activity.code} takes ${durationWords(activity.duration, lengths)} in one piece`,
          value: activity.duration / lengths.dayMinutes,
          threshold: limit,
          effect: { kind: 'unknown' },
          repairs: [],
        },
      ]
    })
  },
}
