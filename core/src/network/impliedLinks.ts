import { fromEdge, toEdge } from '../plan/links.ts'
import { lagCalendarOf } from '../plan/lagCalendar.ts'
import type { Link, Plan } from '../plan/schema.ts'
import { findLoop } from '../plan/findLoop.ts'
import { linkEndsOf } from '../plan/positions.ts'

/**
 * Links that another path guarantees whatever the durations are. On the graph with a start and a finish node for each activity,
 * with arcs start → finish (at least 0) and one arc per link between the edges that it ties (at least its lag), a link is implied
 * when another path from its tail to its head guarantees at least its lag. Lags compare on one calendar only; lag 0 compares with any.
 * Of two equal links between the same edges one is implied, not both. Links of hammocks take no part.
 * @param plan - without loops
 * @returns ids in the plan's order. O(links × reach) at worst, with each search cut to the activities between the two ends
 */
export const impliedLinks = (plan: Plan): string[] => {
  if (findLoop(plan)) return []
  const graph = new EdgeGraph(plan)
  const implied: string[] = []
  graph.links.forEach((link, k) => {
    if (!graph.guaranteesWithout(k)) return
    implied.push(link.id)
    graph.leaveOut(k)
  })
  return implied
}

/** Arcs start → finish of activities, and one a link; those out of node v are outArc[outStart[v]] … outArc[outStart[v+1]−1]. */
class EdgeGraph {
  /** The plan's links but those of hammocks. */
  readonly links: readonly Link[]
  private readonly plan: Plan
  private readonly tail: Int32Array
  private readonly head: Int32Array
  /** Lag of each arc; 0 of an activity's own. */
  private readonly lag: Int32Array
  private readonly outStart: Int32Array
  private readonly outArc: Int32Array
  private readonly rank: Int32Array
  private readonly isOut: Uint8Array
  private readonly seen: Int32Array
  private readonly stack: Int32Array
  private readonly hasLeads: boolean
  private stamp = 0

  constructor(plan: Plan) {
    this.plan = plan
    const { activities } = plan
    const n = activities.length
    const ends = linkEndsOf(plan.links, activities)
    const chosen: number[] = []
    plan.links.forEach((_, g) => {
      if (activities[ends.from[g]!]!.kind !== 'hammock' && activities[ends.to[g]!]!.kind !== 'hammock')
        chosen.push(g)
    })
    this.links = chosen.map((g) => plan.links[g]!)
    // Arcs of links first, in their order, then one an activity.
    const m = chosen.length
    this.tail = new Int32Array(m + n)
    this.head = new Int32Array(m + n)
    this.lag = new Int32Array(m + n)
    chosen.forEach((g, k) => {
      const { type, lag } = plan.links[g]!
      this.tail[k] = 2 * ends.from[g]! + (fromEdge(type) === 'finish' ? 1 : 0)
      this.head[k] = 2 * ends.to[g]! + (toEdge(type) === 'finish' ? 1 : 0)
      this.lag[k] = lag
    })
    for (let i = 0; i < n; i++) {
      this.tail[m + i] = 2 * i
      this.head[m + i] = 2 * i + 1
    }
    this.outStart = new Int32Array(2 * n + 1)
    for (const v of this.tail) this.outStart[v + 1]!++
    for (let v = 0; v < 2 * n; v++) this.outStart[v + 1]! += this.outStart[v]!
    const fill = this.outStart.slice()
    this.outArc = new Int32Array(m + n)
    for (let a = 0; a < m + n; a++) this.outArc[fill[this.tail[a]!]!++] = a
    this.rank = this.rankNodes(2 * n)
    this.isOut = new Uint8Array(m + n)
    this.seen = new Int32Array(2 * n)
    this.stack = new Int32Array(m + n + 1)
    this.hasLeads = this.lag.some((lag) => lag < 0)
  }

  /** Position of each node in a topological order of the arcs. Arcs with leads still point forward: they tie a later edge to an earlier one's. */
  private rankNodes(nodes: number): Int32Array {
    const waiting = new Int32Array(nodes)
    for (const v of this.head) waiting[v]!++
    const rank = new Int32Array(nodes).fill(nodes)
    const queue = new Int32Array(nodes)
    let size = 0
    for (let v = 0; v < nodes; v++) if (waiting[v] === 0) queue[size++] = v
    for (let at = 0; at < size; at++) {
      const v = queue[at]!
      rank[v] = at
      for (let o = this.outStart[v]!; o < this.outStart[v + 1]!; o++) {
        const to = this.head[this.outArc[o]!]!
        if (--waiting[to]! === 0) queue[size++] = to
      }
    }
    return rank
  }

  leaveOut(k: number): void {
    this.isOut[k] = 1
  }

