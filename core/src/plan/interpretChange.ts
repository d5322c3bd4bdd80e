import { filledIn, keyOf, MAX_KEY, shapeItem, shapeProject, type Change, type Item } from './change.ts'
import { LISTS, type ListName } from './fields.ts'
import { PlanError, pointer } from './issue.ts'
import { earlier, refuse, shaped, withFields } from './itemFields.ts'
import type { Plan } from './schema.ts'

/** One list of the plan while changes are made to it. Items are named by their keys, which are unique. */
export interface ItemList {
  readonly size: number
  has(key: string): boolean
  /** The item with a key that the list has. */
  get(key: string): Item
  /** Where the item with a key stands. */
  place(key: string): number
  replace(key: string, item: Item): void
  /** Puts a new item before another, or at the end (null). */
  put(key: string, item: Item, before: string | null): void
  /** Takes an item out. @returns the key of what stood after it, null at the end */
  take(key: string): string | null
  /** Moves an item to before another, or to the end (null). @returns the key of what stood after it before */
  move(key: string, before: string | null): string | null
}

/** A plan while changes are made to it. */
export interface PlanItems {
  project: Plan['project']
  list(name: ListName): ItemList
}

/**
 * Makes a change to the items of a plan: the one meaning of each kind of change.
 * @returns the change that takes it back, byte for byte
 * @throws PlanError if it does not fit; what was made of it by then is to be thrown away
 */
export const interpretChange = (items: PlanItems, change: Change): Change => {
  switch (change.kind) {
    case 'project': {
      const { project } = items
      items.project = shaped('/project', () => shapeProject(withFields(project, change.set)))
      return { kind: 'project', set: earlier(project, change.set) }
    }
    case 'set': {
      const { list, key, set } = change
      const in_ = items.list(list)
      const item = known(in_, list, key)
      const next = shapedAt(list, () => in_.place(key), withFields(item, set))
      if (keyOf(list, next) !== key)
        refuse(pointer(list, in_.place(key), 'id'), 'an identity never changes; add a new item instead')
      in_.replace(key, next)
      return { kind: 'set', list, key, set: earlier(item, set) }
    }
    case 'add': {
      const { list, before } = change
      const in_ = items.list(list)
      const item = shapedAt(list, () => in_.size, filledIn(list, change.item))
      const key = keyOf(list, item)
      if (key.length > MAX_KEY) throw overlong(list, in_.size)
      if (in_.has(key)) throw duplicate(list, in_.size, key)
      if (before !== null) known(in_, list, before)
      in_.put(key, item, before)
      return { kind: 'remove', list, key }
    }
    case 'remove': {
      const { list, key } = change
      const in_ = items.list(list)
      const item = known(in_, list, key)
      return { kind: 'add', list, item, before: in_.take(key) }
    }
    case 'move': {
      const { list, key, before } = change
      const in_ = items.list(list)
      known(in_, list, key)
      if (before === key || (before !== null && !in_.has(before)))
        refuse(pointer(list), `there is no "${before}" in ${list} to stand before`)
      return { kind: 'move', list, key, before: in_.move(key, before) }
    }
    case 'all':
      return { kind: 'all', changes: change.changes.map((part) => interpretChange(items, part)).reverse() }
  }
}

const known = (in_: ItemList, list: ListName, key: string): Item =>
  in_.has(key) ? in_.get(key) : refuse(pointer(list), `there is no "${key}" in ${list} any more`, [key])

const duplicate = (list: ListName, place: number, key: string): PlanError =>
  new PlanError([
    {
      pointer: pointer(list, place, 'id'),
      code: 'duplicate-id',
      message: `"${key}" is in ${list} already; give it another id`,
      ids: [key],
    },
  ])

const overlong = (list: ListName, place: number): PlanError =>
  new PlanError([
    {
      pointer: pointer(list, place),
      code: 'too-large',
      message: `what names this ${LISTS[list].one} is longer than ${MAX_KEY} letters; shorten it`,
    },
  ])

const shapedAt = (list: ListName, place: () => number, item: Item): Item => {
  try {
    return shapeItem(list, item)
  } catch {
    // Said once more with the place, which may take a walk through the list.
    return shaped(pointer(list, place()), () => shapeItem(list, item))
  }
}
