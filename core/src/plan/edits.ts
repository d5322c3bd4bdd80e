import { newLink } from './links.ts'
import { lengthsOf } from './durations.ts'
import { applyUnchecked } from './applyChange.ts'
import { keyOf, type Change, type Item } from './change.ts'
import { nextCode } from './codes.ts'
import { siblingsOf } from './outlineOrder.ts'
import type { Activity, Constraint, LinkType, Plan } from './schema.ts'

/** Changes that take more than one step, made in one place so that every caller makes them alike. */

/** Removes an activity with all that refers to it: links, assignments, impacts of risks, places in scopes, declared ends of the network. */
export const removeActivity = (plan: Plan, id: string): Change => {
  const changes: Change[] = []
  for (const link of plan.links)
    if (link.from === id || link.to === id) changes.push({ kind: 'remove', list: 'links', key: link.id })
  for (const assignment of plan.assignments)
    if (assignment.activity === id)
      changes.push({ kind: 'remove', list: 'assignments', key: keyOf('assignments', assignment) })
  for (const risk of plan.risks) {
    const set: Item = {}
    if (risk.impacts.some((impact) => impact.activity === id))
      set.impacts = risk.impacts.filter((impact) => impact.activity !== id)
    if (risk.work?.some((work) => work.after === id || work.before === id))
      set.work = risk.work.filter((work) => work.after !== id && work.before !== id)
    if (Object.keys(set).length > 0) changes.push({ kind: 'set', list: 'risks', key: risk.id, set })
  }
  for (const list of ['spreads', 'factors'] as const)
    for (const { id: key, scope } of plan[list])
      if (scope.activities?.includes(id))
        changes.push({
          kind: 'set',
          list,
          key,
          set: { scope: { ...scope, activities: scope.activities.filter((other) => other !== id) } },
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
    set.estimate = {
      ...estimate,
      low: scaled(estimate.low),
      likely: scaled(estimate.likely),
      high: scaled(estimate.high),
    }
  }
  return { kind: 'set', list: 'activities', key: activity.id, set }
}

/** An id that no item of the list has, made from a prefix and random text supplied by the caller. */
export const freshId = (taken: Iterable<{ id: string }>, prefix: string, random: () => number): string => {
  const ids = new Set([...taken].map((item) => item.id))
  for (;;) {
    const id =
      prefix +
      Math.floor(random() * 36 ** 6)
        .toString(36)
        .padStart(6, '0')
    if (!ids.has(id)) return id
  }
}

/** Removes activities, each with all that refers to it. */
export const removeActivities = (plan: Plan, ids: readonly string[]): Change => {
  let at = plan
  const changes: Change[] = []
  for (const id of ids) {
    const change = removeActivity(at, id)
    changes.push(change)
    at = applyUnchecked(at, change).plan
  }
  return { kind: 'all', changes }
}

/**
 * A new activity, ready to be added: with a code by the rule of its neighbours, in the group of the one it comes after.
 * @param after - id of the activity to stand after; null for the end of `group`, or of the list
 */
export const newActivity = (
  plan: Plan,
  place: { after: string | null; group: string | null },
  fields: Item,
  random: () => number,
): Change => {
  const at = place.after === null ? -1 : plan.activities.findIndex((a) => a.id === place.after)
  const neighbour = plan.activities[at]
  const group = neighbour ? neighbour.group : place.group
  const siblings = plan.activities.filter((a) => a.group === group)
  const last = neighbour ?? siblings.at(-1)
  const taken = new Set(plan.activities.map((a) => a.code))
  const prefix = plan.groups.find((g) => g.id === group)?.code ?? ''
  const code = nextCode(
    taken,
    last?.code ?? null,
    siblings.length > 0 ? siblings.map((a) => a.code) : prefix === '' ? [] : [`${prefix}00`],
  )
  const item: Item = {
    id: freshId(plan.activities, 'a', random),
    code,
    name: '',
    group,
    kind: 'work',
    duration: 0,
    confirmed: false,
    ...fields,
  }
  return { kind: 'add', list: 'activities', item, before: placeAfter(plan, neighbour, group)?.id ?? null }
}

/** The activity before which a new one is put: after its neighbour, else at the end of its group, or of the list. */
const placeAfter = (
  plan: Plan,
  neighbour: Activity | undefined,
  group: string | null,
): Activity | undefined => {
  if (!neighbour && group === null) return undefined
  const last = neighbour ?? plan.activities.findLast((a) => a.group === group)
  if (last) return plan.activities[plan.activities.indexOf(last) + 1]
  // The first in a group: the group, and an empty one around it, stays where it stands.
  for (let at = group; at !== null;) {
    const owner: string | null = plan.groups.find(({ id }) => id === at)?.parent ?? null
    const standing = siblingsOf(plan, owner).find(({ kind, id }) => kind === 'group' && id === at)
    if (standing?.kind === 'group' && standing.anchor !== Infinity) return plan.activities[standing.anchor]
    at = owner
  }
  return undefined
}

/**
 * A hammock that hangs between two activities: from the start of the first to the finish of the other.
 * @returns the change, and the id of the hammock
 */
export const hangBetween = (
  plan: Plan,
  [from, to]: readonly [string, string],
  random: () => number,
): { change: Change; hammock: string } => {
  const codeOf = (id: string): string => plan.activities.find((a) => a.id === id)!.code
  const added = newActivity(
    plan,
    { after: to, group: null },
    { name: `Between ${codeOf(from)} and ${codeOf(to)}`, kind: 'hammock', confirmed: true },
    random,
  ) as Extract<Change, { kind: 'add' }>
  const hammock = String(added.item.id)
  const links: Change[] = []
  const taken = [...plan.links]
  for (const [end, type] of [
    [from, 'SS'],
    [to, 'FF'],
  ] as const) {
    const item = newLink({ id: freshId(taken, 'l', random), from: end, to: hammock, type, lag: 0 })
    taken.push(item)
    links.push({ kind: 'add', list: 'links', item, before: null })
  }
  return { change: { kind: 'all', changes: [added, ...links] }, hammock }
}

/**
 * Links activities one after the other, in the order given, leaving out pairs that are linked already.
 * @throws PlanError from applying it, if it closes a loop
 */
export const linkInSeries = (
  plan: Plan,
  ids: readonly string[],
  type: LinkType,
  lag: number,
  random: () => number,
): Change => {
  const made = [...plan.links]
  const changes: Change[] = []
  for (let k = 1; k < ids.length; k++) {
    const [from, to] = [ids[k - 1]!, ids[k]!]
    if (made.some((link) => link.from === from && link.to === to && link.type === type)) continue
    const item = newLink({
      id: freshId(made, 'l', random),
      from,
      to,
      type,
      lag,
    })
    made.push(item)
    changes.push({ kind: 'add', list: 'links', item, before: null })
  }
  return { kind: 'all', changes }
}

/** Removes the links among activities. */
export const unlinkAmong = (plan: Plan, ids: readonly string[]): Change => {
  const chosen = new Set(ids)
  return {
    kind: 'all',
    changes: plan.links
      .filter((l) => chosen.has(l.from) && chosen.has(l.to))
      .map((l) => ({ kind: 'remove', list: 'links', key: l.id })),
  }
}

/** Takes out the links among activities and ties them in the order given instead. */
export const relinkInSeries = (plan: Plan, ids: readonly string[], random: () => number): Change => {
  const out = unlinkAmong(plan, ids)
  const removed = new Set(
    out.kind === 'all' ? out.changes.map((change) => (change as { key: string }).key) : [],
  )
  const tied = linkInSeries(
    { ...plan, links: plan.links.filter((link) => !removed.has(link.id)) },
    ids,
    'FS',
    0,
    random,
  )
  return {
    kind: 'all',
    changes: [out, tied].flatMap((change) => (change.kind === 'all' ? change.changes : [change])),
  }
}

/**
 * What would keep the days of activities whose calendar a change replaces: their work stays in minutes, and where a day of the new
 * calendar has another length it reads as other days. Durations, and with them estimates, in the new days.
 * @param before - the plan before the change
 * @returns null where no day length differs
 */
export const keepingDays = (
  before: Plan,
  change: Change,
): { readonly activities: readonly Activity[]; readonly change: Change } | null => {
  const dayOf = (calendar: string | null): number =>
    lengthsOf(before, calendar ?? before.project.calendar).dayMinutes
  const parts = change.kind === 'all' ? change.changes : [change]
  const kept = parts.flatMap((part) => {
    if (part.kind !== 'set' || part.list !== 'activities' || part.set.calendar === undefined) return []
    const activity = before.activities.find((a) => a.id === part.key)
    if (!activity || activity.kind !== 'work' || activity.duration === 0) return []
    const [was, is] = [dayOf(activity.calendar), dayOf(part.set.calendar as string | null)]
    const minutes = Math.round((activity.duration / was) * is)
    return was === is ? [] : [{ activity, change: setDuration({ ...activity, confirmed: true }, minutes) }]
  })
  if (kept.length === 0) return null
  const changes = kept.map((k) => k.change)
  return {
    activities: kept.map((k) => k.activity),
    change: changes.length === 1 ? changes[0]! : { kind: 'all', changes },
  }
}

/** The constraint that typing a start, or moving a bar, makes: it yields to logic, and replaces an earlier one of its kind. */
export const withStartLimit = (activity: Activity, date: string): Constraint[] => [
  ...activity.constraints.filter((c) => !(c.edge === 'start' && c.rule === 'not-before')),
  { edge: 'start', rule: 'not-before', date, overrides: false },
]
