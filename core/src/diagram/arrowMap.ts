import type { Link } from '../plan/schema.ts'

/** What a drawing needs to know of a link. */
export type DrawnLink = Pick<Link, 'id' | 'from' | 'to' | 'type' | 'lag'>

/** An activity-on-arrow drawing: events joined by arrows. */
export interface ArrowMap {
  /** Events in an order in which every arrow leads to a later one. */
  readonly events: readonly ArrowEvent[]
  readonly arrows: readonly Arrow[]
}
export interface ArrowEvent {
  /** Activities that end here, and that begin here, by id. */
  readonly ends: readonly string[]
  readonly begins: readonly string[]
}
export interface Arrow {
  /** 'work': an activity; 'dummy': order alone, no time; 'wait': a link that is not a plain finish-to-start, with its type and lag. */
  readonly kind: 'work' | 'dummy' | 'wait'
  readonly activity: string | null
  readonly link: string | null
  /** Positions in `events`. */
  readonly from: number
  readonly to: number
}

interface Edge {
  kind: Arrow['kind']
  activity: string | null
  link: string | null
  from: number
  to: number
}

/**
 * Draws activities as arrows between numbered events, with dashed dummies only where order cannot be said without one: no dummy of
 * the result can be taken out or shrunk to a point without changing which activity waits for which (or without giving two
 * activities the same pair of events).
 *
 * The rule for other links: a plain FS link without lag is said by events and dummies. Every other link (FS with a lag, SS, FF, SF)
 * is an arrow of its own, drawn dotted, from the start or finish event of the one activity to that of the other, and carries its lag.
 *
 * Minimising dummies exactly is NP-hard (Krishnamoorthy and Deo 1979); this follows the usual course — implied links left out,
 * events from equal sets of predecessors and of successors, shared sets pulled through one event — and then takes out what can go.
 * @param ids - the activities, hammocks left out
 * @param links - links among them, without loops
 */
export const arrowMap = (ids: readonly string[], links: readonly DrawnLink[]): ArrowMap => {
  const position = new Map(ids.map((id, i) => [id, i]))
  const known = links.filter((l) => position.has(l.from) && position.has(l.to))
  const isPlain = (l: DrawnLink): boolean => l.type === 'FS' && l.lag === 0
  const drawing = new Drawing(ids)
  const plain = reduced(ids.length, known.filter(isPlain).map((l): [number, number] => [position.get(l.from)!, position.get(l.to)!]))
  for (const [from, to] of plain) drawing.add({ kind: 'dummy', activity: null, link: null, from: finishNode(from), to: startNode(to) })
  for (const link of known.filter((l) => !isPlain(l))) {
    const [from, to] = [position.get(link.from)!, position.get(link.to)!]
    const out = link.type === 'SS' || link.type === 'SF' ? startNode(from) : finishNode(from)
    const into = link.type === 'FF' || link.type === 'SF' ? finishNode(to) : startNode(to)
    drawing.add({ kind: 'wait', activity: null, link: link.id, from: out, to: into })
  }
  drawing.joinSources()
  drawing.joinEqual()
  drawing.shareSubsets()
  drawing.simplify()
  return drawing.finish()
}

const startNode = (i: number): number => 2 * i
const finishNode = (i: number): number => 2 * i + 1

/** The links that no chain of others implies. */
const reduced = (n: number, pairs: readonly (readonly [number, number])[]): (readonly [number, number])[] => {
  const after: Set<number>[] = Array.from({ length: n }, () => new Set())
  for (const [from, to] of pairs) after[from]!.add(to)
  const reach = reachOf(n, after)
  return after.flatMap((list, from) => [...list].filter((to) => ![...list].some((via) => via !== to && has(reach[via]!, to))).map((to): [number, number] => [from, to]))
}

export type Bits = Uint32Array
export const has = (bits: Bits, i: number): boolean => (bits[i >> 5]! & (1 << (i & 31))) !== 0
const put = (bits: Bits, i: number): void => void (bits[i >> 5]! |= 1 << (i & 31))

