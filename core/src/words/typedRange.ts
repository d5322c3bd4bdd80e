import type { DayLengths } from '../plan/durations.ts'
import { durationWords, readDuration } from './durations.ts'
import { amountWords, readAmount } from './amounts.ts'

/** Low, likely and high of something: working minutes, factors or money. */
export interface Range {
  readonly low: number
  readonly likely: number
  readonly high: number
}
export type TypedRange =
  { readonly ok: true; readonly range: Range } | { readonly ok: false; readonly why: string }
export type TypedShare =
  { readonly ok: true; readonly share: number } | { readonly ok: false; readonly why: string }

/** What is typed between values, what cannot be part of one first. */
const BETWEEN = [/\s*[/·;|]\s*/, /,\s+/, /\s+(?=[\d.+-])/, /,/]

/** The values of "9 / 11 / 19", "9d 11d 19d", "9, 11, 19". */
const valuesOf = (text: string): string[] => {
  const trimmed = text.trim().replaceAll('−', '-')
  const by = BETWEEN.find((separator) => separator.test(trimmed))
  return by ? trimmed.split(by) : [trimmed]
}

const rising = (low: number, likely: number, high: number): TypedRange =>
  low <= likely && likely <= high
    ? { ok: true, range: { low, likely, high } }
    : { ok: false, why: 'low, likely and high must rise in this order' }

/** "9 d / 11 d / 19 d" */
export const estimateWords = (
  { low, likely, high }: Range,
  lengths: Pick<DayLengths, 'dayMinutes'>,
): string => [low, likely, high].map((minutes) => durationWords(minutes, lengths)).join(' / ')

/** Reads three durations of one calendar, low, likely and high: "9 / 11 / 19", "9d 11d 19d", "4h, 6h, 2d". */
export const readEstimate = (text: string, lengths: DayLengths): TypedRange => {
  const values = valuesOf(text)
  if (values.length !== 3)
    return { ok: false, why: 'write three durations, low / likely / high: 9 / 11 / 19' }
  const read = values.map((value) => readDuration(value, lengths))
  const bad = read.find((one) => !one.ok)
  if (bad && !bad.ok) return bad
  const [low, likely, high] = read.map((one) => (one.ok ? one.minutes : 0)) as [number, number, number]
  return low < 0
    ? { ok: false, why: 'no duration is below zero; write 0 or more' }
    : rising(low, likely, high)
}

const round = (value: number): number => Math.round(value * 1e6) / 1e6

/** "0.9 / 1 / 1.4" */
export const factorsWords = ({ low, likely, high }: Range): string =>
  [low, likely, high].map((factor) => String(round(factor))).join(' / ')

/** Most that a duration is multiplied by. */
const MOST_FACTOR = 100

/**
 * Reads factors on a duration, low, likely and high: "0.9 / 1 / 1.4", or what is taken off and put on: "-10% / 0% / +40%". Of two the
 * likely one is as planned.
 */
export const readFactors = (text: string): TypedRange => {
  const values = valuesOf(text)
  const factors = values.map(factorOf)
  const bad = factors.findIndex((factor) => factor === null)
  if ((values.length !== 3 && values.length !== 2) || bad >= 0)
    return {
      ok: false,
      why:
        bad >= 0 && values[bad] !== ''
          ? `“${values[bad]}” is no factor; write for example 0.9 / 1 / 1.4 or -10% / +40%`
          : 'write factors low / likely / high: 0.9 / 1 / 1.4, or -10% / +40%',
    }
  const [low, likely, high] = (values.length === 2 ? [factors[0], 1, factors[1]] : factors) as number[]
  if (low! < 0) return { ok: false, why: 'a duration cannot come out below zero; take off at most 100%' }
  if (high! > MOST_FACTOR) return { ok: false, why: 'more than a hundredfold; write a factor such as 1.4' }
  return rising(low!, likely!, high!)
}

/** A factor, or a signed percentage on top of one; null for what is neither. */
const factorOf = (value: string): number | null => {
  const match = /^([+-]?)(\d+(?:[.,]\d+)?|[.,]\d+)\s*(%?)$/.exec(value.trim())
  if (!match) return null
  const figure = Number(match[2]!.replace(',', '.'))
  const [sign, percent] = [match[1], match[3]]
  if (percent === '') return sign === '' ? figure : null
  if (sign === '' && figure !== 0) return round(figure / 100)
  return round(1 + (sign === '-' ? -figure : figure) / 100)
}

