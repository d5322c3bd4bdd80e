import type { Calendar } from '../time/calendar.ts'
import { MINUTES_PER_DAY } from '../time/instant.ts'

export interface Band {
  readonly x: number
  readonly width: number
}
/** Longer stretches are not shaded: their days would be thinner than a line. */
const MOST_DAYS = 800
/** From here on hours without work are shaded too. */
const HOURS_FROM_PER_DAY = 70

/**
 * Stretches without work as bands of a drawing: days, and hours where there is room for them.
 * @param from - first instant drawn @param to - last instant drawn @param x - instant to pixels @param perDay - pixels a day
 */
export const nonWorkingBands = (
  calendar: Calendar,
  from: number,
  to: number,
  x: (at: number) => number,
  perDay: number,
): Band[] => {
  const found: { x: number; width: number }[] = []
  const [firstDay, endDay] = [Math.floor(from / MINUTES_PER_DAY), Math.ceil(to / MINUTES_PER_DAY)]
  if (endDay - firstDay > MOST_DAYS) return found
  const push = (start: number, end: number): void => {
    const [x1, x2] = [x(start), x(end)]
    const before = found.at(-1)
    if (before && Math.abs(before.x + before.width - x1) < 0.5) before.width = x2 - before.x
    else found.push({ x: x1, width: x2 - x1 })
  }
  const isOffAt = (t: number): boolean => calendar.countBefore(t + 1) === calendar.countBefore(t)
  try {
    for (let day = firstDay; day < endDay; day++) {
      const dayEnd = (day + 1) * MINUTES_PER_DAY
      const worked = calendar.countBefore(dayEnd) - calendar.countBefore(day * MINUTES_PER_DAY)
      if (worked === 0) push(day * MINUTES_PER_DAY, dayEnd)
      else if (perDay > HOURS_FROM_PER_DAY && worked < MINUTES_PER_DAY) {
        for (let t = day * MINUTES_PER_DAY; t < dayEnd;) {
          const isOff = isOffAt(t)
          let end = t + 1
          while (end < dayEnd && isOffAt(end) === isOff) end++
          if (isOff) push(t, end)
          t = end
        }
      }
    }
  } catch {
    return found // a calendar that ends is not shaded beyond its end
  }
  return found
}
