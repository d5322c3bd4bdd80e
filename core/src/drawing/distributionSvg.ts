import { xmlText } from '../words/xmlText.ts'
import { dotStacks } from './dotStacks.ts'
import type { Tokens } from './tokens.ts'
import type { ScaleValue, ValueScale } from './valueScale.ts'

/** A distribution to be drawn: fifty dots over the ladder of confidence. */
export interface DrawnDistribution {
  readonly scale: ValueScale
  readonly dots: readonly ScaleValue[]
  readonly percentiles: Readonly<Record<string, ScaleValue>>
  readonly planned: ScaleValue
  /** What is asked of it, with its name; null where nothing is. */
  readonly asked: { readonly value: ScaleValue; readonly name: string } | null
}

const RUNGS = [10, 20, 30, 40, 50, 60, 70, 80, 90]
const [LEFT, RIGHT, TOP] = [44, 24, 40]
const DOTS = 170
const LADDER = 190
const AXIS = 28
/** Percentiles that are said beside their rung. */
const SAID = [50, 80]
const TICKS = 7

/** Fifty dots, each two in a hundred, over the ladder of confidence on the same axis, as a drawing of its own (SVG 1.1). */
export const distributionSvg = (
  { scale, dots, percentiles, planned, asked }: DrawnDistribution,
  tokens: Tokens,
  width: number,
): string => {
  const height = TOP + DOTS + LADDER + AXIS
  const all = [...dots, planned, ...(asked ? [asked.value] : [])].map((value) => scale.at(value))
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const pad = Math.max(scale.isDate ? 2 * scale.binWidth(0, 1) : 1e-6, (high - low) * 0.05)
  const x = (at: number): number =>
    Math.round((LEFT + ((at - low + pad) / (high - low + 2 * pad)) * (width - LEFT - RIGHT)) * 10) / 10
  const placed = dotStacks(scale, dots)
  const tallest = Math.max(...placed.map(({ level }) => level), 6)
  const step = (DOTS - 20) / (tallest + 0.5)
  const radius = Math.max(2, Math.min(6, step / 2 - 1))
  const base = TOP + DOTS
  const rung = (p: number): ScaleValue => percentiles[String(p)] ?? planned
  const rise = (p: number): number => base + LADDER - ((p - 4) / 92) * LADDER
  const within = (value: ScaleValue, limit: ScaleValue | undefined): boolean =>
    limit !== undefined && scale.at(value) <= scale.at(limit)
  const drawnDots = placed.map(({ at, level, value }) => {
    const fill = within(value, asked?.value)
      ? tokens.ink
      : within(value, rung(80))
        ? tokens.fjord
        : tokens.raised
    const stroke = within(value, asked?.value) ? tokens.ink : tokens.fjord
    return `<circle cx="${x(at)}" cy="${Math.round((base - (level - 0.4) * step) * 10) / 10}" r="${radius}" fill="${fill}" stroke="${stroke}" stroke-width="1.4"/>`
  })
  const grid = RUNGS.map(
    (p) =>
      `<path d="M${LEFT},${rise(p)}H${width - RIGHT}" stroke="${tokens.hairline}"/><text x="${LEFT - 8}" y="${rise(p) + 4}" font-size="11" fill="${tokens.softInk}" text-anchor="end">${p}</text>`,
  )
  const ladder = `<path d="${RUNGS.map((p, k) => `${k === 0 ? 'M' : 'L'}${x(scale.at(rung(p)))},${rise(p)}`).join('')}" fill="none" stroke="${tokens.fjord}" stroke-width="2.2"/>${RUNGS.map((p) => `<circle cx="${x(scale.at(rung(p)))}" cy="${rise(p)}" r="${SAID.includes(p) ? 4.5 : 3}" fill="${tokens.fjord}"/>`).join('')}`
  const spoken = SAID.map((p) => {
    const at = x(scale.at(rung(p)))
    const isLeft = at > width - 150
    return `<text x="${at + (isLeft ? -9 : 9)}" y="${rise(p) + 14}" font-size="12" font-weight="bold" text-anchor="${isLeft ? 'end' : 'start'}">${p} in 100 by ${xmlText(scale.words(rung(p)))}</text>`
  })
  const pin = (value: ScaleValue, name: string, colour: string, dash: string, row: number): string => {
    const at = x(scale.at(value))
    const isLeft = at > width / 2
    return `<path d="M${at},${TOP - 26 + row * 14}V${base + LADDER}" stroke="${colour}" stroke-width="1.5" ${dash ? `stroke-dasharray="${dash}"` : ''}/><text x="${at + (isLeft ? -5 : 5)}" y="${TOP - 16 + row * 14}" font-size="12" font-weight="bold" fill="${colour}" text-anchor="${isLeft ? 'end' : 'start'}">${xmlText(`${name} ${scale.words(value)}`)}</text>`
  }
  const ticks = Array.from({ length: TICKS }, (_, k) => {
    const exact = low + ((high - low) * k) / (TICKS - 1)
    const words = scale.words(scale.place(exact))
    return `<text x="${x(exact)}" y="${base + LADDER + 18}" font-size="11" fill="${tokens.softInk}" text-anchor="middle">${xmlText(words)}</text>`
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="'Instrument Sans', sans-serif" font-size="12" fill="${tokens.ink}">${grid.join('')}<path d="M${LEFT},${base}H${width - RIGHT}" stroke="${tokens.ink}"/>${drawnDots.join('')}${ladder}${pin(planned, 'planned', tokens.ink, '', 0)}${asked ? pin(asked.value, asked.name, tokens.brick, '3 3', 1) : ''}${spoken.join('')}<path d="M${LEFT},${base + LADDER}H${width - RIGHT}" stroke="${tokens.ink}"/>${low === high ? ticks[0] : ticks.join('')}</svg>`
}
