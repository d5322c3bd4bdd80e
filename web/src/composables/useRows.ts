import { computed, type ComputedRef } from 'vue'
import { arrangeRows, type Plan, type RowArrangement, type RowModel } from '@geodrome/core'

const EMPTY: RowModel = { rows: [], position: new Map(), shown: 0, total: 0 }

/** Whether two lists of activities give the same rows where nothing but place and group decides. */
const isSameOutline = (a: Plan, b: Plan): boolean => {
  if (a.groups !== b.groups || a.activities.length !== b.activities.length) return false
  for (let i = 0; i < a.activities.length; i++) {
    const [x, y] = [a.activities[i]!, b.activities[i]!]
    if (x !== y && (x.id !== y.id || x.group !== y.group)) return false
  }
  return true
}

/** Rows as they are arranged; an edit that moves no row keeps the rows there are, and all that hangs on them. */
export const useRows = (
  plan: () => Plan | null,
  arrangement: () => RowArrangement,
): ComputedRef<RowModel> => {
  let last: { plan: Plan; arrangement: RowArrangement; model: RowModel } | null = null
  return computed(() => {
    const current = plan()
    if (!current) return EMPTY
    const next = arrangement()
    const isPlain = !next.keeps && !next.compare && !next.heading
    const isSame =
      last !== null &&
      isPlain &&
      !last.arrangement.keeps &&
      !last.arrangement.compare &&
      last.arrangement.heading === next.heading &&
      last.arrangement.across === next.across &&
      last.arrangement.collapsed === next.collapsed
    if (isSame && isSameOutline(last!.plan, current)) {
      last = { ...last!, plan: current }
      return last.model
    }
    const model = arrangeRows(current, next)
    last = { plan: current, arrangement: next, model }
    return model
  })
}
