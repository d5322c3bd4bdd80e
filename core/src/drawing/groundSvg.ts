import { fromEdge, toEdge } from '../plan/links.ts'
import { civilDate, MINUTES_PER_DAY, weekdayOf } from '../time/instant.ts'
import { MONTH } from '../words/dates.ts'
import { xmlText } from '../words/xmlText.ts'
import type { DrawnPlan } from './drawnPlan.ts'
import { linkPath } from './linkPath.ts'
import { nonWorkingBands } from './nonWorkingBands.ts'
import type { Pin } from './pins.ts'
import type { RowModel } from './rows.ts'
import { limitPath, shapeParts, type ShapePart } from './shapeParts.ts'
import { shapeOf, type Shape } from './shapes.ts'
import { ROW_HEIGHT, type Tokens } from './tokens.ts'

const LIST = 300
const HEAD = 68
const RIGHT = 20
const MOST_PIXELS = 20_000
/** Weeks are marked where a day has more pixels, months where it has fewer. */
const WEEKS_FROM = 5

/**
 * The Ground with the names of its rows as a drawing of its own (SVG 1.1), from the start of the plan to its last pin.
 * @param size - pixels a day, or of the whole width
 */
export const groundSvg = (
  model: RowModel,
  drawn: DrawnPlan,
  pins: readonly Pin[],
  tokens: Tokens,
  size: { readonly perDay: number } | { readonly width: number },
): string => {
  const { view, plan } = drawn
  const from = view.projectStart - MINUTES_PER_DAY
  const to = Math.max(view.projectFinish, ...pins.map((p) => p.at)) + 2 * MINUTES_PER_DAY
  const days = (to - from) / MINUTES_PER_DAY
  const scale =
    'width' in size ? (size.width - LIST - RIGHT) / days : Math.min(size.perDay, MOST_PIXELS / days)
  const x = (at: number): number => Math.round((LIST + ((at - from) / MINUTES_PER_DAY) * scale) * 10) / 10
  const y = (row: number): number => HEAD + row * ROW_HEIGHT
  const width = x(to) + RIGHT
  const height = y(model.rows.length) + 16

  const text = (at: number, row: number, words: string, extra = ''): string =>
    `<text x="${at}" y="${y(row) + 19}" ${extra}>${xmlText(words)}</text>`
  const rows = model.rows.map((row, r) => {
    const line = `<path d="M0,${y(r + 1)}H${width}" stroke="${tokens.hairline}"/>`
    if (row.kind === 'group')
      return line + text(8 + row.depth * 10, r, `${row.code} ${row.name}`.trim(), 'font-weight="600"')
    const a = plan.activities[row.index]!
    return (
      line +
      text(
        8 + row.depth * 10,
        r,
        a.code,
        `fill="${tokens.softInk}" font-family="monospace" font-size="11.5"`,
      ) +
      text(62 + row.depth * 6, r, a.name.length > 34 ? `${a.name.slice(0, 33)}…` : a.name)
    )
  })
  const ticks = ticksBetween(from, to, scale > WEEKS_FROM).map((day) => {
    const at = x(day * MINUTES_PER_DAY)
    const civil = civilDate(day)
    return `<path d="M${at},${HEAD - 14}V${height}" stroke="${tokens.hairline}"/><text x="${at + 3}" y="${HEAD - 4}" font-size="11" fill="${tokens.softInk}">${civil.day} ${MONTH[civil.month - 1]}</text>`
  })
  const status = pins.find((pin) => pin.id === 'status')
  const walked = status
    ? `<rect x="${LIST}" y="${HEAD}" width="${Math.max(0, x(status.at) - LIST)}" height="${height - HEAD}" fill="${tokens.stone}" fill-opacity="0.22"/>`
    : ''
  const bands = nonWorkingBands(drawn.calendars.project, from, to, x, scale)
    .map((band) => `M${band.x},${HEAD}h${band.width}V${height}h${-band.width}z`)
    .join('')
  const marks = pins.map(
    (pin, k) =>
      `<path d="M${x(pin.at)},${14 + k * 12}V${height}" stroke="${tokens.ink}" stroke-dasharray="${pin.tone === 'ink' ? '' : '3 3'}"/><text x="${x(pin.at) - 4}" y="${12 + k * 12}" font-size="11" font-weight="600" text-anchor="end">${xmlText(pin.label)}</text>`,
  )
  const links = plan.links.flatMap((link) => {
    const [a, b] = [model.position.get(link.from), model.position.get(link.to)]
    if (a === undefined || b === undefined) return []
    const end = (row: number, atStart: boolean) => {
      const i = (model.rows[row] as { index: number }).index
      return { x: x(atStart ? view.start[i]! : view.finish[i]!), y: y(row) + ROW_HEIGHT / 2, atStart }
    }
    const drives = drawn.drives(link)
    return [
      `<path d="${linkPath(end(a, fromEdge(link.type) === 'start'), end(b, toEdge(link.type) === 'start'), ROW_HEIGHT)}" fill="none" stroke="${drives ? tokens.ink : tokens.line}" stroke-width="${drives ? 1.2 : 0.9}"/>`,
    ]
  })
  const shapes = model.rows.flatMap((row, r) => shapeOf(row, r, drawn, x, y)).map((s) => inPens(s, tokens))
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="'Instrument Sans', sans-serif" font-size="12.5" fill="${tokens.ink}"><title>${xmlText(plan.project.name)}</title><defs><pattern id="ground-hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="5" height="5" fill="${tokens.raised}"/><rect width="2.6" height="5" fill="${tokens.ink}"/></pattern></defs><rect width="100%" height="100%" fill="${tokens.paper}"/><text x="8" y="24" font-size="16" font-weight="600">${xmlText(plan.project.name)}</text>${walked}<path d="${bands}" fill="${tokens.shade}" fill-opacity="0.75"/>${ticks.join('')}${rows.join('')}${links.join('')}${shapes.join('')}${marks.join('')}</svg>`
}

