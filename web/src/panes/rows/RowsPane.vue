<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { NONE, type Change } from '@geodrome/core'
import { useAttempt } from '../../composables/useAttempt.ts'
import type { Row, RowModel } from '../../composables/useRows.ts'
import { usePlanStore } from '../../stores/planStore.ts'
import { useUiStore } from '../../stores/uiStore.ts'
import { ROW_HEIGHT } from '../../theme/tokens.ts'
import CellEditor from './CellEditor.vue'
import { gridTemplate, type CellContext, type Column } from './columns.ts'
import { groupSpan } from './groupSpan.ts'

const props = defineProps<{ columns: readonly Column[]; model: RowModel; window: readonly { index: number; start: number }[]; context: CellContext }>()
const emit = defineEmits<{ scrollTo: [row: number] }>()
const plans = usePlanStore()
const ui = useUiStore()

const grid = ref<HTMLElement | null>(null)
const cell = ref({ row: 0, column: 0 })
const editing = ref<{ initial: string | null } | null>(null)
const { problem, attempt } = useAttempt()

const rowAt = (r: number): Row | undefined => props.model.rows[r]
const isSelected = (row: Row): boolean => row.kind === 'activity' && ui.selection.includes(row.id)
const active = computed(() => rowAt(cell.value.row))
const groupName = (id: string) => props.context.plan.groups.find((g) => g.id === id)
const template = computed(() => gridTemplate(props.columns))
const cellId = (row: number, column: number): string => `cell-${row}-${column}`

/** The list follows what is selected elsewhere. */
watch(
  () => [ui.focus, ui.reveal, props.model] as const,
  ([focus]) => {
    const row = focus === null ? undefined : props.model.position.get(focus)
    if (row !== undefined) cell.value = { row, column: cell.value.column }
    else cell.value = { row: Math.min(cell.value.row, Math.max(0, props.model.rows.length - 1)), column: cell.value.column }
  },
)

const goTo = (row: number, column: number, add = false): void => {
  const r = Math.max(0, Math.min(props.model.rows.length - 1, row))
  cell.value = { row: r, column: Math.max(0, Math.min(props.columns.length - 1, column)) }
  const target = rowAt(r)
  if (target?.kind === 'activity') ui.select(target.id, { add })
  emit('scrollTo', r)
}
const begin = (initial: string | null): void => {
  if (active.value?.kind === 'activity' && props.columns[cell.value.column]!.draft) editing.value = { initial }
}
const refocus = (): void => void nextTick(() => grid.value?.focus({ preventScroll: true }))

const done = (move: 'down' | 'right' | 'left' | 'stay', change: Change | null): void => {
  editing.value = null
  problem.value = ''
  if (change) attempt(() => plans.edit(change))
  if (move === 'stay') return
  const { row, column } = cell.value
  if (move === 'down') goTo(row + 1, column)
  if (move === 'right') goTo(row, column + 1)
  if (move === 'left') goTo(row, column - 1)
  refocus()
}
const cancel = (): void => {
  editing.value = null
  refocus()
}

