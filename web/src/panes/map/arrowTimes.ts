import { type ArrowMap } from '@geodrome/core'
import type { CellContext } from '../rows/columns.ts'

/** Earliest and latest times of the events of an arrow map, and the working time between them. */
export interface EventTimes {
  readonly earliest: number
  readonly latest: number
  /** Working minutes of the project's calendar. */
  readonly slack: number
}

/**
 * An event is reached when all that ends there is done, and must be reached before anything that begins there is late. Dummies pass
 * times on as they are; what a wait adds is in the dates of the activities at its ends.
 */
export const arrowTimes = (map: ArrowMap, { view, calendars, plan }: CellContext): EventTimes[] => {
  const at = new Map(plan.activities.map((a, i) => [a.id, i]))
  const earliest = map.events.map(() => view.projectStart)
  const latest = map.events.map(() => Infinity)
  const inOrder = [...map.arrows].sort((a, b) => a.from - b.from)
  for (const arrow of inOrder) {
    if (arrow.kind === 'work') earliest[arrow.to] = Math.max(earliest[arrow.to]!, view.finish[at.get(arrow.activity!)!]!)
    else if (arrow.kind === 'dummy') earliest[arrow.to] = Math.max(earliest[arrow.to]!, earliest[arrow.from]!)
  }
  for (const arrow of [...map.arrows].sort((a, b) => b.to - a.to || b.from - a.from)) {
    const i = arrow.kind === 'work' ? at.get(arrow.activity!)! : -1
    if (i >= 0) {
      latest[arrow.from] = Math.min(latest[arrow.from]!, view.lateStart[i]!)
      if (latest[arrow.to] === Infinity) latest[arrow.to] = view.lateFinish[i]!
    } else if (arrow.kind === 'dummy' && latest[arrow.to]! < Infinity) latest[arrow.from] = Math.min(latest[arrow.from]!, latest[arrow.to]!)
  }
  return map.events.map((_, e): EventTimes => {
    const late = latest[e] === Infinity ? earliest[e]! : latest[e]!
    return { earliest: earliest[e]!, latest: late, slack: calendars.project.countBefore(late) - calendars.project.countBefore(earliest[e]!) }
  })
}
