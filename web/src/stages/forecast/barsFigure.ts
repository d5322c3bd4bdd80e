import { type Tokens, DAY_MS, type ValueScale, type ScaleValue } from '@geodrome/core'
import { fontOf, layoutOf, markedLines, valueAxis, type Figure } from './figureParts.ts'

export type BarsBy = 'day' | 'week' | 'month'
export interface Bar {
  readonly from: number
  readonly to: number
  /** Iterations in it, and up to its end; of all. */
  readonly share: number
  readonly upTo: number
}

/** Where the bar begins, and the next, that holds a day. */
const spanOf = (day: number, by: BarsBy): readonly [number, number] => {
  if (by === 'day') return [day, day + DAY_MS]
  const date = new Date(day)
  if (by === 'week') {
    const monday = day - ((date.getUTCDay() + 6) % 7) * DAY_MS
    return [monday, monday + 7 * DAY_MS]
  }
  const [year, month] = [date.getUTCFullYear(), date.getUTCMonth()]
  return [Date.UTC(year, month, 1), Date.UTC(year, month + 1, 1)]
}

/**
 * Bars of iterations: of dates by day, week or month, of amounts as they come.
 * @param bars - of dates by the day
 * @param width - of a bar of amounts
 */
export const barsBy = (
  scale: ValueScale,
  bars: readonly { readonly from: ScaleValue; readonly count: number }[],
  width: number,
  by: BarsBy,
): Bar[] => {
  const all = bars.reduce((sum, { count }) => sum + count, 0)
  const found: { from: number; to: number; count: number }[] = []
  for (const { from, count } of bars) {
    const at = scale.at(from)
    const [begin, end] = scale.isDate ? spanOf(at, by) : [at, at + width]
    if (found.at(-1)?.from === begin) found.at(-1)!.count += count
    else found.push({ from: begin, to: end, count })
  }
  let upTo = 0
  return found.map(({ from, to, count }) => {
    upTo += count
    return { from, to, share: count / all, upTo: upTo / all }
  })
}

export interface BarsInput {
  readonly scale: ValueScale
  readonly bars: readonly Bar[]
  readonly planned: ScaleValue
  readonly asked: { readonly value: ScaleValue; readonly name: string } | null
  readonly p80: ScaleValue
}

/** Iterations in a hundred by span of dates or amounts; those within the 80 % filled. */
export const barsFigure = (
  { scale, bars, planned, asked, p80 }: BarsInput,
  t: Tokens,
  width: number,
  height: number,
): Figure => {
  const all = [
    ...bars.flatMap(({ from, to }) => [from, to]),
    scale.at(planned),
    ...(asked ? [scale.at(asked.value)] : []),
  ]
  const [low, high] = [Math.min(...all), Math.max(...all)]
  const pad = Math.max(1e-9, high - low) * 0.06
  const lines = markedLines(t, scale, planned, asked)
  const most = Math.max(...bars.map(({ share }) => share)) * 100
  const isWithin = (from: number): boolean => from < scale.at(p80)
  return {
    data: [
      {
        type: 'bar',
        x: bars.map(({ from, to }) => scale.place((from + to) / 2)),
        y: bars.map(({ share }) => share * 100),
        width: bars.map(({ from, to }) => (to - from) * 0.86),
        text: bars.map(
          ({ from, share, upTo }) =>
            `from ${scale.words(scale.place(from + (scale.isDate ? 60_000 : 0)))}: ${(share * 100).toFixed(1)} of 100, up to here ${(upTo * 100).toFixed(0)}`,
        ),
        textposition: 'none',
        hovertemplate: '%{text}<extra></extra>',
        marker: {
          color: bars.map(({ from }) => (isWithin(from) ? t.fjord : t.raised)),
          line: { color: t.fjord, width: 1.5 },
        },
      },
    ],
    layout: {
      ...layoutOf(t, width, height),
      bargap: 0,
      xaxis: valueAxis(t, scale, [low - pad, high + pad], width),
      yaxis: {
        range: [0, most * 1.22],
        gridcolor: t.hairline,
        zeroline: false,
        fixedrange: true,
        color: t.softInk,
        nticks: 6,
      },
      shapes: lines.shapes,
      annotations: [
        ...lines.annotations,
        {
          x: 0,
          y: 1,
          xref: 'paper',
          yref: 'paper',
          text: 'in 100',
          showarrow: false,
          xanchor: 'left',
          yanchor: 'top',
          xshift: 2,
          font: { ...fontOf(t), color: t.softInk },
        },
      ],
    },
  }
}
