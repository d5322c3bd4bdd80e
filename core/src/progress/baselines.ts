import { instantOf, parseDate, type Instant } from '../time/instant.ts'
import type { Baseline, Plan } from '../plan/schema.ts'

/** What a baseline says of one activity; null for what it does not say. */
export interface Frozen {
  readonly start: Instant | null
  readonly finish: Instant | null
  /** Working minutes of the activity's calendar as it was. */
  readonly duration: number | null
  readonly totalFloat: number | null
  readonly cost: number | null
}

/** The baseline that a plan is compared with: the one that it names, else the last that was frozen; null where there is none. */
export const baselineOf = (plan: Plan): Baseline | null =>
  plan.baselines.find(({ id }) => id === plan.project.baseline) ?? plan.baselines.at(-1) ?? null

/** The latest finish that a baseline has for what the plan still has, hammocks aside; null where it has none. */
export const agreedFinishOf = (plan: Plan, baseline: Baseline): Instant | null => {
  const frozen = frozenBy(baseline)
  let latest: Instant | null = null
  for (const { id, kind } of plan.activities) {
    const finish = kind === 'hammock' ? null : (frozen.get(id)?.finish ?? null)
    if (finish !== null && (latest === null || finish > latest)) latest = finish
  }
  return latest
}

/** What a baseline froze, by activity. Entries of other programs that mean nothing here say nothing. */
export const frozenBy = ({ activities }: Baseline): ReadonlyMap<string, Frozen> => {
  const known = read.get(activities)
  if (known) return known
  const found = new Map<string, Frozen>()
  for (const [id, entry] of Object.entries(activities)) {
    if (typeof entry !== 'object' || entry === null) continue
    const { start, finish, duration, totalFloat, cost } = entry as Record<string, unknown>
    found.set(id, {
      start: dateOrNull(start, 'start'),
      finish: dateOrNull(finish, 'finish'),
      duration: numberOrNull(duration),
      totalFloat: numberOrNull(totalFloat),
      cost: numberOrNull(cost),
    })
  }
  read.set(activities, found)
  return found
}
const read = new WeakMap<Baseline['activities'], ReadonlyMap<string, Frozen>>()

const dateOrNull = (value: unknown, edge: 'start' | 'finish'): Instant | null =>
  typeof value === 'string' && parseDate(value) !== null ? instantOf(value, edge) : null
const numberOrNull = (value: unknown): number | null =>
  typeof value === 'number' && Number.isFinite(value) ? value : null
