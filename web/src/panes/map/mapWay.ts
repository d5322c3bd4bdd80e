import { fromEdge, toEdge, type LinkType, type RoutedLayout } from '@geodrome/core'
import { LAYER_GAP, NODE_HEIGHT, NODE_WIDTH, ROW_GAP } from './mapNode.ts'

/** Corner of the box of a node, in pixels of the drawing. */
export const boxAt = ({ layer, row }: RoutedLayout, k: number): { x: number; y: number } => ({
  x: leftOf(layer[k]!),
  y: row[k]! * (NODE_HEIGHT + ROW_GAP),
})
const leftOf = (layer: number): number => layer * (NODE_WIDTH + LAYER_GAP)
/** Middle of a row. */
const levelOf = (row: number): number => row * (NODE_HEIGHT + ROW_GAP) + NODE_HEIGHT / 2

/** How far a link runs from the edge of a box before it turns beside it. */
const BESIDE = 13
/** How far above or below a box it turns round it. */
const ROUND = NODE_HEIGHT / 2 + ROW_GAP / 2 - 1

/** The way of a link on the Map. */
export interface MapWay {
  readonly path: string
  /** Where its words stand: the middle of its last stretch between two layers, which it shares with no other link of its source. */
  readonly at: readonly [x: number, y: number]
}

/**
 * The way of an edge past the boxes between its ends: level where it passes a layer, a curve between two. A link from a start turns
 * round its box to run on to the right; one to a finish turns round the box that it ends at.
 * @param edge - position of the edge in the layout, with the nodes at its ends
 */
export const mapWay = (
  layout: RoutedLayout,
  edge: { readonly at: number; readonly from: number; readonly to: number },
  type: LinkType,
): MapWay => {
  const [first, last] = [layout.layer[edge.from]!, layout.layer[edge.to]!]
  const passes = layout.passes[edge.at]!.map(levelOf)
  const [begin, end] = [levelOf(layout.row[edge.from]!), levelOf(layout.row[edge.to]!)]
  let [x, y] = [leftOf(first) + NODE_WIDTH, begin]
  let path = `M${x},${y}`
  if (fromEdge(type) === 'start') {
    const left = leftOf(first)
    y = begin + ((passes[0] ?? end) < begin ? -ROUND : ROUND)
    path = `M${left},${begin}C${left - BESIDE},${begin} ${left - BESIDE},${y} ${left},${y}L${x},${y}`
  }
  const curveTo = (toX: number, toY: number): void => {
    const bend = (toX - x) / 2
    path += `C${x + bend},${y} ${toX - bend},${toY} ${toX},${toY}`
  }
  passes.forEach((level, k) => {
    const left = leftOf(first + 1 + k)
    curveTo(left, level)
    path += `L${left + NODE_WIDTH},${level}`
    ;[x, y] = [left + NODE_WIDTH, level]
  })
  const left = leftOf(last)
  const landing = toEdge(type) === 'finish' ? end + (y < end ? -ROUND : ROUND) : end
  curveTo(left, landing)
  const at = [(x + left) / 2, (y + landing) / 2] as const
  if (toEdge(type) === 'finish') {
    const right = left + NODE_WIDTH
    path += `L${right},${landing}C${right + BESIDE},${landing} ${right + BESIDE},${end} ${right},${end}`
  }
  return { path, at }
}
