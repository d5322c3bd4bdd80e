import { instantOf, MINUTES_PER_DAY } from '../time/instant.ts'

/** One of those whose finishes lie under each other. */
export interface FinishRow {
  /** Finishes of fifty iterations, sorted; empty where it was not simulated. */
  readonly dots: readonly string[]
  /** Its percentiles; null where it was not simulated. */
  readonly percentiles: Readonly<Record<string, string>> | null
  /** Planned finish; null where it has no dates. */
  readonly planned: number | null
}
export interface PlacedFinishes {
  readonly base: number
  readonly dots: readonly { readonly x: number; readonly y: number; readonly isBeyond: boolean }[]
  /** Where the two are on one spot they share a name. */
  readonly pins: readonly { readonly p: string; readonly x: number }[]
  readonly planned: number | null
}

export const FINISH_ROW = 58
const MARK = 8
const TALLEST = 38
const PIN_WIDTH = 34
const TICK_WIDTH = 72

const at = (date: string): number => instantOf(date, 'finish')

/** The finishes of several on one axis of dates: where every mark, pin and tick stands. @param left - pixels beside it @param inner - of the axis */
export const placeFinishes = (
  rows: readonly FinishRow[],
  required: number | null,
  left: number,
  inner: number,
) => {
  const all = [
    ...rows.flatMap(({ dots, planned }) => [
      ...(dots.length > 0 ? [at(dots[0]!), at(dots.at(-1)!)] : []),
      ...(planned === null ? [] : [planned]),
    ]),
    ...(required === null ? [] : [required]),
  ]
  const [least, most] = [Math.min(...all), Math.max(...all)]
  const pad = Math.max(MINUTES_PER_DAY, (most - least) * 0.03)
  const [low, high] = all.length === 0 ? [0, MINUTES_PER_DAY] : [least - pad, most + pad]
  const x = (instant: number): number => left + ((instant - low) / (high - low)) * inner
  const placed = rows.map(({ dots, percentiles, planned }, k): PlacedFinishes => {
    const base = k * FINISH_ROW + 46
    const p80 = percentiles && at(percentiles['80']!)
    const heights = new Map<number, number>()
    const stacked = dots.map((date) => {
      const bin = Math.round((x(at(date)) - left) / MARK)
      const level = heights.get(bin) ?? 0
      heights.set(bin, level + 1)
      return { x: left + bin * MARK, level, isBeyond: p80 !== null && at(date) > p80 }
    })
    // What would stand above the row stands closer.
    const step = Math.min(MARK, TALLEST / Math.max(1, ...heights.values()))
    const pins = percentiles === null ? [] : ['50', '80'].map((p) => ({ p, x: x(at(percentiles[p]!)) }))
    return {
      base,
      dots: stacked.map(({ level, ...dot }) => ({ ...dot, y: base - 5 - level * step })),
      pins:
        pins.length === 2 && Math.abs(pins[1]!.x - pins[0]!.x) < PIN_WIDTH
          ? [{ p: '50, 80', x: pins[1]!.x }]
          : pins,
      planned: planned === null ? null : x(planned),
    }
  })
  const days = (high - low) / MINUTES_PER_DAY
  const step = [1, 2, 7, 14, 28, 56, 112].find((size) => days / size <= inner / TICK_WIDTH) ?? 224
  const first = Math.ceil(low / MINUTES_PER_DAY)
  const ticks = Array.from(
    { length: Math.floor(days / step) + 1 },
    (_, k) => (first + k * step) * MINUTES_PER_DAY,
  ).filter((instant) => instant < high)
  return { rows: placed, ticks, x, height: rows.length * FINISH_ROW + 34 }
}
