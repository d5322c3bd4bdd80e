<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import {
  dateWords,
  groupMoves,
  moveRows,
  NONE,
  readDate,
  type Change,
  type OutlineRow,
  ROW_HEIGHT,
  type Row,
  type RowModel,
} from '@geodrome/core'
import { isText } from '../../commands/keys.ts'
import { byKeys, commandOf, useCommands, type Command } from '../../commands/registry.ts'
import { useListCommands } from './useListCommands.ts'
import { readForAll } from './forAll.ts'
import { useListStore } from './listStore.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import CellEditor from './CellEditor.vue'
import { gridTemplate, type CellContext, type Column, type Understood } from './columns.ts'
import { foldOneLevel, openOneLevel } from './foldLevel.ts'
import { groupSpan } from './groupSpan.ts'

const props = defineProps<{
  columns: readonly Column[]
  model: RowModel
  window: readonly { index: number; start: number }[]
  context: CellContext
}>()
const emit = defineEmits<{ scrollTo: [row: number]; paste: [text: string] }>()
const plans = usePlanStore()
const ui = useUiStore()
const list = useListStore()
const { attempt } = useListCommands()

const grid = ref<HTMLElement | null>(null)
const cell = ref({ row: 0, column: 0 })
/** Where a range of rows began. */
let anchor = 0
const editing = ref<{ initial: string | null } | null>(null)

/** The rows in the window; while a list gets shorter its window may still be the longer one's. */
const shown = computed(() => props.window.filter(({ index }) => index < props.model.rows.length))
const rowAt = (r: number): Row | undefined => props.model.rows[r]
const chosen = computed(() => new Set(ui.selection))
const isSelected = (row: Row): boolean =>
  row.kind === 'activity' ? chosen.value.has(row.id) : ui.group === row.id
const active = computed(() => rowAt(cell.value.row))
const template = computed(() => gridTemplate(props.columns))
const cellId = (row: number, column: number): string => `cell-${row}-${column}`

/** The list follows what is selected elsewhere. */
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
    emit('scrollTo', row)
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
  emit('scrollTo', r)
}
const groupDraft = (row: Row & { kind: 'group' }, column: string): string | null => {
  if (!row.isOutline) return null
  if (column === 'name' || column === 'code') return row[column]
  return column === 'start' && row.members.length > 0 ? groupSpan(props.context, row.members, 'start') : null
}
/** A start typed on a group: a group has no dates of its own, so work in it is held; where there are two ways, they are offered. */
const groupDate = (row: Row & { kind: 'group' }, text: string) =>
  readDate(text, Math.min(...row.members.map((i) => props.context.view.start[i]!)))
const readGroupStart = (row: Row & { kind: 'group' }, text: string): Understood => {
  const { plan, view } = props.context
  const read = groupDate(row, text)
  if (!read.ok) return read
  const ways = groupMoves(plan, row.id, read.date, view.start)
  const only = ways[0]
  if (!only)
    return { ok: false, why: 'nothing in it can be held: its work has begun, or waits for other work' }
  const words = `constraints on its open starts, ${only.starts.map(({ id }) => plans.activity(id)!.code).join(', ')}: not before ${dateWords(read.date)}`
  return ways.length > 1
    ? { ok: true, words: `${words}, or a shift: Enter to choose`, change: null }
    : { ok: true, words, change: only.change }
}
/** Opens the active cell for typing. @returns whether it takes text */
const begin = (initial: string | null): boolean => {
  const row = active.value
  const column = props.columns[cell.value.column]
  if (!row || !column) return false
  if (row.kind === 'activity' ? !column.draft : groupDraft(row, column.id) === null) return false
  editing.value = { initial }
  return true
}
/** Gives the list the keyboard. Asked of a page that is about to be drawn anew it would be laid out twice, so what has it keeps it. */
const takeFocus = (): void => {
  if (document.activeElement !== grid.value) grid.value?.focus({ preventScroll: true })
}
const refocus = (): void => void nextTick(takeFocus)

