import type { ArrowMap } from './arrowMap.ts'
import { layeredLayout } from './layeredLayout.ts'

type Point = readonly [x: number, y: number]

/** Where events and arrows of an arrow map stand, in pixels. */
export interface ArrowLayout {
  /** Middle of each event. */
  readonly events: readonly Point[]
  /** Per arrow, the corners of its way between the rims of its events. */
  readonly ways: readonly (readonly Point[])[]
  /** Per arrow that carries words, the middle of the level stretch they stand on. */
  readonly shafts: readonly (Point | null)[]
  readonly width: number
  readonly height: number
}

export const EVENT_RADIUS = 20
/** Width of a column of events, and of one of words between two of them. */
const EVENT_COLUMN = 92
const WORD_COLUMN = 178
const SHAFT = 146
const UNIT = 74
/** Heights, in units: an event with its times and name, words on a shaft, an arrow that passes. */
const EVENT_SIZE = 1.15
const WORDS_SIZE = 0.7
const PASS_SIZE = 0.3

/**
 * Lays an arrow map out in columns: events, and between them level stretches on which the words of each arrow stand alone. An arrow
 * that runs over several columns has a place of its own in each, so that it passes beside what stands there.
 */
export const arrowLayout = (map: ArrowMap): ArrowLayout => {
  const rank = new Int32Array(map.events.length)
  for (const { from, to } of [...map.arrows].sort((a, b) => a.from - b.from))
    rank[to] = Math.max(rank[to]!, rank[from]! + 1)
  const size: number[] = map.events.map(() => EVENT_SIZE)
  const [from, to]: [number[], number[]] = [[], []]
  const chains = map.arrows.map((arrow) => {
    const chain: number[] = []
    let at = arrow.from
    for (let column = 2 * rank[arrow.from]! + 1; column < 2 * rank[arrow.to]!; column++) {
      const hasWords = chain.length === 0 && arrow.kind !== 'dummy'
      chain.push(size.length)
      from.push(at)
      to.push((at = size.length))
      size.push(hasWords ? WORDS_SIZE : PASS_SIZE)
    }
    from.push(at)
    to.push(arrow.to)
    return chain
  })
  const { layer, row, layers, height } = layeredLayout(size.length, from, to, size)
  const left = (column: number): number =>
    Math.floor(column / 2) * (EVENT_COLUMN + WORD_COLUMN) + (column % 2) * EVENT_COLUMN
  const middle = (i: number): Point => [
    left(layer[i]!) + (layer[i]! % 2 === 0 ? EVENT_COLUMN : WORD_COLUMN) / 2,
    (row[i]! + 0.5) * UNIT,
  ]
  const events = map.events.map((_, e) => middle(e))
  const shafts = chains.map((chain, k) => (map.arrows[k]!.kind === 'dummy' ? null : middle(chain[0]!)))
  const ways = chains.map((chain, k) => {
    const corners = chain.flatMap((i, at): Point[] => {
      const [x, y] = middle(i)
      return at === 0 && shafts[k]
        ? [
            [x - SHAFT / 2, y],
            [x + SHAFT / 2, y],
          ]
        : [[x, y]]
    })
    const { from: a, to: b } = map.arrows[k]!
    const way: Point[] = [events[a]!, ...corners, events[b]!]
    return [
      onRim(way[0]!, way[1]!, 1),
      ...withoutStraight(way.slice(1, -1), way[0]!, way.at(-1)!),
      onRim(way.at(-1)!, way.at(-2)!, 4),
    ]
  })
  return { events, ways, shafts, width: left(layers), height: height * UNIT }
}

/** The point on an event's rim towards a corner, a little outside. */
const onRim = ([x, y]: Point, [tx, ty]: Point, gap: number): Point => {
  const length = Math.hypot(tx - x, ty - y) || 1
  return [x + ((tx - x) / length) * (EVENT_RADIUS + gap), y + ((ty - y) / length) * (EVENT_RADIUS + gap)]
}

/** Leaves out corners at which nothing turns. */
const withoutStraight = (corners: readonly Point[], first: Point, last: Point): Point[] => {
  const kept: Point[] = []
  corners.forEach((corner, k) => {
    const [px, py] = kept.at(-1) ?? first
    const [nx, ny] = corners[k + 1] ?? last
    const bend =
      Math.abs((corner[0] - px) * (ny - py) - (corner[1] - py) * (nx - px)) /
      (Math.hypot(nx - px, ny - py) || 1)
    if (bend > 0.5) kept.push(corner)
  })
  return kept
}

/** A way as an SVG path with its corners rounded. */
export const wayPath = (way: readonly Point[], radius = 12): string => {
  const [first, ...rest] = way
  let path = `M${round(first![0])},${round(first![1])}`
  rest.forEach(([x, y], k) => {
    const next = rest[k + 1]
    if (!next) return void (path += `L${round(x)},${round(y)}`)
    const [px, py] = k === 0 ? first! : rest[k - 1]!
    const toward = ([tx, ty]: Point): Point => {
      const length = Math.hypot(tx - x, ty - y) || 1
      const part = Math.min(radius, length / 2) / length
      return [x + (tx - x) * part, y + (ty - y) * part]
    }
    const [a, b] = [toward([px, py]), toward(next)]
    path += `L${round(a[0])},${round(a[1])}Q${round(x)},${round(y)} ${round(b[0])},${round(b[1])}`
  })
  return path
}
const round = (n: number): number => Math.round(n * 10) / 10
