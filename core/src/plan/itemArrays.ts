import { keyOf, type Item } from './change.ts'
import type { ListName } from './fields.ts'
import type { ItemList, PlanItems } from './interpretChange.ts'
import { keepLinkEnds, keepPositions } from './positions.ts'
import type { Activity, Link, Plan } from './schema.ts'

/**
 * The items of a plan as arrays that are copied at each change: O(items of the list), with the least work for one change, since what
 * is known of the earlier list (positions, link ends) goes over to the new one.
 */
export class ItemArrays implements PlanItems {
  project: Plan['project']
  private readonly plan: Plan
  private readonly lists = new Map<ListName, ItemArray>()

  constructor(plan: Plan) {
    this.plan = plan
    this.project = plan.project
  }
  list(name: ListName): ItemArray {
    let list = this.lists.get(name)
    if (!list) this.lists.set(name, (list = new ItemArray(name, this.plan[name])))
    return list
  }
  /** The plan as it is now; lists that were not asked for keep their identity. */
  toPlan(): Plan {
    const { project } = this
    const lists = Object.fromEntries([...this.lists].map(([name, list]) => [name, list.items]))
    return { ...this.plan, project, ...lists }
  }
}

/** Most lists are of things with an id: looked for among tens of thousands, that is asked for directly. */
const placeIn = (items: readonly Item[], list: ListName, key: string): number => {
  if (list === 'assignments' || list === 'acceptances')
    return items.findIndex((item) => keyOf(list, item) === key)
  for (let at = 0; at < items.length; at++) if (items[at]!.id === key) return at
  return -1
}

/** Copying whole and then shifting is several times quicker than `toSpliced`. */
class ItemArray implements ItemList {
  items: readonly Item[]
  private readonly name: ListName
  /** The last item asked for: it is asked for again at once. */
  private lastKey: string | null = null
  private lastPlace = -1

  constructor(name: ListName, items: readonly Item[]) {
    this.name = name
    this.items = items
  }
  get size(): number {
    return this.items.length
  }
  has(key: string): boolean {
    return this.place(key) >= 0
  }
  get(key: string): Item {
    return this.items[this.place(key)]!
  }
  place(key: string): number {
    if (this.lastKey === key) return this.lastPlace
    this.lastKey = key
    return (this.lastPlace = placeIn(this.items, this.name, key))
  }
  replace(key: string, item: Item): void {
    const before = this.items
    this.items = before.with(this.place(key), item)
    if (this.name === 'activities')
      keepPositions(before as readonly Activity[], this.items as readonly Activity[])
  }
  put(_key: string, item: Item, before: string | null): void {
    const at = before === null ? this.size : this.place(before)
    const items = this.items.slice()
    items.splice(at, 0, item)
    this.become(items, at, 1)
  }
  take(key: string): string | null {
    const at = this.place(key)
    const following = this.items[at + 1]
    const items = this.items.slice()
    items.splice(at, 1)
    this.become(items, at, -1)
    return following ? keyOf(this.name, following) : null
  }
  move(key: string, before: string | null): string | null {
    const at = this.place(key)
    const item = this.items[at]!
    const following = this.items[at + 1]
    const items = this.items.slice()
    items.splice(at, 1)
    items.splice(before === null ? items.length : placeIn(items, this.name, before), 0, item)
    this.items = items
    this.lastKey = null
    return following ? keyOf(this.name, following) : null
  }
  private become(items: readonly Item[], at: number, by: 1 | -1): void {
    if (this.name === 'links')
      keepLinkEnds(this.items as unknown as Link[], items as unknown as Link[], at, by)
    this.items = items
    this.lastKey = null
  }
}
