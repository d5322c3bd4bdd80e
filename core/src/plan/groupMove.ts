import { nextWork } from '../time/arithmetic.ts'
import { formatInstant, instantOf, type Instant } from '../time/instant.ts'
import { PlanCalendars } from '../time/planCalendars.ts'
import type { Change } from './change.ts'
import { withStartLimit } from './edits.ts'
import { groupEnds } from './groupLinkEnds.ts'
import { calendarOf } from './lagCalendar.ts'
import { isWithin } from './outline.ts'
import type { Plan } from './schema.ts'

/** One way to bring a group to another start; a group has no dates of its own. */
export interface GroupMove {
  /** `limit`: its open starts are not before the date. `shift`: its work that waits for nothing keeps its distances. */
  readonly kind: 'limit' | 'shift'
  /** Whose starts are held, with the date of each as the plan file writes it. */
  readonly starts: readonly { readonly id: string; readonly date: string }[]
  readonly change: Change
}

/**
 * The ways to bring a group to a start: what has begun stays, and what links hold later than the date stays where they hold it.
 * @param date - as the plan file writes it, with a time or without
 * @param start - scheduled starts of the plan's activities, by position
 * @returns none where nothing in the group can be held; one where both ways would be the same
 */
export const groupMoves = (
  plan: Plan,
  group: string,
  date: string,
  start: ArrayLike<Instant>,
): GroupMove[] => {
  const { project } = plan
  const calendars = new PlanCalendars(plan.calendars, instantOf(project.start, 'start'))
  const at = instantOf(date, 'start')
  const linked = new Set(plan.links.map((l) => l.to))
  const openStarts = new Set(groupEnds(plan, group, 'to'))
  const limit: { id: string; date: string }[] = []
  const unlinked: { id: string; start: Instant; calendar: string; hasLimit: boolean }[] = []
  let first = Infinity
  plan.activities.forEach((activity, i) => {
    if (activity.kind === 'hammock' || !isWithin(plan, activity.group, group)) return
    first = Math.min(first, start[i]!)
    if (activity.progress.actualStart !== null || activity.progress.actualFinish !== null) return
    if (openStarts.has(activity.id)) limit.push({ id: activity.id, date })
    if (!linked.has(activity.id))
      unlinked.push({
        id: activity.id,
        start: start[i]!,
        calendar: calendarOf(project, activity),
        hasLimit: activity.constraints.some((c) => c.edge === 'start' && c.rule === 'not-before'),
      })
  })
  const by = at - first
  // Without a limit of its own, work stands as early as it can already.
  const shift = unlinked
    .filter((a) => by > 0 || a.hasLimit)
    .map((a) => ({ id: a.id, date: formatInstant(nextWork(calendars.get(a.calendar), a.start + by)) }))
  const isSame =
    shift.length === limit.length &&
    shift.every(
      (a, k) =>
        a.id === limit[k]!.id &&
        instantOf(a.date, 'start') ===
          nextWork(
            calendars.get(
              calendarOf(
                project,
                plan.activities.find((x) => x.id === a.id)!,
              ),
            ),
            at,
          ),
    )
  const ways = [
    { kind: 'limit' as const, starts: limit },
    { kind: 'shift' as const, starts: isSame ? [] : shift },
  ]
  return ways
    .filter((way) => way.starts.length > 0)
    .map((way) => ({ ...way, change: holding(plan, way.starts) }))
}

const holding = (plan: Plan, starts: GroupMove['starts']): Change => {
  const byId = new Map(plan.activities.map((a) => [a.id, a]))
  return {
    kind: 'all',
    changes: starts.map(({ id, date }): Change => ({
      kind: 'set',
      list: 'activities',
      key: id,
      set: { constraints: withStartLimit(byId.get(id)!, date) },
    })),
  }
}
