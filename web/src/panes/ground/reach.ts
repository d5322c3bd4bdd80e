import type { Link } from '@geodrome/core'

/** Everything upstream and downstream of an activity, itself included in both. O(links). */
export const reachOf = (links: readonly Pick<Link, 'from' | 'to'>[], focus: string): { up: ReadonlySet<string>; down: ReadonlySet<string> } => {
  const before = new Map<string, string[]>()
  const after = new Map<string, string[]>()
  const put = (map: Map<string, string[]>, key: string, value: string): void => {
    const list = map.get(key)
    if (list) list.push(value)
    else map.set(key, [value])
  }
  for (const { from, to } of links) {
    put(after, from, to)
    put(before, to, from)
  }
  const reach = (map: ReadonlyMap<string, readonly string[]>): Set<string> => {
    const found = new Set([focus])
    const stack = [focus]
    while (stack.length > 0)
      for (const next of map.get(stack.pop()!) ?? []) {
        if (found.has(next)) continue
        found.add(next)
        stack.push(next)
      }
    return found
  }
  return { up: reach(before), down: reach(after) }
}
