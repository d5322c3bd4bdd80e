import { Kind } from '../../network/network.ts'
import { durationWords } from '../../words/durations.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

/** Durations that nobody has confirmed yet. */
export const unconfirmedDuration: Check = {
  id: 'unconfirmed-duration',
  topic: 'Estimates',
  title: 'Durations not confirmed',
  clean: 'every duration is confirmed',
  why: 'The figure was put in to have one. Whoever does the work has not said that it is right.',
  of: 'activities',
  bias: { direction: 'either way', because: 'the duration is a place-holder' },
  limit: null,
  find(context) {
    const { network } = context
    return network.activities.flatMap((activity, i): Found[] => {
      if (
        activity.confirmed ||
        network.kind[i] !== Kind.Work ||
        context.isFinished(i) ||
        activity.duration === 0
      )
        return NOTHING
      const words = durationWords(activity.duration, context.lengthsOf(activity))
      return [
        {
          place: activity.id,
          facts: { duration: words },
          severity: 'caution',
          activities: [activity.id],
          links: [],
          message: `${activity.code}: ${words}, not confirmed`,
          value: 1,
          threshold: 0,
          effect: { kind: 'unknown' },
          repairs: [
            {
              kind: 'confirm',
              label: `Confirm ${words}`,
              change: setActivity(activity.id, { confirmed: true }),
            },
          ],
        },
      ]
    })
  },
}