/** What each node leads to, itself left out. */
export const reachOf = (n: number, after: readonly Iterable<number>[]): Bits[] => {
  const words = (n + 31) >> 5
  const reach: (Bits | null)[] = new Array<Bits | null>(n).fill(null)
  for (let root = 0; root < n; root++) {
    const stack = [root]
    while (stack.length > 0) {
      const i = stack.at(-1)!
      if (reach[i]) {
        stack.pop()
        continue
      }
      const missing = [...after[i]!].filter((j) => !reach[j])
      if (missing.length > 0) {
        stack.push(...missing)
        continue
      }
      const bits = new Uint32Array(words)
      for (const j of after[i]!) {
        put(bits, j)
        const theirs = reach[j]!
        for (let w = 0; w < words; w++) bits[w]! |= theirs[w]!
      }
      reach[i] = bits
      stack.pop()
    }
  }
  return reach as Bits[]
}

class Drawing {
  private edges: Edge[]
  private readonly nodes: number

  constructor(ids: readonly string[]) {
    this.nodes = 2 * ids.length
    this.edges = ids.map((id, i): Edge => ({ kind: 'work', activity: id, link: null, from: startNode(i), to: finishNode(i) }))
  }
  add(edge: Edge): void {
    this.edges.push(edge)
  }
  private merge(a: number, b: number): void {
    for (const edge of this.edges) {
      if (edge.from === b) edge.from = a
      if (edge.to === b) edge.to = a
    }
    const seen = new Set<string>()
    this.edges = this.edges.filter((edge) => {
      if (edge.kind !== 'dummy') return true
      const key = `${edge.from}|${edge.to}`
      if (edge.from === edge.to || seen.has(key)) return false
      seen.add(key)
      return true
    })
  }
  private ends(side: 'from' | 'to'): Map<number, Edge[]> {
    const map = new Map<number, Edge[]>()
    for (const edge of this.edges) {
      const list = map.get(edge[side])
      if (list) list.push(edge)
      else map.set(edge[side], [edge])
    }
    return map
  }

  /** All that waits for nothing begins at one event; all that nothing waits for ends at one. */
  joinSources(): void {
    const [outs, ins] = [this.ends('from'), this.ends('to')]
    const starts = [...outs.keys()].filter((node) => !ins.has(node))
    const finishes = [...ins.keys()].filter((node) => !outs.has(node))
    for (const node of starts.slice(1)) this.merge(starts[0]!, node)
    for (const node of finishes.slice(1)) this.join(node, finishes[0]!)
  }

  /** Makes a node one with another; where two activities could then not be told apart, a dummy leads there instead. */
  private join(node: number, into: number): void {
    if (this.isFree(into, node)) this.merge(into, node)
    else this.edges.push({ kind: 'dummy', activity: null, link: null, from: node, to: into })
  }

  /** Whether merging two nodes leaves every pair of work arrows distinguishable. */
  private isFree(a: number, b: number): boolean {
    const pairs = new Set<string>()
    const at = (node: number): number => (node === b ? a : node)
    for (const edge of this.edges) {
      if (edge.kind === 'dummy') continue
      const key = `${at(edge.from)}|${at(edge.to)}`
      if (at(edge.from) === at(edge.to) || pairs.has(key)) return false
      pairs.add(key)
    }
    return true
  }

  /** Start events that wait for the same become one, finish events that lead to the same too; or one leads to the other. */
  joinEqual(): void {
    for (let again = true; again; ) {
      again = false
      for (const side of ['to', 'from'] as const) {
        const other = side === 'to' ? 'from' : 'to'
        const bySet = new Map<string, number>()
        for (const [node, edges] of this.ends(side)) {
          if (edges.some((edge) => edge.kind !== 'dummy')) continue
          const key = edges.map((edge) => edge[other]).sort((a, b) => a - b).join(',')
          const same = bySet.get(key)
          if (same === undefined) {
            bySet.set(key, node)
            continue
          }
          if (!this.isFree(same, node)) {
            if (edges.length === 1) continue
            this.edges = this.edges.filter((edge) => !edges.includes(edge))
            this.edges.push({ kind: 'dummy', activity: null, link: null, from: side === 'to' ? same : node, to: side === 'to' ? node : same })
          } else this.merge(same, node)
          again = true
          break
        }
        if (again) break
      }
    }
  }

  /** Where one event waits for all that another waits for, and more, it waits for that event instead. */
  shareSubsets(): void {
    for (let again = true; again; ) {
      again = false
      const sets = [...this.ends('to')].filter(([, edges]) => edges.length > 1 && edges.every((edge) => edge.kind === 'dummy')).map(([node, edges]) => ({ node, set: new Set(edges.map((edge) => edge.from)) }))
      sets.sort((a, b) => b.set.size - a.set.size)
      for (const big of sets) {
        const small = sets.find((s) => s.node !== big.node && s.set.size > 1 && s.set.size < big.set.size && [...s.set].every((node) => big.set.has(node)))
        if (!small) continue
        this.edges = this.edges.filter((edge) => !(edge.kind === 'dummy' && edge.to === big.node && small.set.has(edge.from)))
        this.edges.push({ kind: 'dummy', activity: null, link: null, from: small.node, to: big.node })
        again = true
        break
      }
    }
  }

