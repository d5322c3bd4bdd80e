import { lagCalendarOf } from '../plan/lagCalendar.ts'
import type { Link, Plan } from '../plan/schema.ts'
import { findLoop } from '../plan/findLoop.ts'

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
  for (const link of graph.links) {
    if (!graph.guaranteesWithout(link)) continue
    implied.push(link.id)
    graph.leaveOut(link)
  }
  return implied
}

interface Arc {
  readonly to: number
  readonly lag: number
  readonly calendar: string
  readonly link: Link | null
}

class EdgeGraph {
  readonly links: readonly Link[]
  private readonly arcs: Arc[][]
  private readonly node: (id: string, finish: boolean) => number
  private readonly rank: Int32Array
  private readonly out = new Set<string>()
  private readonly calendarOf: (link: Link) => string

  constructor(plan: Plan) {
    const index = new Map(plan.activities.map((a, i) => [a.id, i]))
    const byId = new Map(plan.activities.map((a) => [a.id, a]))
    this.node = (id, finish) => 2 * index.get(id)! + (finish ? 1 : 0)
    this.calendarOf = (link) => lagCalendarOf(plan.project, link, byId.get(link.from), byId.get(link.to))
    this.links = plan.links.filter((l) => byId.get(l.from)!.kind !== 'hammock' && byId.get(l.to)!.kind !== 'hammock')
    this.arcs = Array.from({ length: 2 * plan.activities.length }, () => [])
    for (const activity of plan.activities)
      this.arcs[this.node(activity.id, false)]!.push({ to: this.node(activity.id, true), lag: 0, calendar: '', link: null })
    for (const link of this.links)
      this.arcs[this.tail(link)]!.push({ to: this.head(link), lag: link.lag, calendar: this.calendarOf(link), link })
    this.rank = rankOf(this.arcs)
  }

  private tail(link: Link): number {
    return this.node(link.from, link.type === 'FS' || link.type === 'FF')
  }
  private head(link: Link): number {
    return this.node(link.to, link.type === 'FF' || link.type === 'SF')
  }
  leaveOut(link: Link): void {
    this.out.add(link.id)
  }

  /** Whether a path without the link guarantees its lag: the longest of those whose lags count on its calendar. */
  guaranteesWithout(link: Link): boolean {
    const [tail, head] = [this.tail(link), this.head(link)]
    const calendar = this.calendarOf(link)
    const limit = this.rank[head]!
    // A path's lags must all count on one calendar, the link's own where it has a lag; zeros count on any.
    const best = new Map<string, number>([[`${tail} `, 0]])
    const queue = new Heap(this.rank)
    queue.push(tail)
    const calendarsAt = new Map<number, Set<string>>([[tail, new Set([''])]])
    while (queue.size > 0) {
      const at = queue.pop()
      if (at === head) break
      for (const arc of this.arcs[at]!) {
        if (arc.link === link || (arc.link && this.out.has(arc.link.id)) || this.rank[arc.to]! > limit) continue
        for (const on of calendarsAt.get(at)!) {
          const before = best.get(`${at} ${on}`)!
          const reach = (next: string, length: number): void => {
            const key = `${arc.to} ${next}`
            if ((best.get(key) ?? -Infinity) >= length) return
            best.set(key, length)
            const known = calendarsAt.get(arc.to)
            if (known) known.add(next)
            else calendarsAt.set(arc.to, new Set([next]))
            queue.push(arc.to)
          }
          // A lag on whatever calendar guarantees at least nothing; on the path's own calendar it guarantees itself.
          if (arc.lag >= 0) reach(on, before)
          if (arc.lag !== 0 && (on === '' || on === arc.calendar)) reach(arc.calendar, before + arc.lag)
        }
      }
    }
    for (const on of calendarsAt.get(head) ?? []) {
      const length = best.get(`${head} ${on}`)!
      // Minutes on different calendars cannot be compared, but 0 compares with any.
      if ((on === '' || on === calendar || link.lag === 0) && length >= link.lag) return true
    }
    return false
  }
}

/** Position of each node in a topological order of the arcs. Arcs with leads still point forward: they tie a later edge to an earlier one's. */
const rankOf = (arcs: readonly (readonly Arc[])[]): Int32Array => {
  const waiting = new Int32Array(arcs.length)
  for (const list of arcs) for (const { to } of list) waiting[to]!++
  const rank = new Int32Array(arcs.length).fill(arcs.length)
  const queue: number[] = []
  for (let i = 0; i < arcs.length; i++) if (waiting[i] === 0) queue.push(i)
  for (let at = 0; at < queue.length; at++) {
    rank[queue[at]!] = at
    for (const { to } of arcs[queue[at]!]!) if (--waiting[to]! === 0) queue.push(to)
  }
  return rank
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
    for (let up = (at - 1) >> 1; at > 0 && this.rank[this.items[up]!]! > this.rank[node]!; up = (at - 1) >> 1) {
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
        if (child + 1 < this.items.length && this.rank[this.items[child + 1]!]! < this.rank[this.items[child]!]!) child++
        if (this.rank[this.items[child]!]! >= this.rank[last]!) break
        this.items[at] = this.items[child]!
        at = child
      }
      this.items[at] = last
    }
    return top
  }
}
