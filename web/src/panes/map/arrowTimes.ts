import {
  lagCalendarOf,
  NONE,
  PART,
  prevWork,
  shiftWork,
  unshiftWork,
  type Arrow,
  type ArrowMap,
} from '@geodrome/core'
import type { CellContext } from '../rows/columns.ts'
import type { MapNodeData } from './mapGraph.ts'

/** Earliest and latest times of the events of an arrow map, and the working time between them. */
export interface EventTimes {
  readonly earliest: number
  readonly latest: number
  /** Working minutes of the project's calendar. */
  readonly slack: number
}

/**
 * An event is reached when all that ends there is done, and must be reached before anything that begins there is late. Dummies pass
 * times on as they are, other links with their lag on its calendar; a folded group has the dates that its activities span.
 */
export const arrowTimes = (
  map: ArrowMap,
  units: readonly MapNodeData[],
  context: CellContext,
): EventTimes[] => {
  const { view, calendars, plan } = context
  const links = new Map(plan.links.map((l) => [l.id, l]))
  const spans = new Map(
    units.map(({ id, members }) => [
      id,
      {
        start: Math.min(...members.map((i) => view.start[i]!)),
        finish: Math.max(...members.map((i) => view.finish[i]!)),
        lateStart: Math.min(
          ...members.map((i) => (view.lateStart[i] === NONE ? view.start[i]! : view.lateStart[i]!)),
        ),
        lateFinish: Math.max(
          ...members.map((i) => (view.lateFinish[i] === NONE ? view.finish[i]! : view.lateFinish[i]!)),
        ),
      },
    ]),
  )
  const isPart = (arrow: Arrow): boolean => arrow.link?.startsWith(PART) ?? false
  const lagOf = (arrow: Arrow) => {
    const link = links.get(arrow.link!)!
    const calendar = calendars.of({
      calendar: lagCalendarOf(plan.project, link, context.activity(link.from), context.activity(link.to)),
    })
    return { calendar, lag: link.lag }
  }
  const earliest = map.events.map(() => view.projectStart)
  const latest = map.events.map(() => Infinity)
  // What waits for part of a group begins when it does, whatever the group's own edges say.
  for (const arrow of map.arrows)
    if (isPart(arrow))
      for (const id of map.events[arrow.to]!.begins)
        earliest[arrow.to] = Math.max(earliest[arrow.to]!, spans.get(id)!.start)
  for (const arrow of [...map.arrows].sort((a, b) => a.from - b.from)) {
    let reached = earliest[arrow.from]!
    if (arrow.kind === 'work') reached = spans.get(arrow.activity!)!.finish
    else if (isPart(arrow)) continue
    else if (arrow.kind === 'wait') reached = shiftWork(lagOf(arrow).calendar, reached, lagOf(arrow).lag)
    earliest[arrow.to] = Math.max(earliest[arrow.to]!, reached)
  }
  for (const arrow of [...map.arrows].sort((a, b) => b.to - a.to || b.from - a.from)) {
    if (arrow.kind === 'work') {
      const span = spans.get(arrow.activity!)!
      if (latest[arrow.to] === Infinity) latest[arrow.to] = span.lateFinish
      latest[arrow.from] = Math.min(latest[arrow.from]!, span.lateStart)
    } else if (!isPart(arrow) && latest[arrow.to]! < Infinity) {
      const needed =
        arrow.kind === 'wait'
          ? unshiftWork(lagOf(arrow).calendar, latest[arrow.to]!, lagOf(arrow).lag)
          : latest[arrow.to]!
      latest[arrow.from] = Math.min(latest[arrow.from]!, needed)
    }
  }
  return map.events.map((_, e): EventTimes => {
    const late = latest[e] === Infinity ? earliest[e]! : latest[e]!
    // An event ends work: Monday morning, at which the next must begin, is Friday evening for what ends there.
    const calendar = calendars.project
    const slack = calendar.countBefore(late) - calendar.countBefore(earliest[e]!)
    return { earliest: earliest[e]!, latest: slack === 0 ? earliest[e]! : prevWork(calendar, late), slack }
  })
}