/** Days on which a week or a month begins, as many as a reader can tell apart. */
const ticksBetween = (from: number, to: number, byWeek: boolean): number[] => {
  const found: number[] = []
  for (let day = Math.ceil(from / MINUTES_PER_DAY); day * MINUTES_PER_DAY < to; day++)
    if (byWeek ? weekdayOf(day) === 0 : civilDate(day).day === 1) found.push(day)
  return found
}

/** A shape with its pens as attributes: what classes say on the screen. */
const inPens = (s: Shape, tokens: Tokens): string => {
  const fill = {
    solid: tokens.ink,
    short: tokens.ink,
    hatch: 'url(#ground-hatch)',
    outline: tokens.raised,
    stone: tokens.stone,
  }[s.ink]
  const pens: Readonly<Record<ShapePart['pen'], string>> = {
    span: `fill="none" stroke="${tokens.ink}" stroke-width="1.2"`,
    pocket: `fill="none" stroke="${tokens.line}" stroke-dasharray="2 2"`,
    body: `fill="${fill}" stroke="${s.ink === 'stone' ? tokens.line : tokens.ink}" stroke-width="1.5"`,
    notch: `fill="${tokens.signal}" stroke="${tokens.paper}" stroke-width="0.8"`,
    groove: `fill="${s.ink === 'outline' || s.ink === 'hatch' ? tokens.ink : tokens.raised}"`,
    rope: `fill="none" stroke="${tokens.softInk}" stroke-width="1.6"`,
    pole: `fill="none" stroke="${tokens.ink}" stroke-width="1.6"`,
    flag: `fill="${s.ink === 'short' ? tokens.signal : fill}" stroke="${tokens.ink}" stroke-width="1.2"`,
    keel: `fill="none" stroke="${tokens.ink}" stroke-width="2.4" stroke-linecap="round"`,
    mark: `fill="${tokens.raised}" stroke="${tokens.plum}" stroke-width="2"`,
  }
  const limits = (['start', 'finish'] as const)
    .filter((edge) => s.limit?.[edge])
    .map((edge) => `<path d="${limitPath(s, edge)}" fill="none" stroke="${tokens.plum}" stroke-width="1.8"/>`)
  return (
    shapeParts(s)
      .map(({ pen, d }) => `<path d="${d}" ${pens[pen]}/>`)
      .join('') + limits.join('')
  )
}
