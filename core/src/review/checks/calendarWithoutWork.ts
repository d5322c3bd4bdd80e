import { Kind, State } from '../../network/network.ts'
import { MINUTES_PER_DAY } from '../../time/instant.ts'
import { instantWords } from '../../words/dates.ts'
import type { Check, Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'
import { waitOf } from './calendarWait.ts'

/** Work whose calendar has no hours for a long time after it could begin: the season is over, the windows are used up. */
export const calendarWithoutWork: Check = {
  id: 'calendar-without-work',
  topic: 'Calendars',
  title: 'Calendars without working time when it is needed',
  clean: 'all calendars have work when it is needed',
  why: 'The activity is not late, it is out of season: the plan pushes it to the next hours that its calendar happens to have, which may be next year.',
  of: 'activities',
  bias: { direction: 'too late', because: 'work stands in the next season' },
  limit: {
    default: 28,
    unit: 'days',
    label: 'no working time for more than, in days on the clock',
    min: 1,
    max: 3660,
    reason: 'four weeks: longer than a shutdown',
  },
  find(context) {
    const { network, limits, plan } = context
    const limit = limits['calendar-without-work']!
    const found: Found[] = []
    network.activities.forEach((activity, i) => {
      if (network.kind[i] === Kind.Hammock || network.state[i] !== State.NotStarted) return
      const { minutes, at } = waitOf(context, i)
      if (minutes <= limit * MINUTES_PER_DAY) return
      const calendar = network.calendar[i]!.id
      const isOwn = calendar !== plan.project.calendar
      const without = setActivity(activity.id, { calendar: null })
      found.push({
        place: activity.id,
        facts: {
          'could begin': instantWords(at, 'finish'),
          'works from': instantWords(context.schedule.early.begin[i]!, 'start', { year: true }),
          calendar: context.calendarName(calendar),
        },
        severity: 'moves-answer',
        activities: [activity.id],
        links: [],
        calendars: [calendar],
        message: `${activity.code} could begin ${instantWords(at, 'finish', { year: true })}; ${context.calendarName(calendar)} has no hours before ${instantWords(context.schedule.early.begin[i]!, 'start', { year: true })}`,
        value: minutes / MINUTES_PER_DAY,
        threshold: limit,
        ...(isOwn ? { without } : { effect: { kind: 'unknown' as const } }),
        repairs:
          isOwn && !context.isOfWindows(calendar)
            ? [
                {
                  kind: 'other-calendar',
                  label: `Put it on ${context.calendarName(plan.project.calendar)}`,
                  change: without,
                },
              ]
            : [],
      })
    })
    for (const { code, activity, message } of context.schedule.warnings) {
      if (code !== 'no-late-dates') continue
      const calendar = network.calendar[network.indexOf.get(activity)!]!.id
      found.push({
        place: `${activity} late`,
        facts: { calendar: context.calendarName(calendar), 'late dates': 'none' },
        severity: 'moves-answer',
        activities: [activity],
        links: [],
        calendars: [calendar],
        message,
        value: null,
        threshold: null,
        effect: { kind: 'unknown' },
        repairs: [],
      })
    }
    return found
  },
}
