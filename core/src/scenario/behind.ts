import { applyUnchecked } from '../plan/applyChange.ts'
import { changeSchema, keyOf, type Change } from '../plan/change.ts'
import type { Plan } from '../plan/schema.ts'
import { describeChange } from '../words/changes.ts'
import { fieldsSet, foundBy, itemOf, pathOf, valueIn, type Found } from './found.ts'
import { changesOfScenario, planUnder } from './scenarioPlan.ts'

const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)

/** A change of a scenario about something that the plan under it has changed since. */
export interface BehindChange {
  /** Key of the scenario's change. */
  readonly key: string
  /** What the plan did since, fact by fact, in words: "H30 Renew plating, 11 d → 13 d". */
  readonly since: readonly string[]
  /** What it would find now: kept with it, it is behind no longer. */
  readonly finds: Found
}

/**
 * The changes of a scenario that are behind the plan, in their order: each sets a fact that had another value under the scenario when it
 * was made. What a later change of the scenario sets again is not counted, nor what the plan has come to by itself.
 */
export const behindIn = (plan: Plan, scenarioId: string): readonly BehindChange[] => {
  const under = planUnder(plan, scenarioId)
  const own = changesOfScenario(plan, scenarioId).flatMap((item) => {
    const parsed = changeSchema.safeParse(item.change)
    return parsed.success && item.was !== undefined ? [{ item, was: item.was, change: parsed.data }] : []
  })
  const lastOf = new Map(
    own.flatMap(({ item, change }) => fieldsSet(change).map((one) => [pathOf(one), item])),
  )
  return own.flatMap(({ item, was, change }): BehindChange[] => {
    const since = fieldsSet(change).flatMap((one) => {
      const path = pathOf(one)
      const now = itemOf(under, one)
      if (now === null || !(path in was) || lastOf.get(path) !== item) return []
      const [field] = Object.keys(one.set)
      const value = valueIn(now, one)
      if (isSame(value, was[path]) || isSame(value, one.set[field!])) return []
      const then = applyUnchecked(under, { ...one, set: { [field!]: was[path] } }).plan
      return [describeChange(then, { ...one, set: { [field!]: value ?? null } })]
    })
    return since.length === 0
      ? []
      : [{ key: keyOf('scenarioChanges', item), since, finds: foundBy(under, change) }]
  })
}

/** The change by which a scenario's change stands although the plan has moved on under it. */
export const keepThough = ({ key, finds }: BehindChange): Change => ({
  kind: 'set',
  list: 'scenarioChanges',
  key,
  set: { was: finds },
})
