import { CalendarError, type Calendar } from '../time/calendar.ts'
import type { Instant } from '../time/instant.ts'
import { applyChange } from '../plan/applyChange.ts'
import { setBetween } from '../plan/changesBetween.ts'
import { keyOf, type Change, type Item } from '../plan/change.ts'
import { lengthsOf } from '../plan/durations.ts'
import { PlanError } from '../plan/issue.ts'
import type { Plan, Risk } from '../plan/schema.ts'
import { percentileSorted } from '../forecast/percentile.ts'
import { finishesOf } from '../forecast/simulate/finishes.ts'
import { simulationModel, type SimulationModel, type SimulationOptions } from '../forecast/simulate/model.ts'
import { moneyWords } from '../words/amounts.ts'
import {
  amountsWords,
  chanceWords,
  estimateWords,
  factorsWords,
  monthChancesWords,
} from '../words/typedRange.ts'
import { codesWords, scopeWords } from '../words/scopeWords.ts'
import { draftDifferences } from './compareRevisions.ts'
import { matchRevisions } from './matchRevisions.ts'

/** One input in which two runs differ. */
export interface RunDifference {
  readonly what: string
  readonly before: string
  readonly after: string
  /**
   * Days of the project calendar by which the percentile of the first run moves with this alone; null where it cannot stand alone, or
   * was not measured.
   */
  readonly days: number | null
}

/** A run: the plan that it was of, and how it was drawn. */
export interface ComparedRun {
  readonly plan: Plan
  readonly options: SimulationOptions
}

/** Differences that are measured: each takes a run. */
const MOST_MEASURED = 40

interface Draft extends Omit<RunDifference, 'days'> {
  /** Makes it alone in the first run; null where that cannot be. */
  readonly make: ((run: ComparedRun) => ComparedRun) | null
}

/**
 * Every input in which a later run differs from an earlier one (options, the plan's facts, estimates, what forecasts draw from, money),
 * and what each alone does to a percentile of the finish, on the earlier run's draws. One after the other, so that a page can show them
 * as they come.
 * @param percent - of the finish, in 100
 */
export function* runDifferences(
  before: ComparedRun,
  after: ComparedRun,
  percent: number,
): Generator<RunDifference> {
  const drafts = [...optionDifferences(before, after), ...planDifferences(before.plan, after.plan)]
  if (drafts.length === 0) return
  const { plan } = before
  const { dayMinutes } = lengthsOf(plan, plan.project.calendar)
  const model = simulationModel(plan, before.options)
  // A calendar that is itself the difference counts other minutes: the earlier one measures both.
  const calendar = model.planned.network.calendars.get(plan.project.calendar)
  const base = finishAt(model, percent)
  for (const [k, { make, ...said }] of drafts.entries()) {
    const days =
      make === null || k >= MOST_MEASURED
        ? null
        : daysBetween(base, calendar, dayMinutes, () => {
            const made = make(before)
            return finishAt(simulationModel(made.plan, made.options), percent)
          })
    yield { ...said, days }
  }
}

const finishAt = (model: SimulationModel, percent: number): Instant =>
  percentileSorted(finishesOf(model), percent)

const daysBetween = (
  from: Instant,
  calendar: Calendar,
  dayMinutes: number,
  made: () => Instant,
): number | null => {
  try {
    return (calendar.countBefore(made()) - calendar.countBefore(from)) / dayMinutes
  } catch (error) {
    // A loop, a calendar that is not there: it stands only together with others.
    if (error instanceof PlanError || error instanceof CalendarError) return null
    throw error
  }
}

const SAMPLING = { lhs: 'Latin hypercube', random: 'random' } as const

