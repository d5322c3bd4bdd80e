import { instantWords, NONE, shortDay, shortDurationWords, inkOf, type Ink } from '@geodrome/core'
import type { CellContext } from '../rows/columns.ts'
import { tightestOf } from '../rows/floatDays.ts'
import type { MapNodeData } from './mapGraph.ts'

export const NODE_WIDTH = 184
export const NODE_HEIGHT = 62
export const LAYER_GAP = 66
export const ROW_GAP = 20

/** What a box says. */
export interface BoxWords {
  readonly code: string
  readonly name: string
  readonly duration: string
  readonly dates: string
  readonly float: string
  readonly ink: Ink
  readonly onPath: boolean
  readonly count: number
}

export const boxWords = (context: CellContext, node: MapNodeData): BoxWords => {
  const { plan, view, calendars } = context
  let [from, to] = [Infinity, -Infinity]
  for (const i of node.members) {
    from = Math.min(from, view.start[i]!)
    to = Math.max(to, view.finish[i]!)
  }
  const found = tightestOf(context, node.members)
  const tightest = found < 0 ? node.members[0]! : found
  const float = view.totalFloat[tightest]!
  const activity = plan.activities[tightest]!
  const lengths = calendars.lengthsOf(activity)
  const isGroup = node.kind === 'group'
  const group = isGroup ? plan.groups.find((g) => g.id === node.id) : undefined
  const isPoint = !isGroup && activity.kind === 'milestone'
  const dates = isPoint
    ? context.allTimes
      ? instantWords(to, 'finish').slice(4)
      : shortDay(to, activity.edge === 'start' ? 'start' : 'finish')
    : `${shortDay(from, 'start')} – ${shortDay(to, 'finish')}`
  return {
    code: group?.code ?? activity.code,
    name: group?.name ?? activity.name,
    duration: isGroup
      ? ''
      : activity.kind === 'work'
        ? shortDurationWords(activity.duration, lengths)
        : activity.kind === 'milestone'
          ? 'milestone'
          : 'hammock',
    dates,
    float: float === NONE ? '' : shortDurationWords(float, lengths),
    ink: inkOf(float, view.state[tightest]!, plan.project),
    onPath: node.members.some((i) => view.onLongestPath[i] === 1),
    count: isGroup ? node.members.length : 0,
  }
}
