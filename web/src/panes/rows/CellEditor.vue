<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import type { Change } from '@geodrome/core'
import { useForesight } from '../../composables/useForesight.ts'
import type { Understood } from './columns.ts'

const props = defineProps<{
  label: string
  align: 'left' | 'right'
  draft: string
  /** Whether the draft is what was just typed, which goes on, instead of the old text, which is selected. */
  isFresh: boolean
  offers: readonly string[]
  /** How many activities are selected: Ctrl Enter keeps the text for all of them. */
  many: number
  read: (text: string) => Understood
}>()
const emit = defineEmits<{
  done: [move: 'down' | 'right' | 'left' | 'stay' | 'all', text: string, change: Change | null]
  cancel: []
}>()

const text = ref(props.draft)
const input = ref<HTMLInputElement | null>(null)
const understood = computed(() => props.read(text.value))
const foreseen = useForesight(() => (understood.value.ok ? understood.value.change : null))

/** Whether what is understood stands above the cell: below it the list ends. */
const isLow = ref(false)
const ROOM_BELOW = 52
onMounted(async () => {
  await nextTick()
  const list = input.value?.closest('.scroller')
  if (list)
    isLow.value =
      list.getBoundingClientRect().bottom - input.value!.getBoundingClientRect().bottom < ROOM_BELOW
  input.value?.focus({ preventScroll: true })
  if (!props.isFresh) input.value?.select()
})
let closed = false
/** Keeps what was typed if it was understood; otherwise the text stays and nothing changes. */
const keep = (move: 'down' | 'right' | 'left' | 'stay' | 'all'): void => {
  if (closed || !understood.value.ok) return
  closed = true
  emit('done', move, text.value, understood.value.change)
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
      :class="align"
      :aria-label="label"
      :aria-invalid="!understood.ok"
      :list="offers.length > 0 ? 'cell-offers' : undefined"
      aria-describedby="understood"
      @keydown.ctrl.enter.exact.stop.prevent="keep('all')"
      @keydown.meta.enter.exact.stop.prevent="keep('all')"
      @keydown.enter.exact.stop.prevent="keep('down')"
      @keydown.tab.exact.stop.prevent="keep('right')"
      @keydown.shift.tab.exact.stop.prevent="keep('left')"
      @keydown.esc.stop.prevent="cancel"
      @keydown.stop
      @copy.stop
      @paste.stop
      @blur="leave"
    />
    <datalist v-if="offers.length > 0" id="cell-offers">
      <option v-for="offer in offers" :key="offer" :value="offer" />
    </datalist>
    <span
      id="understood"
      class="understood"
      :class="[align, { bad: !understood.ok, low: isLow }]"
      role="status"
      >{{ understood.ok ? understood.words : understood.why
      }}<template v-if="understood.ok && many > 1"> · Ctrl Enter: for all {{ many }}</template
      ><span v-if="foreseen" class="foreseen" data-test="foreseen">{{ foreseen }}</span></span
    >
  </span>
</template>

<style scoped>
.editor {
  position: absolute;
  inset: 1px 0;
  display: block;
  z-index: 4;
}
input {
  width: 100%;
  height: 100%;
  border: 1.5px solid var(--ink);
  border-radius: 5px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  padding: 0 5px;
  outline: none;
}
input[aria-invalid='true'] {
  border-color: var(--brick);
}
input.right {
  text-align: right;
}
.understood {
  position: absolute;
  top: calc(100% + 2px);
  background: var(--ink);
  color: var(--paper);
  border-radius: 5px;
  padding: 2px 8px;
  font-size: 12px;
  line-height: 1.5;
  white-space: nowrap;
  pointer-events: none;
}
.foreseen {
  display: block;
}
.understood.low {
  top: auto;
  bottom: calc(100% + 2px);
}
.understood.right {
  right: 0;
}
.understood.left {
  left: 0;
}
.understood.bad {
  background: var(--brick);
  color: var(--raised);
}
</style>