  /** Takes out every dummy that can go: said by another way round, or shrunk to a point without a new order. */
  simplify(): void {
    for (let again = true; again; ) {
      again = false
      const after = this.successors()
      const reach = reachOf(this.nodes, after)
      const before = this.edges.length
      this.edges = this.edges.filter((edge) => edge.kind !== 'dummy' || ![...after[edge.from]!].some((via) => via !== edge.to && has(reach[via]!, edge.to)))
      if (this.edges.length < before) again = true
      const [outs, ins] = [this.ends('from'), this.ends('to')]
      for (const edge of this.edges) {
        if (edge.kind !== 'dummy' || !this.canShrink(edge, outs, ins, reach)) continue
        this.merge(edge.from, edge.to)
        again = true
        break
      }
    }
  }

  /** Whether the two ends of a dummy may become one event: nothing then waits that did not before. */
  private canShrink(edge: Edge, outs: ReadonlyMap<number, Edge[]>, ins: ReadonlyMap<number, Edge[]>, reach: readonly Bits[]): boolean {
    const otherOut = outs.get(edge.from)!.filter((e) => e !== edge)
    const otherIn = ins.get(edge.to)!.filter((e) => e !== edge)
    // What comes in at the head beside the dummy would come before what goes out at the tail beside it.
    const isKnown = (a: Edge, b: Edge): boolean =>
      (a.kind === 'dummy' && has(reach[a.from]!, edge.from)) ||
      (b.kind === 'dummy' && has(reach[edge.to]!, b.to)) ||
      (a.kind === 'dummy' && b.kind === 'dummy' && has(reach[a.from]!, b.to))
    return this.isFree(edge.from, edge.to) && otherIn.every((a) => otherOut.every((b) => isKnown(a, b)))
  }

  private successors(): Set<number>[] {
    const after: Set<number>[] = Array.from({ length: this.nodes }, () => new Set())
    for (const edge of this.edges) after[edge.from]!.add(edge.to)
    return after
  }

  /** Puts the events in order: by the longest way from the beginning, then by the plan's order. */
  finish(): ArrowMap {
    const after = this.successors()
    const used = [...new Set(this.edges.flatMap((e) => [e.from, e.to]))]
    const rank = new Map<number, number>(used.map((node) => [node, 0]))
    const open = new Map<number, number>(used.map((node) => [node, 0]))
    for (const node of used) for (const next of after[node]!) open.set(next, open.get(next)! + 1)
    const queue = used.filter((node) => open.get(node) === 0)
    for (let at = 0; at < queue.length; at++)
      for (const next of after[queue[at]!]!) {
        rank.set(next, Math.max(rank.get(next)!, rank.get(queue[at]!)! + 1))
        open.set(next, open.get(next)! - 1)
        if (open.get(next) === 0) queue.push(next)
      }
    const order = used.sort((a, b) => rank.get(a)! - rank.get(b)! || a - b)
    const index = new Map(order.map((node, at) => [node, at]))
    const [outs, ins] = [this.ends('from'), this.ends('to')]
    const work = (edges: readonly Edge[] | undefined): string[] => (edges ?? []).flatMap((e) => (e.activity === null ? [] : [e.activity]))
    return {
      events: order.map((node) => ({ ends: work(ins.get(node)), begins: work(outs.get(node)) })),
      arrows: this.edges.map((e) => ({ ...e, from: index.get(e.from)!, to: index.get(e.to)! })),
    }
  }
}

/** Which activity waits for which, read off an arrow map: "a<b" for every pair. The proof that a drawing says what the network says. */
export const orderOf = (map: ArrowMap): Set<string> => {
  const after: Set<number>[] = map.events.map(() => new Set())
  for (const arrow of map.arrows) after[arrow.from]!.add(arrow.to)
  const reach = reachOf(map.events.length, after)
  const work = map.arrows.filter((a) => a.kind === 'work')
  return new Set(work.flatMap((a) => work.filter((b) => a !== b && (a.to === b.from || has(reach[a.to]!, b.from))).map((b) => `${a.activity}<${b.activity}`)))
}
