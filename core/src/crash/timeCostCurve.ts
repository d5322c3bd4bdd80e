import { SINK, SOURCE, type EventNetwork } from './eventNetwork.ts'

/** A corner of the curve: from here on each minute saved costs `slope`. */
interface Corner {
  /** Length in working minutes. */
  readonly length: number
  readonly cost: number
  /** Money per minute that the next minutes cost; Infinity at the shortest. */
  readonly slope: number
  /** Minutes crashed, by the order of the network's shortenings. */
  readonly amounts: Float64Array
}

/** The least cost of every length that crashing can reach, longest first. */
export interface TimeCostCurve {
  readonly network: EventNetwork
  readonly corners: readonly Corner[]
  /** Positions of the activities of a longest path with all at their shortest: why there is no shorter length. */
  readonly blocking: readonly number[]
  /** Minutes crashed for a length between the longest and the shortest, by the order of the shortenings; whole where it is whole. */
  amountsAt(length: number): Float64Array
}

/** Less than this of a slope is nothing. */
const GRAIN = 1e-9
/** No way leads there. */
const FAR = 1 << 30

/**
 * The whole curve by parametric flow: minutes saved are paid for by a cut through all paths that are longest, and the cheapest cut is a
 * greatest flow over arcs that are tight. Each search finds the way that becomes tight next, moves the events until it is, and sends what
 * it can take. Whole-minute data gives whole minutes. O(ways · m log n)
 * @see Fulkerson 1961, "A Network Flow Computation for Project Cost Curves", Management Science 7(2); Kelley 1961, Oper. Res. 9(3)
 */
export const timeCostCurve = (network: EventNetwork): TimeCostCurve => {
  const flow = new TightFlow(network)
  const corners: Corner[] = []
  /** By corner, where the events of shortenings stand and how far each may move before the next. */
  const moves: Moves[] = []
  let [cost, slope] = [0, 0]
  const corner = (marginal: number): void => {
    const here = flow.moves()
    moves.push(here)
    corners.push({ length: flow.times[SINK]!, cost, slope: marginal, amounts: amountsOf(network, here, 0) })
  }
  for (;;) {
    const saved = flow.search()
    // Nothing leads to the finish asked for: an empty plan.
    if (saved === FAR) {
      corner(Infinity)
      break
    }
    if (saved > 0) {
      corner(slope)
      flow.move(saved)
      cost += slope * saved
    }
    const sent = flow.send()
    if (sent === Infinity) {
      corner(Infinity)
      break
    }
    slope += sent
  }
  return {
    network,
    corners: withoutStraight(corners),
    blocking: flow.wayFound(),
    amountsAt: (length) => {
      const k = Math.max(
        0,
        corners.findLastIndex((one) => one.length >= length),
      )
      return amountsOf(network, moves[k]!, Math.max(0, corners[k]!.length - length))
    },
  }
}

/** Of each shortening: times of start and finish, and how far each may move. */
interface Moves {
  readonly start: Int32Array
  readonly finish: Int32Array
  readonly startReach: Int32Array
  readonly finishReach: Int32Array
}

const amountsOf = ({ shortenings }: EventNetwork, at: Moves, saved: number): Float64Array => {
  const amounts = new Float64Array(shortenings.length)
  for (let k = 0; k < amounts.length; k++) {
    const start = at.start[k]! - Math.min(at.startReach[k]!, saved)
    const finish = at.finish[k]! - Math.min(at.finishReach[k]!, saved)
    amounts[k] = Math.max(0, shortenings[k]!.normal - (finish - start))
  }
  return amounts
}

/** Phases that do not change the slope are no corners. */
const withoutStraight = (corners: readonly Corner[]): Corner[] =>
  corners.filter((corner, k) => {
    const before = corners[k - 1]
    return (
      !before || k === corners.length - 1 || corner.slope > before.slope + GRAIN * Math.max(1, corner.slope)
    )
  })

/** The network as a flow problem: arc e has its way back at e ^ 1. */
class TightFlow {
  readonly times: Int32Array
  private readonly shortenings: EventNetwork['shortenings']
  private readonly head: Int32Array
  private readonly tail: Int32Array
  private readonly length: Int32Array
  private readonly room: Float64Array
  private readonly first: Int32Array
  private readonly out: Int32Array
  /** Of the last search: how far each event may move, and the arc by which it was reached. */
  private readonly reach: Int32Array
  private readonly by: Int32Array
  private readonly heap: NodeHeap

  constructor({ nodes, arcs, shortenings, early }: EventNetwork) {
    const paid = shortenings.filter(({ slope }) => slope > GRAIN)
    const count = 2 * (arcs.length + paid.length)
    this.shortenings = shortenings
    this.times = early.slice()
    this.head = new Int32Array(count)
    this.tail = new Int32Array(count)
    this.length = new Int32Array(count)
    this.room = new Float64Array(count)
    this.reach = new Int32Array(nodes)
    this.by = new Int32Array(nodes)
    this.heap = new NodeHeap(this.reach)
    let e = 0
    const add = (from: number, to: number, length: number, room: number): void => {
      this.tail[e] = this.head[e + 1] = from
      this.head[e] = this.tail[e + 1] = to
      this.length[e] = length
      this.length[e + 1] = -length
      this.room[e] = room
      e += 2
    }
    for (const { from, to, length } of arcs) add(from, to, length, Infinity)
    for (const { start, finish, normal, slope } of paid) add(start, finish, normal, slope)
    this.first = new Int32Array(nodes + 1)
    for (let a = 0; a < count; a++) this.first[this.tail[a]! + 1]!++
    for (let v = 0; v < nodes; v++) this.first[v + 1]! += this.first[v]!
    const fill = this.first.slice()
    this.out = new Int32Array(count)
    for (let a = 0; a < count; a++) this.out[fill[this.tail[a]!]!++] = a
  }

