import { Kind, State } from '../../network/network.ts'
import { durationWords } from '../../words/durations.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

/** Planned durations that lie outside their own estimate. An inverted estimate is refused on import. */
export const estimateOff: Check = {
  id: 'estimate-off',
  topic: 'Estimates',
  title: 'Durations outside their estimate',
  clean: 'every duration lies within its estimate',
  lacks: (plan) => (plan.activities.every(({ estimate }) => estimate === null) ? 'no estimates' : null),
  why: 'The plan uses a figure that its own estimate calls impossible. Either the one or the other is out of date, and the forecast and the plan speak of different work.',
  of: 'activities',
  bias: { direction: 'either way', because: 'plan and forecast use different figures for the same work' },
  limit: null,
  find(context) {
    const { network } = context
    return network.activities.flatMap((activity, i): Found[] => {
      const { estimate, duration } = activity
      if (
        !estimate ||
        network.kind[i] !== Kind.Work ||
        network.state[i] === State.Finished ||
        estimate.ends !== 'extremes' ||
        estimate.shape === 'lognormal'
      )
        return NOTHING
      if (duration >= estimate.low && duration <= estimate.high) return NOTHING
      const words = (minutes: number): string => durationWords(minutes, context.lengthsOf(activity))
      const isShort = duration < estimate.low
      const without = setActivity(activity.id, { duration: estimate.likely })
      return [
        {
          place: activity.id,
          facts: { duration: words(duration), estimate: `${words(estimate.low)} to ${words(estimate.high)}` },
          severity: 'moves-answer',
          activities: [activity.id],
          links: [],
          message: `${activity.code} is planned at ${words(duration)}, ${isShort ? 'less than its lowest' : 'more than its highest'} estimate of ${words(isShort ? estimate.low : estimate.high)}`,
          value: duration,
          threshold: isShort ? estimate.low : estimate.high,
          without,
          otherwise: { kind: 'forecast' },
          repairs: [
            { kind: 'plan-likely', label: `Plan the likely ${words(estimate.likely)}`, change: without },
          ],
        },
      ]
    })
  },
}
