import type { Data, Layout } from 'plotly.js-cartesian-dist-min'
import { instantOf, instantWords } from '@geodrome/core'
import type { Tokens } from '../../theme/tokens.ts'

/** One distribution: fifty dots and the dates of the rungs. */
interface Distribution {
  readonly name: string
  readonly dots: readonly string[]
  readonly percentiles: Readonly<Record<string, string>>
}
export interface FigureInput {
  readonly main: Distribution
  readonly beside: Distribution | null
  readonly planned: string
  readonly required: string | null
  readonly pinned: readonly number[]
}

const RUNGS = [10, 20, 30, 40, 50, 60, 70, 80, 90]
const DAY_MS = 86_400_000
/** Plotly places dates by their text; finishes at 24:00 of a day belong to that day. */
const dayOf = (date: string): number => Math.floor((Date.parse(`${date}:00Z`) - 60_000) / DAY_MS) * DAY_MS
const iso = (ms: number): string => new Date(ms).toISOString().slice(0, 16)
const words = (date: string): string => instantWords(instantOf(date, 'start'), 'finish', { time: false })

/** Dots stacked over bins of whole days, as wide as lets the tallest stack stay readable. */
const stacks = (dots: readonly string[]): { x: string; level: number; date: string }[] => {
  const days = dots.map(dayOf)
  const span = Math.max(1, (Math.max(...days) - Math.min(...days)) / DAY_MS)
  const width = [1, 2, 3, 7, 14, 28, 56].find((w) => span / w <= 24) ?? 112
  const first = Math.min(...days)
  const heights = new Map<number, number>()
  return dots.map((date, k) => {
    const bin = Math.floor((days[k]! - first) / DAY_MS / width)
    const level = (heights.get(bin) ?? 0) + 1
    heights.set(bin, level)
    return { x: iso(first + (bin + 0.5) * width * DAY_MS), level, date }
  })
}

const MARGIN = { l: 44, r: 14, t: 6, b: 26 }
/** Room for the name of a pin, in pixels. */
const LABEL_WIDTH = 132
const LABEL_HEIGHT = 22

