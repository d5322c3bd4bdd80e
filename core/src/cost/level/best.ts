import type { Instant } from '../../time/instant.ts'
import { mirrorNetwork } from '../../network/mirror.ts'
import { NONE, UNLIMITED } from '../../network/network.ts'
import { lowerBound } from './bound.ts'
import { isSmall, MOST_DEAD_ENDS, searchSteps } from './exact/search.ts'
import { Placing, type Placed } from './placing.ts'
import { provenFrom, type Problem, type Proven } from './problem.ts'
import { mirrorAvailability } from './profile.ts'
import { LEVEL_RULES, rankingBy, rankingOf, type LevelRule, type Ranking } from './rules.ts'

/** The rule that gave a levelled plan, or how it was found. */
export type FoundBy = LevelRule | 'improvement' | 'search'

/** How far "best" has come. */
export interface LevelProgress {
  readonly done: number
  readonly total: number
  readonly finish: Instant
}

/** The best order that was found. */
export interface Best {
  readonly ranking: Ranking
  /** Where everything starts, where no order of placing one after the other gives it. */
  readonly start: Float64Array | null
  readonly foundBy: FoundBy
  /** Null where no more is proven than of any levelled plan. */
  readonly proven: Proven | null
}

/** A pass, compared by its finish first. */
interface Attempt {
  readonly ranking: Ranking
  readonly start: Float64Array | null
  readonly finish: Instant
  readonly spread: number
  readonly unresolved: number
  readonly foundBy: FoundBy
}

/** Passes that "best" makes, by the number of activities: seconds on plans of any size. */
const passesFor = (n: number): number => Math.min(4000, Math.max(60, Math.round(1_200_000 / Math.max(1, n))))

/** Passes over a problem, of which the best is kept. */
class Passes {
  count = 0
  private kept: Attempt | null = null
  private readonly problem: Problem
  private readonly placing: Placing
  private readonly backward: (placed: Placed) => Ranking | null

  constructor(problem: Problem, placing: Placing) {
    this.problem = problem
    this.placing = placing
    this.backward = backwardPlacing(problem)
  }

  /** Of one pass at least. */
  get best(): Attempt {
    return this.kept!
  }

  /** Forward, and forward again in the order that going backward from there gives. */
  both(ranking: Ranking, foundBy: FoundBy): void {
    const turned = this.backward(this.forward(ranking, foundBy))
    if (turned) this.forward(turned, foundBy)
  }

  /** A plan that was found: the order of its starts, and if that gives another, the starts themselves. */
  found(start: Float64Array, finish: Instant): void {
    const ranking = rankingBy(this.problem.network, start)
    this.both(ranking, 'search')
    if (this.best.finish <= finish || this.problem.options.mayPause !== null) return
    const placed = this.placing.settle(start, ranking.byRank)
    if (placed) this.keep(placed, ranking, start, 'search')
  }

  private forward(ranking: Ranking, foundBy: FoundBy): Placed {
    this.count++
    const placed = this.placing.run(ranking.rank, ranking.byRank, false)
    this.keep(placed, ranking, null, foundBy)
    return placed
  }

  private keep(placed: Placed, ranking: Ranking, start: Float64Array | null, foundBy: FoundBy): void {
    const { early } = this.problem.joint
    const unresolved = placed.unresolved.length
    let spread = unresolved * 1e12
    for (let i = 0; i < placed.dates.begin.length; i++)
      if (placed.dates.begin[i] !== NONE) spread += placed.dates.begin[i]! - early.begin[i]!
    const { finish } = placed
    const isBetter =
      this.kept === null ||
      finish < this.kept.finish ||
      (finish === this.kept.finish && spread < this.kept.spread)
    if (isBetter) this.kept = { ranking, start, finish, spread, unresolved, foundBy }
  }
}

/**
 * All rules, each also the other way round; of small plans a search that proves what it finds; then seeded changes of the best order so
 * far: ranks are shaken, more or less, and what is not worse is kept.
 * @see Tormos & Lova 2001, "A competitive heuristic solution technique for RCPSP", Ann. Oper. Res. 102, for forward–backward passes
 */
