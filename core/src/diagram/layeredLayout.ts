/** A drawing of a directed graph without loops in layers from left to right. Arrays by node. */
export interface LayeredLayout {
  readonly layer: Int32Array
  /** Place of the middle within the layer, from the top; in units of one node with its gap. */
  readonly row: Float64Array
  readonly layers: number
  readonly height: number
}

const SWEEPS = 8

/**
 * Lays nodes out in layers: each as early as its predecessors allow, sources drawn towards their successors; inside a layer ordered
 * by the mean place of their neighbours, then pulled level with them. The order given is the order to begin with, so that what
 * belongs together starts together.
 * After Sugiyama, Tagawa and Toda 1981, without nodes for passing edges. O(sweeps × edges × log) time.
 * @param n - number of nodes
 * @param from - per edge, its source; `to` its target
 * @param size - height of each node with its gap; 1 for all if left out
 * @throws RangeError if the edges form a loop
 */
export const layeredLayout = (
  n: number,
  from: ArrayLike<number>,
  to: ArrayLike<number>,
  size: ArrayLike<number> = new Uint8Array(n).fill(1),
): LayeredLayout => placeInLayers(layersOf(n, from, to), from, to, size)

/**
 * The layer of each node: as early as its predecessors allow, sources drawn towards their successors.
 * @throws RangeError if the edges form a loop
 */
export const layersOf = (n: number, from: ArrayLike<number>, to: ArrayLike<number>): Int32Array => {
  const { out, into } = neighboursOf(n, from, to)
  return ranks(n, out, into)
}

/** Orders the nodes of given layers and pulls them level with their neighbours. `size` per node, with its gap. */
export const placeInLayers = (
  layer: Int32Array,
  from: ArrayLike<number>,
  to: ArrayLike<number>,
  sizes: ArrayLike<number>,
): LayeredLayout => {
  const n = layer.length
  const { out, into } = neighboursOf(n, from, to)
  const layers = layer.reduce((most, l) => Math.max(most, l + 1), 0)
  const members: number[][] = Array.from({ length: layers }, () => [])
  for (let i = 0; i < n; i++) members[layer[i]!]!.push(i)

  const row = new Float64Array(n)
  const number = (): void => members.forEach((nodes) => nodes.forEach((i, r) => (row[i] = r)))
  number()
  const byNeighbours = (nodes: number[], neighbours: number[][]): void => {
    const wish = new Map(nodes.map((i) => [i, mean(neighbours[i]!, row) ?? row[i]!]))
    nodes.sort((a, b) => wish.get(a)! - wish.get(b)! || row[a]! - row[b]!)
    nodes.forEach((i, r) => (row[i] = r))
  }
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    if (sweep % 2 === 0) for (let l = 1; l < layers; l++) byNeighbours(members[l]!, into)
    else for (let l = layers - 2; l >= 0; l--) byNeighbours(members[l]!, out)
  }
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let step = 0; step < layers; step++) {
      const nodes = members[sweep % 2 === 0 ? step : layers - 1 - step]!
      settleRows(nodes, row, sizes, sweep % 2 === 0 ? into : out)
    }
  let [least, most] = [Infinity, -Infinity]
  for (let i = 0; i < n; i++)
    [least, most] = [Math.min(least, row[i]! - sizes[i]! / 2), Math.max(most, row[i]! + sizes[i]! / 2)]
  for (let i = 0; i < n; i++) row[i]! -= least + 0.5
  return { layer, row, layers, height: n === 0 ? 0 : most - least }
}

const neighboursOf = (
  n: number,
  from: ArrayLike<number>,
  to: ArrayLike<number>,
): { out: number[][]; into: number[][] } => {
  const out: number[][] = Array.from({ length: n }, () => [])
  const into: number[][] = Array.from({ length: n }, () => [])
  for (let k = 0; k < from.length; k++) {
    out[from[k]!]!.push(to[k]!)
    into[to[k]!]!.push(from[k]!)
  }
  return { out, into }
}

const mean = (nodes: readonly number[], row: Float64Array): number | null => {
  if (nodes.length === 0) return null
  let sum = 0
  for (const i of nodes) sum += row[i]!
  return sum / nodes.length
}

/** Longest path from the sources; a node without predecessors then moves right, beside its first successor. */
const ranks = (
  n: number,
  out: readonly (readonly number[])[],
  into: readonly (readonly number[])[],
): Int32Array => {
  const layer = new Int32Array(n)
  const open = into.map((list) => list.length)
  const queue = open.flatMap((count, i) => (count === 0 ? [i] : []))
  for (let at = 0; at < queue.length; at++) {
    const i = queue[at]!
    for (const j of out[i]!) {
      layer[j] = Math.max(layer[j]!, layer[i]! + 1)
      if (--open[j]! === 0) queue.push(j)
    }
  }
  if (queue.length < n) throw new RangeError('layeredLayout: the edges form a loop')
  for (let at = queue.length - 1; at >= 0; at--) {
    const i = queue[at]!
    if (into[i]!.length > 0 || out[i]!.length === 0) continue
    let first = Infinity
    for (const j of out[i]!) first = Math.min(first, layer[j]!)
    layer[i] = first - 1
  }
  return layer
}

/** Pulls the nodes of a layer level with their neighbours, keeping their order and their room. Runs that push each other share the shift. */
const settleRows = (
  nodes: readonly number[],
  row: Float64Array,
  sizes: ArrayLike<number>,
  neighbours: readonly (readonly number[])[],
): void => {
  interface Block {
    first: number
    count: number
    sum: number
  }
  /** Where each node stands if all of the layer are as close as they may be. */
  const close = new Float64Array(nodes.length)
  for (let k = 1; k < nodes.length; k++)
    close[k] = close[k - 1]! + (sizes[nodes[k - 1]!]! + sizes[nodes[k]!]!) / 2
  const blocks: Block[] = []
  for (const [k, i] of nodes.entries()) {
    // Each node wishes for a place for the first of the layer, as if all were close; a block shares one.
    let block: Block = { first: k, count: 1, sum: (mean(neighbours[i]!, row) ?? row[i]!) - close[k]! }
    for (
      let last = blocks.at(-1);
      last && last.sum / last.count > block.sum / block.count;
      last = blocks.at(-1)
    ) {
      blocks.pop()
      block = { first: last.first, count: last.count + block.count, sum: last.sum + block.sum }
    }
    blocks.push(block)
  }
  for (const { first, count, sum } of blocks)
    for (let k = first; k < first + count; k++) row[nodes[k]!] = sum / count + close[k]!
}
