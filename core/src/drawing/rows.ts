import { outlineChildren, type OutlineChild } from '../plan/outlineOrder.ts'
import type { Plan } from '../plan/schema.ts'

/** A row of the list and of the Ground. `index` is the activity's position in the plan. */
export type Row =
  | {
      readonly kind: 'group'
      readonly id: string
      readonly code: string
      readonly name: string
      readonly isOutline: boolean
      readonly depth: number
      readonly isCollapsed: boolean
      readonly members: readonly number[]
    }
  | { readonly kind: 'activity'; readonly id: string; readonly depth: number; readonly index: number }

export interface RowModel {
  readonly rows: readonly Row[]
  /** Position of each shown activity by id. */
  readonly position: ReadonlyMap<string, number>
  readonly shown: number
  readonly total: number
}

export interface RowArrangement {
  readonly collapsed: ReadonlySet<string>
  /** Which activities are shown; null for all. */
  readonly keeps: ((index: number) => boolean) | null
  /** Order of activities; null for that of the plan. */
  readonly compare: ((a: number, b: number) => number) | null
  /** Sorted across the groups, which are then left out. */
  readonly across: boolean
  /** Heading of an activity under which it stands; null for the outline of the plan, undefined for no headings. */
  readonly heading: ((index: number) => string) | null | undefined
}

/** Groups and activities as rows: under the outline of the plan, under headings, or in one list; sorted inside each; filtered ones keep their groups. */
export const arrangeRows = (
  plan: Plan,
  { collapsed, keeps, compare, across, heading }: RowArrangement,
): RowModel => {
  const kept: number[] = []
  for (let i = 0; i < plan.activities.length; i++) if (!keeps || keeps(i)) kept.push(i)
  const order = compare ? kept.toSorted(compare) : kept
  const rows: Row[] = []
  const activity = (index: number, depth: number): Row => ({
    kind: 'activity',
    id: plan.activities[index]!.id,
    depth,
    index,
  })
  if (across || heading === undefined) for (const i of order) rows.push(activity(i, 0))
  else if (heading) addHeadings(order, heading, collapsed, rows, activity)
  else
    addOutline(
      plan,
      order,
      { isFiltered: keeps !== null, isSorted: compare !== null },
      collapsed,
      rows,
      activity,
    )
  const position = new Map<string, number>()
  rows.forEach((row, r) => row.kind === 'activity' && position.set(row.id, r))
  return { rows, position, shown: kept.length, total: plan.activities.length }
}

type MakeRow = (index: number, depth: number) => Row

const addHeadings = (
  order: readonly number[],
  heading: (index: number) => string,
  collapsed: ReadonlySet<string>,
  rows: Row[],
  make: MakeRow,
): void => {
  const under = new Map<string, number[]>()
  for (const i of order) {
    const title = heading(i)
    const list = under.get(title)
    if (list) list.push(i)
    else under.set(title, [i])
  }
  // What has no value stands last.
  const titles = [...under.keys()].sort((a, b) => Number(a === '') - Number(b === '') || a.localeCompare(b))
  for (const title of titles) {
    const id = `heading:${title}`
    const members = under.get(title)!
    const isCollapsed = collapsed.has(id)
    rows.push({
      kind: 'group',
      id,
      code: '',
      name: title || 'none',
      isOutline: false,
      depth: 0,
      isCollapsed,
      members,
    })
    if (!isCollapsed) for (const i of members) rows.push(make(i, 1))
  }
}

const addOutline = (
  plan: Plan,
  order: readonly number[],
  { isFiltered, isSorted }: { readonly isFiltered: boolean; readonly isSorted: boolean },
  collapsed: ReadonlySet<string>,
  rows: Row[],
  make: MakeRow,
): void => {
  const direct = new Map<string | null, number[]>()
  const isShown = new Uint8Array(plan.activities.length)
  for (const i of order) isShown[i] = 1
  // Sorted work is told by its group; otherwise the outline has it in order.
  if (isSorted)
    for (const i of order) {
      const { group } = plan.activities[i]!
      const list = direct.get(group)
      if (list) list.push(i)
      else direct.set(group, [i])
    }
  const children = outlineChildren(plan)
  /** What stands in a group and is shown: as in the plan, or sorted work before the groups. */
  const inOrder = (group: string | null): readonly OutlineChild[] => {
    const all = children.get(group) ?? []
    if (!isSorted && !isFiltered) return all
    if (!isSorted) return all.filter((child) => child.kind === 'group' || isShown[child.index] === 1)
    return [
      ...(direct.get(group) ?? []).map((index): OutlineChild => ({
        kind: 'activity',
        id: plan.activities[index]!.id,
        index,
      })),
      ...all.filter(({ kind }) => kind === 'group'),
    ]
  }
  /** All of a group, shown or not: what it spans is a fact of the group, not of the filter. */
  const membersOf = new Map<string, readonly number[]>()
  const gather = (group: string): readonly number[] => {
    const members: number[] = []
    for (const child of children.get(group) ?? [])
      if (child.kind === 'activity') members.push(child.index)
      else for (const index of gather(child.id)) members.push(index)
    membersOf.set(group, members)
    return members
  }
  for (const root of children.get(null) ?? []) if (root.kind === 'group') gather(root.id)
  const add = (group: string | null, depth: number): void => {
    for (const child of inOrder(group)) {
      if (child.kind === 'activity') {
        rows.push(make(child.index, depth))
        continue
      }
      const members = membersOf.get(child.id)!
      if (isFiltered && !members.some((i) => isShown[i] === 1)) continue
      const isCollapsed = collapsed.has(child.id)
      rows.push({
        kind: 'group',
        id: child.id,
        code: child.group.code,
        name: child.group.name,
        isOutline: true,
        depth,
        isCollapsed,
        members,
      })
      if (!isCollapsed) add(child.id, depth + 1)
    }
  }
  add(null, 0)
}
