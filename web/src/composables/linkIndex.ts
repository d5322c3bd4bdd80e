import type { Link } from '@geodrome/core'

/** Look-ups over the links of a plan, made once for each list of links: edits of activities keep the list, and so the look-ups. */
export interface LinkIndex {
  /** Links into an activity, out of it, by its id. */
  readonly into: ReadonlyMap<string, readonly Link[]>
  readonly out: ReadonlyMap<string, readonly Link[]>
  /** Position of a link in the list, by its id. */
  readonly position: ReadonlyMap<string, number>
}

const made = new WeakMap<readonly Link[], LinkIndex>()

export const linkIndex = (links: readonly Link[]): LinkIndex => {
  const known = made.get(links)
  if (known) return known
  const [into, out, position] = [
    new Map<string, Link[]>(),
    new Map<string, Link[]>(),
    new Map<string, number>(),
  ]
  const put = (map: Map<string, Link[]>, key: string, link: Link): void => {
    const list = map.get(key)
    if (list) list.push(link)
    else map.set(key, [link])
  }
  links.forEach((link, k) => {
    put(into, link.to, link)
    put(out, link.from, link)
    position.set(link.id, k)
  })
  const index = { into, out, position }
  made.set(links, index)
  return index
}

export interface Reach {
  readonly up: ReadonlySet<string>
  readonly down: ReadonlySet<string>
}
let latest: { links: readonly Link[]; focus: string; reach: Reach } | null = null

/** Everything upstream and downstream of an activity, itself included in both. O(links), once for each selection. */
export const reachOf = (links: readonly Link[], focus: string): Reach => {
  if (latest?.links === links && latest.focus === focus) return latest.reach
  const { into, out } = linkIndex(links)
  const walk = (map: ReadonlyMap<string, readonly Link[]>, end: 'from' | 'to'): Set<string> => {
    const found = new Set([focus])
    const stack = [focus]
    while (stack.length > 0)
      for (const link of map.get(stack.pop()!) ?? []) {
        if (found.has(link[end])) continue
        found.add(link[end])
        stack.push(link[end])
      }
    return found
  }
  latest = { links, focus, reach: { up: walk(into, 'from'), down: walk(out, 'to') } }
  return latest.reach
}

/** The activities nearest to one, counted in links either way, itself first; at most so many. */
export const nearestTo = (links: readonly Link[], focus: string, most: number): string[] => {
  const { into, out } = linkIndex(links)
  const found = new Set([focus])
  // A set that grows while it is walked is walked to its end: breadth first.
  for (const id of found) {
    for (const other of [
      ...(into.get(id) ?? []).map((l) => l.from),
      ...(out.get(id) ?? []).map((l) => l.to),
    ]) {
      if (found.size >= most) return [...found]
      found.add(other)
    }
  }
  return [...found]
}
