<script setup lang="ts">
import { followPointer } from '../../composables/followPointer.ts'
import { useListStore } from './listStore.ts'
import { gridTemplate, type Column } from './columns.ts'

const props = defineProps<{ columns: readonly Column[] }>()
const list = useListStore()

const orderOf = (id: string): 'ascending' | 'descending' | 'none' => {
  const key = list.view.sort.find((k) => k.column === id)
  return !key ? 'none' : key.descending ? 'descending' : 'ascending'
}
const mark = (id: string): string => {
  const at = list.view.sort.findIndex((k) => k.column === id)
  if (at < 0) return ''
  return ` ${list.view.sort[at]!.descending ? '↓' : '↑'}${list.view.sort.length > 1 ? at + 1 : ''}`
}
const setWidth = (column: Column, width: number): void =>
  list.set({ widths: { ...list.view.widths, [column.id]: Math.round(Math.max(36, Math.min(480, width))) } })
const drag = (column: Column, event: PointerEvent): void => {
  const [from, width] = [event.clientX, column.width!]
  followPointer(
    event,
    ({ clientX }) => setWidth(column, width + (clientX - from) * (isAfterName(column) ? -1 : 1)),
    (isDropped) => {
      if (!isDropped) setWidth(column, width)
    },
    event.currentTarget as Element,
  )
}
/** The edge that widens: columns after the name grow to the left, since the name takes what is left. */
const isAfterName = (column: Column): boolean =>
  props.columns.findIndex((c) => c.width === null) < props.columns.indexOf(column)
</script>

<template>
  <div
    class="columns"
    role="group"
    aria-label="Columns of the list"
    :style="{ gridTemplateColumns: gridTemplate(columns) }"
  >
    <span v-for="column in columns" :key="column.id" class="head" :class="column.align">
      <button
        class="plain title"
        :aria-label="`${column.title}, ${orderOf(column.id) === 'none' ? 'not sorted' : orderOf(column.id)}`"
        :title="`${column.explains} Click sorts inside the groups; with Shift, as a further key.`"
        @click="list.sortBy(column.id, $event.shiftKey)"
      >
        {{ column.title }}{{ mark(column.id) }}
      </button>
      <span
        v-if="column.width !== null"
        class="edge"
        :class="isAfterName(column) ? 'before' : 'after'"
        role="separator"
        tabindex="0"
        :aria-label="`Width of ${column.title}`"
        :aria-valuenow="column.width"
        aria-valuemin="36"
        aria-valuemax="480"
        aria-orientation="vertical"
        @pointerdown.stop="drag(column, $event)"
        @keydown.left.stop.prevent="setWidth(column, column.width! - 8)"
        @keydown.right.stop.prevent="setWidth(column, column.width! + 8)"
      />
    </span>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  height: 30px;
  color: var(--soft-ink);
  font-size: 12px;
  line-height: 30px;
}
.head {
  position: relative;
  padding: 0 5px;
  overflow: hidden;
  white-space: nowrap;
}
.head:first-child {
  padding-left: 10px;
}
.title {
  display: inline-block;
  max-width: 100%;
  min-height: 24px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.title:hover {
  color: var(--ink);
}
.edge {
  position: absolute;
  top: 4px;
  bottom: 4px;
  width: 7px;
  cursor: col-resize;
  touch-action: none;
}
.edge.before {
  left: -2px;
}
.edge.after {
  right: -2px;
}
.edge:hover,
.edge:focus-visible {
  background: var(--signal);
  border-radius: 3px;
}
</style>
