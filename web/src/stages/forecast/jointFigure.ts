import { type JointLook, type Tokens, DATE_SCALE, type ValueScale } from '@geodrome/core'
import { fontOf, layoutOf, valueAxis, vertical, type Figure } from './figureParts.ts'

export interface JointInput {
  readonly look: JointLook
  readonly money: ValueScale
  readonly required: string | null
  readonly percent: number
}

/** Date and money of iterations together: what both are kept in lies left of a date and below an amount. */
export const jointFigure = (
  { look, money, required, percent }: JointInput,
  t: Tokens,
  width: number,
  height: number,
): Figure => {
  const { dots, curve, planned } = look
  const dates = [...dots, planned, ...curve].map(({ finish }) => DATE_SCALE.at(finish))
  const costs = [...dots, planned, ...curve].map(({ cost }) => cost)
  if (required !== null) dates.push(DATE_SCALE.at(required))
  const around = (values: readonly number[], least: number): [number, number] => {
    const [low, high] = [Math.min(...values), Math.max(...values)]
    const pad = Math.max(least, (high - low) * 0.05)
    return [low - pad, high + pad]
  }
  const at = (date: string): string => String(DATE_SCALE.place(DATE_SCALE.at(date)))
  const font = fontOf(t)
  return {
    data: [
      {
        type: 'scatter',
        mode: 'markers',
        x: dots.map(({ finish }) => at(finish)),
        y: dots.map(({ cost }) => cost),
        text: dots.map(({ finish, cost }) => `${DATE_SCALE.words(finish)}, ${money.words(cost)}`),
        hovertemplate: '%{text}<extra>an iteration</extra>',
        marker: {
          size: 5.5,
          color: dots.map(({ finish, cost }) =>
            finish <= planned.finish && cost <= planned.cost ? t.ink : 'rgba(0,0,0,0)',
          ),
          line: { color: t.fjord, width: 1.1 },
        },
      },
      {
        type: 'scatter',
        mode: 'lines+markers',
        x: curve.map(({ finish }) => at(finish)),
        y: curve.map(({ cost }) => cost),
        text: curve.map(
          ({ finish, cost, probability }) =>
            `${DATE_SCALE.words(finish)} with ${money.words(cost)}: ${Math.round(probability * 100)} of 100 keep both`,
        ),
        hovertemplate: '%{text}<extra></extra>',
        line: { color: t.plum, width: 2.5, shape: 'hv' },
        marker: { color: t.plum, size: 6 },
      },
      {
        type: 'scatter',
        mode: 'markers',
        x: [at(planned.finish)],
        y: [planned.cost],
        text: [`planned ${DATE_SCALE.words(planned.finish)} with ${money.words(planned.cost)}`],
        hovertemplate: '%{text}<extra></extra>',
        marker: { color: t.raised, size: 12, line: { color: t.ink, width: 2.4 } },
      },
    ],
    layout: {
      ...layoutOf(t, width, height),
      margin: { l: 78, r: 18, t: 10, b: 26 },
      xaxis: valueAxis(t, DATE_SCALE, around(dates, 2 * 86_400_000), width),
      yaxis: {
        range: around(costs, 1),
        gridcolor: t.hairline,
        zeroline: false,
        fixedrange: true,
        color: t.softInk,
        tickformat: ',~f',
      },
      shapes: required === null ? [] : [vertical(at(required), t.brick, 'dot')],
      annotations: [
        {
          x: at(planned.finish),
          y: planned.cost,
          text: 'planned',
          showarrow: false,
          xanchor: 'left',
          xshift: 11,
          bgcolor: t.paper,
          font: { ...font, weight: 650 },
        },
        ...(required === null
          ? []
          : [
              {
                x: at(required),
                y: 1,
                xref: 'x' as const,
                yref: 'paper' as const,
                text: `required ${DATE_SCALE.words(required)}`,
                showarrow: false,
                xanchor: 'left' as const,
                yanchor: 'top' as const,
                xshift: 5,
                font: { ...font, color: t.brick, weight: 650 },
              },
            ]),
        ...(curve[0]
          ? [
              {
                x: at(curve.at(-1)!.finish),
                y: curve.at(-1)!.cost,
                text: `both in ${percent} of 100`,
                showarrow: false,
                xanchor: 'right' as const,
                yanchor: 'bottom' as const,
                yshift: 6,
                bgcolor: t.paper,
                font: { ...font, color: t.plum, weight: 650 },
              },
            ]
          : []),
      ],
    },
  }
}
