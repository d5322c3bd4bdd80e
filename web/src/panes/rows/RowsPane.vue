<script setup lang="ts">
import { computed, ref } from 'vue'
import { NONE, ROW_HEIGHT, type RowModel } from '@geodrome/core'
import { isText } from '../../commands/keys.ts'
import { byKeys, commandOf, useCommands, type Command } from '../../commands/registry.ts'
import { useListStore } from './listStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import CellEditor from './CellEditor.vue'
import { gridTemplate, type CellContext, type Column } from './columns.ts'
import { copiedRows } from './copiedRows.ts'
import { foldOneLevel, openOneLevel } from './foldLevel.ts'
import { groupSpan } from './groupSpan.ts'
import { useCellTyping } from './useCellTyping.ts'
import { useRowCursor } from './useRowCursor.ts'
import { useRowDrags } from './useRowDrags.ts'

const props = defineProps<{
  columns: readonly Column[]
  model: RowModel
  window: readonly { index: number; start: number }[]
  context: CellContext
}>()
const emit = defineEmits<{ scrollTo: [row: number]; paste: [text: string] }>()
const ui = useUiStore()
const list = useListStore()

const grid = ref<HTMLElement | null>(null)
const cursor = useRowCursor(props, (row) => emit('scrollTo', row))
const { cell, active, rowAt, isSelected, selectRow, goTo } = cursor
const typing = useCellTyping(props, grid, cursor)
const { editing, begin, readActive, draftActive, fillDown, done, cancel, refocus } = typing
const { dropAt, dragStart, drop, canDrag } = useRowDrags(props, rowAt, isSelected, selectRow)

/** The rows in the window; while a list gets shorter its window may still be the longer one's. */
const shown = computed(() => props.window.filter(({ index }) => index < props.model.rows.length))
const template = computed(() => gridTemplate(props.columns))
const cellId = (row: number, column: number): string => `cell-${row}-${column}`

/** Groupings by a tag are one level; the outline has as many as it has. */
const headings = computed(() =>
  props.model.rows.flatMap((row) => (row.kind === 'group' && !row.isOutline ? [row.id] : [])),
)
const fold = (isMore: boolean): void => {
  const { groups } = props.context.plan
  if (headings.value.length > 0) ui.collapsed = new Set(isMore ? headings.value : [])
  else ui.collapsed = isMore ? foldOneLevel(groups, ui.collapsed) : openOneLevel(groups, ui.collapsed)
}
const PAGE = 15
const toggleActive = (isFolded: boolean): boolean => {
  const row = active.value
  if (row?.kind !== 'group' || row.isCollapsed !== isFolded) return false
  ui.toggleGroup(row.id)
  return true
}
const inList = (id: string, keys: readonly string[], label: string, run: () => void): Command => ({
  ...byKeys('In the list', `list-${id}`, keys, label, run),
  isLocal: true,
})
const by = (rows: number, columns: number, extend = false): void =>
  goTo(cell.value.row + rows, cell.value.column + columns, extend)
