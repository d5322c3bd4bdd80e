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

/** Says that a list of links differs from another by the links added (1) or taken out (−1) at one place: their ends are not looked up again. */
export const keepLinkEnds = (before: readonly Link[], after: readonly Link[], at: number, by: 1 | -1): void => {
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
  endsOfList.set(after, { positions: known.positions, from: moved(known.from, ends ? ends[0]! : null), to: moved(known.to, ends ? ends[1]! : null) })
}
