import { NONE } from '../network/network.ts'
import type { Schedule } from '../schedule/schedule.ts'
import type { Item } from '../plan/change.ts'

/** How one schedule differs from another, activity by activity, matched by id. */
export interface ScheduleDifference {
  /** Activities whose own facts differ. */
  readonly changed: readonly string[]
  /** Activities with the same facts on other dates. */
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
  const difference = {
    changed: [] as string[],
    moved: [] as string[],
    added: [] as string[],
    removed: [] as string[],
    lostFloat: [] as string[],
    gainedFloat: [] as string[],
    joinedLongestPath: [] as string[],
    leftLongestPath: [] as string[],
  }
  const { activities } = after.network
  const earlier = before.network.activities
  const [floatBefore, floatAfter] = [before.float.total, after.float.total]
  // After an edit the list is mostly the same, and its index is the same object.
  const isSameList = before.network.indexOf === after.network.indexOf
  for (let i = 0; i < activities.length; i++) {
    const activity = activities[i]!
    const j = isSameList || earlier[i]?.id === activity.id ? i : before.network.indexOf.get(activity.id)
    if (j === undefined) {
      difference.added.push(activity.id)
      continue
    }
    if (earlier[j] !== activity && !sameFacts(earlier[j]!, activity)) difference.changed.push(activity.id)
    else if (before.start[j] !== after.start[i] || before.finish[j] !== after.finish[i]) difference.moved.push(activity.id)
    const was = floatBefore[j]!
    const is = floatAfter[i]!
    if (was !== is && was !== NONE && is !== NONE) (is < was ? difference.lostFloat : difference.gainedFloat).push(activity.id)
    if (after.onLongestPath[i] !== before.onLongestPath[j]) (after.onLongestPath[i] === 1 ? difference.joinedLongestPath : difference.leftLongestPath).push(activity.id)
  }
  if (!isSameList) before.network.activities.forEach((activity, j) => {
    if (after.network.activities[j]?.id !== activity.id && !after.network.indexOf.has(activity.id)) difference.removed.push(activity.id)
  })
  return difference
}

const sameFacts = (a: Item, b: Item): boolean => JSON.stringify(a) === JSON.stringify(b)
