import type { Change, Item } from './change.ts'
import { freshId } from './edits.ts'
import { groupsAround } from './scope.ts'
import { outlineChildren, siblingsOf, type OutlineChild } from './outlineOrder.ts'
import type { Group, Plan } from './schema.ts'

/** Work on the outline: rows (activities and groups) moved, taken in and out of groups. Identity, links and dates never change by it. */

export interface OutlineRow {
  readonly kind: 'group' | 'activity'
  readonly id: string
}

/** Number of every group and activity in the outline: "2", "2.1", "2.1.3"; made from the order, so it never has to be kept. */
export const outlineNumbers = (plan: Plan): ReadonlyMap<string, string> => {
  const numbers = new Map<string, string>()
  const children = outlineChildren(plan)
  const number = (parent: string | null, prefix: string): void =>
    (children.get(parent) ?? []).forEach(({ kind, id }, k) => {
      numbers.set(id, `${prefix}${k + 1}`)
      if (kind === 'group') number(id, `${prefix}${k + 1}.`)
    })
  number(null, '')
  return numbers
}

const setGroup = (id: string, group: string | null): Change => ({
  kind: 'set',
  list: 'activities',
  key: id,
  set: { group },
})
const setParent = (id: string, parent: string | null): Change => ({
  kind: 'set',
  list: 'groups',
  key: id,
  set: { parent },
})

/** Whether a group lies inside another, or is it. */
export const isWithin = (plan: Plan, group: string | null, ancestor: string): boolean => {
  const parents = new Map(plan.groups.map((g) => [g.id, g.parent]))
  for (let at = group; at !== null; at = parents.get(at) ?? null) if (at === ancestor) return true
  return false
}

/** The rows that are not inside another of the rows: moving a group takes what is in it along. */
const outermost = (plan: Plan, rows: readonly OutlineRow[]): OutlineRow[] => {
  const groups = rows.filter((r) => r.kind === 'group').map((r) => r.id)
  const groupOf = new Map(plan.activities.map((a) => [a.id, a.group]))
  const parentOf = new Map(plan.groups.map((g) => [g.id, g.parent]))
  return rows.filter((row) => {
    const owner = (row.kind === 'group' ? parentOf.get(row.id) : groupOf.get(row.id)) ?? null
    return !groups.some((g) => g !== row.id && isWithin(plan, owner, g))
  })
}

/** The group that a row would be taken into: the one that stands before it, or the next one for work with none before it. */
export const groupToIndentInto = (plan: Plan, row: OutlineRow): Group | null => {
  const siblings = siblingsOf(plan, ownerOf(plan, row))
  const at = siblings.findIndex(({ kind, id }) => kind === row.kind && id === row.id)
  const isGroup = (child: OutlineChild): boolean => child.kind === 'group' && child.id !== row.id
  const before = siblings.slice(0, at).findLast(isGroup)
  const found = before ?? (row.kind === 'activity' ? siblings.slice(at).find(isGroup) : undefined)
  return found?.kind === 'group' ? found.group : null
}

/** Takes rows into the group that stands before them in the outline, as its last. @returns null where there is none to go into */
export const indent = (plan: Plan, rows: readonly OutlineRow[]): Change | null => {
  const changes: Change[] = []
  for (const row of outermost(plan, rows)) {
    const into = groupToIndentInto(plan, row)
    if (!into) continue
    if (row.kind === 'group') {
      changes.push(setParent(row.id, into.id))
      continue
    }
    changes.push(setGroup(row.id, into.id))
    const last = plan.activities.findLastIndex(({ group }) => group === into.id)
    if (last > plan.activities.findIndex(({ id }) => id === row.id))
      changes.push({
        kind: 'move',
        list: 'activities',
        key: row.id,
        before: plan.activities[last + 1]?.id ?? null,
      })
  }
  return changes.length === 0 ? null : { kind: 'all', changes }
}

/** The group that a row stands in; null at the top. */
const ownerOf = (plan: Plan, row: OutlineRow): string | null =>
  (row.kind === 'group'
    ? plan.groups.find(({ id }) => id === row.id)?.parent
    : plan.activities.find(({ id }) => id === row.id)?.group) ?? null

