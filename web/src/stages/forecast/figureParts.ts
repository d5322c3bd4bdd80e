import type { Annotations, Data, Layout, Shape } from 'plotly.js-cartesian-dist-min'
import { instantOf, instantWords } from '@geodrome/core'
import type { Tokens } from '../../theme/tokens.ts'

export interface Figure {
  readonly data: Data[]
  readonly layout: Partial<Layout>
}
/** A date as text, days, or money. */
export type Value = string | number

/** How values of one unit lie on an axis. */
export interface Scale {
  readonly isDate: boolean
  /** Milliseconds of a date, an amount as it is. */
  at(value: Value): number
  /** As Plotly takes it. */
  place(at: number): Value
  words(value: Value): string
  /** Where the bin begins that holds a value: whole days for dates, of finishes the day that they end. */
  binAt(value: Value, width: number): number
  /** Widths of bins to choose from; the first that makes few enough. */
  binWidth(span: number, most: number): number
}

export const DAY_MS = 86_400_000
const iso = (ms: number): string => new Date(ms).toISOString().slice(0, 16)
const dateAt = (value: Value): number => Date.parse(`${value}:00Z`)

export const DATES: Scale = {
  isDate: true,
  at: dateAt,
  place: iso,
  words: (value) => instantWords(instantOf(String(value), 'start'), 'finish', { time: false }),
  // A finish at 24:00 belongs to the day that it ends.
  binAt: (value) => Math.floor((dateAt(value) - 60_000) / DAY_MS) * DAY_MS,
  binWidth: (span, most) =>
    DAY_MS * ([1, 2, 3, 7, 14, 28, 56].find((days) => span / (days * DAY_MS) <= most) ?? 112),
}

/** @param words - of an amount */
export const amounts = (words: (amount: number) => string): Scale => ({
  isDate: false,
  at: Number,
  place: (at) => at,
  words: (value) => words(Number(value)),
  binAt: (value, width) => Math.floor(Number(value) / width) * width,
  binWidth: (span, most) => {
    const power = 10 ** Math.floor(Math.log10(Math.max(1e-9, span / most)))
    return [1, 2, 5, 10].map((k) => k * power).find((width) => span / width <= most) ?? 10 * power
  },
})

export const fontOf = (t: Tokens) => ({
  family: 'Instrument Sans Variable, sans-serif',
  color: t.ink,
  size: 12,
})

/** A line over the whole height at a value. */
export const vertical = (x: Value, color: string, dash: 'solid' | 'dot'): Partial<Shape> => ({
  type: 'line',
  xref: 'x',
  yref: 'paper',
  x0: x,
  x1: x,
  y0: 0,
  y1: 1,
  line: { color, width: 1.5, dash },
})

/** The name of such a line, beside it. @param y - of the whole height */
const lineLabel = (
  t: Tokens,
  x: Value,
  text: string,
  color: string,
  anchor: 'left' | 'right',
  y: number,
): Partial<Annotations> => ({
  x,
  y,
  xref: 'x',
  yref: 'paper',
  text,
  showarrow: false,
  xanchor: anchor,
  xshift: anchor === 'left' ? 5 : -5,
  font: { ...fontOf(t), color, weight: 650 },
})

/** The lines of what is planned and what is asked, each named on its own side. */
export const markedLines = (
  t: Tokens,
  scale: Scale,
  planned: Value,
  asked: { readonly value: Value; readonly name: string } | null,
): { shapes: Partial<Shape>[]; annotations: Partial<Annotations>[] } => {
  const askedFirst = asked !== null && scale.at(asked.value) <= scale.at(planned)
  const at = (value: Value): Value => scale.place(scale.at(value))
  return {
    shapes: [
      vertical(at(planned), t.ink, 'solid'),
      ...(asked ? [vertical(at(asked.value), t.brick, 'dot')] : []),
    ],
    annotations: [
      lineLabel(
        t,
        at(planned),
        `planned ${scale.words(planned)}`,
        t.ink,
        asked === null || askedFirst ? 'left' : 'right',
        0.985,
      ),
      ...(asked
        ? [
            lineLabel(
              t,
              at(asked.value),
              `${asked.name} ${scale.words(asked.value)}`,
              t.brick,
              askedFirst ? 'right' : 'left',
              askedFirst ? 0.985 : 0.93,
            ),
          ]
        : []),
    ],
  }
}

/** What every figure has: no frame of its own, nothing that moves. */
export const layoutOf = (t: Tokens, width: number, height: number): Partial<Layout> => ({
  width,
  height,
  margin: { l: 44, r: 14, t: 6, b: 26 },
  paper_bgcolor: 'rgba(0,0,0,0)',
  plot_bgcolor: 'rgba(0,0,0,0)',
  showlegend: false,
  hovermode: 'closest',
  dragmode: false,
  font: fontOf(t),
  hoverlabel: { bgcolor: t.ink, bordercolor: t.ink, font: { ...fontOf(t), color: t.paper } },
})

/** The axis of values along the bottom. @param range - as {@link Scale.at} gives them */
export const valueAxis = (
  t: Tokens,
  scale: Scale,
  range: readonly [number, number],
  width: number,
): NonNullable<Layout['xaxis']> =>
  ({
    type: scale.isDate ? 'date' : 'linear',
    range: range.map((at) => scale.place(at)),
    showgrid: false,
    zeroline: false,
    linecolor: t.ink,
    tickcolor: t.ink,
    ticks: 'outside',
    tickformat: scale.isDate ? '%-d %b' : ',~f',
    tickangle: 0,
    nticks: Math.max(3, Math.floor(width / (scale.isDate ? 66 : 96))),
    fixedrange: true,
    color: t.softInk,
    showline: true,
  }) as NonNullable<Layout['xaxis']>
