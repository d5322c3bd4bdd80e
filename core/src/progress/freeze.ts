import { formatInstant } from '../time/instant.ts'
import type { Change, Item } from '../plan/change.ts'
import { freshId } from '../plan/edits.ts'
import { hashOf } from '../plan/hash.ts'
import { roundMoney } from '../plan/money.ts'
import type { Baseline, Plan } from '../plan/schema.ts'
import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import { activityCosts, costAt } from '../cost/activityCosts.ts'

/** What is said of a baseline when it is frozen. */
export interface BaselineWords {
  readonly name: string
  readonly note: string
  readonly by: string
  readonly ink: string
  /** When, as a date with its time. */
  readonly at: string
}

/** Inks of baselines on the time drawing, the first that is free is the next one's. */
export const BASELINE_INKS = ['plum', 'fjord', 'brick', 'moss'] as const
/** The ink of the next baseline: one that no other has, while there is one. */
export const nextInk = ({ baselines }: Pick<Plan, 'baselines'>): string => {
  const used = new Set(baselines.map(({ ink }) => ink))
  return (
    BASELINE_INKS.find((ink) => !used.has(ink)) ?? BASELINE_INKS[baselines.length % BASELINE_INKS.length]!
  )
}

/**
 * Freezes dates, durations, floats and costs as they are.
 * @param only - activities that are frozen; the others keep what the baseline that is compared with says of them. null: all
 * @returns the change, which also compares the plan with the new baseline, and its id
 */
export const freeze = (
  schedule: Schedule,
  words: BaselineWords,
  only: readonly string[] | null,
  earlier: Baseline | null,
  random: () => number,
): { readonly change: Change; readonly id: string } => {
  const { plan } = schedule.network
  const id = freshId(plan.baselines, 'b', random)
  const { name, note, by, ink, at } = words
  const item: Item = {
    id,
    name,
    note,
    by,
    ink,
    frozen: at,
    basis: basisOf(plan),
    activities: { ...(only === null ? {} : earlier?.activities), ...frozenNow(schedule, only) },
  }
  const compared = { baseline: id }
  const change: Change = {
    kind: 'all',
    changes: [
      { kind: 'add', list: 'baselines', item, before: null },
      { kind: 'project', set: compared },
    ],
  }
  return { change, id }
}

const frozenNow = (schedule: Schedule, only: readonly string[] | null): Item => {
  const { activities } = schedule.network
  const wanted = only === null ? null : new Set(only)
  const costs = activityCosts(schedule)
  const found: Item = {}
  activities.forEach((activity, i) => {
    if (wanted && !wanted.has(activity.id)) return
    const float = schedule.float.total[i]!
    found[activity.id] = {
      start: formatInstant(schedule.start[i]!),
      finish: formatInstant(schedule.finish[i]!),
      duration: activity.duration,
      totalFloat: float === NONE ? null : float,
      cost: roundMoney(costAt(costs, i).atCompletion),
    }
  })
  return found
}

const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)

/** A short name of the links, calendars and resources that dates rest on: another one means another plan behind the same dates. */
export const basisOf = (plan: Plan): string =>
  hashOf(
    JSON.stringify([
      plan.links
        .map(({ from, to, type, lag, lagOn }) => JSON.stringify([from, to, type, lag, lagOn]))
        .sort(byText),
      plan.calendars,
      plan.resources,
      plan.assignments,
    ]),
  )
