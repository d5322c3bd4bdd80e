import { instantOf } from '../time/instant.ts'
import { lengthsOf } from '../plan/durations.ts'
import type { Plan } from '../plan/schema.ts'
import { instantWords } from '../words/dates.ts'
import { durationWords } from '../words/durations.ts'
import { amountWords } from '../words/amounts.ts'
import type { Alternative, AlternativeBeside } from './alternative.ts'
import type { Pairing } from './pairing.ts'

/** What is known of one of those that stand side by side: the plan itself, or a scenario. */
export interface Compared {
  /** Null: the plan itself. */
  readonly id: string | null
  /** Null while it is not known, or where it has no dates. */
  readonly itself: Alternative | null
  /** Null of the plan. */
  readonly beside: AlternativeBeside | null
  /** Of the run on the draws of all; null where there is none. */
  readonly result: {
    readonly percentiles: Readonly<Record<string, string>>
    readonly requiredProbability: number | null
  } | null
  /** Beside the plan's run, iteration by iteration. */
  readonly pairing: Pairing | null
}

/** One thing that all are compared by. */
export interface ComparedBy {
  /** What it is, for the program; never shown. */
  readonly key: string
  readonly name: string
  /** Of each, in their order; empty where it does not apply. */
  readonly words: readonly string[]
}

const day = (date: string): string => instantWords(instantOf(date, 'finish'), 'finish', { time: false })
const hundred = (share: number): string => `${Math.round(share * 100)} of 100`
const money = (amount: number): string => amountWords(Math.round(amount))
const signed = (amount: number): string =>
  `${amount > 0 ? '+' : amount < 0 ? '−' : ''}${money(Math.abs(amount))}`

/** Everything that the plan (first) and its alternatives are compared by. */
export const sideBySide = (plan: Plan, all: readonly Compared[]): readonly ComparedBy[] => {
  const { requiredFinish, currency } = plan.project
  const lengths = lengthsOf(plan, plan.project.calendar)
  const minutes = (length: number): string => durationWords(Math.abs(length), lengths)
  const codes = new Map(plan.activities.map(({ id, code }) => [id, code]))
  const codesOf = (ids: readonly string[]): string => {
    const named = ids.map((id) => codes.get(id) ?? 'new work')
    return named.length > 4
      ? `${named.slice(0, 3).join(', ')} and ${named.length - 3} more`
      : named.join(', ')
  }
  const pathWords = ({ itself, beside }: Compared): string => {
    if (!itself) return ''
    if (!beside) return `${itself.longestPath.length} activities`
    const { joinedLongestPath: joined, leftLongestPath: left } = beside.difference
    if (joined.length === 0 && left.length === 0) return `the same ${itself.longestPath.length}`
    return [
      ...(joined.length > 0 ? [`joined: ${codesOf(joined)}`] : []),
      ...(left.length > 0 ? [`left: ${codesOf(left)}`] : []),
    ].join('; ')
  }
  const findingsWords = ({ itself, beside }: Compared): string => {
    if (!itself) return ''
    return [
      String(itself.findings),
      ...(beside && beside.opened.length > 0 ? [`${beside.opened.length} opened`] : []),
      ...(beside && beside.closed.length > 0 ? [`${beside.closed.length} closed`] : []),
    ].join(', ')
  }
  const floatWords = ({ beside }: Compared): string => {
    if (!beside) return ''
    const { gainedFloat, lostFloat } = beside.difference
    return gainedFloat.length + lostFloat.length === 0
      ? 'the same'
      : [
          ...(gainedFloat.length > 0 ? [`${gainedFloat.length} gained`] : []),
          ...(lostFloat.length > 0 ? [`${lostFloat.length} lost`] : []),
        ].join(', ')
  }
  const total = ({ itself }: Compared): number | null =>
    itself?.cost ? itself.cost.work + itself.cost.damages : null
  const againstPlan = (one: Compared): string => {
    const [own, base] = [total(one), total(all[0]!)]
    if (own === null || base === null) return ''
    return one.id === null ? money(own) : signed(own - base)
  }
  const laterWords = ({ beside }: Compared): string =>
    !beside
      ? ''
      : beside.later === 0
        ? 'the same'
        : `${minutes(beside.later)} ${beside.later < 0 ? 'earlier' : 'later'}`
  const shortWords = ({ itself }: Compared): string =>
    itself?.short == null
      ? ''
      : itself.short > 0
        ? `${minutes(itself.short)} short`
        : itself.short < 0
          ? `${minutes(itself.short)} to spare`
          : 'kept, nothing to spare'
  const pairedWords = ({ pairing }: Compared): string =>
    pairing
      ? `${hundred(pairing.earlier / pairing.pairs)}, the same in ${Math.round((100 * pairing.equal) / pairing.pairs)}`
      : ''
  const sureBy =
    (percent: string) =>
    ({ result }: Compared): string =>
      result ? day(result.percentiles[percent]!) : 'not run'
  const by = (key: string, name: string, words: (one: Compared) => string): ComparedBy => ({
    key,
    name,
    words: all.map(words),
  })
  const isSimulated = all.some(({ result }) => result !== null)
  const hasCost = all.some((one) => total(one) !== null)
  const hasDamages = plan.damages.length > 0
  return [
    by('finish', 'Finish planned', ({ itself }) => (itself ? instantWords(itself.finish, 'finish') : '')),
    by('gain', 'Against the plan', laterWords),
    ...(requiredFinish === null ? [] : [by('short', `Against ${day(requiredFinish)}`, shortWords)]),
    ...(isSimulated
      ? [
          by('p50', 'P50', sureBy('50')),
          by('p80', 'P80', sureBy('80')),
          by('paired', 'Earlier than the plan, same draws', pairedWords),
          ...(requiredFinish === null
            ? []
            : [
                by('keeps', `Keeps ${day(requiredFinish)}`, ({ result }) =>
                  result?.requiredProbability == null ? '' : hundred(result.requiredProbability),
                ),
              ]),
        ]
      : []),
    by('expected', 'Expected by PERT', ({ itself }) => (itself ? day(itself.pert.finish) : '')),
    ...(hasCost
      ? [
          by('cost', `Cost at completion, ${currency}`, ({ itself }) =>
            itself?.cost ? money(itself.cost.work) : '',
          ),
          ...(hasDamages
            ? [
                by('damages', `Damages, ${currency}`, ({ itself }) =>
                  itself?.cost ? money(itself.cost.damages) : '',
                ),
              ]
            : []),
          by('total', hasDamages ? 'Both, and against the plan' : 'Against the plan', againstPlan),
        ]
      : []),
    by('path', 'Longest path', pathWords),
    by('float', 'Float', floatWords),
    by('complexity', 'Complexity', ({ itself }) => (itself ? String(itself.complexity) : '')),
    by('findings', 'Findings', findingsWords),
  ]
}
