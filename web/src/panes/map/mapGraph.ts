import type { Link, Plan } from '@geodrome/core'

/** A node of the Map: an activity, or a folded group that stands for all in it. */
export interface MapNodeData {
  readonly id: string
  readonly kind: 'activity' | 'group'
  /** Positions in the plan of the activities it stands for. */
  readonly members: readonly number[]
}
export interface MapEdgeData {
  readonly id: string
  readonly from: number
  readonly to: number
  /** The links it stands for. */
  readonly links: readonly Link[]
}
export interface MapGraph {
  readonly nodes: readonly MapNodeData[]
  readonly edges: readonly MapEdgeData[]
  /** Node of each activity by id. */
  readonly nodeOf: ReadonlyMap<string, number>
  /** Links between folded groups that would run against the drawing and are not drawn. */
  readonly leftOut: number
}

/**
 * The network as nodes and edges; folded groups become one node with the links that cross their border. Two folded groups that
 * lead to each other would be a loop in the drawing, so links against the order of a drawing with folded groups are left to the list.
 */
export const mapGraph = (
  plan: Plan,
  folded: ReadonlySet<string>,
  keeps: ((index: number) => boolean) | null,
): MapGraph => {
  const parentOf = new Map(plan.groups.map((g) => [g.id, g.parent]))
  const outermostFolded = (group: string | null): string | null => {
    let found: string | null = null
    for (let at = group; at !== null; at = parentOf.get(at) ?? null) if (folded.has(at)) found = at
    return found
  }
  const nodes: { id: string; kind: 'activity' | 'group'; members: number[] }[] = []
  const groupNode = new Map<string, number>()
  const nodeOf = new Map<string, number>()
  plan.activities.forEach((activity, i) => {
    if (keeps && !keeps(i)) return
    const group = outermostFolded(activity.group)
    if (group === null) {
      nodeOf.set(activity.id, nodes.length)
      nodes.push({ id: activity.id, kind: 'activity', members: [i] })
      return
    }
    let at = groupNode.get(group)
    if (at === undefined) {
      at = nodes.length
      groupNode.set(group, at)
      nodes.push({ id: group, kind: 'group', members: [] })
    }
    nodes[at]!.members.push(i)
    nodeOf.set(activity.id, at)
  })
  const between = new Map<string, { from: number; to: number; links: Link[] }>()
  for (const link of plan.links) {
    const [from, to] = [nodeOf.get(link.from), nodeOf.get(link.to)]
    if (from === undefined || to === undefined || from === to) continue
    const isAlone = nodes[from]!.kind === 'activity' && nodes[to]!.kind === 'activity'
    const key = isAlone ? link.id : `${from}|${to}`
    const known = between.get(key)
    if (known) known.links.push(link)
    else between.set(key, { from, to, links: [link] })
  }
  const edges = [...between].map(([id, edge]): MapEdgeData => ({ id, ...edge }))
  const drawn = withoutLoops(nodes.length, edges)
  const count = (list: readonly MapEdgeData[]): number =>
    list.reduce((sum, edge) => sum + edge.links.length, 0)
  return { nodes, edges: drawn, nodeOf, leftOut: count(edges) - count(drawn) }
}

/** Leaves out edges that would close a loop, in the order given; a plan has none of its own, only folded groups make them. */
const withoutLoops = (n: number, edges: readonly MapEdgeData[]): MapEdgeData[] => {
  const after: number[][] = Array.from({ length: n }, () => [])
  const open = new Int32Array(n)
  for (const { from, to } of edges) {
    after[from]!.push(to)
    open[to]!++
  }
  const queue = [...open.keys()].filter((i) => open[i] === 0)
  for (let at = 0; at < queue.length; at++)
    for (const next of after[queue[at]!]!) if (--open[next]! === 0) queue.push(next)
  if (queue.length === n) return [...edges]
  const place = new Map(queue.map((i, at) => [i, at]))
  const rest = [...open.keys()].filter((i) => !place.has(i))
  rest.forEach((i, k) => place.set(i, queue.length + k))
  return edges.filter(({ from, to }) => place.get(from)! < place.get(to)!)
}
