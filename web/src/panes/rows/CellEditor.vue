<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import type { CellContext, Column } from './columns.ts'

const props = defineProps<{ column: Column; context: CellContext; index: number; initial: string | null }>()
const emit = defineEmits<{ done: [move: 'down' | 'right' | 'left' | 'stay', change: import('@geodrome/core').Change | null]; cancel: [] }>()

const text = ref(props.initial ?? props.column.draft!(props.context, props.index))
const input = ref<HTMLInputElement | null>(null)
const understood = computed(() => props.column.read!(props.context, props.index, text.value))

onMounted(async () => {
  await nextTick()
  input.value?.focus()
  if (props.initial === null) input.value?.select()
})
let closed = false
/** Keeps what was typed if it was understood; otherwise the text stays and nothing changes. */
const keep = (move: 'down' | 'right' | 'left' | 'stay'): void => {
  if (closed || !understood.value.ok) return
  closed = true
  emit('done', move, understood.value.change)
}
const cancel = (): void => {
  closed = true
  emit('cancel')
}
const leave = (): void => (understood.value.ok ? keep('stay') : cancel())
</script>

<template>
  <span class="editor">
    <input
      ref="input"
      v-model="text"
      :class="column.align"
      :aria-label="`${column.title} of ${context.plan.activities[index]!.code}`"
      :aria-invalid="!understood.ok"
      aria-describedby="understood"
      @keydown.enter.stop.prevent="keep('down')"
      @keydown.tab.exact.stop.prevent="keep('right')"
      @keydown.shift.tab.exact.stop.prevent="keep('left')"
      @keydown.esc.stop.prevent="cancel"
      @keydown.stop
      @blur="leave"
    />
    <span id="understood" class="understood" :class="{ bad: !understood.ok }" role="status">{{ understood.ok ? understood.words : understood.why }}</span>
  </span>
</template>

<style scoped>
.editor { position: absolute; inset: 1px 0; display: block; z-index: 4; }
input { width: 100%; height: 100%; border: 1.5px solid var(--ink); border-radius: 5px; background: var(--raised); color: var(--ink); font: inherit; padding: 0 5px; outline: none; }
input[aria-invalid='true'] { border-color: var(--brick); }
input.right { text-align: right; }
.understood { position: absolute; top: calc(100% + 2px); right: 0; background: var(--ink); color: var(--paper); border-radius: 5px; padding: 2px 8px; font-size: 12px; white-space: nowrap; pointer-events: none; }
.understood.bad { background: var(--brick); color: var(--raised); }
</style>