/** Takes rows out of their group, to its owner. @returns null where all stand at the top already */
export const outdent = (plan: Plan, rows: readonly OutlineRow[]): Change | null => {
  const parentOf = new Map(plan.groups.map((g) => [g.id, g.parent]))
  const changes: Change[] = []
  for (const row of outermost(plan, rows)) {
    const owner =
      (row.kind === 'group' ? parentOf.get(row.id) : plan.activities.find((a) => a.id === row.id)?.group) ??
      null
    if (owner === null) continue
    const above = parentOf.get(owner) ?? null
    changes.push(row.kind === 'group' ? setParent(row.id, above) : setGroup(row.id, above))
  }
  return changes.length === 0 ? null : { kind: 'all', changes }
}

/**
 * Moves rows to before another row: activities before an activity join its group; onto a group they become its first.
 * @param target - the row to stand before; null for the end of the list, outside all groups
 * @returns null where it would change nothing, or put a group into itself
 */
export const moveRows = (
  plan: Plan,
  rows: readonly OutlineRow[],
  target: OutlineRow | null,
): Change | null => {
  const moved = outermost(plan, rows)
  const ids = new Set(moved.map((r) => r.id))
  if (target && ids.has(target.id)) return null
  const changes: Change[] = []
  const activity = target?.kind === 'activity' ? plan.activities.find((a) => a.id === target.id) : undefined
  for (const row of moved) {
    if (row.kind === 'activity') {
      const group = activity ? activity.group : (target?.id ?? null)
      const before = activity
        ? activity.id
        : (plan.activities.find((a) => a.group === group && !ids.has(a.id))?.id ?? null)
      if (plan.activities.find((a) => a.id === row.id)!.group !== group) changes.push(setGroup(row.id, group))
      changes.push({ kind: 'move', list: 'activities', key: row.id, before })
    } else {
      const beside = activity
        ? plan.groups.find((g) => g.id === activity.group)
        : plan.groups.find((g) => g.id === target?.id)
      if (beside && isWithin(plan, beside.id, row.id)) return null
      const parent = beside ? beside.parent : null
      if (plan.groups.find((g) => g.id === row.id)!.parent !== parent) changes.push(setParent(row.id, parent))
      changes.push({ kind: 'move', list: 'groups', key: row.id, before: beside?.id ?? null })
    }
  }
  return changes.length === 0 ? null : { kind: 'all', changes }
}

/**
 * Moves rows one place up or down among what stands beside them. Work and groups pass each other by the places of work in the plan;
 * what has no work of its own is passed by nothing that would need it.
 * @returns null at the end of the way
 */
export const shiftRows = (plan: Plan, rows: readonly OutlineRow[], by: 1 | -1): Change | null => {
  const changes: Change[] = []
  const moved = outermost(plan, rows)
  const ids = new Set(moved.map((r) => r.id))
  for (const owner of new Set(moved.map((row) => ownerOf(plan, row)))) {
    const siblings = siblingsOf(plan, owner)
    const places = siblings.flatMap(({ id }, at) => (ids.has(id) ? [at] : []))
    const neighbour = siblings[by < 0 ? places[0]! - 1 : places.at(-1)! + 1]
    if (!neighbour) continue
    const passing = places.map((at) => siblings[at]!)
    changes.push(...(by < 0 ? passed(plan, passing, [neighbour]) : passed(plan, [neighbour], passing)))
  }
  return changes.length === 0 ? null : { kind: 'all', changes }
}

/**
 * Puts rows before a block of their siblings. A group stands before its first work, so work is put before that; and work that a group
 * is put before goes to after that group's first work.
 */
const passed = (plan: Plan, rows: readonly OutlineChild[], block: readonly OutlineChild[]): Change[] => {
  const idAt = (index: number): string | null => plan.activities[index]?.id ?? null
  const changes: Change[] = []
  const toWork = (key: string, before: string | null): void =>
    void changes.push({ kind: 'move', list: 'activities', key, before })
  for (const row of rows) {
    const [first] = block
    if (row.kind === 'activity') {
      if (first!.kind === 'activity') toWork(row.id, first!.id)
      else if (first!.anchor !== Infinity) toWork(row.id, idAt(first!.anchor))
      continue
    }
    const other = block.find(({ kind }) => kind === 'group')
    if (other) changes.push({ kind: 'move', list: 'groups', key: row.id, before: other.id })
    if (row.anchor === Infinity) continue
    for (const follower of block.filter(({ kind }) => kind === 'activity').toReversed())
      toWork(follower.id, idAt(row.anchor + 1))
  }
  return changes
}

/**
 * Selected activities as rows. Where all of several groups is selected the groups are meant, as they stand between the rows that were
 * picked; all of one group alone may as well be meant as its work.
 */
