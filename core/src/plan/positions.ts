import type { Activity, Link } from './schema.ts'

/** Positions of activities by id. Plans are immutable, so the index is made once for each list of activities. */
export type Positions = ReadonlyMap<string, number>

const positionsOfList = new WeakMap<readonly Activity[], Positions>()

/** Position of each activity by its id, in O(1) for a list seen before, else O(n). */
export const positionsOf = (activities: readonly Activity[]): Positions => {
  const known = positionsOfList.get(activities)
  if (known) return known
  const positions = new Map<string, number>()
  for (let i = 0; i < activities.length; i++) positions.set(activities[i]!.id, i)
  positionsOfList.set(activities, positions)
  return positions
}

/** Says that a new list holds the same ids in the same order, as after a change to one activity's fields. */
export const keepPositions = (before: readonly Activity[], after: readonly Activity[]): void => {
  const known = positionsOfList.get(before)
  if (known) positionsOfList.set(after, known)
}

/** Positions of the activities that links tie, length of the list of links. */
export interface LinkEnds {
  readonly from: Int32Array
  readonly to: Int32Array
  /** The ends of the list that this one has one link more than. */
  readonly grownFrom?: LinkEnds
}

const endsOfList = new WeakMap<readonly Link[], LinkEnds & { readonly positions: Positions }>()

/** Ends of links as positions, in O(1) for lists seen before, else O(m). Every id must be known. */
export const linkEndsOf = (links: readonly Link[], activities: readonly Activity[]): LinkEnds => {
  const positions = positionsOf(activities)
  const known = endsOfList.get(links)
  if (known?.positions === positions) return known
  const from = new Int32Array(links.length)
  const to = new Int32Array(links.length)
  for (let k = 0; k < links.length; k++) {
    from[k] = positions.get(links[k]!.from)!
    to[k] = positions.get(links[k]!.to)!
  }
  const ends = { from, to, positions }
  endsOfList.set(links, ends)
  return ends
}

/** Says that a list of links differs from another by the links added (1) or taken out (−1) at one place: their ends are not looked up again. */
export const keepLinkEnds = (
  before: readonly Link[],
  after: readonly Link[],
  at: number,
  by: 1 | -1,
): void => {
  const known = endsOfList.get(before)
  if (!known) return
  const link = by === 1 ? after[at]! : null
  const ends = link && [known.positions.get(link.from), known.positions.get(link.to)]
  if (ends && (ends[0] === undefined || ends[1] === undefined)) return
  const moved = (array: Int32Array, value: number | null): Int32Array => {
    const made = new Int32Array(array.length + by)
    made.set(array.subarray(0, at))
    if (value !== null) made[at] = value
    made.set(array.subarray(by === 1 ? at : at + 1), by === 1 ? at + 1 : at)
    return made
  }
  endsOfList.set(after, {
    positions: known.positions,
    ...(by === 1 ? { grownFrom: { from: known.from, to: known.to } } : {}),
    from: moved(known.from, ends ? ends[0]! : null),
    to: moved(known.to, ends ? ends[1]! : null),
  })
}

/** Successors of each activity in CSR form: those of i are heads[start[i]] … heads[start[i+1]−1]. */
export interface Successors {
  readonly start: Int32Array
  readonly heads: Int32Array
}
const successorsOfEnds = new WeakMap<Int32Array, Successors>()

/** Successors over links, made once for each list of them. @param n - number of activities */
export const successorsOf = ({ from, to }: LinkEnds, n: number): Successors => {
  const known = successorsOfEnds.get(from)
  if (known) return known
  const start = new Int32Array(n + 1)
  for (let k = 0; k < from.length; k++) start[from[k]! + 1]!++
  for (let i = 0; i < n; i++) start[i + 1]! += start[i]!
  const next = start.slice()
  const heads = new Int32Array(to.length)
  for (let k = 0; k < heads.length; k++) heads[next[from[k]!]!++] = to[k]!
  const made = { start, heads }
  successorsOfEnds.set(from, made)
  return made
}
