import { expect, it } from 'vitest'
import { withoutKernel } from '../kernel/kernel.ts'
import { estimateQuantile, quantileRow } from './estimate.ts'
import { stream } from './random/draws.ts'
import type { ThreePoint } from '../plan/index.ts'

const pert = (low: number, likely: number, high: number): ThreePoint => ({
  low,
  likely,
  high,
  shape: 'pert',
  ends: 'extremes',
})

const ULP = 2 ** -49
/** On both sides of a half by a few of the smallest steps that there are; and an opportunity may take more than there is. */
const PERTS = [
  pert(10.5 - 4 * ULP, 10.5, 10.5 + 4 * ULP),
  pert(100, 200.5, 301),
  pert(-40, 5, 50),
  pert(480, 480, 1900),
  pert(480, 1900, 1900),
]

it('minutes read where they are drawn are those of the draws one by one: of a share, not below 0, halves up', () => {
  let [halves, justBelow, negative] = [0, 0, 0]
  for (const sampling of ['lhs', 'random'] as const)
    for (const [n, first, width] of [
      [1024, 0, 1024],
      [10_000, 640, 1021],
      [33, 33, 33],
      [9, 0, 9],
    ] as const)
      for (const estimate of PERTS)
        for (const share of [1, 0.37]) {
          const draws = stream(sampling, 77, n)
          const us = Array.from({ length: width }, (_, k) => draws.at(first + k))
          const values = us.map((u) => estimateQuantile(estimate)(u) * share)
          halves += values.filter((value) => value > 0 && value % 1 === 0.5).length
          justBelow += values.filter((value) => value % 1 > 0.4999 && value % 1 < 0.5).length
          negative += values.filter((value) => value < 0).length
          const minutes = new Int32Array(width + 3).fill(-7)
          const shape = quantileRow(estimate).minutes(share)!
          expect(draws.fillMinutes(first, width, shape, minutes, 2)).toBe(true)
          expect([...minutes]).toEqual([-7, -7, ...values.map((value) => Math.round(Math.max(0, value))), -7])
        }
  for (const seen of [halves, justBelow, negative]) expect(seen).toBeGreaterThan(100)
})

it('minutes are not read where they are drawn over two batches, for one or two, without a kernel, or where no table is', () => {
  const draws = stream('lhs', 77, 100)
  const shape = quantileRow(pert(1, 2, 5)).minutes(1)!
  const into = new Int32Array(100)
  expect(draws.fillMinutes(0, 100, shape, into, 0)).toBe(true)
  expect(draws.fillMinutes(60, 41, shape, into, 0)).toBe(false)
  expect(draws.fillMinutes(0, 2, shape, into, 0)).toBe(false)
  expect(withoutKernel(() => draws.fillMinutes(0, 100, shape, into, 0))).toBe(false)
  expect(quantileRow({ ...pert(1, 2, 5), shape: 'triangular' }).minutes(1)).toBe(null)
  expect(quantileRow(pert(5, 5, 5)).minutes(1)).toBe(null)
})

it('values of a row are those of its numbers one by one, whatever stood behind them', () => {
  for (const width of [1, 9, 64, 1023])
    for (const estimate of PERTS) {
      const us = Array.from({ length: width }, (_, k) => (k + 0.5) / width)
      const row = Float64Array.from([...us, 1e9, -1e9])
      quantileRow(estimate).values(row, width)
      expect([...row]).toEqual([...us.map(estimateQuantile(estimate)), 1e9, -1e9])
    }
})
