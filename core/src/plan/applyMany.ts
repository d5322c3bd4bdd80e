import type { Applied } from './applyChange.ts'
import { keyOf, shapeItem, shapeProject, type Change, type Item, type ListName } from './change.ts'
import { PlanError, pointer } from './issue.ts'
import { earlier, refuse, shaped, withFields } from './itemFields.ts'
import type { Plan } from './schema.ts'

interface Node {
  item: Item
  key: string
  before: Node | null
  after: Node | null
}

/** A list of the plan as a chain: items are found, put in, taken out and moved in O(1). Made from a list in O(n). */
class Chain {
  private readonly list: ListName
  private readonly nodes = new Map<string, Node>()
  private first: Node | null = null
  private last: Node | null = null

  constructor(list: ListName, items: readonly Item[]) {
    this.list = list
    for (const item of items) this.put(keyOf(list, item), item, null)
  }
  has(key: string): boolean {
    return this.nodes.has(key)
  }
  find(key: string): Node {
    return (
      this.nodes.get(key) ??
      refuse(pointer(this.list), `there is no "${key}" in ${this.list} any more`, [key])
    )
  }
  /** Where an item stands; only for saying where something is wrong. */
  place(node: Node): number {
    let place = 0
    for (let at = node.before; at; at = at.before) place++
    return place
  }
  put(key: string, item: Item, before: Node | null): void {
    const node: Node = { item, key, before: null, after: null }
    this.nodes.set(key, node)
    this.tie(node, before)
  }
  /** @returns what stood after it */
  take(node: Node): Node | null {
    this.nodes.delete(node.key)
    return this.untie(node)
  }
  move(node: Node, before: Node | null): Node | null {
    const after = this.untie(node)
    this.tie(node, before)
    return after
  }
  get size(): number {
    return this.nodes.size
  }
  items(): Item[] {
    const items: Item[] = []
    for (let at = this.first; at; at = at.after) items.push(at.item)
    return items
  }
  private tie(node: Node, before: Node | null): void {
    node.after = before
    node.before = before ? before.before : this.last
    if (node.before) node.before.after = node
    else this.first = node
    if (before) before.before = node
    else this.last = node
  }
  private untie(node: Node): Node | null {
    const { before, after } = node
    if (before) before.after = after
    else this.first = after
    if (after) after.before = before
    else this.last = before
    return after
  }
}

/**
 * Applies many changes one after the other as if each were applied alone. O(items of the lists touched + changes).
 * @throws PlanError if one of them does not fit
 */
export const applyMany = (plan: Plan, changes: readonly Change[]): Applied => {
  const chains = new Map<ListName, Chain>()
  const chainOf = (list: ListName): Chain => {
    let chain = chains.get(list)
    if (!chain) chains.set(list, (chain = new Chain(list, plan[list] as readonly Item[])))
    return chain
  }
  let { project } = plan
  const apply = (change: Change): Change => {
    switch (change.kind) {
      case 'all':
        return { kind: 'all', changes: change.changes.map(apply).reverse() }
      case 'project': {
        const inverse: Change = { kind: 'project', set: earlier(project, change.set) }
        project = shaped('/project', () => shapeProject(withFields(project, change.set)))
        return inverse
      }
      case 'set': {
        const { list, key, set } = change
        const node = chainOf(list).find(key)
        const next = shapedAt(list, () => chainOf(list).place(node), withFields(node.item, set))
        if (keyOf(list, next) !== key)
          refuse(
            pointer(list, chainOf(list).place(node), 'id'),
            'an identity never changes; add a new item instead',
          )
        const inverse: Change = { kind: 'set', list, key, set: earlier(node.item, set) }
        node.item = next
        return inverse
      }
      case 'add': {
        const { list, item, before } = change
        const chain = chainOf(list)
        const next = shapedAt(list, () => chain.size, item)
        const key = keyOf(list, next)
        if (chain.has(key))
          throw new PlanError([
            {
              pointer: pointer(list, chain.size, 'id'),
              code: 'duplicate-id',
              message: `"${key}" is in ${list} already; give it another id`,
              ids: [key],
            },
          ])
        chain.put(key, next, before === null ? null : chain.find(before))
        return { kind: 'remove', list, key }
      }
      case 'remove': {
        const { list, key } = change
        const node = chainOf(list).find(key)
        const following = chainOf(list).take(node)
        return { kind: 'add', list, item: node.item, before: following?.key ?? null }
      }
      case 'move': {
        const { list, key, before } = change
        const chain = chainOf(list)
        const node = chain.find(key)
        if (before === key || (before !== null && !chain.has(before)))
          refuse(pointer(list), `there is no "${before}" in ${list} to stand before`)
        const following = chain.move(node, before === null ? null : chain.find(before))
        return { kind: 'move', list, key, before: following?.key ?? null }
      }
    }
  }
  const inverses = changes.map(apply).reverse()
  const lists = Object.fromEntries([...chains].map(([list, chain]) => [list, chain.items()]))
  return { plan: { ...plan, project, ...lists } as Plan, inverse: { kind: 'all', changes: inverses } }
}

const shapedAt = (list: ListName, place: () => number, item: Item): Item => {
  try {
    return shapeItem(list, item)
  } catch {
    // Said once more with the place, which takes a walk through the list.
    return shaped(pointer(list, place()), () => shapeItem(list, item))
  }
}
