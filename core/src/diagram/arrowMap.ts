import { fromEdge, toEdge } from '../plan/links.ts'
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
  /** Whether what it leads to never comes earlier: a lead lets it. */
  readonly isSure: boolean
}

interface Edge {
  kind: Arrow['kind']
  activity: string | null
  link: string | null
  from: number
  to: number
  readonly isSure: boolean
  /** In the order of making. */
  readonly serial: number
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
  const plain = reduced(
    ids.length,
    known.filter(isPlain).map((l): [number, number] => [position.get(l.from)!, position.get(l.to)!]),
  )
  for (const [from, to] of plain) drawing.dummy(finishNode(from), startNode(to))
  for (const link of known.filter((l) => !isPlain(l))) {
    const [from, to] = [position.get(link.from)!, position.get(link.to)!]
    const out = fromEdge(link.type) === 'start' ? startNode(from) : finishNode(from)
    const into = toEdge(link.type) === 'finish' ? finishNode(to) : startNode(to)
    drawing.add({ kind: 'wait', activity: null, link: link.id, from: out, to: into, isSure: link.lag >= 0 })
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
  return after.flatMap((list, from) =>
    [...list]
      .filter((to) => ![...list].some((via) => via !== to && has(reach[via]!, to)))
      .map((to): [number, number] => [from, to]),
  )
}

export type Bits = Uint32Array
export const has = (bits: Bits, i: number): boolean => (bits[i >> 5]! & (1 << (i & 31))) !== 0
const put = (bits: Bits, i: number): void => void (bits[i >> 5]! |= 1 << (i & 31))
const clear = (bits: Bits, i: number): void => void (bits[i >> 5]! &= ~(1 << (i & 31)))

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

/** Arrows between nodes, each node with those that leave and land at it, so that a change looks no further than its neighbours. */
class Drawing {
  private readonly outs: Set<Edge>[]
  private readonly ins: Set<Edge>[]
  private serial = 0

  constructor(ids: readonly string[]) {
    this.outs = Array.from({ length: 2 * ids.length }, () => new Set())
    this.ins = Array.from({ length: 2 * ids.length }, () => new Set())
    ids.forEach((id, i) =>
      this.add({
        kind: 'work',
        activity: id,
        link: null,
        from: startNode(i),
        to: finishNode(i),
        isSure: true,
      }),
    )
  }
  add(parts: Omit<Edge, 'serial'>): void {
    const edge = { ...parts, serial: this.serial++ }
    this.outs[edge.from]!.add(edge)
    this.ins[edge.to]!.add(edge)
  }
  dummy(from: number, to: number): void {
    this.add({ kind: 'dummy', activity: null, link: null, from, to, isSure: true })
  }
  private drop(edge: Edge): void {
    this.outs[edge.from]!.delete(edge)
    this.ins[edge.to]!.delete(edge)
  }
  /** Makes b one with a; dummies that then say nothing, or the same twice, are dropped. */
  private merge(a: number, b: number): void {
    for (const edge of this.outs[b]!) {
      edge.from = a
      this.outs[a]!.add(edge)
    }
    for (const edge of this.ins[b]!) {
      edge.to = a
      this.ins[a]!.add(edge)
    }
    this.outs[b]!.clear()
    this.ins[b]!.clear()
    for (const [edges, end] of [
      [this.outs[a]!, 'to'],
      [this.ins[a]!, 'from'],
    ] as const) {
      const seen = new Set<number>([a])
      for (const edge of edges) {
        if (edge.kind !== 'dummy') continue
        if (seen.has(edge[end])) this.drop(edge)
        seen.add(edge[end])
      }
    }
  }

  /** All that waits for nothing begins at one event; all that nothing waits for ends at one. */
  joinSources(): void {
    const nodes = [...this.outs.keys()]
    const starts = nodes.filter((node) => this.outs[node]!.size > 0 && this.ins[node]!.size === 0)
    const finishes = nodes.filter((node) => this.ins[node]!.size > 0 && this.outs[node]!.size === 0)
    for (const node of starts.slice(1)) this.merge(starts[0]!, node)
    for (const node of finishes.slice(1)) this.join(node, finishes[0]!)
  }

  /** Makes a node one with another; where two activities could then not be told apart, a dummy leads there instead. */
  private join(node: number, into: number): void {
    if (this.isFree(into, node)) this.merge(into, node)
    else this.dummy(node, into)
  }