/** "8,000 / 15,000 / 40,000" */
export const amountsWords = ({ low, likely, high }: Range): string =>
  [low, likely, high].map(amountWords).join(' / ')

/** Reads amounts of money, low, likely and high; of one all three are it. */
export const readAmounts = (text: string): TypedRange => {
  const listed = valuesOf(text)
  const isOne = readAmount(text) !== null && (listed.length !== 3 || !/\s/.test(text.trim()))
  const values = isOne ? [text, text, text] : listed
  const amounts = values.map(readAmount)
  if (values.length !== 3 || amounts.includes(null))
    return { ok: false, why: 'write amounts low / likely / high: 8,000 / 15,000 / 40,000' }
  const [low, likely, high] = amounts as number[]
  return low! < 0
    ? { ok: false, why: 'no cost is below zero; write 0 or more' }
    : rising(low!, likely!, high!)
}

/** A share of iterations as a natural frequency: "31 of 100", "fewer than 1 of 100". */
export const frequencyWords = (share: number): string =>
  share > 0.995
    ? 'more than 99 of 100'
    : share < 0.005
      ? 'fewer than 1 of 100'
      : `${Math.round(share * 100)} of 100`

/** "38 of 100", "0.5 of 100" */
export const chanceWords = (share: number): string => `${round(share * 100)} of 100`

/** Reads a probability: "30%", "0.3", "30 of 100", "1 in 20". */
export const readChance = (text: string): TypedShare => {
  const trimmed = text.trim()
  const part = /^(\d[\d.,'’\s]*?)\s*(?:of|in|\/)\s*(\d[\d.,'’\s]*)$/i.exec(trimmed)
  const plain = /^(\d[\d.,]*|[.,]\d+)\s*(%?)$/.exec(trimmed)
  const figure = (typed: string): number => readAmount(typed.replace(/^(?=[.,])/, '0')) ?? NaN
  const share = part
    ? figure(part[1]!) / figure(part[2]!)
    : plain
      ? figure(plain[1]!) / (plain[2] === '%' ? 100 : 1)
      : NaN
  if (Number.isNaN(share))
    return { ok: false, why: `“${text.trim()}” is no probability; write for example 30%, 0.3 or 1 in 20` }
  if (share > 1)
    return {
      ok: false,
      why: `${text.trim()} is more than always; write at most 100%${plain && plain[2] === '' && share <= 100 ? `, or ${plain[1]}% for ${plain[1]} of 100` : ''}`,
    }
  return { ok: true, share: round(share) }
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
/** Largest chance that a day is lost: one that always is would be a holiday. */
const MOST_LOST = 0.99

export type TypedMonths =
  | { readonly ok: true; readonly months: Readonly<Record<string, number>> }
  | { readonly ok: false; readonly why: string }

/** "may 6%, jun 5%": by month (1 to 12), the chance that a working day is lost. */
export const monthChancesWords = (months: Readonly<Record<string, number>>): string =>
  MONTHS.flatMap((name, k) => {
    const share = months[k + 1]
    return share === undefined ? [] : [`${name} ${round(share * 100)}%`]
  }).join(', ')

/** Reads "may 6%, jun 5%" or "may-jul 0.05"; a month that is not named loses nothing. */
export const readMonthChances = (text: string): TypedMonths => {
  const months: Record<string, number> = {}
  for (const part of text
    .toLowerCase()
    .split(/[,;]\s+|;|,(?=[a-z])/)
    .map((one) => one.trim())
    .filter(Boolean)) {
    const match = /^([a-z]+)(?:\s*[-–]\s*([a-z]+))?\s*:?\s*(.+)$/.exec(part)
    const monthOf = (name: string): number =>
      name.length < 3 ? -1 : MONTHS.findIndex((month) => name.startsWith(month))
    const first = match ? monthOf(match[1]!) : -1
    const last = match?.[2] === undefined ? first : monthOf(match[2])
    if (!match || first < 0 || last < 0)
      return { ok: false, why: `“${part}” names no month; write for example may 6%, jun 5%` }
    const read = readChance(match[3]!)
    if (!read.ok) return read
    if (read.share > MOST_LOST)
      return { ok: false, why: 'a day that is always lost is a holiday; write at most 99%' }
    for (let k = first; ; k = (k + 1) % 12) {
      months[k + 1] = read.share
      if (k === last) break
    }
  }
  return { ok: true, months }
}
