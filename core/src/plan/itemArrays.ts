import { keyOf, type Item } from './change.ts'
import { isKeyedById, type ListName } from './fields.ts'
import { PlanInWork, type WorkedList } from './planInWork.ts'
import { keepLinkEnds, keepPositions } from './positions.ts'
import type { Activity, Link, Plan } from './schema.ts'

/**
 * The items of a plan as arrays that are copied at each change: O(items of the list), with the least work for one change, since what
 * is known of the earlier list (positions, link ends) goes over to the new one.
 */
export const itemArrays = (plan: Plan): PlanInWork =>
  new PlanInWork(plan, (name, items) => new ItemArray(name, items))

/** Most lists are of things with an id: looked for among tens of thousands, that is asked for directly. */
const placeIn = (items: readonly Item[], list: ListName, key: string): number => {
  if (!isKeyedById(list)) return items.findIndex((item) => keyOf(list, item) === key)
  for (let at = 0; at < items.length; at++) if (items[at]!.id === key) return at
  return -1
}

/** Copying whole and then shifting is several times quicker than `toSpliced`. */
class ItemArray implements WorkedList {
  private held: readonly Item[]
  private readonly name: ListName
  /** The last item asked for: it is asked for again at once. */
  private lastKey: string | null = null
  private lastPlace = -1

  constructor(name: ListName, items: readonly Item[]) {
    this.name = name
    this.held = items
  }
  items(): readonly Item[] {
    return this.held
  }
  get size(): number {
    return this.held.length
  }
  has(key: string): boolean {
    return this.place(key) >= 0
  }
  get(key: string): Item {
    return this.held[this.place(key)]!
  }
  place(key: string): number {
    if (this.lastKey === key) return this.lastPlace
    this.lastKey = key
    return (this.lastPlace = placeIn(this.held, this.name, key))
  }
  replace(key: string, item: Item): void {
    const before = this.held
    this.held = before.with(this.place(key), item)
    if (this.name === 'activities')
      keepPositions(before as readonly Activity[], this.held as readonly Activity[])
  }
  put(_key: string, item: Item, before: string | null): void {
    const at = before === null ? this.size : this.place(before)
    const items = this.held.slice()
    items.splice(at, 0, item)
    this.become(items, at, 1)
  }
  take(key: string): string | null {
    const at = this.place(key)
    const following = this.held[at + 1]
    const items = this.held.slice()
    items.splice(at, 1)
    this.become(items, at, -1)
    return following ? keyOf(this.name, following) : null
  }
  move(key: string, before: string | null): string | null {
    const at = this.place(key)
    const item = this.held[at]!
    const following = this.held[at + 1]
    const items = this.held.slice()
    items.splice(at, 1)
    items.splice(before === null ? items.length : placeIn(items, this.name, before), 0, item)
    this.held = items
    this.lastKey = null
    return following ? keyOf(this.name, following) : null
  }
  private become(items: readonly Item[], at: number, by: 1 | -1): void {
    if (this.name === 'links')
      keepLinkEnds(this.held as unknown as Link[], items as unknown as Link[], at, by)
    this.held = items
    this.lastKey = null
  }
}