export function* bestSteps(
  problem: Problem,
  placing: Placing,
  seed: number,
): Generator<LevelProgress, Best, boolean | undefined> {
  const { network, joint, options } = problem
  const n = network.order.length
  const passes = new Passes(problem, placing)
  const isSearched = isSmall(problem) && options.latestStart === null
  const total = (isSearched ? MOST_DEAD_ENDS : 0) + passesFor(n)
  for (const rule of LEVEL_RULES) passes.both(rankingOf(rule, joint), rule)
  const bound = lowerBound(joint, problem.demands, problem.available, new Set())
  let proven = provenFrom(problem, bound, new Set(), passes.best.finish)
  const isOpen = (): boolean => passes.best.finish > proven.finish || passes.best.unresolved > 0
  const made = ({ ranking, start, foundBy, unresolved }: Attempt): Best => ({
    ranking,
    start,
    foundBy,
    proven: unresolved > 0 ? null : proven,
  })
  if (isSearched && isOpen() && passes.best.unresolved === 0) {
    const search = searchSteps(problem, proven.finish, passes.best.finish)
    let [isStopped, known]: [boolean, Float64Array | null] = [false, null]
    for (let next = search.next(); next.value !== null; next = search.next(isStopped)) {
      const { start, earliest } = next.value
      if (start !== null && start !== known) passes.found((known = start), earliest)
      if (next.done) {
        const { finish } = next.value
        if (finish > proven.finish) proven = { finish, resource: null, because: null, isSearched: true }
        if (isStopped) return made(passes.best)
        break
      }
      isStopped = (yield { done: next.value.deadEnds, total, finish: passes.best.finish }) === true
    }
  }
  const random = randomFrom(seed)
  const late = joint.late.finish.map((at) => (at === NONE ? UNLIMITED : at))
  const span = Math.max(1, joint.projectFinish - joint.projectStart)
  const values = new Float64Array(n)
  const most = passes.count + passesFor(n)
  for (let round = 0; passes.count < most && isOpen(); round++) {
    if (round % 16 === 0) {
      const done = total - (most - passes.count)
      const stop = yield { done, total, finish: passes.best.finish }
      if (stop) break
    }
    // Mostly near the best order, sometimes anew from late finishes.
    const isNear = round % 4 !== 0
    const strength = isNear ? n * (0.02 + 0.2 * random()) : span * (0.05 + 0.3 * random())
    for (let i = 0; i < n; i++)
      values[i] = (isNear ? passes.best.ranking.rank[i]! : late[i]!) + strength * (random() - 0.5)
    passes.both(rankingBy(network, values), 'improvement')
  }
  return made(passes.best)
}

/** The order in which work would be placed again after it was placed backward from a levelled finish; null where it cannot be. */
const backwardPlacing = (problem: Problem): ((placed: Placed) => Ranking | null) => {
  const { network, demands, available, options } = problem
  const mirrored = available.map(mirrorAvailability)
  // From the first finish for all: only the order that comes of it counts.
  let turned: Placing | null = null
  return (placed) => {
    try {
      turned ??= new Placing(mirrorNetwork(network, placed.finish), demands, mirrored, {
        latestStart: null,
        mayPause: null,
        shortestPiece: options.shortestPiece,
      })
      const latestFirst = rankingBy(
        network,
        placed.dates.finish.map((at) => (at === NONE ? UNLIMITED : -at)),
      )
      const { dates } = turned.run(latestFirst.rank, latestFirst.byRank, false)
      return rankingBy(
        network,
        dates.finish.map((at) => (at === NONE ? UNLIMITED : -at)),
      )
    } catch {
      return null // a calendar has no work so early
    }
  }
}

/** Numbers in [0, 1) from a seed (mulberry32, public domain). */
const randomFrom = (seed: number): (() => number) => {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
