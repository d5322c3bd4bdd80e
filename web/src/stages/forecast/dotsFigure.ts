import { dotStacks, type Tokens, type ValueScale, type ScaleValue } from '@geodrome/core'
import type { Data } from 'plotly.js-cartesian-dist-min'
import { fontOf, layoutOf, markedLines, valueAxis, type Figure } from './figureParts.ts'

/** Another run, drawn as its ladder only. */
interface Beside {
  readonly name: string
  readonly mark: string
  readonly colour: string
  readonly percentiles: Readonly<Record<string, ScaleValue>>
}
export interface DotsInput {
  readonly scale: ValueScale
  readonly dots: readonly ScaleValue[]
  readonly percentiles: Readonly<Record<string, ScaleValue>>
  readonly planned: ScaleValue
  /** What is asked of it, with its name: "required", "asked". */
  readonly asked: { readonly value: ScaleValue; readonly name: string } | null
  readonly pinned: readonly number[]
  readonly besides: readonly Beside[]
}

const RUNGS = [10, 20, 30, 40, 50, 60, 70, 80, 90]
/** Room for the name of a pin, in pixels. */
const LABEL_WIDTH = 132
const LABEL_HEIGHT = 22

/** The fifty dots above the ladder of confidence, on one axis. */
export const dotsFigure = (input: DotsInput, t: Tokens, width: number, height: number): Figure => {
  const { scale, dots, percentiles, planned, asked, pinned, besides } = input
  const placed = dotStacks(scale, dots)
  const tallest = Math.max(...placed.map((d) => d.level), 6)
  const rung = (p: number): ScaleValue => percentiles[String(p)] ?? planned
  const isWithin = (value: ScaleValue, limit: ScaleValue | undefined): boolean =>
    limit !== undefined && scale.at(value) <= scale.at(limit)
  const colour = (value: ScaleValue): string =>
    isWithin(value, asked?.value) ? t.ink : isWithin(value, rung(80)) ? t.fjord : t.raised
  const at = (value: ScaleValue): ScaleValue => scale.place(scale.at(value))
  const size = Math.max(5, Math.min(13, (height * 0.42) / (tallest + 1) - 2))
  const data: Data[] = [
    {
      type: 'scatter',
      mode: 'markers',
      x: placed.map((d) => scale.place(d.at)),
      y: placed.map((d) => d.level),
      text: placed.map((d) => scale.words(d.value)),
      hovertemplate: '%{text}<extra>2 in 100</extra>',
      marker: {
        size,
        color: placed.map((d) => colour(d.value)),
        line: { color: placed.map((d) => (isWithin(d.value, asked?.value) ? t.ink : t.fjord)), width: 1.5 },
      },
    },
    {
      type: 'scatter',
      mode: 'lines',
      x: RUNGS.map((r) => at(rung(r))),
      y: RUNGS,
      yaxis: 'y2',
      line: { color: t.fjord, width: 2.5, dash: 'solid', shape: 'spline', smoothing: 0.5 },
      hoverinfo: 'skip',
    },
    ...besides.map((d): Data => ({
      type: 'scatter',
      mode: 'lines',
      x: RUNGS.map((r) => at(d.percentiles[String(r)] ?? planned)),
      y: RUNGS,
      yaxis: 'y2',
      line: { color: d.colour, width: 1.8, dash: 'dash', shape: 'spline', smoothing: 0.5 },
      hoverinfo: 'skip',
    })),
    {
      type: 'scatter',
      mode: 'markers',
      x: RUNGS.map((r) => at(rung(r))),
      y: RUNGS,
      yaxis: 'y2',
      customdata: RUNGS,
      text: RUNGS.map((r) => `${r} in 100 ${scale.isDate ? 'by' : 'within'} ${scale.words(rung(r))}`),
      hovertemplate: '%{text}<extra>click to pin</extra>',
      marker: {
        size: RUNGS.map((r) => (pinned.includes(r) ? 11 : 8)),
        color: RUNGS.map((r) => (pinned.includes(r) ? t.raised : t.fjord)),
        line: { color: t.ink, width: RUNGS.map((r) => (pinned.includes(r) ? 2.2 : 0)) },
      },
    },
  ]
  const all = [
    ...dots,
    planned,
    ...(asked ? [asked.value] : []),
    ...besides.flatMap((d) => RUNGS.map((r) => d.percentiles[String(r)] ?? planned)),
  ].map((value) => scale.at(value))
  const least = scale.isDate ? 5 * scale.binWidth(0, 1) : 1e-6
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const span = Math.max(least, high - low)
  const pad = span * 0.04
  // Room for the label that stands left of the first pin.
  const part = Math.min(0.6, LABEL_WIDTH / Math.max(1, width - 58))
  const leftPad =
    asked !== null && scale.at(asked.value) < scale.at(planned) ? ((span + pad) * part) / (1 - part) : pad
  /** The dots stay below the line on which the pins are named. */
  const top = (tallest + 0.8) * (1 + LABEL_HEIGHT / Math.max(40, height / 2 - LABEL_HEIGHT))
  const font = fontOf(t)
  const lines = markedLines(t, scale, planned, asked)
  return {
    data,
    layout: {
      ...layoutOf(t, width, height),
      xaxis: { ...valueAxis(t, scale, [low - leftPad, high + pad], width), anchor: 'y2' },
      yaxis: { domain: [0.5, 1], range: [0.2, top], visible: false, fixedrange: true },
      yaxis2: {
        domain: [0, 0.44],
        range: [4, 96],
        tickvals: RUNGS,
        gridcolor: t.hairline,
        zeroline: false,
        fixedrange: true,
        color: t.softInk,
      },
      shapes: [
        ...lines.shapes,
        {
          type: 'line',
          xref: 'paper',
          yref: 'paper',
          x0: 0,
          x1: 1,
          y0: 0.5,
          y1: 0.5,
          line: { color: t.ink, width: 1 },
        },
        ...pinned.map((r) => ({
          type: 'line' as const,
          xref: 'x' as const,
          yref: 'y2' as const,
          x0: scale.place(low - leftPad),
          x1: at(rung(r)),
          y0: r,
          y1: r,
          line: { color: t.ink, width: 1.5 },
        })),
      ],
      annotations: [
        ...lines.annotations,
        ...pinned.map((r) => {
          const x = rung(r)
          const isAtEdge = (high + pad - scale.at(x)) / (span + pad + leftPad) < (LABEL_WIDTH * 0.7) / width
          return {
            x: at(x),
            y: r,
            xref: 'x' as const,
            yref: 'y2' as const,
            text: scale.words(x),
            showarrow: false,
            xanchor: isAtEdge ? ('right' as const) : ('left' as const),
            xshift: isAtEdge ? -12 : 12,
            bgcolor: t.paper,
            font: { ...font, weight: 650 },
          }
        }),
        ...besides.map((d, k) => ({
          x: 1,
          y: 0.02 + 0.05 * k,
          xref: 'paper' as const,
          yref: 'paper' as const,
          text: `${d.mark} ${d.name}`,
          showarrow: false,
          xanchor: 'right' as const,
          bgcolor: t.paper,
          font: { ...font, color: d.colour },
        })),
      ],
    },
  }
}