const onKey = (event: KeyboardEvent): void => {
  if (editing.value) return
  const { row, column } = cell.value
  const page = 15
  const moves: Record<string, () => void> = {
    ArrowDown: () => goTo(row + 1, column, event.shiftKey),
    ArrowUp: () => goTo(row - 1, column, event.shiftKey),
    ArrowRight: () => (active.value?.kind === 'group' && active.value.isCollapsed ? ui.toggleGroup(active.value.id) : goTo(row, column + 1)),
    ArrowLeft: () => (active.value?.kind === 'group' && !active.value.isCollapsed ? ui.toggleGroup(active.value.id) : goTo(row, column - 1)),
    PageDown: () => goTo(row + page, column),
    PageUp: () => goTo(row - page, column),
    Home: () => goTo(event.ctrlKey ? 0 : row, 0),
    End: () => goTo(event.ctrlKey ? props.model.rows.length - 1 : row, props.columns.length - 1),
    Enter: () => (active.value?.kind === 'group' ? ui.toggleGroup(active.value.id) : begin(null)),
    F2: () => begin(null),
    Escape: () => (ui.selection = []),
    ' ': () => active.value?.kind === 'activity' && ui.select(active.value.id, { add: true }),
  }
  if (event.shiftKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) return
  const move = moves[event.key]
  if (move && !event.altKey) {
    event.preventDefault()
    event.stopPropagation()
    move()
  } else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey && /[\d+]/.test(event.key) && ['duration', 'start'].includes(props.columns[column]!.id)) {
    event.preventDefault()
    event.stopPropagation()
    begin(event.key)
  }
}
const pick = (r: number, column: number, event: MouseEvent): void => {
  const isSameCell = cell.value.row === r && cell.value.column === column
  const row = rowAt(r)
  cell.value = { row: r, column }
  if (row?.kind === 'activity') ui.select(row.id, { add: event.ctrlKey || event.metaKey || event.shiftKey })
  if (isSameCell && event.detail === 2) begin(null)
}
const floatClass = (index: number): string => {
  const minutes = props.context.view.totalFloat[index]!
  return minutes !== NONE && minutes < 0 ? 'short' : ''
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
    :aria-rowcount="model.rows.length"
    :aria-colcount="columns.length"
    :aria-activedescendant="editing ? undefined : cellId(cell.row, cell.column)"
    @keydown="onKey"
  >
    <p v-if="problem" class="problem" role="alert">{{ problem }} <button class="plain" aria-label="Put this away" @click="problem = ''">×</button></p>
    <template v-for="item in window" :key="model.rows[item.index]?.id">
      <div
        v-if="rowAt(item.index)"
        class="row"
        role="row"
        :class="{ group: rowAt(item.index)!.kind === 'group', selected: isSelected(rowAt(item.index)!) }"
        :aria-rowindex="item.index + 1"
        :aria-selected="isSelected(rowAt(item.index)!)"
        :aria-level="rowAt(item.index)!.depth + 1"
        :aria-expanded="rowAt(item.index)!.kind === 'group' ? !(rowAt(item.index) as { isCollapsed: boolean }).isCollapsed : undefined"
        :style="{ top: `${item.start}px`, height: `${ROW_HEIGHT}px`, gridTemplateColumns: template }"
      >
        <template v-if="rowAt(item.index)!.kind === 'group'">
          <span :id="cellId(item.index, 0)" role="gridcell" class="cell code" :class="{ active: cell.row === item.index && cell.column === 0 }" @click="ui.toggleGroup(rowAt(item.index)!.id)">
            <span class="fold" aria-hidden="true">{{ (rowAt(item.index) as { isCollapsed: boolean }).isCollapsed ? '▸' : '▾' }}</span>{{ groupName(rowAt(item.index)!.id)?.code }}
          </span>
          <span
            v-for="(column, c) in columns.slice(1)"
            :id="cellId(item.index, c + 1)"
            :key="column.id"
            role="gridcell"
            class="cell"
            :class="[column.align, { active: cell.row === item.index && cell.column === c + 1 }]"
            @click="pick(item.index, c + 1, $event)"
          >{{ c === 0 ? groupName(rowAt(item.index)!.id)?.name : groupSpan(context, (rowAt(item.index) as { members: readonly number[] }).members, column.id) }}</span>
        </template>
        <template v-else>
          <span
            v-for="(column, c) in columns"
            :id="cellId(item.index, c)"
            :key="column.id"
            role="gridcell"
            class="cell"
            :class="[
              column.align,
              column.id === 'code' ? 'code' : '',
              column.id === 'float' ? floatClass((rowAt(item.index) as { index: number }).index) : '',
              column.id === 'duration' && !context.plan.activities[(rowAt(item.index) as { index: number }).index]?.confirmed ? 'unconfirmed' : '',
              { active: cell.row === item.index && cell.column === c },
            ]"
            :style="column.id === 'name' ? { paddingLeft: `${6 + 10 * rowAt(item.index)!.depth}px` } : undefined"
            :title="column.id === 'name' ? context.plan.activities[(rowAt(item.index) as { index: number }).index]?.name : undefined"
            @click="pick(item.index, c, $event)"
          ><template v-if="!(editing && cell.row === item.index && cell.column === c)">{{ column.text(context, (rowAt(item.index) as { index: number }).index) }}</template><CellEditor
              v-else
              :column="column"
              :context="context"
              :index="(rowAt(item.index) as { index: number }).index"
              :initial="editing.initial"
              @done="done"
              @cancel="cancel"
            /></span>
        </template>
      </div>
    </template>
  </div>
</template>

<style scoped>
.grid { position: relative; height: 100%; outline: none; }
.row { position: absolute; left: 0; right: 0; display: grid; border-bottom: 1px solid var(--hairline); background: var(--raised); }
.row.group { font-weight: 650; background: var(--paper); }
.row.selected { background: var(--wash); box-shadow: inset 3px 0 0 var(--signal); }
.cell { position: relative; padding: 0 5px; font-size: 13px; line-height: 28px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; cursor: default; }
.cell:has(input) { overflow: visible; }
.cell.code { padding-left: 10px; color: var(--soft-ink); }
.right { text-align: right; }
.short, .unconfirmed { color: var(--signal-text); }
.short { font-weight: 650; }
.fold { display: inline-block; width: 12px; margin-left: -6px; color: var(--soft-ink); cursor: pointer; }
.grid:focus .cell.active { box-shadow: inset 0 0 0 1.5px var(--ink); border-radius: 4px; }
.problem { position: sticky; top: 0; z-index: 6; margin: 0; padding: 4px 12px; background: var(--wash); color: var(--brick); font-weight: 600; }
</style>
