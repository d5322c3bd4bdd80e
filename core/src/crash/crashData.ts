import { pointer, PlanError, type PlanIssue } from '../plan/issue.ts'
import type { Activity, Plan } from '../plan/schema.ts'

/** A choice that an activity has instead of its normal duration. */
interface CrashOption {
  readonly name: string
  /** Working minutes that it saves, and what it costs beyond normal. */
  readonly saves: number
  readonly extra: number
}

/** How an activity can be crashed. */
export interface Crashable {
  readonly activity: Activity
  /** Normal duration in working minutes of its calendar. */
  readonly normal: number
  /** Working minutes by which it can be shortened at most. */
  readonly limit: number
  /** Money per working minute; of one with options what the cheapest of them costs per minute. */
  readonly slope: number
  readonly normalCost: number
  /** Null: any amount up to the limit, at the slope. */
  readonly options: readonly CrashOption[] | null
}

/** The crash data of an activity, or what is wrong with it. */
export const crashableOf = (activity: Activity, i: number): Crashable | PlanIssue | null => {
  const { crash, duration: normal, code, id } = activity
  if (!crash || activity.kind !== 'work') return null
  const wrong = (message: string, ...path: (string | number)[]): PlanIssue => ({
    pointer: pointer('activities', i, 'crash', ...path),
    code: 'estimate',
    message: `${code}: ${message}`,
    ids: [id],
  })
  if (crash.duration < 0) return wrong('its crash duration is below zero', 'duration')
  if (crash.options && crash.options.length > 0) {
    const options: CrashOption[] = []
    for (const [k, option] of crash.options.entries()) {
      const named = `the option "${option.name || k + 1}"`
      if (option.duration < 0 || option.duration > normal)
        return wrong(
          `${named} takes longer than normal; give it a shorter duration`,
          'options',
          k,
          'duration',
        )
      if (option.cost < crash.normalCost)
        return wrong(`${named} costs less than normal, so it would be the normal way`, 'options', k, 'cost')
      options.push({
        name: option.name,
        saves: normal - option.duration,
        extra: option.cost - crash.normalCost,
      })
    }
    const useful = options.filter(({ saves }) => saves > 0)
    return {
      activity,
      normal,
      limit: Math.max(0, ...useful.map(({ saves }) => saves)),
      slope: Math.min(...useful.map(({ saves, extra }) => extra / saves), Infinity),
      normalCost: crash.normalCost,
      options: useful,
    }
  }
  if (crash.duration > normal)
    return wrong('its crash duration is longer than its normal one; make it shorter', 'duration')
  const saves = normal - crash.duration
  const extra = crash.cost - crash.normalCost
  if (extra < 0 && saves > 0)
    return wrong(
      'crashing it costs less than normal, so its slope is negative; correct one of the costs',
      'cost',
    )
  const limit = Math.max(0, Math.min(saves, crash.limit ?? saves))
  return {
    activity,
    normal,
    limit,
    slope: saves === 0 ? Infinity : extra / saves,
    normalCost: crash.normalCost,
    options: null,
  }
}

/** Crash data by the position of activities. @throws PlanError with all that is wrong with it */
export const crashablesOf = (plan: Plan): ReadonlyMap<number, Crashable> => {
  const found = new Map<number, Crashable>()
  const issues: PlanIssue[] = []
  plan.activities.forEach((activity, i) => {
    const one = crashableOf(activity, i)
    if (one === null) return
    if ('message' in one) issues.push(one)
    else if (one.limit > 0) found.set(i, one)
  })
  if (issues.length > 0) throw new PlanError(issues)
  return found
}
