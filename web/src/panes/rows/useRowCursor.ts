import { computed, ref, watch } from 'vue'
import type { Row, RowModel } from '@geodrome/core'
import { useUiStore } from '../../stores/uiStore.ts'
import type { Column } from './columns.ts'

interface Shown {
  readonly columns: readonly Column[]
  readonly model: RowModel
}

/**
 * The active cell of the list, and the range of rows that grows from where it began. It follows what is selected elsewhere.
 * @param scrollTo - brings a row into view
 */
export const useRowCursor = (props: Shown, scrollTo: (row: number) => void) => {
  const ui = useUiStore()
  const cell = ref({ row: 0, column: 0 })
  /** Where a range of rows began. */
  let anchor = 0
  const rowAt = (r: number): Row | undefined => props.model.rows[r]
  const active = computed(() => rowAt(cell.value.row))
  const chosen = computed(() => new Set(ui.selection))
  const isSelected = (row: Row): boolean =>
    row.kind === 'activity' ? chosen.value.has(row.id) : ui.group === row.id

  watch(
    () => [ui.focus, ui.reveal, props.model] as const,
    ([focus]) => {
      const row = focus === null ? undefined : props.model.position.get(focus)
      if (row !== undefined) {
        if (row !== cell.value.row) anchor = row
        cell.value = { row, column: cell.value.column }
      } else
        cell.value = {
          row: Math.min(cell.value.row, Math.max(0, props.model.rows.length - 1)),
          column: cell.value.column,
        }
    },
  )
  /** A group that was selected by what was done has the keyboard, at its name. */
  watch(
    () => [ui.group, props.model] as const,
    ([group]) => {
      if (group === null || (active.value?.kind === 'group' && active.value.id === group)) return
      const row = props.model.rows.findIndex((r) => r.kind === 'group' && r.id === group)
      const column = props.columns.findIndex(({ id }) => id === 'name')
      if (row < 0) return
      cell.value = { row, column: Math.max(0, column) }
      scrollTo(row)
    },
  )

  const selectRow = (r: number): void => {
    const row = rowAt(r)
    anchor = r
    if (row?.kind === 'activity') ui.select(row.id)
    else if (row?.isOutline) {
      ui.selection = []
      ui.group = row.id
    }
  }
  /** Selects every activity from where the range began; the one it ends at is last, and so in the Lens. */
  const selectTo = (r: number): void => {
    const step = r >= anchor ? 1 : -1
    const ids: string[] = []
    for (let at = anchor; at !== r + step; at += step) {
      const row = rowAt(at)
      if (row?.kind === 'activity') ids.push(row.id)
    }
    ui.selection = ids
    ui.group = null
  }
  const goTo = (row: number, column: number, extend = false): void => {
    const r = Math.max(0, Math.min(props.model.rows.length - 1, row))
    cell.value = { row: r, column: Math.max(0, Math.min(props.columns.length - 1, column)) }
    if (extend) selectTo(r)
    else selectRow(r)
    scrollTo(r)
  }
  /** A click on a cell. @returns whether it was the second of a double click on the active one */
  const pick = (r: number, column: number, event: MouseEvent): boolean => {
    const isAgain = cell.value.row === r && cell.value.column === column && event.detail === 2
    const row = rowAt(r)
    cell.value = { row: r, column }
    if (event.shiftKey) selectTo(r)
    else if (row?.kind === 'activity' && (event.ctrlKey || event.metaKey)) ui.select(row.id, { add: true })
    else if (!isAgain) selectRow(r)
    return isAgain
  }
  return { cell, active, rowAt, isSelected, selectRow, goTo, pick }
}
