import { dateWords } from '@geodrome/core'

/** The day of a kept review or an acceptance: "27 Apr"; as it is written where it is no date. */
export const keptDay = ({ at }: { readonly at: string }): string => {
  const day = at.slice(0, 10)
  if (!/^\d{4}-\d{2}-\d{2}$/.test(day)) return at || 'no date'
  // Without the day of the week: it heads a narrow column.
  return dateWords(day).replace(/^[A-Z][a-z]{2} /, '')
}
