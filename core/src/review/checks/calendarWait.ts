import { countsFromStart, limitsFinish, NONE, State } from '../../network/network.ts'
import { linkLimit } from '../../schedule/forwardPass.ts'
import { MINUTES_PER_DAY } from '../../time/instant.ts'
import { durationWords } from '../../words/durations.ts'
import { instantWords } from '../../words/dates.ts'
import type { ReviewContext } from '../context.ts'
import type { Check, Found } from '../check.ts'
import { setActivity } from '../repairChanges.ts'

/** Elapsed minutes for which an activity could start by its logic, but its calendar does not work; and from which link. */
export const waitOf = (
  { network, schedule }: ReviewContext,
  i: number,
): { minutes: number; from: number | null; at: number } => {
  const { early } = schedule
  let latest = network.startFloor[i]!
  let from: number | null = null
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
    if (limitsFinish(network.linkCode[k]!)) return { minutes: 0, from: null, at: NONE }
    const limit = linkLimit(network, early, k)
    if (limit > latest) {
      latest = limit
      from = k
    }
  }
  return { minutes: early.begin[i]! - latest, from, at: latest }
}

/** Work on the longest path that waits for its calendar, not for work. */
export const calendarWait: Check = {
  id: 'calendar-wait',
  topic: 'Calendars',
  title: 'Waiting for a calendar along the longest path',
  clean: 'nothing on the longest path waits for a calendar',
  why: 'The work before is done and the work itself could begin, but its calendar has no hours. Such a wait swallows a delay or doubles it: one hour late can mean the next window.',
  of: 'activities',
  bias: {
    direction: 'either way',
    because: 'a wait for a window takes small delays up and turns larger ones into a whole window',
  },
  limit: {
    default: 3,
    unit: 'days',
    label: 'waiting longer than, in days on the clock',
    min: 0,
    max: 365,
    reason: 'a weekend with its Monday is usual; more is a window of its own',
  },
  find(context) {
    const { network, schedule, limits } = context
    const limit = limits['calendar-wait']!
    // A longer wait is out of season, and a check of its own.
    const outOfSeason = limits['calendar-without-work']! * MINUTES_PER_DAY
    const found: Found[] = []
    network.activities.forEach((activity, i) => {
      if (schedule.onLongestPath[i] !== 1 || network.state[i] !== State.NotStarted) return
      const { minutes, from, at } = waitOf(context, i)
      if (
        from === null ||
        minutes <= limit * MINUTES_PER_DAY ||
        minutes > outOfSeason ||
        network.calendar[i] === network.calendar[network.linkFrom[from]!]
      )
        return
      const before = network.activities[network.linkFrom[from]!]!
      const calendar = network.calendar[i]!.id
      const without = setActivity(activity.id, { calendar: before.calendar })
      const isOffered = !context.isOfWindows(calendar)
      found.push({
        place: activity.id,
        facts: {
          waits: durationWords(minutes, { dayMinutes: MINUTES_PER_DAY }),
          for: context.calendarName(calendar),
        },
        severity: 'caution',
        activities: [before.id, activity.id],
        links: [network.links[from]!.id],
        calendars: [calendar],
        message: `${activity.code} could begin ${instantWords(at, countsFromStart(network.linkCode[from]!) ? 'start' : 'finish')}, but waits ${durationWords(minutes, { dayMinutes: MINUTES_PER_DAY })} for ${context.calendarName(calendar)}`,
        value: minutes / MINUTES_PER_DAY,
        threshold: limit,
        without,
        repairs: isOffered
          ? [
              {
                kind: 'other-calendar',
                label: `Put it on ${context.calendarName(network.calendar[network.linkFrom[from]!]!.id)}`,
                change: without,
              },
            ]
          : [],
      })
    })
    return found
  },
}
