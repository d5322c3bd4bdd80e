import { keyOf, type Item } from './change.ts'
import type { ListName } from './fields.ts'
import { PlanInWork, type WorkedList } from './planInWork.ts'
import type { Plan } from './schema.ts'

/** The items of a plan as chains: O(items of the lists touched) once, then O(1) a change however long a list is. */
export const itemChains = (plan: Plan): PlanInWork =>
  new PlanInWork(plan, (name, items) => new ItemChain(name, items))

interface Node {
  item: Item
  readonly key: string
  before: Node | null
  after: Node | null
}

class ItemChain implements WorkedList {
  private readonly nodes = new Map<string, Node>()
  private first: Node | null = null
  private last: Node | null = null

  constructor(name: ListName, items: readonly Item[]) {
    for (const item of items) this.put(keyOf(name, item), item, null)
  }
  get size(): number {
    return this.nodes.size
  }
  has(key: string): boolean {
    return this.nodes.has(key)
  }
  get(key: string): Item {
    return this.node(key).item
  }
  /** By a walk through the list: only for saying where something is wrong. */
  place(key: string): number {
    let place = 0
    for (let at = this.node(key).before; at; at = at.before) place++
    return place
  }
  replace(key: string, item: Item): void {
    this.node(key).item = item
  }
  put(key: string, item: Item, before: string | null): void {
    const node: Node = { item, key, before: null, after: null }
    this.nodes.set(key, node)
    this.join(node, before)
  }
  take(key: string): string | null {
    const node = this.node(key)
    this.nodes.delete(key)
    return this.part(node)
  }
  move(key: string, before: string | null): string | null {
    const node = this.node(key)
    const after = this.part(node)
    this.join(node, before)
    return after
  }
  items(): Item[] {
    const items: Item[] = []
    for (let at = this.first; at; at = at.after) items.push(at.item)
    return items
  }
  private node(key: string): Node {
    return this.nodes.get(key)!
  }
  private join(node: Node, beforeKey: string | null): void {
    const after = beforeKey === null ? null : this.node(beforeKey)
    node.after = after
    node.before = after ? after.before : this.last
    if (node.before) node.before.after = node
    else this.first = node
    if (after) after.before = node
    else this.last = node
  }
  private part({ before, after }: Node): string | null {
    if (before) before.after = after
    else this.first = after
    if (after) after.before = before
    else this.last = before
    return after?.key ?? null
  }
}
