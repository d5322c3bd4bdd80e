import { NONE } from '../network/network.ts'
import { instantWords } from '../words/dates.ts'
import type { DrawnPlan } from './drawnPlan.ts'
import type { Row } from './rows.ts'
import { inkOf, type Ink } from './ink.ts'

/** What stands in a row of the Ground, in pixels. */
export interface Shape {
  readonly id: string
  readonly row: number
  readonly label: string
  readonly kind: 'work' | 'pennant' | 'ring' | 'hexagon' | 'hammock' | 'group'
  readonly x1: number
  readonly x2: number
  readonly y: number
  readonly ink: Ink
  /** Unfinished work of the longest path, whatever its float is. */
  readonly onPath: boolean
  /** Where its float ends, and its free float: after it, or before it in a plan scheduled backward. */
  readonly pocket: number | null
  readonly freePocket: number | null
  readonly progress: number
  readonly atStart: boolean
  /** Whether a date holds its start, its finish. */
  readonly limit: { readonly start: boolean; readonly finish: boolean } | null
}

/** The shape of a row. @param x - instant to pixels @param y - row to pixels */
export const shapeOf = (
  row: Row | undefined,
  r: number,
  { plan, view, calendars }: DrawnPlan,
  x: (at: number) => number,
  y: (row: number) => number,
): Shape[] => {
  if (!row) return []
  if (row.kind === 'group') {
    if (row.members.length === 0) return []
    let [from, to] = [Infinity, -Infinity]
    for (const i of row.members) [from, to] = [Math.min(from, view.start[i]!), Math.max(to, view.finish[i]!)]
    return [
      {
        id: row.id,
        row: r,
        label: row.name,
        kind: 'group',
        x1: x(from),
        x2: x(to),
        y: y(r),
        ink: 'outline',
        onPath: false,
        pocket: null,
        freePocket: null,
        progress: 0,
        atStart: true,
        limit: null,
      },
    ]
  }
  const i = row.index
  const activity = plan.activities[i]!
  const float = view.totalFloat[i]!
  const calendar = calendars.of(activity)
  const kind =
    activity.kind === 'hammock'
      ? 'hammock'
      : activity.kind === 'work'
        ? 'work'
        : activity.payment
          ? 'ring'
          : activity.decision
            ? 'hexagon'
            : 'pennant'
  const isBackward = plan.project.direction === 'backward'
  const free = view.freeFloat[i]!
  let freeUntil: number | null = null
  if (free !== NONE && free > 0 && float > 0) {
    const minutes = Math.min(free, float)
    try {
      freeUntil = isBackward
        ? calendar.minuteAt(calendar.countBefore(view.start[i]!) - minutes)
        : calendar.minuteAt(calendar.countBefore(view.finish[i]!) + minutes - 1) + 1
    } catch {
      freeUntil = null
    }
  }
  const onPath = view.onLongestPath[i] === 1 && view.state[i] !== 2
  const held = (edge: 'start' | 'finish'): boolean => activity.constraints.some((c) => c.edge === edge)
  return [
    {
      id: activity.id,
      row: r,
      label: `${activity.code} ${activity.name}: ${instantWords(view.start[i]!, 'start')} to ${instantWords(view.finish[i]!, 'finish')}${onPath ? '; on the longest path' : ''}`,
      kind,
      x1: x(view.start[i]!),
      x2: x(view.finish[i]!),
      y: y(r),
      ink: inkOf(float, view.state[i]!, plan.project),
      onPath,
      pocket: float !== NONE && float > 0 ? x(isBackward ? view.earlyStart[i]! : view.lateFinish[i]!) : null,
      freePocket: freeUntil === null ? null : x(freeUntil),
      progress: activity.progress.percent / 100,
      atStart: activity.edge !== 'finish',
      limit: activity.constraints.length > 0 ? { start: held('start'), finish: held('finish') } : null,
    },
  ]
}