  /** Whether merging two nodes leaves every pair of arrows that are not dummies distinguishable. */
  private isFree(a: number, b: number): boolean {
    const others = (edges: Iterable<Edge>, end: 'from' | 'to'): number[] =>
      [...edges].flatMap((edge) => (edge.kind === 'dummy' ? [] : [edge[end]]))
    const [outOfA, intoA] = [others(this.outs[a]!, 'to'), others(this.ins[a]!, 'from')]
    if (outOfA.includes(b) || intoA.includes(b)) return false
    const [to, from] = [new Set(outOfA), new Set(intoA)]
    return (
      !others(this.outs[b]!, 'to').some((node) => to.has(node)) &&
      !others(this.ins[b]!, 'from').some((node) => from.has(node))
    )
  }

  /** Start events that wait for the same become one, finish events that lead to the same too; or one leads to the other. */
  joinEqual(): void {
    for (let again = true; again;) {
      again = false
      for (const side of ['to', 'from'] as const) {
        const [edgesOf, other] = side === 'to' ? ([this.ins, 'from'] as const) : ([this.outs, 'to'] as const)
        const bySet = new Map<string, number>()
        for (const [node, edges] of edgesOf.entries()) {
          if (edges.size === 0 || [...edges].some((edge) => edge.kind !== 'dummy')) continue
          const key = [...edges]
            .map((edge) => edge[other])
            .sort((a, b) => a - b)
            .join(',')
          const same = bySet.get(key)
          if (same === undefined) {
            bySet.set(key, node)
            continue
          }
          if (this.isFree(same, node)) this.merge(same, node)
          else if (edges.size === 1) continue
          else {
            for (const edge of [...edges]) this.drop(edge)
            this.dummy(side === 'to' ? same : node, side === 'to' ? node : same)
          }
          again = true
        }
      }
    }
  }

  /** Where one event waits for all that another waits for, and more, it waits for that event instead. */
  shareSubsets(): void {
    const setOf = (node: number): Set<number> | null => {
      const edges = this.ins[node]!
      return edges.size > 1 && [...edges].every((edge) => edge.kind === 'dummy')
        ? new Set([...edges].map((edge) => edge.from))
        : null
    }
    for (let again = true; again;) {
      again = false
      const bySize = [...this.ins.keys()]
        .filter((node) => setOf(node) !== null)
        .sort((a, b) => this.ins[b]!.size - this.ins[a]!.size)
      for (const big of bySize) {
        for (let set = setOf(big); set; set = setOf(big)) {
          const small = this.largestWithin(set, big, setOf)
          if (small === null) break
          for (const edge of [...this.ins[big]!])
            if ([...this.ins[small]!].some((e) => e.from === edge.from)) this.drop(edge)
          this.dummy(small, big)
          again = true
        }
      }
    }
  }
  /** Of the events that wait for part of a set, the one that waits for most of it; null where there is none. */
  private largestWithin(
    set: ReadonlySet<number>,
    big: number,
    setOf: (node: number) => Set<number> | null,
  ): number | null {
    const shared = new Map<number, number>()
    for (const from of set)
      for (const { kind, to } of this.outs[from]!)
        if (kind === 'dummy' && to !== big) shared.set(to, (shared.get(to) ?? 0) + 1)
    let [best, most] = [null as number | null, 1]
    for (const [node, count] of shared)
      if (count > most && count < set.size && setOf(node)?.size === count) [best, most] = [node, count]
    return best
  }

