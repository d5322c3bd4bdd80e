import type { Activity, Project } from '../plan/schema.ts'
import { NO_PARTICIPLES, PARTICIPLES, STATES, VERB_PREFIXES, WORK_VERBS } from './words.ts'

/**
 * How a project wants its activities named. Work says what is done ("Blast hull") or what is delivered ("Blasted hull"); a milestone
 * says what has been achieved ("Hull dry"). Departures are listed, never enforced.
 */
export interface HouseRule {
  readonly work: 'any' | 'verb' | 'delivered'
  readonly milestones: 'any' | 'achieved'
  /** Verbs of this project's trade, beside those known here. */
  readonly words: readonly string[]
}

export const NO_RULE: HouseRule = { work: 'any', milestones: 'any', words: [] }

export const houseRuleOf = ({ naming }: Pick<Project, 'naming'>): HouseRule => naming ?? NO_RULE

const wordsOf = (name: string): string[] => name.toLowerCase().match(/[\p{L}][\p{L}\p{M}'’-]*/gu) ?? []

const isVerb = (word: string, { words }: HouseRule): boolean => {
  const known = (stem: string): boolean =>
    WORK_VERBS.has(stem) || words.some((own) => own.toLowerCase() === stem)
  const bare = /^(?:re|un|dis|pre|over|out)-?(.{3,})$/.exec(word)?.[1]
  // "pressure-test", "dye-check": the last part says what is done.
  const last = word.split('-').at(-1)!
  return known(word) || known(last) || (bare !== undefined && known(bare))
}

/** Whether a name begins with a verb, of one word or of two. */
const beginsWithVerb = ([first, second, third]: readonly string[], rule: HouseRule): boolean =>
  isVerb(first!, rule) || (third !== undefined && VERB_PREFIXES.has(first!) && isVerb(second!, rule))

/** A word that says a state which has been reached: "received", "chosen", "dry". */
const isAchieved = (word: string): boolean => {
  const last = word.split('-').at(-1)!
  const bare = /^(?:re|un|dis|pre|over|out)(.{3,})$/.exec(last)?.[1]
  const isOne = (w: string): boolean =>
    PARTICIPLES.has(w) || STATES.has(w) || (/.ed$/.test(w) && !NO_PARTICIPLES.has(w))
  return isOne(word) || isOne(last) || (bare !== undefined && PARTICIPLES.has(bare))
}

/**
 * How a name departs from the house rule.
 * @returns what is wrong and how to mend it, with the word that decided; null where it keeps the rule. Hammocks are no work.
 */
export const departureOf = (
  activity: Pick<Activity, 'name' | 'kind'>,
  rule: HouseRule,
): { readonly why: string; readonly word: string | null } | null => {
  const words = wordsOf(activity.name)
  const [first] = words
  if (activity.kind === 'hammock' || first === undefined) return null
  if (activity.kind === 'milestone') {
    if (rule.milestones === 'any' || words.some(isAchieved)) return null
    return {
      why: 'it names no state that has been reached; say what is achieved, as in “Hull dry” or “Owner has chosen the winch”',
      word: null,
    }
  }
  if (rule.work === 'verb' && !beginsWithVerb(words, rule)) {
    const isGerund = /ing$/.test(words.at(-1)!) || /ing$/.test(first)
    return {
      why: `“${first}” is no verb that is known here; say what is done, ${isGerund ? 'with the verb first, as in “Blast hull” for “Hull blasting”' : 'as in “Blast hull”'}`,
      word: first,
    }
  }
  if (rule.work === 'delivered' && beginsWithVerb(words, rule) && !isAchieved(first))
    return { why: `“${first}” says what is done; say what is delivered, as in “Blasted hull”`, word: first }
  return null
}
