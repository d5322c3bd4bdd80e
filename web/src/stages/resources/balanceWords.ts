import { balanceOf, instantWords, roundMoneyWords, type MoneyView } from '@geodrome/core'

const day = (number: number): string => instantWords(number * 1440, 'start', { time: false })

/** What payments leave over, in a sentence: from when until when more is spent than came in, and how much at most. */
export const balanceWords = (money: MoneyView, currency: string): string => {
  if (money.payments.length === 0) return 'No payments are planned.'
  const { firstDay, byDay } = balanceOf(money)
  const below = byDay.findIndex((amount) => amount < -0.005)
  const end = byDay.at(-1) ?? 0
  const atEnd = `${roundMoneyWords(Math.abs(end), currency)} ${end < 0 ? 'short' : 'left over'} in the end`
  if (below < 0) return `Payments cover what is spent all the time; ${atEnd}.`
  let lowest = below
  for (let k = below; k < byDay.length; k++) if (byDay[k]! < byDay[lowest]!) lowest = k
  const last = byDay.findLastIndex((amount) => amount < -0.005)
  const until = last === byDay.length - 1 ? 'to the end' : `until ${day(firstDay + last + 1)}`
  const gaps = countGaps(byDay)
  return `From ${day(firstDay + below)} ${until} more is spent than came in${gaps > 1 ? ', with breaks' : ''}, at most ${roundMoneyWords(-byDay[lowest]!, currency)} on ${day(firstDay + lowest)}; ${atEnd}.`
}

/** How often the balance falls below nothing. */
const countGaps = (byDay: Float64Array): number => {
  let gaps = 0
  byDay.forEach((amount, k) => {
    if (amount < -0.005 && (k === 0 || byDay[k - 1]! >= -0.005)) gaps++
  })
  return gaps
}
