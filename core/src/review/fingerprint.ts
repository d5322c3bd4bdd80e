import { hashOf } from '../plan/hash.ts'
import { SHORT_YEAR } from '../words/dates.ts'

/** What a finding rests on, by name, as text: shown when an accepted finding comes back because one of them changed. */
export type Facts = Readonly<Record<string, string>>

/** Longest place that is written out; a longer one is named by its hash. Keys of acceptances have a limit of 500. */
const MAX_PLACE = 300

export const shortPlace = (place: string): string => (place.length <= MAX_PLACE ? place : hashOf(place))

/**
 * Place and facts of a finding as one text: `place#hash of the facts`. Whether a date is said with its year depends on how long the
 * plan is and on who asks; it is no fact.
 */
export const fingerprintOf = (place: string, facts: Facts): string => {
  let text = ''
  for (const name in facts) text += `${name}\n${facts[name]!.replaceAll(SHORT_YEAR, '')}\n`
  return `${place}#${hashOf(text)}`
}

export const placeOf = (fingerprint: string): string => {
  const end = fingerprint.lastIndexOf('#')
  return end < 0 ? fingerprint : fingerprint.slice(0, end)
}