  /** Whether a path without link k guarantees its lag. */
  guaranteesWithout(k: number): boolean {
    const tail = this.tail[k]!
    // The link alone leaves its edge: nothing else can lead anywhere.
    if (this.outStart[tail + 1]! - this.outStart[tail]! === 1) return false
    if (!this.reaches(k, false)) return false
    // Arcs without leads guarantee at least nothing, on whatever calendars they count.
    if (this.lag[k]! <= 0 && (!this.hasLeads || this.reaches(k, true))) return true
    return this.longestGuarantee(k)
  }

  /** Whether a path without link k leads from its tail to its head, over arcs without leads only if so asked. */
  private reaches(k: number, withoutLeads: boolean): boolean {
    const { outStart, outArc, head, lag, rank, isOut, seen, stack } = this
    const goal = head[k]!
    const limit = rank[goal]!
    const stamp = ++this.stamp
    let size = 0
    stack[size++] = this.tail[k]!
    seen[this.tail[k]!] = stamp
    while (size > 0) {
      const at = stack[--size]!
      for (let o = outStart[at]!; o < outStart[at + 1]!; o++) {
        const a = outArc[o]!
        if (a === k || isOut[a] === 1 || (withoutLeads && lag[a]! < 0)) continue
        const to = head[a]!
        if (to === goal) return true
        if (seen[to] === stamp || rank[to]! > limit) continue
        seen[to] = stamp
        stack[size++] = to
      }
    }
    return false
  }

  private calendarOf(a: number): string {
    const link = this.links[a]
    if (!link) return ''
    const { activities, project } = this.plan
    return lagCalendarOf(project, link, activities[this.tail[a]! >> 1], activities[this.head[a]! >> 1])
  }

  /** Whether the longest of the paths whose lags count on one calendar, the link's own where it has a lag, reaches its lag. */
  private longestGuarantee(k: number): boolean {
    const [tail, head] = [this.tail[k]!, this.head[k]!]
    const calendar = this.calendarOf(k)
    const wanted = this.lag[k]!
    const limit = this.rank[head]!
    const best = new Map<string, number>([[`${tail} `, 0]])
    const queue = new Heap(this.rank)
    queue.push(tail)
    const calendarsAt = new Map<number, Set<string>>([[tail, new Set([''])]])
    while (queue.size > 0) {
      const at = queue.pop()
      if (at === head) break
      for (let o = this.outStart[at]!; o < this.outStart[at + 1]!; o++) {
        const a = this.outArc[o]!
        const to = this.head[a]!
        if (a === k || this.isOut[a] === 1 || this.rank[to]! > limit) continue
        const lag = this.lag[a]!
        const counts = lag === 0 ? '' : this.calendarOf(a)
        for (const on of calendarsAt.get(at)!) {
          const before = best.get(`${at} ${on}`)!
          const reach = (next: string, length: number): void => {
            const key = `${to} ${next}`
            if ((best.get(key) ?? -Infinity) >= length) return
            best.set(key, length)
            const known = calendarsAt.get(to)
            if (known) known.add(next)
            else calendarsAt.set(to, new Set([next]))
            queue.push(to)
          }
          // A lag on whatever calendar guarantees at least nothing; on the path's own calendar it guarantees itself.
          if (lag >= 0) reach(on, before)
          if (lag !== 0 && (on === '' || on === counts)) reach(counts, before + lag)
        }
      }
    }
    for (const on of calendarsAt.get(head) ?? []) {
      const length = best.get(`${head} ${on}`)!
      // Minutes on different calendars cannot be compared, but 0 compares with any.
      if ((on === '' || on === calendar || wanted === 0) && length >= wanted) return true
    }
    return false
  }
}

/** Nodes waiting to be looked at, lowest rank first, each once. */
class Heap {
  private readonly items: number[] = []
  private readonly inside = new Set<number>()
  private readonly rank: Int32Array
  constructor(rank: Int32Array) {
    this.rank = rank
  }
  get size(): number {
    return this.items.length
  }
  push(node: number): void {
    if (this.inside.has(node)) return
    this.inside.add(node)
    let at = this.items.push(node) - 1
    for (
      let up = (at - 1) >> 1;
      at > 0 && this.rank[this.items[up]!]! > this.rank[node]!;
      up = (at - 1) >> 1
    ) {
      this.items[at] = this.items[up]!
      at = up
    }
    this.items[at] = node
  }
  pop(): number {
    const top = this.items[0]!
    this.inside.delete(top)
    const last = this.items.pop()!
    if (this.items.length > 0) {
      let at = 0
      for (;;) {
        let child = 2 * at + 1
        if (child >= this.items.length) break
        if (
          child + 1 < this.items.length &&
          this.rank[this.items[child + 1]!]! < this.rank[this.items[child]!]!
        )
          child++
        if (this.rank[this.items[child]!]! >= this.rank[last]!) break
        this.items[at] = this.items[child]!
        at = child
      }
      this.items[at] = last
    }
    return top
  }
}