export const selectedRows = (plan: Plan, ids: readonly string[]): OutlineRow[] => {
  if (ids.length < 2) return ids.map((id) => ({ kind: 'activity', id }))
  const selected = new Set(ids)
  const parentOf = new Map(plan.groups.map((g) => [g.id, g.parent]))
  /** Groups with work, and whether all of it is selected. */
  const whole = new Map<string, boolean>()
  for (const { id, group } of plan.activities) {
    const seen = new Set<string>()
    for (let at = group; at !== null && !seen.has(at); at = parentOf.get(at) ?? null) {
      seen.add(at)
      whole.set(at, (whole.get(at) ?? true) && selected.has(id))
    }
  }
  const isWhole = (id: string | null): boolean => id !== null && whole.get(id) === true
  const groups = plan.groups.filter(({ id, parent }) => isWhole(id) && !isWhole(parent))
  if (groups.length < 2) return ids.map((id) => ({ kind: 'activity', id }))
  const ownerOf = new Map(plan.activities.map((a) => [a.id, a.group]))
  return [
    ...groups.map(({ id }): OutlineRow => ({ kind: 'group', id })),
    ...ids
      .filter((id) => !isWhole(ownerOf.get(id) ?? null))
      .map((id): OutlineRow => ({ kind: 'activity', id })),
  ]
}

/**
 * Puts rows under a new group, which stands where the first of them stood. An activity that becomes a group this way keeps its duration, links and assignments:
 * it stays what it is and stands in the group.
 */
export const groupAround = (
  plan: Plan,
  rows: readonly OutlineRow[],
  name: string,
  random: () => number,
): { change: Change; group: string } => {
  const id = freshId(plan.groups, 'g', random)
  const moved = outermost(plan, rows)
  const first = moved[0]
  const owner =
    first?.kind === 'activity'
      ? plan.activities.find((a) => a.id === first.id)!.group
      : (plan.groups.find((g) => g.id === first?.id)?.parent ?? null)
  const item: Item = { id, code: '', name, parent: owner }
  const changes: Change[] = [
    {
      kind: 'add',
      list: 'groups',
      item,
      before: first?.kind === 'group' ? first.id : nextGroup(plan, first),
    },
  ]
  for (const row of moved) changes.push(row.kind === 'group' ? setParent(row.id, id) : setGroup(row.id, id))
  return { change: { kind: 'all', changes }, group: id }
}

/**
 * A new group without work, after a place in the list: beside the group that is selected or that the activity stands in, else at the top.
 * @param place - an activity, or a group; both null for the end of the list
 */
export const groupAfter = (
  plan: Plan,
  name: string,
  place: { readonly after: string | null; readonly group: string | null },
  random: () => number,
): { change: Change; group: string } => {
  const activity = plan.activities.find(({ id }) => id === place.after)
  const inside = activity ? activity.group : place.group
  const beside: OutlineRow | undefined =
    inside !== null ? { kind: 'group', id: inside } : activity && { kind: 'activity', id: activity.id }
  const id = freshId(plan.groups, 'g', random)
  const item: Item = { id, code: '', name, parent: beside ? ownerOf(plan, beside) : null }
  return { change: { kind: 'add', list: 'groups', item, before: nextGroup(plan, beside) }, group: id }
}

/** The group that follows a row among what stands beside it; null where none does. */
const nextGroup = (plan: Plan, row: OutlineRow | undefined): string | null => {
  if (!row) return null
  const siblings = siblingsOf(plan, ownerOf(plan, row))
  const at = siblings.findIndex(({ kind, id }) => kind === row.kind && id === row.id)
  return siblings.slice(at + 1).find(({ kind }) => kind === 'group')?.id ?? null
}

/** Removes a group and lets what is in it go up to its owner; a spread or factor that held for it holds for its activities. */
export const dissolveGroup = (plan: Plan, id: string): Change => {
  const owner = plan.groups.find((g) => g.id === id)?.parent ?? null
  const around = groupsAround(plan)
  const activities = plan.activities.filter((a) => around(a.group).includes(id)).map((a) => a.id)
  const changes: Change[] = [
    ...(['spreads', 'factors'] as const).flatMap((list) =>
      plan[list]
        .filter(({ scope }) => scope.group === id)
        .map(({ id: key }): Change => ({ kind: 'set', list, key, set: { scope: { activities } } })),
    ),
    ...plan.activities.filter((a) => a.group === id).map((a) => setGroup(a.id, owner)),
    ...plan.groups.filter((g) => g.parent === id).map((g) => setParent(g.id, owner)),
    { kind: 'remove', list: 'groups', key: id },
  ]
  return { kind: 'all', changes }
}
