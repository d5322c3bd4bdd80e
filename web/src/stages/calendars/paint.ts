import { formatClock, parseShift, WEEKDAYS, type Week, type Weekday } from '@geodrome/core'

/** Spans of a day in minutes after its midnight; one that runs over midnight ends after 1440. */
export type Span = readonly [from: number, to: number]

export const spansOf = (shifts: readonly string[]): Span[] =>
  shifts.flatMap((text): Span[] => {
    const shift = parseShift(text)
    return shift ? [shift] : []
  })

/** A shift that is not a whole day from midnight ends before it began the day before. */
const endOf = ([from, to]: Span): number => (from > 0 && to >= from + 1440 ? from + 1439 : to)

/** Spans as the plan file writes them. */
export const shiftsOf = (spans: readonly Span[]): string[] =>
  spans.map(
    (span) => `${formatClock(span[0])}-${formatClock(endOf(span) > 1440 ? endOf(span) - 1440 : endOf(span))}`,
  )

/** Paints a span as work, joined with what it touches, or wipes it out of what is there. */
export const paint = (spans: readonly Span[], [from, to]: Span, what: 'work' | 'rest'): Span[] => {
  if (to <= from) return [...spans]
  if (what === 'rest')
    return spans.flatMap(([a, b]): Span[] =>
      [[a, Math.min(b, from)] as Span, [Math.max(a, to), b] as Span].filter(([x, y]) => y > x),
    )
  const joined: Span[] = []
  let [start, end] = [from, to]
  for (const [a, b] of spans) {
    if (b < start || a > end) joined.push([a, b])
    else [start, end] = [Math.min(a, start), Math.max(b, end)]
  }
  return [...joined, [start, end] as Span].sort((x, y) => x[0] - y[0])
}

/** A week with the same thing done to several days. */
export const onDays = (
  week: Week,
  days: ReadonlySet<Weekday>,
  change: (shifts: readonly string[]) => readonly string[],
): Record<Weekday, string[]> =>
  Object.fromEntries(
    WEEKDAYS.map((day) => [day, [...(days.has(day) ? change(week[day] ?? []) : (week[day] ?? []))]]),
  ) as Record<Weekday, string[]>
