import { parseDate } from '../time/instant.ts'
import type { Plan } from '../plan/schema.ts'

/** Finish dates that a baseline froze, by activity; entries that are not dates are left out. */
export const baselineFinishes = (baseline: Plan['baselines'][number]): ReadonlyMap<string, string> => {
  const dates = new Map<string, string>()
  for (const [id, entry] of Object.entries(baseline.activities)) {
    const finish = (entry as { finish?: unknown } | null)?.finish
    if (typeof finish === 'string' && parseDate(finish) !== null) dates.set(id, finish)
  }
  return dates
}