/** What is read from a text in the active cell; on a group it is its name or code. */
const readActive = (text: string): Understood => {
  const row = active.value!
  const column = props.columns[cell.value.column]!
  if (row.kind === 'activity') return column.read!(props.context, row.index, text)
  if (column.id === 'start') return readGroupStart(row, text)
  const value = text.trim()
  return {
    ok: true,
    words: value || 'none',
    change:
      value === groupDraft(row, column.id)
        ? null
        : { kind: 'set', list: 'groups', key: row.id, set: { [column.id]: value } },
  }
}
const draftActive = (): string => {
  const row = active.value!
  const column = props.columns[cell.value.column]!
  return row.kind === 'activity' ? column.draft!(props.context, row.index) : groupDraft(row, column.id)!
}
/** Closes the cell whose text is kept already; null while none waits to be closed. */
let closeCell: (() => void) | null = null
const CLOSE_AT_MOST_MS = 40
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
      ? groupDate(edited, text)
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
/** What comes while a cell waits to be closed is meant for the list. */
const closeFirst = (event: KeyboardEvent | PointerEvent): void => {
  if (!closeCell) return
  closeCell()
  if (!(event instanceof KeyboardEvent)) return
  event.stopPropagation()
  event.preventDefault()
  onKey(event)
}
const applyToAll = (column: Column, text: string): boolean => {
  const read = readForAll(props.context, column, ui.selection, () => text)
  if (!read.ok) list.problem = read.why
  return read.ok && read.change.changes.length > 0 && attempt(() => plans.edit(read.change))
}
/** Takes the topmost selected cell of this column down to the others. */
const fillDown = (): void => {
  const column = props.columns[cell.value.column]!
  if (!column.draft) return void (list.problem = `${column.title} is computed and cannot be filled`)
  const top = ui.selection
    .map((id) => props.model.position.get(id) ?? Infinity)
    .reduce((a, b) => Math.min(a, b), Infinity)
  const row = rowAt(top)
  if (ui.selection.length < 2 || row?.kind !== 'activity')
    return void (list.problem = 'Fill down: select the rows first, the one to take from on top')
  applyToAll(column, column.draft(props.context, row.index))
}
const cancel = (): void => {
  editing.value = null
  refocus()
}

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
const pick = (r: number, column: number, event: MouseEvent): void => {
  const isSameCell = cell.value.row === r && cell.value.column === column
  const row = rowAt(r)
  cell.value = { row: r, column }
  if (event.shiftKey) selectTo(r)
  else if (row?.kind === 'activity' && (event.ctrlKey || event.metaKey)) ui.select(row.id, { add: true })
  else if (!(isSameCell && event.detail === 2)) selectRow(r)
  if (isSameCell && event.detail === 2) begin(null)
}
const floatClass = (index: number): string => {
  const minutes = props.context.view.totalFloat[index]!
  return minutes !== NONE && minutes < 0 ? 'short' : ''
}

/** Rows dragged by their code: dropped before another row, or onto a group. */
const dropAt = ref<number | null>(null)
const dragged = (): OutlineRow[] =>
  ui.group !== null ? [{ kind: 'group', id: ui.group }] : ui.selection.map((id) => ({ kind: 'activity', id }))
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
const canDrag = computed(() => list.view.sort.length === 0 && list.view.groupBy === '' && !list.view.across)

const copy = (event: ClipboardEvent): void => {
  if (editing.value || ui.selection.length === 0) return
  const at = ui.selection
    .map((id) => props.model.position.get(id))
    .filter((r) => r !== undefined)
    .sort((a, b) => a - b)
  const lines = at.map((r) =>
    props.columns.map((c) => c.text(props.context, (rowAt(r) as { index: number }).index)).join('\t'),
  )
  event.clipboardData?.setData(
    'text/plain',
    [props.columns.map((c) => c.title).join('\t'), ...lines].join('\n'),
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
