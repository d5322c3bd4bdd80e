import type { Network } from '../../network/network.ts'
import { NONE, UNLIMITED } from '../../network/network.ts'
import type { Schedule } from '../../schedule/schedule.ts'

/** Which work gets a resource first, of all that could have it. */
export const LEVEL_RULES = [
  'least-float',
  'earliest-late-finish',
  'most-successors',
  'longest',
  'own-order',
] as const
export type LevelRule = (typeof LEVEL_RULES)[number]

/** The rank of each activity, lower first, and the activity of each rank. */
export interface Ranking {
  readonly rank: Int32Array
  readonly byRank: Int32Array
}

/** The order of the ids of a network's activities, found once. */
const idRanks = new WeakMap<Network['activities'], Int32Array>()
const idRankOf = ({ activities }: Network): Int32Array => {
  let known = idRanks.get(activities)
  if (!known) {
    known = new Int32Array(activities.length)
    const ids = activities.map(({ id }) => id)
    const order = ids.map((_, i) => i).sort((a, b) => (ids[a]! < ids[b]! ? -1 : 1))
    for (let at = 0; at < order.length; at++) known[order[at]!] = at
    idRanks.set(activities, known)
  }
  return known
}

/** @param values - lower first; ties by id, so that the order of rows does not matter */
export const rankingBy = (network: Network, values: ArrayLike<number>): Ranking => {
  const byId = idRankOf(network)
  const byRank = new Int32Array(byId.length)
  for (let i = 0; i < byRank.length; i++) byRank[i] = i
  byRank.sort((a, b) => values[a]! - values[b]! || byId[a]! - byId[b]!)
  const rank = new Int32Array(byRank.length)
  for (let at = 0; at < byRank.length; at++) rank[byRank[at]!] = at
  return { rank, byRank }
}

/** @param schedule - of the plan with its joint calendars, before any of it waits for a resource */
export const rankingOf = (rule: LevelRule, schedule: Schedule): Ranking =>
  rankingBy(schedule.network, valuesOf(rule, schedule))

const valuesOf = (rule: LevelRule, schedule: Schedule): ArrayLike<number> => {
  const { network } = schedule
  switch (rule) {
    case 'least-float':
      return orLast(schedule.float.total)
    case 'earliest-late-finish':
      return orLast(schedule.late.finish)
    case 'most-successors':
      return successorCounts(network).map((count) => -count)
    case 'longest':
      return network.remaining.map((minutes) => -minutes)
    case 'own-order':
      return Int32Array.from(network.activities, (_, i) => i)
  }
}
const orLast = (values: Int32Array): Int32Array => values.map((v) => (v === NONE ? UNLIMITED : v))

/** Beyond this many activities only those that follow directly are counted: all that follow would take memory by the square. */
const MOST_FOR_ALL = 20_000

/** How many activities wait for each, directly or not. */
const successorCounts = (network: Network): Int32Array => {
  const { order, outStart, outLink, linkTo } = network
  const n = order.length
  const counts = new Int32Array(n)
  if (n > MOST_FOR_ALL) {
    for (let i = 0; i < n; i++) counts[i] = outStart[i + 1]! - outStart[i]!
    return counts
  }
  const words = (n + 31) >> 5
  const after = new Uint32Array(n * words)
  for (let at = n - 1; at >= 0; at--) {
    const i = order[at]!
    const own = i * words
    for (let o = outStart[i]!; o < outStart[i + 1]!; o++) {
      const j = linkTo[outLink[o]!]!
      const other = j * words
      for (let w = 0; w < words; w++) after[own + w]! |= after[other + w]!
      after[own + (j >> 5)]! |= 1 << (j & 31)
    }
    let count = 0
    for (let w = 0; w < words; w++) count += bitsIn(after[own + w]!)
    counts[i] = count
  }
  return counts
}

/** Bits that are set, counted in parallel (Warren, "Hacker's Delight", 5–1). */
const bitsIn = (word: number): number => {
  let x = word - ((word >>> 1) & 0x55555555)
  x = (x & 0x33333333) + ((x >>> 2) & 0x33333333)
  return Math.imul((x + (x >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24
}
