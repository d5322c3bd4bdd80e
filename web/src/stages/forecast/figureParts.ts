import type { Annotations, Data, Layout, Shape } from 'plotly.js-cartesian-dist-min'
import { type Tokens, type ScaleValue, type ValueScale } from '@geodrome/core'

export interface Figure {
  readonly data: Data[]
  readonly layout: Partial<Layout>
}
export const fontOf = (t: Tokens) => ({
  family: 'Instrument Sans Variable, sans-serif',
  color: t.ink,
  size: 12,
})

/** A line over the whole height at a value. */
export const vertical = (x: ScaleValue, color: string, dash: 'solid' | 'dot'): Partial<Shape> => ({
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
  x: ScaleValue,
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
  scale: ValueScale,
  planned: ScaleValue,
  asked: { readonly value: ScaleValue; readonly name: string } | null,
): { shapes: Partial<Shape>[]; annotations: Partial<Annotations>[] } => {
  const askedFirst = asked !== null && scale.at(asked.value) <= scale.at(planned)
  const at = (value: ScaleValue): ScaleValue => scale.place(scale.at(value))
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

/** The axis of values along the bottom. @param range - as {@link ValueScale.at} gives them */
export const valueAxis = (
  t: Tokens,
  scale: ValueScale,
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
