import { shortDay } from '../words/dates.ts'
import { xmlText } from '../words/xmlText.ts'
import { placeFinishes, type FinishRow } from './finishRows.ts'
import { MARK_PATHS } from './marks.ts'
import type { Tokens } from './tokens.ts'

const NAMES = 200
const RIGHT = 34
const MOST_LETTERS = 30

/** The finishes of the plan and of its scenarios on one axis, as a drawing of its own (SVG 1.1). */
export const finishesSvg = (
  rows: readonly (FinishRow & { readonly name: string; readonly mark: string; readonly colour: string })[],
  required: number | null,
  tokens: Tokens,
  width: number,
): string => {
  const inner = width - NAMES - RIGHT
  const { rows: placed, ticks, x, height } = placeFinishes(rows, required, NAMES, inner)
  const grid = ticks.map(
    (tick) =>
      `<path d="M${x(tick)},6V${height - 26}" stroke="${tokens.hairline}"/><text x="${x(tick)}" y="${height - 8}" font-size="11" fill="${tokens.softInk}" text-anchor="middle">${shortDay(tick, 'start')}</text>`,
  )
  const drawn = rows.map(({ name, mark, colour }, k) => {
    const { base, dots, pins, planned } = placed[k]!
    const short = name.length > MOST_LETTERS ? `${name.slice(0, MOST_LETTERS - 1)}…` : name
    return [
      `<path d="${MARK_PATHS[mark]}" transform="translate(5,${base - 16})" fill="${colour}"/><text x="14" y="${base - 12}" font-size="12.5" font-weight="bold">${xmlText(short)}</text>`,
      `<path d="M${NAMES},${base}h${inner}" stroke="${tokens.line}"/>`,
      ...dots.map(
        (dot) =>
          `<path d="${MARK_PATHS[mark]}" transform="translate(${dot.x},${dot.y})" fill="${dot.isBeyond ? tokens.raised : colour}" stroke="${colour}" stroke-width="1.2"/>`,
      ),
      planned === null ? '' : `<path d="M${planned},${base - 5}v10" stroke="${colour}" stroke-width="2"/>`,
      ...pins.map(
        (pin) =>
          `<text x="${pin.x}" y="${base + 11}" font-size="11" font-weight="bold" fill="${colour}" text-anchor="middle">${pin.p} %</text>`,
      ),
    ].join('')
  })
  const asked =
    required === null
      ? ''
      : `<path d="M${x(required)},2V${height - 26}" stroke="${tokens.brick}" stroke-width="1.5" stroke-dasharray="2 3"/><text x="${x(required) + 4}" y="10" font-size="11" font-weight="bold" fill="${tokens.brick}">required ${shortDay(required, 'finish')}</text>`
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="'Instrument Sans', sans-serif" font-size="12" fill="${tokens.ink}">${grid.join('')}${asked}${drawn.join('')}<path d="M${NAMES},${height - 24}h${inner}" stroke="${tokens.line}"/></svg>`
}
