import type { Span, SpannedCalendar, Spot } from './calendar.ts'
import type { Instant, WorkMinutes } from './instant.ts'

/**
 * A calendar without some stretches of time: in them no minute works. Its counts are those of the calendar less what the stretches
 * take, so that both primitives cost what they cost there, once for each stretch.
 * @param gaps - [from, to) in order, none touching another
 */
export const withoutSpans = (
  calendar: SpannedCalendar,
  gaps: readonly (readonly [Instant, Instant])[],
): SpannedCalendar => {
  const first = gaps.map(([from]) => calendar.countBefore(from))
  const taken = gaps.map(([, to], k) => calendar.countBefore(to) - first[k]!)
  const countBefore = (t: Instant): WorkMinutes => {
    let count = calendar.countBefore(t)
    for (let k = gaps.length - 1; k >= 0; k--) {
      const [from, to] = gaps[k]!
      if (t > from) count -= t >= to ? taken[k]! : calendar.countBefore(t) - first[k]!
    }
    return count
  }
  const minuteAt = (count: WorkMinutes): Instant => {
    let own = count
    for (let k = 0; k < gaps.length && own >= first[k]!; k++) own += taken[k]!
    return calendar.minuteAt(own)
  }
  return {
    id: calendar.id,
    countBefore,
    minuteAt,
    firstStart: (t: Instant, spot: Spot): void => {
      spot.count = countBefore(t)
      spot.at = minuteAt(spot.count)
      spot.isWorking = spot.at === t
    },
    lastEnd: (t: Instant, spot: Spot): void => {
      spot.count = countBefore(t)
      spot.isWorking = minuteAt(spot.count) === t
      spot.at = minuteAt(spot.count - 1) + 1
    },
    nextSpan: (t: Instant, span: Span): void => {
      let at = t
      for (;;) {
        calendar.nextSpan(at, span)
        let [start, end] = [Math.max(span.start, at), span.end as number]
        // A span begins where it does, also where it is asked for in its middle.
        if (at === t) start = span.start
        let isCut = false
        for (const [from, to] of gaps) {
          if (to <= start || from >= end) continue
          if (from > start && from > t) end = from
          else if (to >= end) isCut = true
          else start = to
        }
        if (!isCut && end > t) {
          span.start = start
          span.end = end
          return
        }
        at = span.end
      }
    },
  }
}
