import type { Calendar } from '../../time/calendar.ts'
import { percentileSorted } from '../percentile.ts'

/** Iterations of a batch of a run that stops by itself. */
export const BATCH = 1000
/** Batches before a run may stop. */
export const FEWEST_BATCHES = 5

/** How sure a percentile of a run is. */
export interface Settled {
  readonly iterations: number
  /** Half the width of its 95 % interval, in days of the project calendar. */
  readonly halfWidth: number
}

/**
 * How sure a percentile is, from how it differs between whole batches (semantics2.md section 14): 1.96 × their deviation ÷ √batches.
 * @param finish - by iteration, of whole batches only
 * @param calendar - of the project, whose days are `dayMinutes` long
 */
export const settledOf = (
  finish: Int32Array,
  percent: number,
  calendar: Calendar,
  dayMinutes: number,
): Settled => {
  const batches = Math.floor(finish.length / BATCH)
  const days = Array.from({ length: batches }, (_, b) => {
    const sorted = finish.slice(b * BATCH, (b + 1) * BATCH).sort()
    return calendar.countBefore(percentileSorted(sorted, percent)) / dayMinutes
  })
  if (batches < 2) return { iterations: finish.length, halfWidth: Infinity }
  const mean = days.reduce((sum, day) => sum + day, 0) / batches
  const variance = days.reduce((sum, day) => sum + (day - mean) ** 2, 0) / (batches - 1)
  return { iterations: finish.length, halfWidth: (1.96 * Math.sqrt(variance)) / Math.sqrt(batches) }
}
