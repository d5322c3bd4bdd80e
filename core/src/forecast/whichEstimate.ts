import { scopeWidth } from '../plan/scope.ts'
import type { Activity, Plan, Spread, ThreePoint } from '../plan/schema.ts'

/** The estimate that holds for an activity, and where it comes from. */
export type HeldEstimate =
  /** Of the whole work, in working minutes of its calendar. */
  | { readonly from: 'own'; readonly estimate: ThreePoint; readonly alsoInScope: readonly Spread[] }
  | {
      readonly from: 'spread'
      readonly spread: Spread
      readonly estimate: ThreePoint
      /** Spreads that hold too, and yield to the narrower or later one. */
      readonly alsoInScope: readonly Spread[]
    }
  | { readonly from: 'none'; readonly alsoInScope: readonly [] }

/**
 * Which estimate holds (semantics2.md section 13): its own; else the narrowest spread, the later in the list among equals; else none.
 * Only work has one.
 */
export const estimatesOf = (plan: Plan): ((activity: Activity) => HeldEstimate) => {
  const widthOf = scopeWidth(plan)
  return (activity) => {
    if (activity.kind !== 'work') return { from: 'none', alsoInScope: [] }
    const holding = plan.spreads
      .map((spread, k) => ({ spread, k, width: widthOf(spread.scope, activity) }))
      .filter((one): one is { spread: Spread; k: number; width: number } => one.width !== null)
      .sort((a, b) => a.width - b.width || b.k - a.k)
      .map(({ spread }) => spread)
    if (activity.estimate) return { from: 'own', estimate: activity.estimate, alsoInScope: holding }
    const [spread, ...rest] = holding
    if (!spread) return { from: 'none', alsoInScope: [] }
    const { low, likely, high, shape, ends } = spread
    const times = (factor: number): number => factor * activity.duration
    const estimate = { low: times(low), likely: times(likely), high: times(high), shape, ends }
    return { from: 'spread', spread, estimate, alsoInScope: rest }
  }
}
