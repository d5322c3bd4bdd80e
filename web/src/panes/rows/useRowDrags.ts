import { computed, ref } from 'vue'
import { moveRows, type OutlineRow, type Row } from '@geodrome/core'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { CellContext } from './columns.ts'
import { useListCommands } from './useListCommands.ts'
import { useListStore } from './listStore.ts'

/** Rows dragged by their code: dropped before another row, or onto a group. */
export const useRowDrags = (
  props: { readonly context: CellContext },
  rowAt: (r: number) => Row | undefined,
  isSelected: (row: Row) => boolean,
  selectRow: (r: number) => void,
) => {
  const plans = usePlanStore()
  const ui = useUiStore()
  const list = useListStore()
  const { attempt } = useListCommands()
  const dropAt = ref<number | null>(null)
  const dragged = (): OutlineRow[] =>
    ui.group !== null
      ? [{ kind: 'group', id: ui.group }]
      : ui.selection.map((id) => ({ kind: 'activity', id }))
  const dragStart = (r: number, event: DragEvent): void => {
    const row = rowAt(r)!
    if (!isSelected(row)) selectRow(r)
    event.dataTransfer!.effectAllowed = 'move'
    event.dataTransfer!.setData('text/plain', row.id)
  }
  const drop = (r: number): void => {
    dropAt.value = null
    const row = rowAt(r)
    if (!row || (row.kind === 'group' && !row.isOutline)) return
    const change = moveRows(props.context.plan, dragged(), { kind: row.kind, id: row.id })
    if (change) attempt(() => plans.edit(change))
  }
  /** Where rows stand in another order than the plan's, there is no place to drop them. */
  const canDrag = computed(() => {
    const { sort, groupBy, across } = list.view
    return sort.length === 0 && groupBy === '' && !across
  })
  return { dropAt, dragStart, drop, canDrag }
}
