import { expect, it } from 'vitest'
import { estimateQuantile, quantileRow } from './estimate.ts'
import type { ThreePoint } from '../plan/index.ts'

const pert = (low: number, likely: number, high: number): ThreePoint => ({
  low,
  likely,
  high,
  shape: 'pert',
  ends: 'extremes',
})

it('minutes of a row are those of its numbers one by one: of a share, not below 0, halves up', () => {
  const us = Array.from({ length: 1023 }, (_, k) => (k + 1) / 1024)
  let [halves, below] = [0, 0]
  // The middle of a shape that is the same on both sides is a half; an opportunity may take more than there is.
  for (const estimate of [pert(10, 20.5, 31), pert(100, 200.5, 301), pert(-40, 5, 50), pert(480, 600, 1900)])
    for (const share of [1, 0.5, 0.37]) {
      const values = us.map((u) => estimateQuantile(estimate)(u) * share)
      halves += values.filter((value) => value > 0 && value % 1 === 0.5).length
      below += values.filter((value) => value < 0).length
      const row = Float64Array.from(us)
      quantileRow(estimate).minutes(row, row.length, share)
      expect([...row]).toEqual(values.map((value) => Math.round(Math.max(0, value))))
    }
  expect(halves).toBeGreaterThan(0)
  expect(below).toBeGreaterThan(100)
})
