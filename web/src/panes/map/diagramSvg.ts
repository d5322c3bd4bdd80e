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
  const right = Math.max(100, ...boxes.map((b) => b.x + b.width)) + 30
  const bottom = Math.max(60, ...boxes.map((b) => b.y + b.height)) + 30
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
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${right}" height="${bottom}" viewBox="-30 -30 ${right + 30} ${bottom + 30}" font-family="'Instrument Sans', sans-serif" fill="${tokens.ink}"><title>${xmlText(title)}</title><defs><marker id="head" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto"><path d="M0,0L8,4L0,8z" fill="${tokens.ink}"/></marker></defs><rect x="-30" y="-30" width="100%" height="100%" fill="${tokens.paper}"/>${edges.map(edge).join('')}${boxes.map(box).join('')}</svg>`
}
