import { NONE } from '../network/network.ts'
import { lengthsOf } from '../plan/durations.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Item } from '../plan/change.ts'

/** How one schedule differs from another, activity by activity, matched by id. */
export interface ScheduleDifference {
  /** Activities whose own facts differ. */
  readonly changed: readonly string[]
  /** Activities of both on other dates, whatever of their own differs. */
  readonly moved: readonly string[]
  readonly added: readonly string[]
  readonly removed: readonly string[]
  /** Activities with less and with more total float than before. */
  readonly lostFloat: readonly string[]
  readonly gainedFloat: readonly string[]
  readonly joinedLongestPath: readonly string[]
  readonly leftLongestPath: readonly string[]
}

/** @param before, after - schedules of two states, or of a plan and a scenario */
export const scheduleDifference = (before: Schedule, after: Schedule): ScheduleDifference => {
  const changed: string[] = []
  const moved: string[] = []
  const added: string[] = []
  const lostFloat: string[] = []
  const gainedFloat: string[] = []
  const joinedLongestPath: string[] = []
  const leftLongestPath: string[] = []
  const { activities, indexOf } = after.network
  const { activities: earlier, indexOf: indexBefore } = before.network
  const { start: startBefore, finish: finishBefore, onLongestPath: onBefore } = before
  const { start, finish, onLongestPath } = after
  const [floatBefore, float] = [before.float.total, after.float.total]
  // After an edit the list is mostly the same, and its index is the same object.
  const isSameList = indexBefore === indexOf
  for (let i = 0; i < activities.length; i++) {
    const activity = activities[i]!
    const j = isSameList || earlier[i]?.id === activity.id ? i : indexBefore.get(activity.id)
    if (j === undefined) {
      added.push(activity.id)
      continue
    }
    const former = earlier[j]!
    if (former !== activity && !sameFacts(former, activity)) changed.push(activity.id)
    if (startBefore[j] !== start[i] || finishBefore[j] !== finish[i]) moved.push(activity.id)
    const gain = floatGain(floatBefore[j]!, dayOf(before, j), float[i]!, dayOf(after, i))
    if (gain < 0) lostFloat.push(activity.id)
    else if (gain > 0) gainedFloat.push(activity.id)
    if (onLongestPath[i] !== onBefore[j])
      (onLongestPath[i] === 1 ? joinedLongestPath : leftLongestPath).push(activity.id)
  }
  const removed = isSameList
    ? []
    : earlier.flatMap(({ id }, j) => (activities[j]?.id === id || indexOf.has(id) ? [] : [id]))
  return { changed, moved, added, removed, lostFloat, gainedFloat, joinedLongestPath, leftLongestPath }
}

/**
 * By how much a float is more than before, in working minutes of the activity's calendar as it is now; 0 where one of the two is none.
 * Where a day has another length than before days are compared: 5 d of 8 h that are 5 d of 7 h now have lost nothing.
 * @param dayBefore, day - working minutes of a day then and now
 */
export const floatGain = (was: number, dayBefore: number, is: number, day: number): number => {
  if (was === NONE || is === NONE) return 0
  // Of whole minutes, so that equal days are equal.
  return (is * dayBefore - was * day) / dayBefore
}

const dayOf = ({ network }: Schedule, i: number): number =>
  lengthsOf(network.plan, network.calendar[i]!.id).dayMinutes

const sameFacts = (a: Item, b: Item): boolean => JSON.stringify(a) === JSON.stringify(b)
