import { nextTick, ref, type ComputedRef, type Ref } from 'vue'
import type { Change, Row, RowModel } from '@geodrome/core'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import type { CellContext, Column, Understood } from './columns.ts'
import { readForAll } from './forAll.ts'
import { groupDraft, readGroupCell, readGroupDate } from './groupCells.ts'
import { useListCommands } from './useListCommands.ts'
import { useListStore } from './listStore.ts'

interface Shown {
  readonly columns: readonly Column[]
  readonly model: RowModel
  readonly context: CellContext
}
interface Cursor {
  readonly cell: Ref<{ row: number; column: number }>
  readonly active: ComputedRef<Row | undefined>
  rowAt(r: number): Row | undefined
  goTo(row: number, column: number): void
}
const CLOSE_AT_MOST_MS = 40

/**
 * Typing into the active cell: what is read from it, and what is done with it once it is left.
 * @param grid - the list, which has the keyboard while no cell has it
 */
export const useCellTyping = (props: Shown, grid: Ref<HTMLElement | null>, cursor: Cursor) => {
  const plans = usePlanStore()
  const ui = useUiStore()
  const list = useListStore()
  const { attempt } = useListCommands()
  const { cell, active, rowAt, goTo } = cursor
  const editing = ref<{ initial: string | null } | null>(null)
  const columnHere = (): Column => props.columns[cell.value.column]!

  /** Gives the list the keyboard. Asked of a page that is about to be drawn anew it would be laid out twice, so what has it keeps it. */
  const takeFocus = (): void => {
    if (document.activeElement !== grid.value) grid.value?.focus({ preventScroll: true })
  }
  const refocus = (): void => void nextTick(takeFocus)

  /** Opens the active cell for typing. @returns whether it takes text */
  const begin = (initial: string | null): boolean => {
    const row = active.value
    const column = props.columns[cell.value.column]
    if (!row || !column) return false
    if (row.kind === 'activity' ? !column.draft : groupDraft(props.context, row, column.id) === null)
      return false
    editing.value = { initial }
    return true
  }
  const readActive = (text: string): Understood => {
    const row = active.value!
    return row.kind === 'activity'
      ? columnHere().read!(props.context, row.index, text)
      : readGroupCell(props.context, row, columnHere().id, text)
  }
  const draftActive = (): string => {
    const row = active.value!
    return row.kind === 'activity'
      ? columnHere().draft!(props.context, row.index)
      : groupDraft(props.context, row, columnHere().id)!
  }

  const applyToAll = (column: Column, text: string): boolean => {
    const read = readForAll(props.context, column, ui.selection, () => text)
    if (!read.ok) list.problem = read.why
    return read.ok && read.change.changes.length > 0 && attempt(() => plans.edit(read.change))
  }
  /** Takes the topmost selected cell of this column down to the others. */
  const fillDown = (): void => {
    const column = columnHere()
    if (!column.draft) return void (list.problem = `${column.title} is computed and cannot be filled`)
    const top = ui.selection
      .map((id) => props.model.position.get(id) ?? Infinity)
      .reduce((a, b) => Math.min(a, b), Infinity)
    const row = rowAt(top)
    if (ui.selection.length < 2 || row?.kind !== 'activity')
      return void (list.problem = 'Fill down: select the rows first, the one to take from on top')
    applyToAll(column, column.draft(props.context, row.index))
  }

  /** Closes the cell whose text is kept already; null while none waits to be closed. */
  let closeCell: (() => void) | null = null
  const done = (
    move: 'down' | 'right' | 'left' | 'stay' | 'all',
    text: string,
    change: Change | null,
  ): void => {
    const { row, column } = cell.value
    const close = (): void => {
      if (closeCell !== close) return
      closeCell = null
      const hasKeyboard = move !== 'stay' && grid.value?.contains(document.activeElement)
      // While nothing waits to be drawn: a field that has the keyboard as it is taken away lays the page out once more.
      if (hasKeyboard) takeFocus()
      editing.value = null
      if (move === 'stay') return
      if (move === 'down') goTo(row + 1, column)
      if (move === 'right') goTo(row, column + 1)
      if (move === 'left') goTo(row, column - 1)
      if (hasKeyboard) refocus()
    }
    const edited = active.value
    const typed =
      edited?.kind === 'group' && props.columns[column]!.id === 'start' && change === null && move !== 'stay'
        ? readGroupDate(props.context, edited, text)
        : null
    if (typed?.ok) list.groupMove = { group: edited!.id, date: typed.date }
    closeCell = close
    const isKept =
      move === 'all'
        ? applyToAll(props.columns[column]!, text)
        : change !== null && attempt(() => plans.edit(change))
    // A cell that was left by a click is closed at once: another one is active already.
    if (!isKept || move === 'stay') return close()
    // One frame shows the closed cell and what its text did, unless that takes long.
    plans.whenScheduled(close)
    setTimeout(close, CLOSE_AT_MOST_MS)
  }
  /**
   * Closes a cell that waits to be closed.
   * @returns whether there was one: what comes then is meant for the list
   */
  const closeFirst = (): boolean => {
    if (!closeCell) return false
    closeCell()
    return true
  }
  const cancel = (): void => {
    editing.value = null
    refocus()
  }
  return { editing, begin, readActive, draftActive, fillDown, done, closeFirst, cancel, refocus }
}
