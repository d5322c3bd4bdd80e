import type { Change, Item } from './change.ts'
import type { Activity, Plan } from './schema.ts'

/** Changes that take more than one step, made in one place so that every caller makes them alike. */

/** Removes an activity with all that refers to it: links, assignments, impacts of risks, declared ends of the network. */
export const removeActivity = (plan: Plan, id: string): Change => {
  const changes: Change[] = []
  for (const link of plan.links)
    if (link.from === id || link.to === id) changes.push({ kind: 'remove', list: 'links', key: link.id })
  for (const { activity, resource } of plan.assignments)
    if (activity === id) changes.push({ kind: 'remove', list: 'assignments', key: `${activity}|${resource}` })
  for (const risk of plan.risks)
    if (risk.impacts.some((impact) => impact.activity === id))
      changes.push({
        kind: 'set',
        list: 'risks',
        key: risk.id,
        set: { impacts: risk.impacts.filter((impact) => impact.activity !== id) },
      })
  const ends: Item = {}
  for (const list of ['opens', 'closes'] as const)
    if (plan.project[list].includes(id)) ends[list] = plan.project[list].filter((other) => other !== id)
  if (Object.keys(ends).length > 0) changes.push({ kind: 'project', set: ends })
  changes.push({ kind: 'remove', list: 'activities', key: id })
  return { kind: 'all', changes }
}

/**
 * Sets a duration. An estimate is of the same work, so it is scaled alike: otherwise the plan would change and its forecast would not.
 * @param minutes - working minutes of the activity's calendar, ≥ 0
 */
export const setDuration = (activity: Activity, minutes: number): Change => {
  const set: Item = { duration: minutes }
  if (!activity.confirmed) set.confirmed = true
  const { estimate } = activity
  if (estimate && activity.duration > 0 && minutes !== activity.duration) {
    const scaled = (value: number): number => Math.round((value * minutes) / activity.duration)
    set.estimate = { ...estimate, low: scaled(estimate.low), likely: scaled(estimate.likely), high: scaled(estimate.high) }
  }
  return { kind: 'set', list: 'activities', key: activity.id, set }
}

/** An id that no item of the list has, made from a prefix and random text supplied by the caller. */
export const freshId = (taken: Iterable<{ id: string }>, prefix: string, random: () => number): string => {
  const ids = new Set([...taken].map((item) => item.id))
  for (;;) {
    const id = prefix + Math.floor(random() * 36 ** 6).toString(36).padStart(6, '0')
    if (!ids.has(id)) return id
  }
}
