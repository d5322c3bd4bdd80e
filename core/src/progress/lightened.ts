import type { Plan } from '../plan/schema.ts'
import { KEEPERS, type Keeper } from '../wire/plans.ts'
import { baselineOf } from './baselines.ts'

/** Where a baseline or a period says something of each activity. */
export const SAID_IN = { baselines: 'activities', periods: 'dates' } as const satisfies Record<Keeper, string>

/** Entries beyond which they are not sent with the plan. */
const MOST_AT_ONCE = 20_000

/** A plan without what its baselines and periods say of activities, but for the baseline that it is compared with. */
export interface Lightened {
  readonly plan: Plan
  /** Whose entries were left out. */
  readonly left: readonly (readonly [Keeper, string])[]
}

/** A plan as it is opened: where much was kept over time, that comes afterwards, so that opening takes no longer by it. */
export const lightened = (plan: Plan): Lightened => {
  const compared = baselineOf(plan)?.id
  if (!keepsMuch(plan)) return { plan, left: [] }
  const left: [Keeper, string][] = []
  const emptied = <T extends { readonly id: string }>(list: Keeper, items: readonly T[]): T[] =>
    items.map((item) => {
      if ((list === 'baselines' && item.id === compared) || isEmpty(saidBy(list, item))) return item
      left.push([list, item.id])
      return { ...item, [SAID_IN[list]]: {} }
    })
  return {
    plan: {
      ...plan,
      baselines: emptied('baselines', plan.baselines),
      periods: emptied('periods', plan.periods),
    },
    left,
  }
}

/** Counted only as far as it matters: the entries of years are not listed for it. */
const keepsMuch = (plan: Plan): boolean => {
  let entries = 0
  for (const list of KEEPERS)
    for (const item of plan[list]) {
      entries += Object.keys(saidBy(list, item)).length
      if (entries > MOST_AT_ONCE) return true
    }
  return false
}
const isEmpty = (said: object): boolean => {
  for (const _ in said) return false
  return true
}

/** What a baseline or a period says, by activity. */
export const saidBy = (list: Keeper, item: object): Readonly<Record<string, unknown>> =>
  (item as Record<string, Record<string, unknown>>)[SAID_IN[list]]!