  /**
   * The way with the least slack that can take more, by shortest ways from the source (Dijkstra), as far as the sink: events farther away
   * move as far as it does.
   * @returns its slack: what can be saved before it is tight
   */
  search(): number {
    const { reach, by, heap, first, out, room, head, times, length } = this
    reach.fill(FAR)
    by.fill(-1)
    heap.clear()
    reach[SOURCE] = 0
    heap.push(SOURCE)
    for (let v = heap.pop(); v >= 0 && v !== SINK; v = heap.pop()) {
      const base = reach[v]! - times[v]!
      const end = first[v + 1]!
      for (let o = first[v]!; o < end; o++) {
        const e = out[o]!
        if (room[e]! <= GRAIN) continue
        const w = head[e]!
        const through = base + times[w]! - length[e]!
        if (through >= reach[w]!) continue
        reach[w] = through
        by[w] = e
        // No way to the sink is shorter: what was not reached yet is as far.
        if (w === SINK && through === reach[v]) return through
        heap.push(w)
      }
    }
    return reach[SINK]!
  }

  /** Moves every event as far as the search lets it, at most by what is saved. */
  move(saved: number): void {
    const { times, reach } = this
    for (let node = 0; node < times.length; node++)
      times[node]! -= reach[node]! < saved ? reach[node]! : saved
  }

  /** Sends what the way found can take, now that it is tight; Infinity where nothing on it can be crashed. */
  send(): number {
    const { by, room, tail } = this
    let least = Infinity
    for (let v = SINK; v !== SOURCE; v = tail[by[v]!]!) least = Math.min(least, room[by[v]!]!)
    if (least === Infinity) return Infinity
    for (let v = SINK; v !== SOURCE; v = tail[by[v]!]!) {
      room[by[v]!]! -= least
      room[by[v]! ^ 1]! += least
    }
    return least
  }

  moves(): Moves {
    const { times, reach, shortenings } = this
    const count = shortenings.length
    const made: Moves = {
      start: new Int32Array(count),
      finish: new Int32Array(count),
      startReach: new Int32Array(count),
      finishReach: new Int32Array(count),
    }
    for (let k = 0; k < count; k++) {
      const { start, finish } = shortenings[k]!
      made.start[k] = times[start]!
      made.finish[k] = times[finish]!
      made.startReach[k] = reach[start]!
      made.finishReach[k] = reach[finish]!
    }
    return made
  }

  /** Activities of the way found last, first to last. */
  wayFound(): number[] {
    const path: number[] = []
    for (let v = SINK; this.by[v]! >= 0; v = this.tail[this.by[v]!]!) {
      const activity = v < 2 ? -1 : (v - 2) >> 1
      if (activity >= 0 && path.at(-1) !== activity) path.push(activity)
    }
    return path.reverse()
  }
}

/** Nodes by distance; one that came closer stands in it again, and is passed over later. Those at the distance reached wait in a stack. */
class NodeHeap {
  private readonly distance: Int32Array
  private readonly near: number[] = []
  private readonly nodes: number[] = []
  private readonly keys: number[] = []
  private reached = 0

  constructor(distance: Int32Array) {
    this.distance = distance
  }
  clear(): void {
    this.near.length = this.nodes.length = this.keys.length = this.reached = 0
  }
  push(node: number): void {
    const key = this.distance[node]!
    if (key === this.reached) {
      this.near.push(node)
      return
    }
    const { nodes, keys } = this
    let k = nodes.length
    nodes.push(node)
    keys.push(key)
    while (k > 0) {
      const up = (k - 1) >> 1
      if (keys[up]! <= key) break
      nodes[k] = nodes[up]!
      keys[k] = keys[up]!
      k = up
    }
    nodes[k] = node
    keys[k] = key
  }
  /** The nearest node; −1 where there is none. */
  pop(): number {
    const { nodes, keys, near } = this
    if (near.length > 0) return near.pop()!
    while (nodes.length > 0) {
      const [top, topKey] = [nodes[0]!, keys[0]!]
      const [last, lastKey] = [nodes.pop()!, keys.pop()!]
      if (nodes.length > 0) {
        let k = 0
        for (;;) {
          let down = 2 * k + 1
          if (down >= nodes.length) break
          if (down + 1 < nodes.length && keys[down + 1]! < keys[down]!) down++
          if (keys[down]! >= lastKey) break
          nodes[k] = nodes[down]!
          keys[k] = keys[down]!
          k = down
        }
        nodes[k] = last
        keys[k] = lastKey
      }
      if (topKey !== this.distance[top]) continue
      this.reached = topKey
      return top
    }
    return -1
  }
}
