import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  amountsWords,
  chanceWords,
  estimateWords,
  factorsWords,
  monthChancesWords,
  readAmounts,
  readChance,
  readEstimate,
  readFactors,
  readMonthChances,
  type TypedRange,
} from './typedRange.ts'

const DAY = { dayMinutes: 480, weekMinutes: 2400 }
const three = (read: TypedRange): readonly number[] | string =>
  read.ok ? [read.range.low, read.range.likely, read.range.high] : read.why

describe('three typed values', () => {
  it.each([
    ['9 / 11 / 19', [9, 11, 19]],
    ['9/11/19', [9, 11, 19]],
    ['9d 11d 19d', [9, 11, 19]],
    ['9 d / 11 d / 19 d', [9, 11, 19]],
    ['9, 11, 19', [9, 11, 19]],
    ['9,11,19', [9, 11, 19]],
    ['9,5 / 11 / 19', [9.5, 11, 19]],
    ['1w · 1.5w · 2w', [5, 7.5, 10]],
    ['0 / 0 / 4h', [0, 0, 0.5]],
  ])('%s is durations', (text, days) => {
    expect(three(readEstimate(text, DAY))).toEqual(days.map((d) => d * 480))
  })
  it.each([
    ['', 'write three durations'],
    ['9 / 11', 'write three durations'],
    ['9 / 11 / 19 / 20', 'write three durations'],
    ['19 / 11 / 9', 'must rise'],
    ['-1 / 2 / 3', 'below zero'],
    ['9 / soon / 19', '“soon” is not a duration'],
  ])('“%s” is none, and says why', (text, why) => {
    expect(three(readEstimate(text, DAY))).toContain(why)
  })
  it.each([
    ['0.9 / 1 / 1.4', [0.9, 1, 1.4]],
    ['0,9 / 1 / 1,4', [0.9, 1, 1.4]],
    ['-10% / +40%', [0.9, 1, 1.4]],
    ['−10 % / 0 % / +40 %', [0.9, 1, 1.4]],
    ['90% / 100% / 140%', [0.9, 1, 1.4]],
    ['.9 1 1.4', [0.9, 1, 1.4]],
  ])('%s is factors', (text, factors) => {
    expect(three(readFactors(text))).toEqual(factors)
  })
  it.each([
    ['', 'write factors'],
    ['1', 'write factors'],
    ['-110% / +40%', 'below zero'],
    ['1.4 / 1 / 0.9', 'must rise'],
    ['0.9 / 1 / 140', 'hundredfold'],
    ['-2 / 1 / 3', '“-2” is no factor'],
    ['a / b / c', '“a” is no factor'],
  ])('“%s” is no factors, and says why', (text, why) => {
    expect(three(readFactors(text))).toContain(why)
  })
  it.each([
    ['8,000 / 15,000 / 40,000', [8000, 15000, 40000]],
    ['8000 15000 40000', [8000, 15000, 40000]],
    ['8,000', [8000, 8000, 8000]],
    ['1,000,000', [1e6, 1e6, 1e6]],
    ['12 500', [12500, 12500, 12500]],
    ['8 / much / 40', 'write amounts'],
    ['9 / 8 / 7', 'must rise'],
    ['-5', 'below zero'],
  ])('%s as money', (text, found) => {
    if (typeof found === 'string') expect(three(readAmounts(text))).toContain(found)
    else expect(three(readAmounts(text))).toEqual(found)
  })
  it('reads what it writes', () => {
    const rising = fc
      .tuple(fc.nat(50_000), fc.nat(50_000), fc.nat(50_000))
      .map((v) => v.sort((a, b) => a - b))
    fc.assert(
      fc.property(rising, ([low, likely, high]) => {
        const range = { low, likely, high }
        expect(readEstimate(estimateWords(range, DAY), DAY)).toEqual({ ok: true, range })
        expect(readAmounts(amountsWords(range))).toEqual({ ok: true, range })
        const factors = { low: low / 1000, likely: likely / 1000, high: high / 1000 }
        expect(readFactors(factorsWords(factors))).toEqual({ ok: true, range: factors })
      }),
    )
  })
})

describe('a typed probability', () => {
  it.each([
    ['30%', 0.3],
    ['0.3', 0.3],
    ['0,3', 0.3],
    ['30 of 100', 0.3],
    ['1 in 20', 0.05],
    ['1/4', 0.25],
    ['0', 0],
    ['1', 1],
    ['0.5 %', 0.005],
    ['1 in 1,000', 0.001],
    ['3 of 1 000', 0.003],
    ['2,5 %', 0.025],
    [',3', 0.3],
  ])('%s', (text, share) => {
    expect(readChance(text)).toEqual({ ok: true, share })
    expect(readChance(chanceWords(share))).toEqual({ ok: true, share })
  })
  it.each([
    ['1.2', 'write at most 100%, or 1.2% for 1.2 of 100'],
    ['120%', 'write at most 100%'],
    ['3 of 2', 'more than always'],
    ['1 in 0', 'more than always'],
    ['0/0', 'is no probability'],
    ['often', '“often” is no probability'],
    ['-5%', 'is no probability'],
    ['', 'is no probability'],
  ])('“%s” is none', (text, why) => {
    const read = readChance(text)
    expect(read.ok ? '' : read.why).toContain(why)
  })
})

describe('typed months', () => {
  it('reads months, spans of them, and what it writes', () => {
    const read = readMonthChances('May 6%, june 5 %; nov-jan: 0.2')
    expect(read).toEqual({ ok: true, months: { 5: 0.06, 6: 0.05, 11: 0.2, 12: 0.2, 1: 0.2 } })
    if (read.ok) expect(readMonthChances(monthChancesWords(read.months))).toEqual(read)
    expect(readMonthChances(' ')).toEqual({ ok: true, months: {} })
    expect(readMonthChances('sep 2,5%')).toEqual({ ok: true, months: { 9: 0.025 } })
  })
  it.each([
    ['ma 5%', 'names no month'],
    ['5%', 'names no month'],
    ['may', 'names no month'],
    ['may 100%', 'is a holiday'],
    ['may lots', 'no probability'],
  ])('“%s” is refused', (text, why) => {
    const read = readMonthChances(text)
    expect(read.ok ? '' : read.why).toContain(why)
  })
})
