import { expect, it } from 'vitest'
import { rangeWidths } from './rangeWidths.ts'

const widths = (cut: Parameters<typeof rangeWidths>[0]): number[] => {
  const widthOf = rangeWidths(cut)
  const found: number[] = []
  for (let from = 0; from < cut.total; from += found.at(-1)!) found.push(widthOf(found.length))
  return found
}

it('the first ranges are short, the others as wide as is worth a message', () => {
  expect(widths({ total: 10_000, perUnit: 200, together: 128, lanes: 2 }).slice(0, 9)).toEqual([
    128, 128, 256, 256, 512, 512, 1024, 1024, 1024,
  ])
  // Of a large plan each is a row or a few; of the largest one.
  expect(Math.max(...widths({ total: 10_000, perUnit: 7600, together: 128, lanes: 2 }))).toBe(384)
  expect(Math.max(...widths({ total: 1000, perUnit: 100_000, together: 128, lanes: 2 }))).toBe(128)
})
it('all are of whole units run together and wider than nothing, however small or light a job is', () => {
  for (const cut of [
    { total: 1, perUnit: 1, together: 128, lanes: 2 },
    { total: 90, perUnit: 0, together: 1, lanes: 2 },
    { total: 500, perUnit: 1e9, together: 7, lanes: 1 },
    { total: 60_000, perUnit: 1, together: 128, lanes: 8 },
  ])
    for (const width of widths(cut)) expect(width > 0 && width % cut.together === 0).toBe(true)
  // At least ten looks at what there is so far.
  expect(widths({ total: 60_000, perUnit: 1, together: 128, lanes: 2 }).length).toBeGreaterThanOrEqual(10)
})
