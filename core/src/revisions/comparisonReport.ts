import { activityCosts } from '../cost/activityCosts.ts'
import { NONE } from '../network/network.ts'
import { lengthsOf } from '../plan/durations.ts'
import { roundMoney } from '../plan/money.ts'
import type { Plan } from '../plan/schema.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'
import { formatInstant } from '../time/instant.ts'
import { compareRevisions } from './compareRevisions.ts'
import type { DifferenceKind } from './difference.ts'
import { matchRevisions } from './matchRevisions.ts'

/** Two plans as the command line compares them; activities by their ids in the first, added ones by theirs in the second. */
export interface ComparisonReport {
  /** Days of the first plan's project calendar; later is positive. */
  readonly finish: { readonly before: string; readonly after: string; readonly days: number }
  readonly cost: { readonly before: number; readonly after: number }
  /** What differs of itself, and what each alone does to the finish, parts of an update on top of each other; null where it cannot stand alone. */
  readonly changed: readonly {
    readonly kind: DifferenceKind
    readonly activities: readonly string[]
    readonly what: string
    readonly before: string
    readonly after: string
    readonly days: number | null
  }[]
  /** Activities on other dates. */
  readonly moved: readonly string[]
  readonly added: readonly string[]
  readonly removed: readonly string[]
  /** Activities with more and with less total float. */
  readonly float: { readonly gained: readonly string[]; readonly lost: readonly string[] }
  readonly longestPath: { readonly joined: readonly string[]; readonly left: readonly string[] }
}

const costOf = (made: Schedule): number =>
  roundMoney(activityCosts(made).atCompletion.reduce((sum, cost) => sum + cost, 0))

/** @throws CalendarError where one of the two cannot be scheduled */
export const comparisonReport = (before: Plan, after: Plan): ComparisonReport => {
  const { differences, moves } = compareRevisions(before, after)
  const matching = matchRevisions(before, after)
  const [first, second] = [schedule(before), schedule(after)]
  const { dayMinutes } = lengthsOf(before, before.project.calendar)
  const moved: string[] = []
  const float = { gained: [] as string[], lost: [] as string[] }
  const longestPath = { joined: [] as string[], left: [] as string[] }
  for (const pair of matching.matched) {
    const { id } = pair.before
    const [i, j] = [first.network.indexOf.get(id)!, second.network.indexOf.get(pair.after.id)!]
    if (first.start[i] !== second.start[j] || first.finish[i] !== second.finish[j]) moved.push(id)
    const [was, is] = [first.float.total[i]!, second.float.total[j]!]
    if (was !== NONE && is !== NONE && was !== is) float[is > was ? 'gained' : 'lost'].push(id)
    if (first.onLongestPath[i] !== second.onLongestPath[j])
      longestPath[second.onLongestPath[j] === 1 ? 'joined' : 'left'].push(id)
  }
  const idOf = ({ id }: { readonly id: string }): string => id
  const paired = new Set(matching.matched.map((pair) => pair.before.id))
  return {
    finish: {
      before: formatInstant(first.projectFinish),
      after: formatInstant(second.projectFinish),
      days: moves / dayMinutes,
    },
    cost: { before: costOf(first), after: costOf(second) },
    changed: differences
      .flatMap((difference) => difference.parts ?? [difference])
      .map(({ kind, activities, what, before: was, after: is, moves: alone }) => ({
        kind,
        activities,
        what,
        before: was,
        after: is,
        days: alone === null ? null : alone / dayMinutes,
      })),
    moved,
    added: matching.added.map(idOf),
    removed: before.activities.map(idOf).filter((id) => !paired.has(id)),
    float,
    longestPath,
  }
}
