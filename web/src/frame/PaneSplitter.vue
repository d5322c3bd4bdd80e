<script setup lang="ts">
import { followPointer } from '../composables/followPointer.ts'

/** A bar between two panes, moved by pointer or by arrow keys. `v-model` is the width of the pane it belongs to. */
const props = defineProps<{ label: string; min: number; max: number; invert?: boolean }>()
const width = defineModel<number>({ required: true })
const clamp = (value: number): number => Math.max(props.min, Math.min(props.max, value))
const drag = (event: PointerEvent): void => {
  const [from, was] = [event.clientX, width.value]
  followPointer(
    event,
    ({ clientX }) => (width.value = clamp(was + (clientX - from) * (props.invert ? -1 : 1))),
    (isDropped) => {
      if (!isDropped) width.value = was
    },
    event.currentTarget as Element,
  )
}
const nudge = (by: number): void => void (width.value = clamp(width.value + by * (props.invert ? -1 : 1)))
</script>

<template>
  <div
    class="splitter"
    role="separator"
    tabindex="0"
    aria-orientation="vertical"
    :aria-label="label"
    :aria-valuenow="Math.round(width)"
    :aria-valuemin="min"
    :aria-valuemax="max"
    @pointerdown="drag"
    @keydown.left.prevent.stop="nudge(-20)"
    @keydown.right.prevent.stop="nudge(20)"
  />
</template>

<style scoped>
.splitter {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  cursor: col-resize;
  z-index: 5;
  touch-action: none;
}
.splitter::after {
  content: '';
  position: absolute;
  left: 10px;
  top: 50%;
  width: 4px;
  height: 34px;
  margin-top: -17px;
  border-radius: 2px;
  background: var(--hairline);
}
.splitter:hover::after,
.splitter:focus-visible::after {
  background: var(--signal);
}
</style>
