import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DAYLIGHT } from '../../theme/tokens.ts'
import { figure } from './figure.ts'

describe('the fifty dots over the ladder', () => {
  const day = (n: number): string =>
    new Date(Date.UTC(2027, 5, 1) + n * 86_400_000).toISOString().slice(0, 16)
  const rungs = [10, 20, 30, 40, 50, 60, 70, 80, 90]
  const draw = (days: number[], pinned: number[] = []) =>
    figure(
      {
        main: {
          name: 'run',
          dots: days.map(day),
          percentiles: Object.fromEntries(
            rungs.map((r) => [String(r), day(days[Math.floor((r / 100) * days.length)]!)]),
          ),
        },
        beside: null,
        planned: day(3),
        required: day(1),
        pinned,
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
