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
