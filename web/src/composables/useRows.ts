import { computed, type ComputedRef } from 'vue'
import type { Plan } from '@geodrome/core'

/** A row of the list and of the Ground. `index` is the activity's position in the plan. */
export type Row =
  | { readonly kind: 'group'; readonly id: string; readonly depth: number; readonly isCollapsed: boolean; readonly members: readonly number[] }
  | { readonly kind: 'activity'; readonly id: string; readonly depth: number; readonly index: number }

export interface RowModel {
  readonly rows: readonly Row[]
  /** Position of each shown activity by id. */
  readonly position: ReadonlyMap<string, number>
  readonly shown: number
  readonly total: number
}

/** Groups and activities as rows, in plan order under their groups; filtered ones keep their groups. */
export const useRows = (
  plan: () => Plan | null,
  collapsed: () => ReadonlySet<string>,
  keeps: () => ((index: number) => boolean) | null,
): ComputedRef<RowModel> =>
  computed(() => {
    const current = plan()
    if (!current) return { rows: [], position: new Map(), shown: 0, total: 0 }
    const keep = keeps()
    const direct = new Map<string | null, number[]>()
    current.activities.forEach((activity, i) => {
      if (keep && !keep(i)) return
      const list = direct.get(activity.group)
      if (list) list.push(i)
      else direct.set(activity.group, [i])
    })
    const children = new Map<string | null, string[]>()
    for (const group of current.groups) children.set(group.parent, [...(children.get(group.parent) ?? []), group.id])

    const rows: Row[] = []
    const membersOf = (group: string): number[] => [
      ...(direct.get(group) ?? []),
      ...(children.get(group) ?? []).flatMap(membersOf),
    ]
    const add = (group: string | null, depth: number): void => {
      for (const index of direct.get(group) ?? []) rows.push({ kind: 'activity', id: current.activities[index]!.id, depth, index })
      for (const child of children.get(group) ?? []) {
        const members = membersOf(child)
        if (keep && members.length === 0) continue
        const isCollapsed = collapsed().has(child)
        rows.push({ kind: 'group', id: child, depth, isCollapsed, members })
        if (!isCollapsed) add(child, depth + 1)
      }
    }
    add(null, 0)
    const position = new Map<string, number>()
    rows.forEach((row, r) => row.kind === 'activity' && position.set(row.id, r))
    const shown = keep ? current.activities.filter((_, i) => keep(i)).length : current.activities.length
    return { rows, position, shown, total: current.activities.length }
  })
