import { DAYLIGHT, amountScale, DATE_SCALE, DAY_MS } from '@geodrome/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { barsBy } from './barsFigure.ts'
import { dotsFigure } from './dotsFigure.ts'

describe('the fifty dots over the ladder', () => {
  const day = (n: number): string =>
    new Date(Date.UTC(2027, 5, 1) + n * 86_400_000).toISOString().slice(0, 16)
  const rungs = [10, 20, 30, 40, 50, 60, 70, 80, 90]
  const draw = (days: number[], pinned: number[] = []) =>
    dotsFigure(
      {
        scale: DATE_SCALE,
        dots: days.map(day),
        percentiles: Object.fromEntries(
          rungs.map((r) => [String(r), day(days[Math.floor((r / 100) * days.length)]!)]),
        ),
        planned: day(3),
        asked: { value: day(1), name: 'required' },
        pinned,
        besides: [],
      },
      DAYLIGHT,
      600,
      400,
    )
  it('stack every dot once, level by level without gaps, whatever the span', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 900 }), { minLength: 50, maxLength: 50 }), (raw) => {
        const days = raw.sort((a, b) => a - b)
        const [dots] = draw(days).data as [{ x: string[]; y: number[] }]
        expect(dots.x).toHaveLength(50)
        const stacks = new Map<string, number[]>()
        dots.x.forEach((x, k) => stacks.set(x, [...(stacks.get(x) ?? []), dots.y[k]!]))
        for (const levels of stacks.values()) expect(levels).toEqual(levels.map((_, k) => k + 1))
        expect(stacks.size).toBeLessThanOrEqual(26)
      }),
      { numRuns: 50 },
    )
  })
  it('draw a line to the date of every pinned rung, and name it', () => {
    const days = Array.from({ length: 50 }, (_, k) => k)
    const { layout } = draw(days, [50, 80])
    const dates = (layout.annotations ?? []).map((a) => a.text)
    // A finish at midnight is the end of the day before.
    expect(dates).toContain('Fri 25 Jun')
    expect(dates).toContain('Sat 10 Jul')
    expect(layout.shapes).toHaveLength(draw(days).layout.shapes!.length + 2)
  })
})

describe('amounts', () => {
  it('stack every dot once within their own round bins, and name what is pinned', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -5000, max: 2_000_000 }), { minLength: 50, maxLength: 50 }),
        (raw) => {
          const dots = raw.sort((a, b) => a - b)
          const { data, layout } = dotsFigure(
            {
              scale: amountScale((amount) => `${amount} EUR`),
              dots,
              percentiles: Object.fromEntries(
                [10, 20, 30, 40, 50, 60, 70, 80, 90].map((r) => [r, dots[r / 2]!]),
              ),
              planned: 0,
              asked: null,
              pinned: [80],
              besides: [],
            },
            DAYLIGHT,
            600,
            400,
          )
          const { x, y } = data[0] as unknown as { x: number[]; y: number[] }
          expect(new Set(x.map((at, k) => `${at} ${y[k]}`)).size).toBe(50)
          expect(layout.annotations!.map(({ text }) => text)).toContain(`${dots[40]} EUR`)
        },
      ),
      { numRuns: 30 },
    )
  })
})

describe('bars', () => {
  const counts = (from: string, count: number) => ({ from, count })
  it('add days up to weeks that begin on Monday, and to months', () => {
    const days = [
      counts('2027-06-27T00:00', 10), // a Sunday
      counts('2027-06-28T00:00', 30),
      counts('2027-06-30T00:00', 20),
      counts('2027-07-01T00:00', 40),
    ]
    const begins = (by: 'day' | 'week' | 'month') =>
      barsBy(DATE_SCALE, days, 1, by).map(({ from, share, upTo }) => [DATE_SCALE.place(from), share, upTo])
    expect(begins('week')).toEqual([
      ['2027-06-21T00:00', 0.1, 0.1],
      ['2027-06-28T00:00', 0.9, 1],
    ])
    expect(begins('month')).toEqual([
      ['2027-06-01T00:00', 0.6, 0.6],
      ['2027-07-01T00:00', 0.4, 1],
    ])
    expect(barsBy(DATE_SCALE, days, 1, 'day').every(({ from, to }) => to - from === DAY_MS)).toBe(true)
    expect(begins('day').map(([, , upTo]) => upTo)).toEqual([0.1, 0.4, 0.6, 1])
  })
})