/** The fifty dots above the ladder of confidence, on one axis of dates. */
export const figure = (
  input: FigureInput,
  t: Tokens,
  width: number,
  height: number,
): { data: Data[]; layout: Partial<Layout> } => {
  const { main, beside, planned, required, pinned } = input
  const placed = stacks(main.dots)
  const tallest = Math.max(...placed.map((d) => d.level), 6)
  const p80 = main.percentiles['80'] ?? planned
  const colour = (date: string): string =>
    required !== null && date <= required ? t.ink : date <= p80 ? t.fjord : t.raised
  const ladder = (d: Distribution, dash: 'solid' | 'dash', line: string): Data => ({
    type: 'scatter',
    mode: 'lines',
    name: d.name,
    x: RUNGS.map((r) => d.percentiles[String(r)] ?? planned),
    y: RUNGS,
    yaxis: 'y2',
    line: { color: line, width: dash === 'solid' ? 2.5 : 1.8, dash, shape: 'spline', smoothing: 0.5 },
    hoverinfo: 'skip',
  })
  const size = Math.max(5, Math.min(13, (height * 0.42) / (tallest + 1) - 2))
  const data: Data[] = [
    {
      type: 'scatter',
      mode: 'markers',
      x: placed.map((d) => d.x),
      y: placed.map((d) => d.level),
      text: placed.map((d) => words(d.date)),
      hovertemplate: '%{text}<extra>2 in 100</extra>',
      marker: {
        size,
        color: placed.map((d) => colour(d.date)),
        line: {
          color: placed.map((d) => (required !== null && d.date <= required ? t.ink : t.fjord)),
          width: 1.5,
        },
      },
    },
    ladder(main, 'solid', t.fjord),
    ...(beside ? [ladder(beside, 'dash', t.plum)] : []),
    {
      type: 'scatter',
      mode: 'markers',
      x: RUNGS.map((r) => main.percentiles[String(r)] ?? planned),
      y: RUNGS,
      yaxis: 'y2',
      customdata: RUNGS,
      text: RUNGS.map((r) => `${r} in 100 by ${words(main.percentiles[String(r)] ?? planned)}`),
      hovertemplate: '%{text}<extra>click to pin</extra>',
      marker: {
        size: RUNGS.map((r) => (pinned.includes(r) ? 11 : 8)),
        color: RUNGS.map((r) => (pinned.includes(r) ? t.raised : t.fjord)),
        line: { color: t.ink, width: RUNGS.map((r) => (pinned.includes(r) ? 2.2 : 0)) },
      },
    },
  ]
  const all = [
    ...main.dots,
    planned,
    ...(required ? [required] : []),
    ...(beside ? Object.values(beside.percentiles) : []),
  ].map((d) => Date.parse(`${d}:00Z`))
  const span = Math.max(DAY_MS * 5, Math.max(...all) - Math.min(...all))
  const pad = span * 0.04
  // Room for the label that stands left of the first pin.
  const part = Math.min(0.6, LABEL_WIDTH / Math.max(1, width - MARGIN.l - MARGIN.r))
  const leftPad =
    required !== null || planned <= (main.dots[0] ?? planned) ? ((span + pad) * part) / (1 - part) : pad
  /** The dots stay below the line on which the pins are named. */
  const top = (tallest + 0.8) * (1 + LABEL_HEIGHT / Math.max(40, height / 2 - LABEL_HEIGHT))
  const vertical = (x: string, color: string, dash: 'solid' | 'dot') => ({
    type: 'line' as const,
    xref: 'x' as const,
    yref: 'paper' as const,
    x0: x,
    x1: x,
    y0: 0,
    y1: 1,
    line: { color, width: 1.5, dash },
  })
  const font = { family: 'Instrument Sans Variable, sans-serif', color: t.ink, size: 12 }
  const label = (x: string, text: string, color: string, anchor: 'left' | 'right', y: number) => ({
    x,
    y,
    xref: 'x' as const,
    yref: 'paper' as const,
    text,
    showarrow: false,
    xanchor: anchor,
    xshift: anchor === 'left' ? 5 : -5,
    font: { ...font, color, weight: 650 },
  })
  const requiredFirst = required !== null && required <= planned
  const layout: Partial<Layout> = {
    width,
    height,
    margin: MARGIN,
    paper_bgcolor: 'rgba(0,0,0,0)',
    plot_bgcolor: 'rgba(0,0,0,0)',
    showlegend: false,
    hovermode: 'closest',
    dragmode: false,
    font,
    hoverlabel: { bgcolor: t.ink, bordercolor: t.ink, font: { ...font, color: t.paper } },
    xaxis: {
      type: 'date',
      range: [iso(Math.min(...all) - leftPad), iso(Math.max(...all) + pad)],
      anchor: 'y2',
      showgrid: false,
      linecolor: t.ink,
      tickcolor: t.ink,
      ticks: 'outside',
      tickformat: '%-d %b',
      tickangle: 0,
      nticks: Math.max(3, Math.floor(width / 66)),
      fixedrange: true,
      color: t.softInk,
      showline: true,
    },
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
      vertical(planned, t.ink, 'solid'),
      ...(required ? [vertical(required, t.brick, 'dot')] : []),
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
      ...pinned.flatMap((r) => {
        const x = main.percentiles[String(r)]
        return x
          ? [
              {
                type: 'line' as const,
                xref: 'x' as const,
                yref: 'y2' as const,
                x0: iso(Math.min(...all) - leftPad),
                x1: x,
                y0: r,
                y1: r,
                line: { color: t.ink, width: 1.5 },
              },
            ]
          : []
      }),
    ],
    annotations: [
      label(planned, `planned ${words(planned)}`, t.ink, requiredFirst ? 'left' : 'right', 0.985),
      ...(required
        ? [
            label(
              required,
              `required ${words(required)}`,
              t.brick,
              requiredFirst ? 'right' : 'left',
              requiredFirst ? 0.985 : 0.93,
            ),
          ]
        : []),
      ...pinned.flatMap((r) => {
        const x = main.percentiles[String(r)]
        const isAtEdge =
          x !== undefined &&
          (Math.max(...all) + pad - Date.parse(`${x}:00Z`)) / (span + pad + leftPad) <
            (LABEL_WIDTH * 0.7) / width
        return x
          ? [
              {
                x,
                y: r,
                xref: 'x' as const,
                yref: 'y2' as const,
                text: words(x),
                showarrow: false,
                xanchor: isAtEdge ? ('right' as const) : ('left' as const),
                xshift: isAtEdge ? -12 : 12,
                bgcolor: t.paper,
                font: { ...font, weight: 650 },
              },
            ]
          : []
      }),
      ...(beside
        ? [
            {
              x: 1,
              y: 0.02,
              xref: 'paper' as const,
              yref: 'paper' as const,
              text: `▲ ${beside.name}`,
              showarrow: false,
              xanchor: 'right' as const,
              font: { ...font, color: t.plum },
            },
          ]
        : []),
    ],
  }
  return { data, layout }
}
