import { roundMoney } from '../plan/money.ts'

/** "1,583,496 EUR"; cents where there are any. */
export const moneyWords = (amount: number, currency: string): string => `${amountWords(amount)} ${currency}`
/** "1,583,496" or "0.13". */
export const amountWords = (amount: number): string => {
  const rounded = roundMoney(amount)
  const isWhole = Number.isInteger(rounded)
  const [whole, cents] = Math.abs(rounded)
    .toFixed(isWhole ? 0 : 2)
    .split('.') as [string, string?]
  const grouped = whole.replaceAll(/\B(?=(\d{3})+$)/g, ',')
  return `${rounded < 0 ? '−' : ''}${grouped}${cents === undefined ? '' : `.${cents}`}`
}

/** What was typed as an amount: thousands in commas, blanks or apostrophes, a decimal point or comma; null where it is none. */
export const readAmount = (typed: string): number | null => {
  const text = typed.trim().replaceAll(/[\s\u00a0'’]/g, '')
  if (/^-?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(text)) return Number(text.replaceAll(',', ''))
  if (/^-?\d+([.,]\d+)?$/.test(text)) return Number(text.replace(',', '.'))
  return null
}

/** A text whose figures are written as numbers are: "1,200h" and "1,5 d" as "1200h" and "1.5 d". */
export const plainFigures = (text: string): string =>
  text.replaceAll(/\d[\d.,]*\d/g, (figure) => String(readAmount(figure) ?? figure))
