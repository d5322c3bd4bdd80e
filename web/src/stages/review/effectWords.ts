import { durationWords, type DayLengths, type Finding } from '@geodrome/core'

/** How the effect was found. */
export const EFFECT_SOURCE: Readonly<Record<Finding['effect']['kind'], string>> = {
  finish: 'found by scheduling the plan without it',
  none: 'found by scheduling the plan without it',
  short: 'measured against the date that is missed',
  float: 'measured in working time of the project',
  unknown: 'what is not linked cannot be scheduled away',
}

/** What a finding does to the finish, in words; days of the project calendar. */
export const effectWords = ({ effect }: Finding, lengths: DayLengths): string => {
  switch (effect.kind) {
    case 'unknown':
      return 'not known'
    case 'none':
      return 'none'
    case 'short':
      return `${durationWords(effect.minutes, lengths)} short`
    case 'float':
      return `costs ${durationWords(effect.minutes, lengths)} of float`
    case 'finish':
      return effect.minutes > 0 ? `adds ${durationWords(effect.minutes, lengths)}` : `hides ${durationWords(-effect.minutes, lengths)}`
  }
}
