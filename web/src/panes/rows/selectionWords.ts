import { durationWords, moneyWords, type Activity, type DayLengths } from '@geodrome/core'

/** What is selected, in a line: how many, their work together in days of the project, and what they cost besides who does them. */
export const selectionWords = (
  chosen: readonly Activity[],
  currency: string,
  lengths: DayLengths,
): string => {
  if (chosen.length === 0) return ''
  const minutes = chosen.reduce((sum, { duration }) => sum + duration, 0)
  const cost = chosen.reduce((sum, { cost: { fixed } }) => sum + fixed, 0)
  const money = cost === 0 ? '' : ` · ${moneyWords(cost, currency)}`
  return `${chosen.length} selected · ${durationWords(minutes, lengths)} of work${money}`
}
