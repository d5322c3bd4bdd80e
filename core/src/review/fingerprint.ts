import { SHORT_YEAR } from '../words/dates.ts'

/** What a finding rests on, by name, as text: shown when an accepted finding comes back because one of them changed. */
export type Facts = Readonly<Record<string, string>>

/** A short name for a text: 53 bits of it, so that two of a plan's texts practically never share one. Not for secrets. */
export const hashOf = (text: string): string => {
  let low = 0xdeadbeef
  let high = 0x41c6ce57
  for (let k = 0; k < text.length; k++) {
    const unit = text.charCodeAt(k)
    low = Math.imul(low ^ unit, 2654435761)
    high = Math.imul(high ^ unit, 1597334677)
  }
  low = Math.imul(low ^ (low >>> 16), 2246822507) ^ Math.imul(high ^ (high >>> 13), 3266489909)
  high = Math.imul(high ^ (high >>> 16), 2246822507) ^ Math.imul(low ^ (low >>> 13), 3266489909)
  return ((high & 0x1fffff) * 2 ** 32 + (low >>> 0)).toString(36)
}

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
