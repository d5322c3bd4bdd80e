import type { Constraint } from '../plan/schema.ts'
import { dateWords } from './dates.ts'

const RULE_WORDS = { 'not-before': 'not before', 'not-after': 'not after', exactly: 'exactly' } as const

/** "start not before 1 Apr", "finish exactly 30 Jun". */
export const constraintWords = ({ edge, rule, date }: Constraint): string =>
  `${edge} ${RULE_WORDS[rule]} ${dateWords(date, edge)}`

/** The same, and whether it overrides logic. */
export const constraintPhrase = (constraint: Constraint): string =>
  `${constraintWords(constraint)}${constraint.overrides ? ', overriding logic' : ''}${sourceWords(constraint)}`

/** Where its date was taken from; nothing where somebody set it. */
export const sourceWords = ({ source }: Constraint): string =>
  source === undefined
    ? ''
    : `, as “${source.name}” has the ${source.edge} of ${source.code || 'its activity'}`
