import { xmlText, type Tokens } from '@geodrome/core'

export interface SvgBox {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly lines: readonly (readonly [left: string, right: string])[]
  readonly strong: boolean
  readonly round: boolean
  /** A name over a round one. */
  readonly above?: string
}
export interface SvgEdge {
  readonly path: string
  readonly strong: boolean
  readonly dash: string
  readonly label: readonly string[]
  readonly at: readonly [number, number]
  /** From one line of the label to the next. */
  readonly gap?: number
}

/** A diagram as a drawing of its own (SVG 1.1), in the colours of the theme. */
export const diagramSvg = (
  boxes: readonly SvgBox[],
  edges: readonly SvgEdge[],
  tokens: Tokens,
  title: string,
): string => {
  const { left, top, width, height } = extent(boxes, edges)
  const line = (b: SvgBox, [left, end]: readonly [string, string], k: number): string => {
    const y = b.y + 16 + k * 17
    const size = k === 1 ? 12.5 : 11.5
    return `<text x="${b.x + 12}" y="${y}" font-size="${size}" ${k === 1 ? 'font-weight="600"' : ''}>${xmlText(left.length > 27 ? `${left.slice(0, 26)}…` : left)}</text>${end ? `<text x="${b.x + b.width - 8}" y="${y}" font-size="11.5" text-anchor="end">${xmlText(end)}</text>` : ''}`
  }
  const box = (b: SvgBox): string =>
    b.round
      ? `<circle cx="${b.x + b.width / 2}" cy="${b.y + b.height / 2}" r="${b.width / 2}" fill="${tokens.raised}" stroke="${tokens.ink}" stroke-width="${b.strong ? 2.4 : 1.4}"/>${b.lines.map(([text], k) => `<text x="${b.x + b.width / 2}" y="${b.y + b.height / 2 + (k === 0 ? 4 : 30 + k * 12)}" font-size="11" text-anchor="middle">${xmlText(text)}</text>`).join('')}${b.above ? `<text x="${b.x + b.width / 2}" y="${b.y - 8}" font-size="11.5" font-weight="600" text-anchor="middle">${xmlText(b.above)}</text>` : ''}`
      : `<rect x="${b.x}" y="${b.y}" width="${b.width}" height="${b.height}" rx="9" fill="${tokens.raised}" stroke="${b.strong ? tokens.ink : tokens.line}" stroke-width="${b.strong ? 2 : 1.3}"/>${b.lines.map((l, k) => line(b, l, k)).join('')}`
  const edge = (e: SvgEdge): string =>
    `<path d="${e.path}" fill="none" stroke="${e.strong ? tokens.ink : tokens.line}" stroke-width="${e.strong ? 1.8 : 1.1}" ${e.dash ? `stroke-dasharray="${e.dash}"` : ''} marker-end="url(#head)"/>${e.label.map((text, k) => `<text x="${e.at[0]}" y="${e.at[1] + k * (e.gap ?? 13) - 6}" font-size="11" text-anchor="middle" paint-order="stroke" stroke="${tokens.paper}" stroke-width="3">${xmlText(text)}</text>`).join('')}`
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${left} ${top} ${width} ${height}" font-family="'Instrument Sans', sans-serif" fill="${tokens.ink}"><title>${xmlText(title)}</title><defs><marker id="head" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto"><path d="M0,0L8,4L0,8z" fill="${tokens.ink}"/></marker></defs><rect x="${left}" y="${top}" width="${width}" height="${height}" fill="${tokens.paper}"/>${edges.map(edge).join('')}${boxes.map(box).join('')}</svg>`
}

const MARGIN = 30
/** Words under and over a round box reach this far beyond it. */
const WORDS = { beside: 60, above: 10, below: 26 }

/** What the drawing covers: boxes with the words around them, and all coordinates of its ways. */
const extent = (
  boxes: readonly SvgBox[],
  edges: readonly SvgEdge[],
): { left: number; top: number; width: number; height: number } => {
  let [left, top, right, bottom] = [0, 0, 100, 60]
  const reach = (x: number, y: number): void => {
    ;[left, right] = [Math.min(left, x), Math.max(right, x)]
    ;[top, bottom] = [Math.min(top, y), Math.max(bottom, y)]
  }
  for (const { x, y, width, height, round } of boxes) {
    reach(x - (round ? WORDS.beside : 0), y - (round ? WORDS.above : 0))
    reach(x + width + (round ? WORDS.beside : 0), y + height + (round ? WORDS.below : 0))
  }
  for (const { path } of edges) {
    const numbers = (path.match(/-?[\d.]+(e-?\d+)?/g) ?? []).map(Number)
    for (let k = 0; k + 1 < numbers.length; k += 2) reach(numbers[k]!, numbers[k + 1]!)
  }
  return {
    left: Math.floor(left) - MARGIN,
    top: Math.floor(top) - MARGIN,
    width: Math.ceil(right) - Math.floor(left) + 2 * MARGIN,
    height: Math.ceil(bottom) - Math.floor(top) + 2 * MARGIN,
  }
}