/** What of a run's options can differ, each with how it is said. Iterations and their batches are one: half of it may be no run at all. */
const OPTIONS: readonly {
  readonly what: string
  readonly of: (options: SimulationOptions) => Partial<SimulationOptions>
  readonly words: (options: SimulationOptions) => string
}[] = [
  {
    what: 'Iterations',
    of: ({ iterations, batch }) => ({ iterations, batch }),
    words: ({ iterations, batch }) =>
      `${iterations.toLocaleString('en')}${batch === undefined ? '' : ` in batches of ${batch.toLocaleString('en')}`}`,
  },
  { what: 'Seed', of: ({ seed }) => ({ seed }), words: ({ seed }) => seed.toLocaleString('en') },
  { what: 'Sampling', of: ({ sampling }) => ({ sampling }), words: ({ sampling }) => SAMPLING[sampling] },
  {
    what: 'Risk register',
    of: ({ risks }) => ({ risks }),
    words: ({ risks }) => (risks ? 'drawn' : 'not drawn'),
  },
]

const optionDifferences = (before: ComparedRun, after: ComparedRun): Draft[] =>
  OPTIONS.flatMap(({ what, of, words }): Draft[] => {
    const [was, is] = [words(before.options), words(after.options)]
    if (was === is) return []
    return [
      {
        what,
        before: was,
        after: is,
        make: ({ plan, options }) => ({ plan, options: { ...options, ...of(after.options) } }),
      },
    ]
  })

const changing =
  (change: Change): Draft['make'] =>
  ({ plan, options }) => ({ plan: applyChange(plan, change).plan, options })

const planDifferences = (before: Plan, after: Plan): Draft[] => {
  const network = draftDifferences(before, after, matchRevisions(before, after)).map(
    ({ what, before: was, after: is, change }): Draft => ({
      what,
      before: was,
      after: is,
      make: change === null ? null : changing(change),
    }),
  )
  return [
    ...network,
    ...LISTS.flatMap(({ list, called, words }) => listDifferences(before, after, list, called, words)),
    ...costDifferences(before, after),
  ]
}

const costDifferences = (before: Plan, after: Plan): Draft[] => {
  const later = new Map(after.activities.map((activity) => [activity.id, activity]))
  const total = ({ fixed, perDay }: Plan['activities'][number]['cost'], plan: Plan): string =>
    [
      ...(fixed ? [moneyWords(fixed, plan.project.currency)] : []),
      ...(perDay ? [`${moneyWords(perDay, plan.project.currency)} a day`] : []),
    ].join(' and ') || 'nothing'
  return before.activities.flatMap((was): Draft[] => {
    const is = later.get(was.id)
    if (!is || same(was.cost, is.cost)) return []
    return [
      {
        what: `${was.code} cost`,
        before: total(was.cost, before),
        after: total(is.cost, before),
        make: changing({ kind: 'set', list: 'activities', key: was.id, set: { cost: is.cost } }),
      },
    ]
  })
}

type ListName = 'spreads' | 'factors' | 'weather' | 'risks' | 'damages' | 'resources' | 'assignments'
type ItemOf<L extends ListName> = Plan[L][number]
interface ListWords<L extends ListName> {
  readonly list: L
  readonly called: (item: ItemOf<L>, plan: Plan) => string
  /** What is said of an item beside its name. */
  readonly words: (item: ItemOf<L>, plan: Plan) => string
}
const listWords = <L extends ListName>(words: ListWords<L>): ListWords<ListName> =>
  words as unknown as ListWords<ListName>

const named = (kind: string, { name, id }: { readonly name: string; readonly id: string }): string =>
  `${kind} ${name || id}`

