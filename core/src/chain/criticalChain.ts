import { applyUnchecked } from '../plan/applyChange.ts'
import { freshLinks } from './freshLinks.ts'
import { placedFromFinish } from '../cost/level/level.ts'
import { Kind, NONE, type Network } from '../network/network.ts'
import type { ChainSettings, Plan } from '../plan/schema.ts'
import { schedule, type Schedule } from '../schedule/schedule.ts'
import { daysCut, focusedPlan, isChainWork } from './focused.ts'
import { handOversOf, type HandOver } from './handOvers.ts'

/** A course of activities, each after the one that binds it; positions, first to last. */
interface Course {
  readonly activities: readonly number[]
  /** Instant at which it begins. */
  readonly begin: number
  /** Σ Δ², in square days. */
  readonly squares: number
}

/** The critical chain on focused durations, before buffers. */
export interface CriticalChain {
  /** The plan on focused durations and joint calendars, with the hand-overs as links. */
  readonly plan: Plan
  /** Its dates. */
  readonly base: Schedule
  readonly handOvers: readonly HandOver[]
  readonly chain: Course
  readonly isOnChain: Uint8Array
  /** Δ = safe − focused of each activity, in days of its own calendar. */
  readonly cut: Float64Array
}

/** Steps 1 to 3 of semantics2.md section 16. @throws LevelError, CalendarError */
export const criticalChain = (given: Plan, settings: ChainSettings): CriticalChain => {
  const placed = placedFromFinish(focusedPlan(given, settings.cut))
  const handOvers = handOversOf(placed)
  const links = freshLinks(placed.plan)
  const plan = applyUnchecked(placed.plan, {
    kind: 'all',
    changes: handOvers.map(({ from, to }) =>
      links(placed.plan.activities[from]!.id, placed.plan.activities[to]!.id, 'FS', 0, null),
    ),
  }).plan
  const base = schedule(plan)
  const cut = Float64Array.from(given.activities, (activity) =>
    isChainWork(activity) ? daysCut(given, activity, settings.cut) : 0,
  )
  const courses = coursesOf(base, cut)
  const ends = endsOf(base)
  const chain = ends
    .map((end) => courses(end))
    .reduce<Course>((best, one) => (isBefore(base.network, one, best) ? one : best), {
      activities: [],
      begin: Infinity,
      squares: 0,
    })
  const isOnChain = new Uint8Array(cut.length)
  for (const i of chain.activities) isOnChain[i] = 1
  return { plan, base, handOvers, chain, isOnChain, cut }
}

/** Of several, the one that begins earliest, then the greater Σ Δ², then smaller ids: nothing depends on the order of rows. */
const isBefore = (network: Network, a: Course, b: Course): boolean => {
  if (a.begin !== b.begin) return a.begin < b.begin
  if (Math.abs(a.squares - b.squares) > 1e-9) return a.squares > b.squares
  const ids = ({ activities }: Course): string => activities.map((i) => network.activities[i]!.id).join('\n')
  return ids(a) < ids(b)
}

/** What finishes last, but for what binds another that does: a milestone behind the last work is of the chain. */
const endsOf = ({ network, early, drives, projectFinish }: Schedule): number[] => {
  const isLast = (i: number): boolean => network.kind[i] !== Kind.Hammock && early.finish[i] === projectFinish
  const binds = new Set<number>()
  for (let k = 0; k < network.links.length; k++)
    if (drives[k] === 1 && isLast(network.linkTo[k]!)) binds.add(network.linkFrom[k]!)
  return network.activities.flatMap((_, i) => (isLast(i) && !binds.has(i) ? [i] : []))
}

/** The longest course into each activity over links that bind, each found once. */
const coursesOf = ({ network, drives, early }: Schedule, cut: Float64Array): ((i: number) => Course) => {
  const known = new Map<number, Course>()
  for (const i of network.order) {
    if (network.kind[i] === Kind.Hammock) continue
    let best: Course | null = null
    for (let k = network.inStart[i]!; k < network.inStart[i + 1]!; k++) {
      if (drives[k] !== 1) continue
      const before = known.get(network.linkFrom[k]!)!
      if (best === null || isBefore(network, before, best)) best = before
    }
    const begin = early.begin[i] === NONE ? early.start[i]! : early.begin[i]!
    known.set(i, {
      activities: [...(best?.activities ?? []), i],
      begin: best?.begin ?? begin,
      squares: (best?.squares ?? 0) + cut[i]! ** 2,
    })
  }
  return (i) => known.get(i)!
}
