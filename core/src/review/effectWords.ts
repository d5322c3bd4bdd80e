import type { DayLengths } from '../plan/durations.ts'
import type { Effect } from './check.ts'
import { durationWords } from '../words/durations.ts'

/** What a finding does to the answer, in a few words; days of the project calendar. */
export const effectWords = (effect: Effect, lengths: DayLengths): string => {
  switch (effect.kind) {
    case 'unmeasured':
      return '…'
    case 'unknown':
      return 'not known'
    case 'none':
      return 'none'
    case 'short':
      return `${durationWords(effect.minutes, lengths)} short`
    case 'missed':
      return `${durationWords(effect.minutes, lengths)} past its date`
    case 'hides':
      return effect.minutes > 0 ? `hides ${durationWords(effect.minutes, lengths)}` : 'hides delays'
    case 'float':
      return `${durationWords(effect.minutes, lengths)} of float`
    case 'day':
      return `off by up to ${durationWords(effect.minutes, lengths)}`
    case 'forecast':
      return 'forecast only'
    case 'finish':
      return effect.minutes > 0
        ? `adds ${durationWords(effect.minutes, lengths)}`
        : `hides ${durationWords(-effect.minutes, lengths)}`
  }
}

/** How the effect was found. */
export const EFFECT_SOURCE: Readonly<Record<Effect['kind'], string>> = {
  finish: 'found by scheduling the plan without it',
  none: 'found by scheduling the plan without it, or by its nature',
  short: 'measured against the required finish',
  missed: 'measured against its own date; the finish of the project is another matter',
  hides: 'the finish stays without it; what comes late before it does not show',
  float: 'the finish stays without it, and the activity has so much more float',
  day: 'of a working day',
  forecast: 'the dates stay without it; a forecast uses other figures than the plan',
  unknown: 'what is not in the plan cannot be scheduled away',
  unmeasured: 'being measured',
}

/** A finish that moves: "3 d later", "1 d earlier", "not moved". */
export const movesWords = (minutes: number, lengths: DayLengths): string =>
  minutes === 0
    ? 'not moved'
    : `${durationWords(Math.abs(minutes), lengths)} ${minutes > 0 ? 'later' : 'earlier'}`