const riskWords = ({ probability, impacts, work, cost, mitigation }: Risk, plan: Plan): string => {
  const codes = new Map(plan.activities.map(({ id, code }) => [id, code]))
  return [
    chanceWords(probability),
    ...impacts.map(({ activity, delay }) => {
      const on = plan.activities.find(({ id }) => id === activity)
      return `${codes.get(activity) ?? activity} ${estimateWords(delay, lengthsOf(plan, on?.calendar ?? plan.project.calendar))}`
    }),
    ...(work && work.length > 0
      ? [`work after ${codesWords(work.map(({ after }) => codes.get(after) ?? after))}`]
      : []),
    ...(cost ? [`costs ${amountsWords(cost)}`] : []),
    ...(mitigation
      ? [`${mitigation.done ? 'mitigated' : 'to be mitigated'} to ${chanceWords(mitigation.probability)}`]
      : []),
  ].join(', ')
}

const LISTS: readonly ListWords<ListName>[] = [
  listWords<'spreads'>({
    list: 'spreads',
    called: (item) => named('Spread', item),
    words: (item, plan) => `${factorsWords(item)} of ${scopeWords(plan, item.scope)}`,
  }),
  listWords<'factors'>({
    list: 'factors',
    called: (item) => named('Factor', item),
    words: (item, plan) => `${factorsWords(item)} of ${scopeWords(plan, item.scope)}`,
  }),
  listWords<'weather'>({
    list: 'weather',
    called: ({ calendar }, plan) =>
      `Weather of ${plan.calendars.find(({ id }) => id === calendar)?.name || calendar}`,
    words: ({ months }) => monthChancesWords(months),
  }),
  listWords<'risks'>({
    list: 'risks',
    called: (item) => named('Risk', { id: item.id, name: [item.code, item.name].filter(Boolean).join(' ') }),
    words: riskWords,
  }),
  listWords<'damages'>({
    list: 'damages',
    called: (item) => named('Damages', item),
    words: ({ due, steps, cap }, plan) =>
      `from ${due}, ${steps.map(({ amount }) => moneyWords(amount, plan.project.currency)).join(', ') || 'nothing'}${cap === null ? '' : `, at most ${moneyWords(cap, plan.project.currency)}`}`,
  }),
  listWords<'resources'>({
    list: 'resources',
    called: (item) =>
      named('Resource', { id: item.id, name: [item.code, item.name].filter(Boolean).join(' ') }),
    words: ({ priceSpread }) => (priceSpread ? `price × ${factorsWords(priceSpread)}` : 'its price as it is'),
  }),
  listWords<'assignments'>({
    list: 'assignments',
    called: ({ activity, resource }, plan) =>
      `${plan.activities.find(({ id }) => id === activity)?.code ?? activity} ${plan.resources.find(({ id }) => id === resource)?.code ?? resource}`,
    words: () => 'assigned',
  }),
]

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
/** Items that came, went or changed. */
const listDifferences = (
  before: Plan,
  after: Plan,
  list: ListName,
  called: (item: ItemOf<ListName>, plan: Plan) => string,
  words: (item: ItemOf<ListName>, plan: Plan) => string,
): Draft[] => {
  const keyed = (plan: Plan): Map<string, ItemOf<ListName>> =>
    new Map(plan[list].map((item) => [keyOf(list, item as unknown as Item), item]))
  const [then, now] = [keyed(before), keyed(after)]
  return [
    ...[...then].flatMap(([key, was]): Draft[] => {
      const is = now.get(key)
      if (same(was, is)) return []
      const said = words(was, before)
      if (!is)
        return [
          {
            what: called(was, before),
            before: said,
            after: 'removed',
            make: changing({ kind: 'remove', list, key }),
          },
        ]
      const says = words(is, after)
      return [
        {
          what: called(was, before),
          before: said,
          after: said === says ? `${says}, otherwise than before` : says,
          make: changing({
            kind: 'set',
            list,
            key,
            set: setBetween(was, is)!,
          }),
        },
      ]
    }),
    ...[...now].flatMap(([key, is]): Draft[] =>
      then.has(key)
        ? []
        : [
            {
              what: called(is, after),
              before: 'not there',
              after: words(is, after),
              make: changing({ kind: 'add', list, item: is as unknown as Item, before: null }),
            },
          ],
    ),
  ]
}
