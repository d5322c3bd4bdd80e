import { has, reachOf, type Arrow, type ArrowMap, type Bits, type DrawnLink } from './arrowMap.ts'

/** Ids of links of a folded network that stand for part of a folded group begin so. */
export const PART = 'part:'

/**
 * A network in which folded groups are drawn as one arrow each, from the earliest start in them to their latest finish. It says what
 * is true of them and no more: "after" where all that is in the one comes before all that is in the other, by way of whatever; and
 * where only some of it does, a link of its own ({@link PART}) between the edges for which that holds: the start of a folded group
 * comes before what follows part of it, and what part of it waits for comes before its finish.
 * @param n - number of activities
 * @param unit - per activity, the unit that it is drawn as: itself, or its folded group; 0 … units − 1
 * @param links - links among activities by position, without loops
 * @returns links among the units by number, without loops; those between two activities that are drawn themselves keep their ids
 */
export const foldedNetwork = (
  n: number,
  unit: ArrayLike<number>,
  units: number,
  links: readonly (Omit<DrawnLink, 'from' | 'to'> & { readonly from: number; readonly to: number })[],
): DrawnLink[] => {
  const isPlain = (l: { readonly type: string; readonly lag: number }): boolean =>
    l.type === 'FS' && l.lag === 0
  const after: number[][] = Array.from({ length: n }, () => [])
  for (const link of links) if (isPlain(link)) after[link.from]!.push(link.to)
  const reach = reachOf(n, after)
  const members: number[][] = Array.from({ length: units }, () => [])
  for (let i = 0; i < n; i++) members[unit[i]!]!.push(i)
  /** What comes after all that is in a unit. */
  const behind = members.map((list): Bits => {
    const all = reach[list[0]!]!.slice()
    for (const i of list) for (let w = 0; w < all.length; w++) all[w]! &= reach[i]![w]!
    return all
  })
  const isWhole = (u: number, v: number): boolean => members[v]!.every((i) => has(behind[u]!, i))
  const found: DrawnLink[] = []
  for (const [u, list] of directly(units, isWhole).entries())
    for (const v of list)
      found.push({ id: `whole:${u}|${v}`, from: String(u), to: String(v), type: 'FS', lag: 0 })
  /** Whether one link at least says for sure that the one edge does not come before the other: a lead does not. */
  const parts = new Map<string, boolean>()
  for (const link of links) {
    const [u, v] = [unit[link.from]!, unit[link.to]!]
    if (u === v || (isPlain(link) && isWhole(u, v))) continue
    const [isGroup, toGroup] = [members[u]!.length > 1, members[v]!.length > 1]
    if (!isGroup && !toGroup) found.push({ ...link, from: String(u), to: String(v) })
    else if (!isWhole(u, v)) {
      // Of a group the outer edges; of an activity the one that the link is tied to.
      const key = `${u}|${v}|${isGroup ? 'S' : link.type[0]}${toGroup ? 'F' : link.type[1]}`
      parts.set(key, link.lag >= 0 || parts.get(key) === true)
    }
  }
  for (const [key, isSure] of parts) {
    const [u, v, type] = key.split('|') as [string, string, 'SS']
    found.push({ id: `${PART}${u}|${v}`, from: u, to: v, type, lag: isSure ? 0 : -1 })
  }
  return found
}

/** Of an order of all units, the pairs that no unit between them implies. */
const directly = (units: number, comesBefore: (u: number, v: number) => boolean): number[][] => {
  const words = (units + 31) >> 5
  const all = Array.from({ length: units }, (_, u): Bits => {
    const bits = new Uint32Array(words)
    for (let v = 0; v < units; v++) if (u !== v && comesBefore(u, v)) bits[v >> 5]! |= 1 << (v & 31)
    return bits
  })
  return all.map((bits) => {
    const direct = bits.slice()
    const list: number[] = []
    for (let v = 0; v < units; v++)
      if (has(bits, v)) for (let w = 0; w < words; w++) direct[w]! &= ~all[v]![w]!
    for (let v = 0; v < units; v++) if (has(direct, v)) list.push(v)
    return list
  })
}

/**
 * A drawing without the links of parts of folded groups that it says anyhow: where other arrows lead from the one event to the other.
 * @returns the drawing, and how many were left out
 */
export const withoutImpliedParts = (map: ArrowMap): { readonly map: ArrowMap; readonly leftOut: number } => {
  const out = map.events.map((): Set<Arrow> => new Set())
  for (const arrow of map.arrows) out[arrow.from]!.add(arrow)
  const leadsOtherwise = (part: Arrow): boolean => {
    const seen = new Set([part.from])
    for (const event of seen)
      for (const arrow of out[event]!) {
        if (arrow === part || !arrow.isSure || arrow.to > part.to) continue
        if (arrow.to === part.to) return true
        seen.add(arrow.to)
      }
    return false
  }
  const left = new Set<Arrow>()
  for (const arrow of map.arrows)
    if (arrow.link?.startsWith(PART) && leadsOtherwise(arrow)) {
      left.add(arrow)
      out[arrow.from]!.delete(arrow)
    }
  return { map: { ...map, arrows: map.arrows.filter((arrow) => !left.has(arrow)) }, leftOut: left.size }
}
