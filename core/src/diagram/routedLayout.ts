import { layersOf, placeInLayers, type LayeredLayout } from './layeredLayout.ts'

/** A layered drawing whose edges have a way of their own past the layers between their ends. */
export interface RoutedLayout extends LayeredLayout {
  /** Per edge, the rows at which it passes the layers between its ends, from left to right; empty where it is drawn straight. */
  readonly passes: readonly (readonly number[])[]
}

/** Height of a place where edges pass, in units of one node with its gap. */
const PASS_SIZE = 0.3
/** So many places are laid out beside the nodes; beyond, the longest edges run straight. */
const MOST_PASSES = 20_000

/**
 * Lays nodes out in layers, with places between them at which long edges pass, so that none runs behind a node. All edges of one
 * source share its places and part where their targets are: a source has at most one place in a layer.
 * After Sugiyama, Tagawa and Toda 1981, with their nodes for passing edges shared by source.
 * @param n - number of nodes
 * @param from - per edge, its source; `to` its target
 * @throws RangeError if the edges form a loop
 */
export const routedLayout = (n: number, from: ArrayLike<number>, to: ArrayLike<number>): RoutedLayout => {
  const layer = layersOf(n, from, to)
  const spanOf = (k: number): number => layer[to[k]!]! - layer[from[k]!]!
  const longest = longestRouted(n, from, spanOf)
  const chains: number[][] = Array.from({ length: n }, () => [])
  const size: number[] = new Array<number>(n).fill(1)
  const layerOf = [...layer]
  const [tails, heads]: [number[], number[]] = [[], []]
  const join = (tail: number, head: number): void => {
    tails.push(tail)
    heads.push(head)
  }
  const isRouted = (k: number): boolean => spanOf(k) <= longest
  for (let k = 0; k < from.length; k++) {
    const source = from[k]!
    const chain = chains[source]!
    if (isRouted(k))
      while (chain.length < spanOf(k) - 1) {
        join(chain.at(-1) ?? source, size.length)
        chain.push(size.length)
        size.push(PASS_SIZE)
        layerOf.push(layer[source]! + chain.length)
      }
    join(isRouted(k) && spanOf(k) > 1 ? chain[spanOf(k) - 2]! : source, to[k]!)
  }
  const laid = placeInLayers(Int32Array.from(layerOf), tails, heads, size)
  return {
    layer,
    row: laid.row.slice(0, n),
    layers: laid.layers,
    height: laid.height,
    passes: Array.from({ length: from.length }, (_, k) =>
      isRouted(k) ? chains[from[k]!]!.slice(0, spanOf(k) - 1).map((place) => laid.row[place]!) : [],
    ),
  }
}

/** The longest span for which the places of all sources stay within what is laid out. */
const longestRouted = (n: number, from: ArrayLike<number>, spanOf: (k: number) => number): number => {
  const most = new Int32Array(n)
  for (let k = 0; k < from.length; k++) most[from[k]!] = Math.max(most[from[k]!]!, spanOf(k))
  let [limit, places] = [1, 0]
  const top = most.reduce((found, span) => Math.max(found, span), 1)
  while (limit < top) {
    for (const span of most) if (span > limit) places++
    if (places > MOST_PASSES) break
    limit++
  }
  return limit
}
