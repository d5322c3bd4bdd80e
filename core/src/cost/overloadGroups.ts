import { MINUTES_PER_DAY, type Instant } from '../time/instant.ts'
import { NONE } from '../network/network.ts'
import { activitiesInEach } from './askedIn.ts'
import type { ResourceLoad } from './load.ts'
import type { Overload } from './overloads.ts'

/** Overloads of the same activities in a row. */
export interface OverloadGroup extends Overload {
  readonly activities: readonly number[]
  /** Calendar days on which too much is asked for. */
  readonly days: number
}

/**
 * Overloads of the same activities in a row as one: an overload ends where one of them works on alone, over the other's lunch or in the
 * evening, and begins again; people see one.
 */
export const overloadGroups = (load: ResourceLoad): readonly OverloadGroup[] => {
  let groups = known.get(load)
  if (!groups) known.set(load, (groups = groupsIn(load)))
  return groups
}
/** A load that an edit leaves as it was is the same one. */
const known = new WeakMap<ResourceLoad, readonly OverloadGroup[]>()

const groupsIn = (load: ResourceLoad): OverloadGroup[] => {
  const activitiesOf = activitiesInEach(load, load.overloads)
  const groups: { -readonly [P in keyof OverloadGroup]: OverloadGroup[P] }[] = []
  let lastDay = NONE as number
  for (const [k, overload] of load.overloads.entries()) {
    const activities = activitiesOf[k]!
    const [first, last] = [dayOf(overload.from), dayOf(overload.to - 1)]
    const group = groups.at(-1)
    if (!group || !areSame(group.activities, activities)) {
      const { from, to, load: most, available, minutes, excess } = overload
      // Named, not spread: that takes five times as long, and there may be thousands.
      groups.push({ from, to, load: most, available, minutes, excess, activities, days: last - first + 1 })
      lastDay = last
      continue
    }
    group.to = overload.to
    group.minutes += overload.minutes
    group.excess += overload.excess
    if (overload.load - overload.available > group.load - group.available) {
      group.load = overload.load
      group.available = overload.available
    }
    group.days += last - Math.max(first, lastDay + 1) + 1
    lastDay = last
  }
  return groups
}
const areSame = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((i, k) => i === b[k])
const dayOf = (t: Instant): number => Math.floor(t / MINUTES_PER_DAY)
