import { CalendarError } from '../../../time/calendar.ts'
import type { Instant } from '../../../time/instant.ts'
import type { Problem } from '../problem.ts'
import type { Bounds } from './bounds.ts'
import { modelOf, type Model } from './model.ts'

/** The earliest plan that a search has found so far. */
interface FoundSoFar {
  /** Its finish, or the one that was known. */
  readonly earliest: Instant
  /** Where each activity starts in it, by position; null: none earlier than what was known. */
  readonly start: Float64Array | null
}
/** How far a search has come. */
export interface Searching extends FoundSoFar {
  readonly deadEnds: number
}
/** What a search for the earliest finish came to. */
export interface Searched extends FoundSoFar {
  /** No levelled plan can finish earlier. */
  readonly finish: Instant
}

/** More work than this takes longer than anyone waits, and proves nothing. */
const MOST_WORK = 120
export const isSmall = ({ demands: { first } }: Problem): boolean =>
  first.filter((at, i) => i > 0 && at > first[i - 1]!).length <= MOST_WORK

/** Dead ends after which the question is left open: seconds. */
export const MOST_DEAD_ENDS = 6000
const STEP = 40

/**
 * Looks for the earliest finish of small plans until it is proven: assumes that the work that can start first does, and learns from each
 * dead end what can never be. Each plan that is found has to be beaten by the next.
 * @param from - a finish that is proven already
 * @param reached - a finish that is possible, after `from`
 * @returns null where a calendar ends; stops when sent `true`
 */
export function* searchSteps(
  problem: Problem,
  from: Instant,
  reached: Instant,
): Generator<Searching, Searched | null, boolean | undefined> {
  try {
    return yield* search(modelOf(problem), from, reached)
  } catch (error) {
    if (error instanceof CalendarError) return null
    throw error
  }
}

function* search(
  model: Model,
  from: Instant,
  reached: Instant,
): Generator<Searching, Searched, boolean | undefined> {
  const { bounds, finish } = model
  let start: Float64Array | null = null
  let earliest = reached
  const mustBeat = (at: Instant): boolean => {
    bounds.restart()
    earliest = at
    return bounds.raise(2 * finish + 1, 1 - at, null)
  }
  const assume = soonestFirst(model)
  let isPossible = bounds.raise(2 * finish, from, null) && mustBeat(reached)
  while (isPossible) {
    const outcome = bounds.search(assume, STEP)
    if (outcome === 'none') isPossible = false
    else if (outcome === 'found') {
      start = Float64Array.from(model.variableOf, (v) =>
        v < 0 ? -Infinity : model.startAt(v, bounds.bound[2 * v]!),
      )
      isPossible = mustBeat(bounds.bound[2 * finish]!)
    } else {
      const isStopped = yield { deadEnds: bounds.deadEnds, earliest, start }
      if (isStopped !== true && bounds.deadEnds < MOST_DEAD_ENDS) continue
      bounds.restart()
      return { finish: bounds.bound[2 * finish]!, earliest, start }
    }
  }
  return { finish: earliest, earliest, start }
}

/** Of what is not decided the work that can start first does so; of two that can, the one that dead ends were about. */
const soonestFirst =
  ({ deciding, startAt }: Model) =>
  (bounds: Bounds): readonly [number, number] | null => {
    let [chosen, soonest, weight] = [-1, Infinity, 0]
    for (const v of deciding) {
      if (bounds.isFixed(v)) continue
      const at = startAt(v, bounds.bound[2 * v]!)
      if (at > soonest || (at === soonest && bounds.weight[v]! <= weight)) continue
      chosen = v
      soonest = at
      weight = bounds.weight[v]!
    }
    return chosen < 0 ? null : [2 * chosen + 1, -bounds.bound[2 * chosen]!]
  }