/** Moving about in the list, and what is done to the cell; given while the list has the keyboard. */
const keys: readonly Command[] = [
  inList('down', ['↓'], 'Down', () => by(1, 0)),
  inList('up', ['↑'], 'Up', () => by(-1, 0)),
  inList('right', ['→'], 'Right; opens a group', () => toggleActive(true) || by(0, 1)),
  inList(
    'left',
    ['←'],
    'Left; folds a group',
    () => (cell.value.column === 0 && toggleActive(false)) || by(0, -1),
  ),
  inList('range-down', ['Shift ↓'], 'Select a range down', () => by(1, 0, true)),
  inList('range-up', ['Shift ↑'], 'Select a range up', () => by(-1, 0, true)),
  inList('page-down', ['PageDown'], 'Down by a page', () => by(PAGE, 0)),
  inList('page-up', ['PageUp'], 'Up by a page', () => by(-PAGE, 0)),
  inList('range-page-down', ['Shift PageDown'], 'Select a page down', () => by(PAGE, 0, true)),
  inList('range-page-up', ['Shift PageUp'], 'Select a page up', () => by(-PAGE, 0, true)),
  inList('home', ['Home'], 'To the first column', () => goTo(cell.value.row, 0)),
  inList('end', ['End'], 'To the last column', () => goTo(cell.value.row, props.columns.length - 1)),
  inList('top', ['Ctrl Home'], 'To the first row', () => goTo(0, 0)),
  inList('bottom', ['Ctrl End'], 'To the last row', () =>
    goTo(props.model.rows.length - 1, props.columns.length - 1),
  ),
  inList('enter', ['Enter'], 'Change the cell; again: apply it and go down', () =>
    active.value?.kind === 'group' ? ui.toggleGroup(active.value.id) : begin(null),
  ),
  inList('begin', ['F2'], 'Change the cell; on a group its name, code or start', () => begin(null)),
  inList('clear', ['Esc'], 'Leave the cell as it was; clear the selection', () => {
    ui.selection = []
    ui.group = null
  }),
  inList('add', ['Space'], 'Add the row to the selection', () => {
    if (active.value?.kind === 'activity') ui.select(active.value.id, { add: true })
  }),
  inList('all', ['Ctrl A'], 'Select all', () => {
    ui.selection = props.model.rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : []))
  }),
  inList('fill', ['Ctrl D'], 'Fill the topmost cell down the selection', fillDown),
  inList('fold', ['['], 'Fold the groups by one level', () => fold(true)),
  inList('unfold', [']'], 'Open the groups by one level', () => fold(false)),
]
useCommands(() => [
  ...keys,
  inList(
    'keep-all',
    ['Ctrl Enter'],
    'While typing: keep the text for all that are selected',
    () => undefined,
  ),
  inList('paste', ['Ctrl V'], 'Paste a block: columns are recognised, then you say', () => undefined),
])
const onKey = (event: KeyboardEvent): void => {
  if (editing.value) return
  const command = commandOf(keys, event, false)
  // A cell that takes text takes what is typed: letters do something only with Alt, or where there is nothing to type into.
  if (!command && !(isText(event) && begin(event.key))) return
  event.preventDefault()
  event.stopPropagation()
  command?.run()
}
/** What comes while a cell waits to be closed is meant for the list. */
const closeFirst = (event: KeyboardEvent | PointerEvent): void => {
  if (!typing.closeFirst() || !(event instanceof KeyboardEvent)) return
  event.stopPropagation()
  event.preventDefault()
  onKey(event)
}
const pick = (r: number, column: number, event: MouseEvent): void => {
  if (cursor.pick(r, column, event)) begin(null)
}
const floatClass = (index: number): string => {
  const minutes = props.context.view.totalFloat[index]!
  return minutes !== NONE && minutes < 0 ? 'short' : ''
}

const copy = (event: ClipboardEvent): void => {
  if (editing.value || ui.selection.length === 0) return
  event.clipboardData?.setData(
    'text/plain',
    copiedRows(props.context, props.columns, props.model, ui.selection),
  )
  event.preventDefault()
}
const paste = (event: ClipboardEvent): void => {
  if (editing.value) return
  const text = event.clipboardData?.getData('text/plain') ?? ''
  if (text.trim() === '') return
  event.preventDefault()
  emit('paste', text)
}
const isUnconfirmed = (r: number, column: string): boolean => {
  const row = rowAt(r)!
  return (
    column === 'duration' && row.kind === 'activity' && !props.context.plan.activities[row.index]!.confirmed
  )
}
const cellText = (r: number, column: Column): string => {
  const row = rowAt(r)!
  if (row.kind === 'activity') return column.text(props.context, row.index)
  if (column.id === 'name') return row.name
  if (column.id === 'code') return row.code
  if (column.id === 'number') return props.context.numbers.get(row.id) ?? ''
  return groupSpan(props.context, row.members, column.id)
}
const rowLabel = (r: number): string => {
  const row = rowAt(r)!
  return row.kind === 'activity' ? props.context.plan.activities[row.index]!.code : row.name
}
defineExpose({ focus: refocus, template })
</script>

