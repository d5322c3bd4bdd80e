import type { SpannedCalendar, Span } from './calendar.ts'
import type { Instant } from './instant.ts'

/**
 * The spans of [from, to) in which all of some calendars work.
 * @param calendars - at least one
 * @returns starts and ends in turns, in order, spans that touch joined. O(spans of all)
 */
export const jointSpans = (calendars: readonly SpannedCalendar[], from: Instant, to: Instant): Int32Array => {
  const spans: number[] = []
  // Its own in each call: as one of the module, Node 20's compiler kept an end that had been overwritten, and the loop never ended.
  const span: Span = { start: from, end: from }
  // Beyond their last work calendars are not asked: they would search for half a century.
  const counts = calendars.map((calendar) => calendar.countBefore(to))
  let t = from as number
  while (t < to) {
    let start = t
    let end = to as number
    for (let c = 0; c < calendars.length; c++) {
      if (calendars[c]!.countBefore(t) >= counts[c]!) return Int32Array.from(spans)
      calendars[c]!.nextSpan(t, span)
      if (span.start > start) start = span.start
      if (span.end < end) end = span.end
    }
    if (start < end) {
      if (spans.length > 0 && spans.at(-1) === start) spans[spans.length - 1] = end
      else spans.push(start, end)
      t = end
    } else t = start
  }
  return Int32Array.from(spans)
}
