import type { ScheduleWarning } from '../../network/network.ts'
import { dateWords } from '../../words/dates.ts'
import { NOTHING, type Check, type Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

const TRAPS = new Set<ScheduleWarning['code']>([
  'promise-not-started',
  'promise-in-the-past',
  'promise-not-kept',
  'promise-off-hours',
])

/** Promises that do not mean what they seem to. */
export const promiseTrap: Check = {
  id: 'promise-trap',
  topic: 'Progress',
  title: 'Promises at risk',
  clean: 'no promise at risk',
  lacks: (plan) => (plan.activities.every(({ promise }) => promise === null) ? 'no promises' : null),
  why: 'A promise gives the remaining duration. One on work that has not started, one that has passed, one at a time when nobody works, and one that the network does not allow say something else than whoever made it meant.',
  of: 'activities',
  bias: { direction: 'too early', because: 'a promise that cannot be kept is taken for what is left to do' },
  limit: null,
  find(context) {
    const { network, schedule } = context
    return schedule.warnings.flatMap(({ code, activity, message }): Found[] => {
      const { promise } = network.activities[network.indexOf.get(activity)!]!
      if (!TRAPS.has(code) || promise === null) return NOTHING
      const without = setActivity(activity, { promise: null })
      return [
        {
          place: `${activity} ${code}`,
          facts: { promise: dateWords(promise.finish, 'finish'), by: promise.by },
          // A promise that is left out moves nothing; one that the network does not allow is taken for what is left to do.
          severity: code === 'promise-not-kept' ? 'moves-answer' : 'caution',
          activities: [activity],
          links: [],
          message: message[0]!.toUpperCase() + message.slice(1),
          value: 1,
          threshold: 0,
          without,
          repairs: [{ kind: 'withdraw', label: 'Withdraw the promise', change: without }],
        },
      ]
    })
  },
}