  /** Takes out every dummy that can go: said by another way round, or shrunk to a point without a new order. */
  simplify(): void {
    const reachBy = (edges: (edge: Edge) => boolean): Bits[] =>
      reachOf(
        this.outs.length,
        this.outs.map((out) => new Set([...out].filter(edges).map((edge) => edge.to))),
      )
    /** Where arrows lead, and where they lead for sure: only that says an order. */
    const reach = reachBy(() => true)
    const sure = this.edges().every((edge) => edge.isSure) ? reach : reachBy((edge) => edge.isSure)
    for (let again = true; again;) {
      again = false
      for (const edge of this.edges()) {
        if (edge.kind !== 'dummy' || !this.outs[edge.from]!.has(edge)) continue
        if (this.leadsOtherwise(edge, sure, (other) => other.isSure)) this.drop(edge)
        else if (!this.leadsOtherwise(edge, reach, () => true) && this.canShrink(edge, sure))
          this.shrink(edge, sure === reach ? [reach] : [reach, sure])
        else continue
        again = true
      }
    }
  }
  /** Whether other arrows lead from the one end of a dummy to the other. */
  private leadsOtherwise(edge: Edge, reach: readonly Bits[], counts: (edge: Edge) => boolean): boolean {
    for (const other of this.outs[edge.from]!)
      if (other !== edge && counts(other) && (other.to === edge.to || has(reach[other.to]!, edge.to)))
        return true
    return false
  }
  /** Whether the two ends of a dummy may become one event: nothing then waits that did not before. */
  private canShrink(edge: Edge, reach: readonly Bits[]): boolean {
    const otherOut = [...this.outs[edge.from]!].filter((e) => e !== edge)
    const otherIn = [...this.ins[edge.to]!].filter((e) => e !== edge)
    // What comes in at the head beside the dummy would come before what goes out at the tail beside it.
    const isKnown = (a: Edge, b: Edge): boolean =>
      (a.kind === 'dummy' && has(reach[a.from]!, edge.from)) ||
      (b.kind === 'dummy' && has(reach[edge.to]!, b.to)) ||
      (a.kind === 'dummy' && b.kind === 'dummy' && has(reach[a.from]!, b.to))
    return this.isFree(edge.from, edge.to) && otherIn.every((a) => otherOut.every((b) => isKnown(a, b)))
  }
  /** Makes the ends of a dummy one, and has all that led to its head lead to what its tail leads to. */
  private shrink({ from, to }: Edge, reaches: readonly (readonly Bits[])[]): void {
    this.merge(from, to)
    for (const reach of reaches) {
      const ahead = reach[from]!
      clear(ahead, to)
      for (const bits of reach) {
        if (!has(bits, to)) continue
        clear(bits, to)
        put(bits, from)
        for (let w = 0; w < bits.length; w++) bits[w]! |= ahead[w]!
      }
    }
  }

  private edges(): Edge[] {
    return this.outs.flatMap((edges) => [...edges]).sort((a, b) => a.serial - b.serial)
  }

  /** Puts the events in order: by the longest way from the beginning, then by the plan's order. */
  finish(): ArrowMap {
    const edges = this.edges()
    const used = [...this.outs.keys()].filter((node) => this.outs[node]!.size + this.ins[node]!.size > 0)
    const rank = new Map<number, number>(used.map((node) => [node, 0]))
    const open = new Map<number, number>(used.map((node) => [node, this.ins[node]!.size]))
    const queue = used.filter((node) => open.get(node) === 0)
    for (let at = 0; at < queue.length; at++)
      for (const { to } of this.outs[queue[at]!]!) {
        rank.set(to, Math.max(rank.get(to)!, rank.get(queue[at]!)! + 1))
        open.set(to, open.get(to)! - 1)
        if (open.get(to) === 0) queue.push(to)
      }
    const order = used.sort((a, b) => rank.get(a)! - rank.get(b)! || a - b)
    const index = new Map(order.map((node, at) => [node, at]))
    const work = (list: Iterable<Edge>): string[] =>
      [...list].sort((a, b) => a.serial - b.serial).flatMap((e) => (e.activity === null ? [] : [e.activity]))
    return {
      events: order.map((node) => ({ ends: work(this.ins[node]!), begins: work(this.outs[node]!) })),
      arrows: edges.map(({ kind, activity, link, from, to, isSure }) => ({
        kind,
        activity,
        link,
        from: index.get(from)!,
        to: index.get(to)!,
        isSure,
      })),
    }
  }
}

/** Which activity waits for which, read off an arrow map: "a<b" for every pair. The proof that a drawing says what the network says. */
export const orderOf = (map: ArrowMap): Set<string> => {
  const after: Set<number>[] = map.events.map(() => new Set())
  for (const arrow of map.arrows) after[arrow.from]!.add(arrow.to)
  const reach = reachOf(map.events.length, after)
  const work = map.arrows.filter((a) => a.kind === 'work')
  return new Set(
    work.flatMap((a) =>
      work
        .filter((b) => a !== b && (a.to === b.from || has(reach[a.to]!, b.from)))
        .map((b) => `${a.activity}<${b.activity}`),
    ),
  )
}