<template>
  <div
    ref="grid"
    class="grid"
    role="treegrid"
    tabindex="0"
    aria-label="Activities"
    aria-multiselectable="true"
    :aria-rowcount="model.rows.length"
    :aria-colcount="columns.length"
    :aria-activedescendant="editing ? undefined : cellId(cell.row, cell.column)"
    @keydown.capture="closeFirst"
    @pointerdown.capture="closeFirst"
    @keydown="onKey"
    @copy="copy"
    @paste="paste"
  >
    <p v-if="list.problem" class="problem" role="alert">
      {{ list.problem }}
      <button class="plain" aria-label="Put this away" @click="list.problem = ''">×</button>
    </p>
    <div
      v-for="item in shown"
      :key="model.rows[item.index]!.id"
      v-memo="[
        item.start,
        rowAt(item.index),
        columns,
        context,
        isSelected(rowAt(item.index)!),
        cell.row === item.index && cell.column,
        cell.row === item.index && editing,
        dropAt === item.index,
        template,
        ui.selection.length > 1 && cell.row === item.index && ui.selection.length,
      ]"
      class="row"
      role="row"
      :class="{
        group: rowAt(item.index)!.kind === 'group',
        selected: isSelected(rowAt(item.index)!),
        dropping: dropAt === item.index,
        typing: editing !== null && cell.row === item.index,
      }"
      :aria-rowindex="item.index + 1"
      :aria-selected="isSelected(rowAt(item.index)!)"
      :aria-level="rowAt(item.index)!.depth + 1"
      :aria-expanded="
        rowAt(item.index)!.kind === 'group'
          ? !(rowAt(item.index) as { isCollapsed: boolean }).isCollapsed
          : undefined
      "
      :style="{ top: `${item.start}px`, height: `${ROW_HEIGHT}px`, gridTemplateColumns: template }"
      @dragover.prevent="dropAt = item.index"
      @dragleave="dropAt = null"
      @drop.prevent="drop(item.index)"
    >
      <span
        v-for="(column, c) in columns"
        :id="cellId(item.index, c)"
        :key="column.id"
        role="gridcell"
        class="cell"
        :class="[
          column.align,
          column.id === 'code' || column.id === 'number' ? 'code' : '',
          rowAt(item.index)!.kind === 'activity' && column.id === 'float'
            ? floatClass((rowAt(item.index) as { index: number }).index)
            : '',
          isUnconfirmed(item.index, column.id) ? 'unconfirmed' : '',
          {
            active: cell.row === item.index && cell.column === c,
            editing: editing !== null && cell.row === item.index && cell.column === c,
          },
        ]"
        :style="column.id === 'name' ? { paddingLeft: `${6 + 10 * rowAt(item.index)!.depth}px` } : undefined"
        :title="
          column.width === null || column.align === 'left'
            ? cellText(item.index, column)
            : isUnconfirmed(item.index, column.id)
              ? `${cellText(item.index, column)}, not confirmed`
              : undefined
        "
        :draggable="canDrag && c === 0"
        @dragstart="dragStart(item.index, $event)"
        @click="pick(item.index, c, $event)"
        ><template v-if="!(editing && cell.row === item.index && cell.column === c)"
          ><button
            v-if="rowAt(item.index)!.kind === 'group' && c === 0"
            class="plain fold"
            tabindex="-1"
            :aria-label="(rowAt(item.index) as { isCollapsed: boolean }).isCollapsed ? 'Unfold' : 'Fold'"
            @click.stop="ui.toggleGroup(rowAt(item.index)!.id)"
          >
            {{ (rowAt(item.index) as { isCollapsed: boolean }).isCollapsed ? '▸' : '▾' }}</button
          >{{ cellText(item.index, column) }}</template
        ><CellEditor
          v-else
          :label="`${column.title} of ${rowLabel(item.index)}`"
          :align="column.align"
          :draft="editing.initial ?? draftActive()"
          :is-fresh="editing.initial !== null"
          :offers="column.offers?.(context) ?? []"
          :many="ui.selection.length"
          :read="readActive"
          @done="done"
          @cancel="cancel"
      /></span>
    </div>
  </div>
</template>

<style scoped>
.grid {
  position: relative;
  height: 100%;
  outline: none;
}
.row {
  position: absolute;
  left: 0;
  right: 0;
  contain: layout style;
  display: grid;
  border-bottom: 1px solid var(--hairline);
  background: var(--raised);
}
/* What is understood hangs over the rows below. */
.row.typing {
  z-index: 5;
}
.row.group {
  font-weight: 650;
  background: var(--paper);
}
.row.selected {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--signal);
}
.cell {
  user-select: none;
  position: relative;
  padding: 0 5px;
  font-size: 13px;
  line-height: 28px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: default;
}
.cell.editing {
  overflow: visible;
}
.cell.code {
  padding-left: 10px;
  color: var(--soft-ink);
}
.cell.right {
  text-align: right;
  padding: 0 5px 0 1px;
}
.short,
.unconfirmed {
  color: var(--signal-text);
}
.unconfirmed {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.short {
  font-weight: 650;
}
.fold {
  display: inline-block;
  width: 24px;
  margin: 0 -8px 0 -10px;
  text-align: center;
  color: var(--soft-ink);
  cursor: pointer;
}
.row.dropping {
  box-shadow: inset 0 2.5px 0 var(--signal);
}
.row.group.dropping {
  background: var(--wash);
}
.grid:focus .cell.active {
  box-shadow: inset 0 0 0 1.5px var(--ink);
  border-radius: 4px;
}
.problem {
  position: sticky;
  top: 0;
  z-index: 6;
  margin: 0;
  padding: 4px 12px;
  background: var(--wash);
  color: var(--brick);
  font-weight: 600;
}
</style>
