import { fromEdge, toEdge } from '../../plan/links.ts'
import type { Change, Item } from '../../plan/change.ts'
import { lagCalendarOf } from '../../plan/lagCalendar.ts'
import type { Activity, Link } from '../../plan/schema.ts'
import { durationWords } from '../../words/durations.ts'
import type { Check, Found } from '../check.ts'
import type { ReviewContext } from '../context.ts'
import { hashOf } from '../../plan/hash.ts'
import { addLink, removeLink } from '../repairChanges.ts'

/** Lags that are long enough to hide work. */
export const longLag: Check = {
  id: 'long-lag',
  topic: 'Logic',
  title: 'Long lags',
  clean: 'no long lags',
  why: 'Time that passes in a lag is work or waiting that nobody owns, that has no estimate and no risk. As an activity it can be followed and forecast; as a lag it stays what it is.',
  of: 'links',
  bias: { direction: 'too narrow', because: 'time hidden in a lag does not vary in a forecast' },
  limit: {
    default: 5,
    unit: 'days',
    label: 'lags longer than, in days of the calendar they count on',
    min: 0,
    max: 1000,
    reason: 'a working week: curing and drying fit into it, ordering and fabrication do not',
  },
  find(context) {
    const { plan, network, limits } = context
    const limit = limits['long-lag']!
    const found: Found[] = []
    network.links.forEach((link, k) => {
      if (link.lag <= 0) return
      const from = network.activities[network.linkFrom[k]!]!
      const to = network.activities[network.linkTo[k]!]!
      const calendar = lagCalendarOf(plan.project, link, from, to)
      const lengths = context.lengths(calendar)
      if (link.lag <= limit * lengths.dayMinutes) return
      found.push({
        place: link.id,
        facts: {
          lag: durationWords(link.lag, lengths),
          'counted on': context.calendarName(calendar),
          type: link.type,
        },
        severity: 'caution',
        activities: [link.from, link.to],
        links: [link.id],
        message: `${to.code} waits ${durationWords(link.lag, lengths)} after ${from.code}${link.reason ? ` (${link.reason})` : ''}`,
        value: link.lag / lengths.dayMinutes,
        threshold: limit,
        without: { kind: 'set', list: 'links', key: link.id, set: { lag: 0 } },
        repairs: [
          {
            kind: 'make-activity',
            label: 'Make the lag an activity of its own',
            change: asActivity(context, link, from, to, calendar),
          },
        ],
      })
    })
    return found
  },
}

/** The lag as work on the calendar that it counts on, tied so that every date stays as it is. */
const asActivity = (
  context: ReviewContext,
  link: Link,
  from: Activity,
  to: Activity,
  calendar: string,
): Change => {
  const { plan } = context
  const id = `a${hashOf(`lag of ${link.id}`)}`
  const item: Item = {
    id,
    code: freeCode(plan.activities, `${from.code}-${to.code}`),
    name: link.reason || `Waiting between ${from.code} and ${to.code}`,
    group: from.group,
    kind: 'work',
    duration: link.lag,
    confirmed: false,
    calendar: calendar === plan.project.calendar ? null : calendar,
  }
  const countsFromStart = fromEdge(link.type) === 'start'
  const limitsFinish = toEdge(link.type) === 'finish'
  const next = plan.activities[context.network.indexOf.get(from.id)! + 1]
  return {
    kind: 'all',
    changes: [
      { kind: 'add', list: 'activities', item, before: next?.id ?? null },
      removeLink(link.id),
      addLink({
        ...context.newLink(link.from, id, countsFromStart ? 'SS' : 'FS'),
        nature: link.nature,
        reason: link.reason,
      }),
      addLink({
        ...context.newLink(id, link.to, limitsFinish ? 'FF' : 'FS'),
        nature: link.nature,
        reason: link.reason,
      }),
    ],
  }
}

const freeCode = (activities: readonly Activity[], wanted: string): string => {
  let code = wanted
  for (let k = 2; activities.some((a) => a.code === code); k++) code = `${wanted}-${k}`
  return code
}
