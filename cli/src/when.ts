import { instantOf, instantWords } from '@geodrome/core'

/** A date as people read it, with its year. */
export const when = (date: string, edge: 'start' | 'finish'): string =>
  instantWords(instantOf(date, 'start'), edge, { year: true })
