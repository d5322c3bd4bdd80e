import { utcMonday, utcMonth } from 'd3-time'
import { MONTH, fromEdge, toEdge, xmlText } from '@geodrome/core'
import type { RowModel } from '../../composables/useRows.ts'
import { ROW_HEIGHT, type Tokens } from '../../theme/tokens.ts'
import type { CellContext } from '../rows/columns.ts'
import { linkPath } from './linkPath.ts'
import { nonWorkingBands } from './nonWorkingBands.ts'
import type { Pin } from './pins.ts'
import { limitPath, shapeParts, type ShapePart } from './shapeParts.ts'
import { shapeOf, type Shape } from './shapes.ts'

const EPOCH = Date.UTC(1950, 0, 1)
const LIST = 300
const HEAD = 52

/** The whole Ground, all rows of the list with their names, as a drawing of its own (SVG 1.1); it prints on one sheet. */
export const groundSvg = (
  model: RowModel,
  context: CellContext,
  pins: readonly Pin[],
  tokens: Tokens,
  perDay: number,
): string => {
  const { view, plan } = context
  const from = view.projectStart - 1440
  const to = Math.max(view.projectFinish, ...pins.map((p) => p.at)) + 2 * 1440
  const scale = Math.min(perDay, (20_000 / (to - from)) * 1440)
  const x = (at: number): number => Math.round((LIST + ((at - from) / 1440) * scale) * 10) / 10
  const y = (row: number): number => HEAD + row * ROW_HEIGHT
  const width = x(to) + 20
  const height = y(model.rows.length) + 16

  const text = (at: number, row: number, words: string, extra = ''): string =>
    `<text x="${at}" y="${y(row) + 19}" ${extra}>${xmlText(words)}</text>`
  const rows = model.rows.map((row, r) => {
    const line = `<path d="M0,${y(r + 1)}H${width}" stroke="${tokens.hairline}"/>`
    if (row.kind === 'group')
      return line + text(8 + row.depth * 10, r, `${row.code} ${row.name}`.trim(), 'font-weight="650"')
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
  const interval = scale > 5 ? utcMonday : utcMonth
  const ticks = interval.range(new Date(EPOCH + from * 60_000), new Date(EPOCH + to * 60_000)).map((date) => {
    const at = x((date.getTime() - EPOCH) / 60_000)
    return `<path d="M${at},${HEAD - 14}V${height}" stroke="${tokens.hairline}"/><text x="${at + 3}" y="${HEAD - 4}" font-size="11" fill="${tokens.softInk}">${date.getUTCDate()} ${MONTH[date.getUTCMonth()]}</text>`
  })
  const status = pins.find((pin) => pin.id === 'status')
  const walked = status
    ? `<rect x="${LIST}" y="${HEAD}" width="${Math.max(0, x(status.at) - LIST)}" height="${height - HEAD}" fill="${tokens.stone}" fill-opacity="0.22"/>`
    : ''
  const bands = nonWorkingBands(context.calendars.project, from, to, x, scale)
    .map((band) => `M${band.x},${HEAD}h${band.width}V${height}h${-band.width}z`)
    .join('')
  const marks = pins.map(
    (pin, k) =>
      `<path d="M${x(pin.at)},${14 + k * 12}V${height}" stroke="${tokens.ink}" stroke-dasharray="${pin.tone === 'ink' ? '' : '3 3'}"/><text x="${x(pin.at) - 4}" y="${12 + k * 12}" font-size="11" font-weight="650" text-anchor="end">${xmlText(pin.label)}</text>`,
  )
  const links = plan.links.flatMap((link) => {
    const [a, b] = [model.position.get(link.from), model.position.get(link.to)]
    if (a === undefined || b === undefined) return []
    const end = (row: number, atStart: boolean) => {
      const i = (model.rows[row] as { index: number }).index
      return { x: x(atStart ? view.start[i]! : view.finish[i]!), y: y(row) + ROW_HEIGHT / 2, atStart }
    }
    const drives = context.drives(link)
    return [
      `<path d="${linkPath(end(a, fromEdge(link.type) === 'start'), end(b, toEdge(link.type) === 'start'), ROW_HEIGHT)}" fill="none" stroke="${drives ? tokens.ink : tokens.line}" stroke-width="${drives ? 1.2 : 0.9}"/>`,
    ]
  })
  const shapes = model.rows.flatMap((row, r) => shapeOf(row, r, context, x, y)).map((s) => drawn(s, tokens))
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="'Instrument Sans', sans-serif" font-size="12.5" fill="${tokens.ink}"><title>${xmlText(plan.project.name)}</title><defs><pattern id="h" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="5" height="5" fill="${tokens.raised}"/><rect width="2.6" height="5" fill="${tokens.ink}"/></pattern></defs><rect width="100%" height="100%" fill="${tokens.paper}"/><text x="8" y="24" font-size="16" font-weight="650">${xmlText(plan.project.name)}</text>${walked}<path d="${bands}" fill="${tokens.shade}" fill-opacity="0.75"/>${ticks.join('')}${rows.join('')}${links.join('')}${shapes.join('')}${marks.join('')}</svg>`
}

/** A shape with its pens as attributes: what classes say on the screen. */
const drawn = (s: Shape, tokens: Tokens): string => {
  const fill = {
    solid: tokens.ink,
    short: tokens.ink,
    hatch: 'url(#h)',
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

/** A drawing as a picture (PNG), twice as fine as the screen. @throws Error where the browser cannot draw it */
export const pngOf = async (svg: string): Promise<Blob> => {
  const image = new Image()
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))
  try {
    image.src = url
    await image.decode()
    const factor = Math.min(2, 16_000 / Math.max(image.width, image.height))
    const canvas = document.createElement('canvas')
    canvas.width = image.width * factor
    canvas.height = image.height * factor
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
    if (!blob) throw new Error('the drawing is too large for a picture; save it as SVG')
    return blob
  } finally {
    URL.revokeObjectURL(url)
  }
}
