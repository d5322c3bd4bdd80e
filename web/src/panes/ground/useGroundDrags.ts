import { shallowRef, type ComputedRef, type ShallowRef } from 'vue'
import {
  formatInstant,
  freshId,
  instantWords,
  newLink,
  ROW_HEIGHT,
  type Activity,
  type Change,
  type LinkType,
  type RowModel,
  type Shape,
} from '@geodrome/core'
import { followPointer } from '../../composables/followPointer.ts'
import type { TimeScale } from '../../composables/useTimeScale.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { CellContext } from '../rows/columns.ts'
import { useListStore } from '../rows/listStore.ts'
import { useListCommands } from '../rows/useListCommands.ts'
import { pullFinish, pullStart, snapStart, type Pull } from './dragBar.ts'

interface Drags {
  /** A bar being moved, or its end pulled; shown where it would stand, with what that would do. */
  readonly pull: ShallowRef<(Pull & { readonly y: number }) | null>
  /** A link being drawn from an end of the selected bar; the half of the bar where it lands says which end it ties. */
  readonly rope: ShallowRef<Rope | null>
  activityAt(s: Shape): { readonly activity: Activity; readonly index: number } | null
  press(s: Shape, event: PointerEvent): void
  pressGroup(s: Shape, event: PointerEvent): void
  pressEnd(s: Shape, atStart: boolean, event: PointerEvent): void
}
interface Rope {
  readonly x1: number
  readonly y1: number
  readonly x2: number
  readonly y2: number
  readonly words: string
  readonly change: Change | null
}

/**
 * What is drawn on the Ground with the mouse: bars moved, their ends pulled, groups moved by their span, links from bar to bar.
 * @param offset - of the window that is drawn, from the top of the list (px)
 */
export const useGroundDrags = (
  of: { readonly model: RowModel; readonly context: CellContext; readonly scale: TimeScale },
  shapes: ComputedRef<readonly Shape[]>,
  offset: ComputedRef<number>,
): Drags => {
  const ui = useUiStore()
  const plans = usePlanStore()
  const list = useListStore()
  const { attempt } = useListCommands()

  const pull = shallowRef<(Pull & { readonly y: number }) | null>(null)
  const activityAt = (s: Shape) => {
    const row = of.model.rows[s.row]
    return row?.kind === 'activity'
      ? { activity: of.context.plan.activities[row.index]!, index: row.index }
      : null
  }
  const press = (s: Shape, event: PointerEvent): void => {
    const found = activityAt(s)
    if (event.button !== 0 || !found || s.kind === 'hammock' || s.ink === 'stone') return
    const { activity, index } = found
    const { view, calendars } = of.context
    const calendar = calendars.of(activity)
    const svg = (event.currentTarget as Element).closest('svg')!
    const { left } = svg.getBoundingClientRect()
    const from = event.clientX
    const isEnd = s.kind === 'work' && from - left > s.x2 - 6 && view.state[index] === 0
    const scheduled = { start: view.start[index]!, finish: view.finish[index]! }
    let isPulling = false
    const move = (e: PointerEvent): void => {
      if (!isPulling && Math.abs(e.clientX - from) < 4) return
      isPulling = true
      const perDay = of.scale.perDay.value
      try {
        const next = isEnd
          ? pullFinish(
              activity,
              calendar,
              calendars.lengthsOf(activity),
              of.scale.at(e.clientX - left),
              perDay,
              scheduled.start,
            )
          : pullStart(activity, calendar, of.scale.at(s.x1 + e.clientX - from), perDay, scheduled)
        pull.value = { ...next, y: s.y }
      } catch {
        pull.value = null // dragged beyond the end of its calendar
      }
    }
    followPointer(event, move, (isDropped) => {
      const done = pull.value
      pull.value = null
      if (isPulling)
        window.addEventListener('click', (click) => click.stopPropagation(), { capture: true, once: true })
      if (isDropped && done?.change) {
        ui.select(s.id)
        attempt(() => plans.edit(done.change!))
      }
    })
  }

  /** A group moved by its span: where it was let go it is asked to start; how it gets there is chosen then. */
  const pressGroup = (s: Shape, event: PointerEvent): void => {
    const row = of.model.rows[s.row]
    if (event.button !== 0 || row?.kind !== 'group' || !row.isOutline) return
    const { project } = of.context.calendars
    const from = event.clientX
    const spanAt = (e: PointerEvent) => {
      const start = snapStart(project, of.scale.at(s.x1 + e.clientX - from), of.scale.perDay.value)
      return { start, finish: start + of.scale.at(s.x2) - of.scale.at(s.x1) }
    }
    const move = (e: PointerEvent): void => {
      if (!pull.value && Math.abs(e.clientX - from) < 4) return
      try {
        const span = spanAt(e)
        pull.value = {
          ...span,
          words: `${row.name}: start ${instantWords(span.start, 'start')}`,
          change: null,
          y: s.y,
        }
      } catch {
        pull.value = null
      }
    }
    followPointer(event, move, (isDropped) => {
      const done = pull.value
      pull.value = null
      if (isDropped && done) list.groupMove = { group: s.id, date: formatInstant(done.start) }
    })
  }

  const rope = shallowRef<Rope | null>(null)
  const pressEnd = (s: Shape, atStart: boolean, event: PointerEvent): void => {
    if (event.button !== 0) return
    const svg = (event.currentTarget as Element).closest('svg')!
    const box = svg.getBoundingClientRect()
    const id = freshId(of.context.plan.links, 'l', Math.random)
    const landing = (e: PointerEvent): { to: Shape; type: LinkType } | null => {
      const [px, py] = [e.clientX - box.left, e.clientY - box.top + offset.value]
      const to = shapes.value.find(
        (t) =>
          t.kind !== 'group' &&
          t.id !== s.id &&
          py >= t.y &&
          py < t.y + ROW_HEIGHT &&
          px > t.x1 - 14 &&
          px < t.x2 + 14,
      )
      if (!to) return null
      const ontoStart = px < (to.x1 + to.x2) / 2
      return { to, type: atStart ? (ontoStart ? 'SS' : 'SF') : ontoStart ? 'FS' : 'FF' }
    }
    const codeOf = (shape: Shape): string => activityAt(shape)?.activity.code ?? ''
    const move = (e: PointerEvent): void => {
      const to = landing(e)
      const ends = {
        x1: atStart ? s.x1 : s.x2,
        y1: s.y + ROW_HEIGHT / 2,
        x2: e.clientX - box.left,
        y2: e.clientY - box.top + offset.value,
      }
      rope.value = to
        ? {
            ...ends,
            words: `${codeOf(to.to)} ${to.type} ${codeOf(s)}`,
            change: {
              kind: 'add',
              list: 'links',
              before: null,
              item: newLink({
                id,
                from: s.id,
                to: to.to.id,
                type: to.type,
                lag: 0,
              }),
            },
          }
        : { ...ends, words: 'onto another bar', change: null }
    }
    followPointer(event, move, (isDropped) => {
      const done = rope.value
      rope.value = null
      if (isDropped && done?.change) attempt(() => plans.edit(done.change!))
    })
  }

  return { pull, rope, activityAt, press, pressGroup, pressEnd }
}
