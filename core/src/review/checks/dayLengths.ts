import { CLOCK_LENGTHS } from '../../plan/durations.ts'
import { Kind, NONE, State } from '../../network/network.ts'
import { MINUTES_PER_DAY } from '../../time/instant.ts'
import { counted } from '../../words/counted.ts'
import { durationWords } from '../../words/durations.ts'
import { instantWords } from '../../words/dates.ts'
import type { Check, Found } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { setActivity } from '../repairChanges.ts'

interface Group {
  /** The first activity that starts inside its day because of this calendar. */
  first: number
  readonly members: number[]
  /** Greatest part of a day that had passed before a start. */
  worst: number
}

/** Work that starts at odd hours, grouped by the calendar that brought them in. */
export const dayLengths: Check = {
  id: 'day-lengths',
  topic: 'Calendars',
  title: 'Calendars with different hours',
  clean: 'no odd hours from other calendars',
  why: 'Days are counted in each activity’s own hours. Where calendars of different hours meet, work starts and ends inside the other’s day: durations in whole days end at odd times, and a float shown in whole days can be wrong by one.',
  of: 'activities',
  bias: null,
  limit: null,
  find(context) {
    const { network, schedule } = context
    const { drives } = schedule
    // Behind each odd start: the calendar of the work whose finish it took over, or −1 where its own hours made it.
    const origin = new Int32Array(network.order.length).fill(-1)
    const calendarIndex = new Map([...new Set(network.calendar)].map((calendar, k) => [calendar, k]))
    const calendars = [...calendarIndex.keys()]
    const groups = new Map<number, Group>()
    for (const i of network.order) {
      if (network.kind[i] !== Kind.Work || network.state[i] !== State.NotStarted) continue
      const passed = minutesIntoDay(context, i)
      if (passed === 0) continue
      const part = passed / context.dayMinutes[i]!
      const from = oddDriver(context, i, drives)
      if (from === null) continue
      const source =
        network.calendar[from] === network.calendar[i]
          ? origin[from]!
          : calendarIndex.get(network.calendar[from]!)!
      if (source < 0) continue
      origin[i] = source
      const group = groups.get(source)
      if (!group) groups.set(source, { first: i, members: [i], worst: part })
      else {
        group.members.push(i)
        if (schedule.early.begin[i]! < schedule.early.begin[group.first]!) group.first = i
        group.worst = Math.max(group.worst, part)
      }
    }
    return [...groups].map(([source, group]) => finding(context, calendars[source]!.id, group))
  },
}

/** Working minutes of its own day that have passed when the activity starts; 0 at the beginning of a day. */
const minutesIntoDay = ({ network, schedule }: ReviewContext, i: number): number => {
  const at = schedule.early.begin[i]!
  if (at === NONE) return 0
  const calendar = network.calendar[i]!
  const day = Math.floor(at / MINUTES_PER_DAY) * MINUTES_PER_DAY
  const passed = calendar.countBefore(at) - calendar.countBefore(day)
  // A shift that runs over midnight has no beginning of the day; round the clock there are no odd hours.
  return calendar.countBefore(day) === calendar.countBefore(day - 1) ? passed : 0
}

/** The predecessor whose date is taken over as it stands. */
const oddDriver = ({ network }: ReviewContext, i: number, drives: Uint8Array): number | null => {
  for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++)
    if (drives[k] === 1) return network.linkFrom[k]!
  return null
}

const finding = (context: ReviewContext, calendar: string, { first, members, worst }: Group): Found => {
  const { network, schedule } = context
  const name = context.calendarName(calendar)
  const activity = network.activities[first]!
  const feeder = network.activities[oddDriver(context, first, schedule.drives)!]!
  return {
    place: calendar,
    facts: {
      'comes in at': `${feeder.code} → ${activity.code}`,
      hours: `${durationWords(context.lengths(calendar).dayMinutes, CLOCK_LENGTHS)} a day`,
    },
    severity: 'caution',
    activities: members.map((i) => network.activities[i]!.id),
    links: [],
    calendars: [calendar],
    message: `Calendars with different hours: after ${name}, ${counted(members.length, 'activity')} ${members.length === 1 ? 'starts' : 'start'} inside the day, the first ${activity.code} at ${instantWords(schedule.early.begin[first]!, 'start')}`,
    value: members.length,
    threshold: 0,
    effect: { kind: 'day', minutes: Math.round(Math.min(1, worst) * context.projectLengths.dayMinutes) },
    repairs:
      feeder.kind === 'work' && feeder.calendar === calendar && calendar !== context.plan.project.calendar
        ? [
            {
              kind: 'project-calendar',
              label: `Put ${feeder.code} on ${context.calendarName(context.plan.project.calendar)}`,
              change: setActivity(feeder.id, { calendar: null }),
            },
          ]
        : [],
  }
}
